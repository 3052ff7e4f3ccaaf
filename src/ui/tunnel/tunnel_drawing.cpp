// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/tunnel/tunnel_drawing.h"

#include "ui/marks.h"

#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
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
void TunnelDrawing::paint_housing(QPainter& painter, const Panel& panel, double centre_x, double offset_px, bool marked) {
    const Palette& p = context_.palette();
    const double half_bore = panel.box.height() * 0.19, wall = 13, reach = panel.box.height() * 0.11;
    const double x = panel.to_screen(centre_x), middle = panel.box.center().y() - offset_px;
    QLinearGradient iron(0, middle - half_bore - reach, 0, middle + half_bore + reach);
    iron.setColorAt(0, p.deck.iron_low);
    iron.setColorAt(0.5, p.deck.iron_high);
    iron.setColorAt(1, p.deck.iron_low);
    painter.setPen(marked ? QPen(p.accent, 2) : QPen(Qt::NoPen));
    painter.setBrush(iron);
    painter.drawRect(QRectF(x - wall, middle - half_bore - reach, 2 * wall, reach));
    painter.drawRect(QRectF(x - wall, middle + half_bore, 2 * wall, reach));
}

void TunnelDrawing::paint_panel(QPainter& painter, const QRectF& box, Seen seen) {
    const Palette& p = context_.palette();
    const auto& state = context_.session.state();
    painter.setPen(Qt::NoPen);
    painter.setBrush(p.panel);
    painter.drawRoundedRect(box, 6, 6);
    painter.setFont(font_of(Type::small, true));
    painter.setPen(p.ink);
    const bool side = seen == Seen::from_side;
    painter.drawText(box.adjusted(16, 10, -16, 0), Qt::AlignLeft | Qt::AlignTop, side ? tr("seen from the side") : tr("seen from above"));
    if (!state.latest)
        return;
    const auto& mains = state.latest->evaluation.mains;
    const auto deviation = [side](const MainResult& m) { return side ? m.centre.z : m.centre.y; };

    Panel panel{box.adjusted(70, 34, -40, -22), 0, 0, 0, 0};
    const auto [front, rear] = std::ranges::minmax_element(mains, {}, [](const MainResult& m) { return m.centre.x; });
    const double margin = 0.06 * (rear->centre.x - front->centre.x);
    panel.x0 = front->centre.x - margin;
    panel.x1 = rear->centre.x + margin;
    panel.per_mm = panel.box.width() / (panel.x1 - panel.x0);
    double largest = 1e-4;
    for (const MainResult& m : mains)
        largest = std::max({largest, std::abs(m.centre.y), std::abs(m.centre.z)}); // one scale for both views
    const Exaggeration scale = exaggeration_for(largest, panel.box.height() * 0.16, panel.per_mm, block::mm_per(context_.preferences.unit()));
    panel.factor = scale.factor;
    const auto drawn_offset = [&](const MainResult& m) { return deviation(m) * panel.per_mm * panel.factor; };

    // Housings first, one for each main at the mean of its sections.
    for (std::size_t i = 0; i < mains.size();) {
        std::size_t end = i;
        double x = 0, offset = 0;
        for (; end < mains.size() && mains[end].id == mains[i].id; ++end) {
            x += mains[end].centre.x;
            offset += drawn_offset(mains[end]);
        }
        const double n = static_cast<double>(end - i);
        const bool marked = marked_ >= static_cast<int>(i) && marked_ < static_cast<int>(end);
        paint_housing(painter, panel, x / n, offset / n, marked);
        painter.setFont(font_of(Type::small));
        painter.setPen(p.quiet);
        painter.drawText(QRectF(panel.to_screen(x / n) - 40, box.top() + 12, 80, 18), Qt::AlignCenter, tr("main %1").arg(mains[i].id.number));
        i = end;
    }
    // Datum A, then the line through the centres.
    const double axis = panel.box.center().y();
    painter.setPen(QPen(p.quiet, 1, Qt::DashDotLine));
    painter.drawLine(QPointF(panel.box.left() - 24, axis), QPointF(panel.box.right() + 24, axis));
    painter.setFont(font_of(Type::small));
    painter.drawText(QRectF(box.left() + 8, axis - 20, 54, 18), Qt::AlignRight, tr("datum"));
    QPainterPath line;
    for (const MainResult& m : mains) {
        const QPointF at(panel.to_screen(m.centre.x), axis - drawn_offset(m));
        line.isEmpty() && line.elementCount() == 0 ? line.moveTo(at) : line.lineTo(at);
    }
    painter.setPen(QPen(p.accent, 2));
    painter.setBrush(Qt::NoBrush);
    painter.drawPath(line);
    const auto lengths = context_.lengths();
    for (std::size_t i = 0; i < mains.size(); ++i) {
        const QPointF at(panel.to_screen(mains[i].centre.x), axis - drawn_offset(mains[i]));
        const bool marked = marked_ == static_cast<int>(i);
        painter.setPen(QPen(p.panel, 1.5));
        painter.setBrush(p.accent);
        painter.drawEllipse(at, marked ? 6.5 : 4.5, marked ? 6.5 : 4.5);
        hot_.emplace_back(at, static_cast<int>(i));
        // Numbers in two rows below the housings, so that neighbours do not run into each other.
        painter.setPen(marked ? p.accent : p.ink);
        painter.setFont(font_of(Type::small, marked));
        const bool second_row = i % 2 == 1;
        painter.drawText(QRectF(at.x() - 44, panel.box.bottom() - (second_row ? 10 : 27), 88, 18), Qt::AlignCenter, qt(lengths.with_sign(deviation(mains[i]))));
    }
    // What is up, and the scale.
    painter.setPen(p.quiet);
    painter.setFont(font_of(Type::small));
    painter.drawText(QRectF(box.left() + 16, box.top() + 30, 160, 18), Qt::AlignLeft, side ? tr("up: towards the cam") : tr("up: right, seen from the rear"));
    painter.drawText(QRectF(box.left() + 16, box.bottom() - 24, 60, 18), Qt::AlignLeft, tr("front"));
    painter.drawText(QRectF(box.right() - 56, box.bottom() - 24, 44, 18), Qt::AlignRight, tr("rear"));
    const double bar_x = box.right() - 22, bar_top = box.top() + 34;
    painter.setPen(QPen(p.ink, 1.6));
    painter.drawLine(QPointF(bar_x, bar_top), QPointF(bar_x, bar_top + scale.bar_pixels));
    for (const double y : {bar_top, bar_top + scale.bar_pixels})
        painter.drawLine(QPointF(bar_x - 5, y), QPointF(bar_x + 5, y));
    painter.drawText(QRectF(box.right() - 260, box.top() + 8, 248, 18), Qt::AlignRight,
                     tr("bar %1 · across drawn × %2").arg(qt(lengths.with_unit(scale.bar))).arg(scale.factor, 0, 'f', 0));
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
