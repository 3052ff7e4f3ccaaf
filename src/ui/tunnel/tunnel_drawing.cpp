// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/tunnel/tunnel_drawing.h"

#include "ui/marks.h"

#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>

namespace pallix::ui {

using block::MainResult;

TunnelDrawing::TunnelDrawing(Context context, QWidget* parent) : QWidget(parent), context_(context) {
    setMouseTracking(true);
    setAccessibleName(tr("main tunnel seen from the side and from above"));
}

void TunnelDrawing::mark(int main) {
    if (main == marked_)
        return;
    marked_ = main;
    update();
}

void TunnelDrawing::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    hot_.clear();
    const double half = height() / 2.0;
    paint_panel(painter, QRectF(0, 0, width(), half - 4), Seen::from_side);
    paint_panel(painter, QRectF(0, half + 4, width(), half - 4), Seen::from_above);
}

/// The cut through one housing wall: two blocks of iron with the bore between them.
void TunnelDrawing::paint_housing(QPainter& painter, const Panel& panel, double centre_x, double offset_px,
                                  bool marked) {
    const Palette& p = context_.palette();
    const double half_bore = panel.box.height() * 0.17, wall = 15, reach = panel.box.height() * 0.12;
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
    const auto& mains = context_.session.state().latest->evaluation.mains;
    // Words to the left, the scale bar to the right, numbers below.
    Panel panel{box.adjusted(150, 26, -104, -42), 0, 0, 0, 0};
    const auto [front, rear] = std::ranges::minmax_element(mains, {}, [](const MainResult& m) { return m.centre.x; });
    const double margin = 0.06 * (rear->centre.x - front->centre.x);
    panel.x0 = front->centre.x - margin;
    panel.x1 = rear->centre.x + margin;
    panel.per_mm = panel.box.width() / (panel.x1 - panel.x0);
    double largest = 1e-4;
    for (const MainResult& m : mains)
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
    painter.drawRoundedRect(box, 6, 6);
    if (!context_.session.state().latest)
        return;
    const auto& mains = context_.session.state().latest->evaluation.mains;
    const bool side = seen == Seen::from_side;
    Exaggeration scale;
    const Panel panel = panel_in(box, scale);
    const auto deviation = [side](const MainResult& m) { return side ? m.centre.z : m.centre.y; };
    const auto offset = [&](const MainResult& m) { return deviation(m) * panel.per_mm * panel.factor; };

    // Housings first, one for each main at the mean of its sections.
    for (std::size_t i = 0; i < mains.size();) {
        std::size_t end = i;
        double x = 0, off = 0;
        for (; end < mains.size() && mains[end].id == mains[i].id; ++end) {
            x += mains[end].centre.x;
            off += offset(mains[end]);
        }
        const double n = static_cast<double>(end - i);
        paint_housing(painter, panel, x / n, off / n,
                      marked_ >= static_cast<int>(i) && marked_ < static_cast<int>(end));
        painter.setFont(font_of(Type::small));
        painter.setPen(p.quiet);
        painter.drawText(QRectF(panel.to_screen(x / n) - 40, box.top() + 6, 80, 18), Qt::AlignCenter,
                         tr("main %1").arg(mains[i].id.number));
        i = end;
    }
    // Datum A, then the line through the centres.
    const double axis = panel.box.center().y();
    painter.setPen(QPen(p.quiet, 1, Qt::DashDotLine));
    painter.drawLine(QPointF(panel.box.left() - 10, axis), QPointF(panel.box.right() + 10, axis));
    QPolygonF line;
    for (const MainResult& m : mains)
        line << QPointF(panel.to_screen(m.centre.x), axis - offset(m));
    painter.setPen(QPen(p.accent, 2));
    painter.setBrush(Qt::NoBrush);
    painter.drawPolyline(line);
    const auto lengths = context_.lengths();
    for (std::size_t i = 0; i < mains.size(); ++i) {
        const QPointF at = line[static_cast<qsizetype>(i)];
        const bool marked = marked_ == static_cast<int>(i);
        painter.setPen(QPen(p.panel, 1.5));
        painter.setBrush(p.accent);
        painter.drawEllipse(at, marked ? 6.5 : 4.5, marked ? 6.5 : 4.5);
        hot_.emplace_back(at, static_cast<int>(i));
        // Numbers in two rows, so that neighbours do not run into each other.
        painter.setPen(marked ? p.accent : p.ink);
        painter.setFont(font_of(Type::small, marked));
        painter.drawText(QRectF(at.x() - 44, box.bottom() - (i % 2 == 1 ? 22 : 39), 88, 18), Qt::AlignCenter,
                         qt(lengths.with_sign(deviation(mains[i]))));
    }
    paint_margins(painter, box, panel, scale, seen);
}

/// What is seen, what is up, and the scale.
void TunnelDrawing::paint_margins(QPainter& painter, const QRectF& box, const Panel& panel, const Exaggeration& scale,
                                  Seen seen) {
    const Palette& p = context_.palette();
    const bool side = seen == Seen::from_side;
    const double axis = panel.box.center().y();
    painter.setFont(font_of(Type::text, true));
    painter.setPen(p.ink);
    painter.drawText(QRectF(box.left() + 16, box.top() + 8, 130, 20), Qt::AlignLeft,
                     side ? tr("From the side") : tr("From above"));
    painter.setFont(font_of(Type::small));
    painter.setPen(p.quiet);
    painter.drawText(QRectF(box.left() + 16, box.top() + 30, 120, 36), Qt::AlignLeft | Qt::TextWordWrap,
                     side ? tr("up: towards the cam") : tr("up: right, as seen from the rear"));
    painter.drawText(QRectF(panel.box.left() - 66, axis - 9, 50, 18), Qt::AlignRight | Qt::AlignVCenter, tr("datum"));
    painter.drawText(QRectF(box.left() + 16, box.bottom() - 26, 110, 18), Qt::AlignLeft, tr("front to the left"));
    const double x = box.right() - 52, top = axis - scale.bar_pixels / 2;
    painter.setPen(QPen(p.ink, 1.6));
    painter.drawLine(QPointF(x, top), QPointF(x, top + scale.bar_pixels));
    for (const double y : {top, top + scale.bar_pixels})
        painter.drawLine(QPointF(x - 6, y), QPointF(x + 6, y));
    painter.drawText(QRectF(box.right() - 104, top + scale.bar_pixels + 4, 100, 18), Qt::AlignCenter,
                     qt(context_.lengths().with_unit(scale.bar)));
    painter.setPen(p.quiet);
    painter.drawText(QRectF(box.right() - 104, box.bottom() - 26, 100, 18), Qt::AlignCenter,
                     tr("drawn × %1").arg(scale.factor, 0, 'f', 0));
}

int TunnelDrawing::main_at(QPointF position) const {
    for (const auto& [at, main] : hot_)
        if (QLineF(at, position).length() < 16)
            return main;
    return -1;
}

void TunnelDrawing::mouseMoveEvent(QMouseEvent* event) {
    if (const int main = main_at(event->position()); main >= 0)
        Q_EMIT pointed_at(main);
}

} // namespace pallix::ui
