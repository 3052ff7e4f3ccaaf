// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/marks.h"

#include "planning/common/assessment.h"
#include <QPainter>
#include <QPainterPath>
#include <cmath>

namespace pallix::ui {

using planning::StageMark;

StageMark mark_of(metrology::Verdict verdict) {
    switch (verdict) {
    case metrology::Verdict::meets:
        return StageMark::meets;
    case metrology::Verdict::cannot_tell:
        return StageMark::cannot_tell;
    case metrology::Verdict::fails:
        break;
    }
    return StageMark::fails;
}

QColor mark_colour(StageMark mark, const Palette& palette) {
    switch (mark) {
    case StageMark::meets:
        return palette.meets;
    case StageMark::cannot_tell:
    case StageMark::stale:
        return palette.cannot_tell;
    case StageMark::fails:
        return palette.fails;
    case StageMark::current:
        return palette.accent;
    case StageMark::done:
        return palette.ink;
    case StageMark::open:
        break;
    }
    return palette.quiet;
}

void paint_mark(QPainter& painter, const QRectF& box, StageMark mark, const Palette& palette) {
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);
    const QColor colour = mark_colour(mark, palette);
    const QRectF r = box.adjusted(1, 1, -1, -1);
    const QPointF c = r.center();
    painter.setPen(QPen(colour, 1.8));
    painter.setBrush(Qt::NoBrush);
    QPainterPath path;
    switch (mark) {
    case StageMark::open: // a short dash: nothing here yet
        painter.drawLine(QPointF(r.left() + 2, c.y()), QPointF(r.right() - 2, c.y()));
        break;
    case StageMark::current: // a scriber's point
        path.addPolygon(QPolygonF{r.topLeft(), QPointF(r.right(), c.y()), r.bottomLeft(),
                                  QPointF(r.left() + r.width() * 0.3, c.y())});
        path.closeSubpath();
        painter.fillPath(path, colour);
        break;
    case StageMark::done: // a filled bar
        painter.fillRect(QRectF(r.left(), c.y() - r.height() * 0.2, r.width(), r.height() * 0.4), colour);
        break;
    case StageMark::meets: // a gauge line inside its two limits
        painter.fillRect(QRectF(r.left(), r.top(), 2.6, r.height()), colour);
        painter.fillRect(QRectF(r.right() - 2.6, r.top(), 2.6, r.height()), colour);
        path.addEllipse(c, r.width() * 0.2, r.width() * 0.2);
        painter.fillPath(path, colour);
        break;
    case StageMark::cannot_tell: // sitting on a limit
        painter.fillRect(QRectF(r.right() - 2.6, r.top(), 2.6, r.height()), colour);
        path.addEllipse(QPointF(r.right() - 1.3, c.y()), r.width() * 0.24, r.width() * 0.24);
        painter.drawPath(path);
        painter.fillRect(QRectF(r.left(), r.top(), 2.6, r.height()), colour);
        break;
    case StageMark::fails: // struck through
        painter.setPen(QPen(colour, 2.6));
        painter.drawLine(r.topLeft(), r.bottomRight());
        painter.drawLine(r.topRight(), r.bottomLeft());
        break;
    case StageMark::stale: // an open ring: no longer closed
        painter.setPen(QPen(colour, 2.2));
        painter.drawArc(r, 60 * 16, 290 * 16);
        break;
    }
    painter.restore();
}

Exaggeration exaggeration_for(double largest, double pixels, double pixels_per_mm, double mm_per_unit) {
    Exaggeration e;
    const double wanted = pixels / std::max(largest, 1e-4) / pixels_per_mm;
    const double decade = std::pow(10, std::floor(std::log10(wanted)));
    e.factor = decade * (wanted / decade >= 5 ? 5 : wanted / decade >= 2 ? 2 : 1);
    // The longest round bar that stays within the space of the deviations, both ways.
    const double room = 2 * pixels / (pixels_per_mm * e.factor) / mm_per_unit;
    const double bar_decade = std::pow(10, std::floor(std::log10(room)));
    e.bar = bar_decade * (room / bar_decade >= 5 ? 5 : room / bar_decade >= 2 ? 2 : 1) * mm_per_unit;
    e.bar_pixels = e.bar * pixels_per_mm * e.factor;
    return e;
}

} // namespace pallix::ui
