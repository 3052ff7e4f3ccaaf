// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/tunnel/tunnel_drawing.h"

#include "block/state/intake_state.h"
#include "block/state/tunnel_state.h"
#include "planning/common/assessment.h"
#include "planning/readings/reading_plan.h"
#include "ui/marks.h"

#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>

namespace pallix::ui {

TunnelDrawing::TunnelDrawing(Context context, QWidget* parent)
    : Drawing(context, QStringLiteral("tunnel-drawing"), tr("main tunnel from the side and from above"), parent) {
    setFocusPolicy(Qt::StrongFocus);
    setToolTip(tr("Click a main, or go from one to the next with the arrow keys; T shows the table"));
}

std::vector<Drawing::Thing> TunnelDrawing::things() const {
    std::vector<Thing> all;
    const std::vector<Section> mains = sections();
    if (mains.size() < 2)
        return all;
    Exaggeration scale;
    const Panel panel = panel_in(QRectF(0, 0, width(), height() / 2.0 - 4_px), scale);
    const auto l = context_.lengths();
    for (const Section& m : mains) {
        const double x = panel.to_screen(m.centre.x);
        const QString value =
            m.height_known ? qt(l.side(m.centre.z, "up", "down")) +
                                 (m.side_known ? tr(", %1").arg(qt(l.side(m.centre.y, "right", "left"))) : QString())
                           : tr("not measured");
        if (!all.empty() && all.back().id == m.id) // its other end
            all.back().where.setRight(x + 22);
        else
            all.push_back({m.id, QRectF(x - 22_px, 0, 44_px, height()), tr("main %1").arg(m.id.number), value});
    }
    return all;
}

void TunnelDrawing::set_asked(const std::optional<planning::AskedReading>& asked) {
    asked_ = asked;
    update();
}

std::vector<TunnelDrawing::Section> TunnelDrawing::sections() const {
    const auto& state = context_.session.state();
    std::vector<Section> found;
    if (tunnel_of(state).latest) {
        for (const block::MainResult& m : tunnel_of(state).latest->evaluation.mains)
            found.push_back({m.id, m.centre});
        return found;
    }
    const auto& saddles = context_.session.assessment().gauge.saddles;
    if (saddles)
        for (const auto& s : saddles->saddles)
            found.push_back({s.main, {s.x, 0, s.off}, true, false});
    else if (intake_of(state).blueprint)
        for (const auto& main : intake_of(state).blueprint->mains)
            found.push_back({main.id, {main.x, 0, 0}, false, false});
    return found;
}

void TunnelDrawing::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const double half = height() / 2.0;
    paint_panel(painter, QRectF(0, 0, width(), half - 4_px), Seen::from_side);
    paint_panel(painter, QRectF(0, half + 4_px, width(), half - 4_px), Seen::from_above);
    paint_focus(painter);
}

/// The cut through one housing wall: two blocks of iron with the bore between them.
void TunnelDrawing::paint_housing(QPainter& painter, const Panel& panel, double centre_x, double offset_px,
                                  bool marked) {
    const Palette& p = context_.palette();
    const double half_bore = panel.box.height() * 0.17, wall = 15_px, reach = panel.box.height() * 0.12;
    const double x = panel.to_screen(centre_x), middle = panel.box.center().y() - offset_px;
    painter.setPen(marked ? QPen(p.accent, 2) : QPen(Qt::NoPen));
    painter.setBrush(p.deck.iron_high);
    painter.drawRect(QRectF(x - wall, middle - half_bore - reach, 2 * wall, reach));
    painter.drawRect(QRectF(x - wall, middle + half_bore, 2 * wall, reach));
    // The bore's surface, cut through.
    painter.setPen(QPen(p.deck.edge, 1.4));
    for (const double y : {middle - half_bore, middle + half_bore})
        painter.drawLine(QPointF(x - wall, y), QPointF(x + wall, y));
}

TunnelDrawing::Panel TunnelDrawing::panel_in(const QRectF& box, Exaggeration& scale) const {
    const std::vector<Section> mains = sections();
    // Words to the left, the scale bar to the right, numbers below.
    Panel panel{box.adjusted(150_px, 26_px, -104_px, -50_px), 0, 0, 0, 0};
    const auto [front, rear] = std::ranges::minmax_element(mains, {}, [](const Section& m) { return m.centre.x; });
    const double margin = 0.06 * (rear->centre.x - front->centre.x);
    panel.x0 = front->centre.x - margin;
    panel.x1 = rear->centre.x + margin;
    panel.per_mm = panel.box.width() / (panel.x1 - panel.x0);
    double largest = 1e-4;
    for (const Section& m : mains)
        largest = std::max({largest, std::abs(m.centre.y), std::abs(m.centre.z)}); // one scale for both views
    scale =
        exaggeration_for(largest, panel.box.height() * 0.21, panel.per_mm, block::mm_per(context_.preferences.unit()));
    panel.factor = scale.factor;
    return panel;
}

void TunnelDrawing::paint_panel(QPainter& painter, const QRectF& box, Seen seen) {
    const Palette& p = context_.palette();
    painter.setPen(Qt::NoPen);
    painter.setBrush(p.panel);
    painter.drawRoundedRect(box, 6_px, 6_px);
    const std::vector<Section> mains = sections();
    if (mains.size() < 2)
        return;
    const bool side = seen == Seen::from_side;
    Exaggeration scale;
    const Panel panel = panel_in(box, scale);
    const auto deviation = [side](const Section& m) { return side ? m.centre.z : m.centre.y; };
    const auto offset = [&](const Section& m) { return deviation(m) * panel.per_mm * panel.factor; };

    paint_margins(painter, box, panel, seen);
    // Housings first, one for each main at the mean of its sections.
    for (std::size_t i = 0; i < mains.size();) {
        std::size_t end = i;
        double x = 0, off = 0;
        for (; end < mains.size() && mains[end].id == mains[i].id; ++end) {
            x += mains[end].centre.x;
            off += offset(mains[end]);
        }
        const double n = static_cast<double>(end - i);
        const bool asked = asked_ && asked_->at.feature == mains[i].id;
        paint_housing(painter, panel, x / n, off / n, asked || marked() == mains[i].id);
        painter.setFont(font_of(Type::small));
        painter.setPen(p.quiet);
        painter.drawText(QRectF(panel.to_screen(x / n) - 40_px, box.top() + 6_px, 80_px, 18_px), Qt::AlignCenter,
                         tr("main %1").arg(mains[i].id.number));
        i = end;
    }
    // Datum A, then the line through the centres.
    const double axis = panel.box.center().y();
    painter.setPen(QPen(p.quiet, 1, Qt::DashDotLine));
    painter.drawLine(QPointF(panel.box.left() - 10_px, axis), QPointF(panel.box.right() + 10_px, axis));
    if (const bool known = side ? mains.front().height_known : mains.front().side_known; !known) {
        painter.setFont(font_of(Type::small));
        painter.drawText(QRectF(panel.box.left(), box.bottom() - 30_px, panel.box.width(), 18_px), Qt::AlignCenter,
                         side ? tr("heights not measured") : tr("not measured from above"));
        return;
    }
    QPolygonF line;
    for (const Section& m : mains)
        line << QPointF(panel.to_screen(m.centre.x), axis - offset(m));
    painter.setPen(QPen(p.accent, 2));
    painter.setBrush(Qt::NoBrush);
    painter.drawPolyline(line);
    const auto lengths = context_.lengths();
    for (std::size_t i = 0; i < mains.size(); ++i) {
        const QPointF at = line[static_cast<qsizetype>(i)];
        const bool marked = this->marked() == mains[i].id;
        painter.setPen(QPen(p.panel, 1.5));
        painter.setBrush(p.accent);
        painter.drawEllipse(at, marked ? 6.5_px : 4.5_px, marked ? 6.5_px : 4.5_px);
        // Numbers in two rows, so that neighbours do not run into each other.
        painter.setPen(marked ? p.accent : p.ink);
        painter.setFont(font_of(Type::number, marked));
        painter.drawText(QRectF(at.x() - 50_px, box.bottom() - (i % 2 == 1 ? 24_px : 46_px), 100_px, 22_px),
                         Qt::AlignCenter, qt(lengths.with_sign(deviation(mains[i]))));
    }
    paint_scale(painter, box, panel, scale);
}

/// What is seen and what is up.
void TunnelDrawing::paint_margins(QPainter& painter, const QRectF& box, const Panel& panel, Seen seen) {
    const Palette& p = context_.palette();
    const bool side = seen == Seen::from_side;
    const double axis = panel.box.center().y();
    painter.setFont(font_of(Type::text, true));
    painter.setPen(p.ink);
    painter.drawText(QRectF(box.left() + 16_px, box.top() + 8_px, 130_px, 20_px), Qt::AlignLeft,
                     side ? tr("From the side") : tr("From above"));
    painter.setFont(font_of(Type::small));
    painter.setPen(p.quiet);
    painter.drawText(QRectF(box.left() + 16_px, box.top() + 30_px, 120_px, 36_px), Qt::AlignLeft | Qt::TextWordWrap,
                     side ? tr("+ up: towards the cam") : tr("+ up: right, as seen from the rear"));
    painter.drawText(QRectF(panel.box.left() - 66_px, axis - 9_px, 50_px, 18_px), Qt::AlignRight | Qt::AlignVCenter,
                     tr("datum"));
    painter.drawText(QRectF(box.left() + 16_px, box.bottom() - 26_px, 110_px, 18_px), Qt::AlignLeft,
                     tr("front to the left"));
}

/// The bar that says how much larger than life it is drawn.
void TunnelDrawing::paint_scale(QPainter& painter, const QRectF& box, const Panel& panel, const Exaggeration& scale) {
    const Palette& p = context_.palette();
    const double axis = panel.box.center().y();
    painter.setFont(font_of(Type::small));
    const double x = box.right() - 52_px, top = axis - scale.bar_pixels / 2;
    painter.setPen(QPen(p.ink, 1.6));
    painter.drawLine(QPointF(x, top), QPointF(x, top + scale.bar_pixels));
    for (const double y : {top, top + scale.bar_pixels})
        painter.drawLine(QPointF(x - 6_px, y), QPointF(x + 6_px, y));
    painter.drawText(QRectF(box.right() - 104_px, top + scale.bar_pixels + 4_px, 100_px, 18_px), Qt::AlignCenter,
                     qt(context_.lengths().with_unit(scale.bar)));
    painter.setPen(p.quiet);
    painter.drawText(QRectF(box.right() - 104_px, top - 24_px, 100_px, 18_px), Qt::AlignCenter,
                     tr("drawn × %1").arg(scale.factor, 0, 'f', 0));
}

} // namespace pallix::ui
