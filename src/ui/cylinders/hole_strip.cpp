// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/cylinders/hole_strip.h"

#include "planning/common/assessment.h"
#include "ui/theme.h"

#include <QPainter>
#include <algorithm>
#include <cmath>

namespace pallix::ui {

HoleStrip::HoleStrip(Context context, QWidget* parent)
    : Drawing(context, QStringLiteral("hole-strip"), tr("holes about what they are to become"), parent) {
    setFocusPolicy(Qt::NoFocus);
}

void HoleStrip::show_bore(const std::optional<block::FeatureId>& bore) {
    bore_ = bore;
    update();
}

void HoleStrip::paintEvent(QPaintEvent*) {
    const auto& work = context_.session.assessment().cylinders;
    if (!work || work->boring.holes.empty() || height() < 70)
        return;
    QPainter painter(this);
    prepare(painter);
    const Palette& p = context_.palette();
    const double tolerance = planning::pistons_of(context_.session.state()).tolerance;
    const double middle = height() / 2.0 + 4, reach = height() / 2.0 - 34; // px for five tolerances
    painter.setPen(Qt::NoPen);
    painter.setBrush(p.selected);
    painter.drawRect(QRectF(QPointF(92, middle - reach / 5), QPointF(width() - 14, middle + reach / 5)));
    painter.setPen(QPen(p.accent, 1.6));
    painter.drawLine(QPointF(92, middle), QPointF(width() - 14, middle));
    painter.setFont(font_of(Type::small));
    painter.drawText(QRectF(8, middle - 9, 78, 18), Qt::AlignRight | Qt::AlignVCenter, tr("aim"));
    painter.setPen(p.quiet);
    painter.drawText(QRectF(12, 6, width() - 24, 16), Qt::AlignLeft, tr("under"));
    painter.drawText(QRectF(12, 6, width() - 24, 16), Qt::AlignRight,
                     tr("shaded: within ±%1").arg(qt(context_.lengths().plain(tolerance))));
    painter.drawText(QRectF(12, height() - 22, 70, 16), Qt::AlignLeft, tr("over"));
    const auto n = static_cast<double>(work->boring.holes.size());
    for (std::size_t i = 0; i < work->boring.holes.size(); ++i)
        paint_hole(painter, work->boring.holes[i], 92 + (width() - 106) * (static_cast<double>(i) + 0.5) / n, reach);
}

void HoleStrip::paint_hole(QPainter& painter, const planning::HoleProgress& h, double x, double reach) {
    using planning::HoleState;
    const Palette& p = context_.palette();
    const auto l = context_.lengths();
    const double tolerance = planning::pistons_of(context_.session.state()).tolerance, middle = height() / 2.0 + 4;
    const bool open = h.state == HoleState::open, known = h.size.has_value() && h.state != HoleState::unmeasured;
    const double still = known ? h.still() : 5 * tolerance;
    const double y = middle - std::clamp(still / tolerance / 5, -1.0, 1.0) * reach;
    const QColor colour = h.state == HoleState::over ? p.fails : h.state == HoleState::in ? p.meets : p.ink;
    painter.setPen(QPen(bore_ == h.id ? p.accent : p.hairline, bore_ == h.id ? 2.4 : 1.2));
    painter.drawLine(QPointF(x, middle), QPointF(x, y));
    painter.setPen(QPen(colour, 1.6));
    painter.setBrush(open || !known ? p.panel : colour);
    painter.drawEllipse(QPointF(x, y), 6, 6);
    if (h.state == HoleState::over) { // a shape of its own
        painter.drawLine(QPointF(x - 9, y - 9), QPointF(x + 9, y + 9));
        painter.drawLine(QPointF(x - 9, y + 9), QPointF(x + 9, y - 9));
    }
    painter.setFont(font_of(Type::small, bore_ == h.id));
    painter.setPen(p.ink);
    const QString words = h.state == HoleState::unmeasured ? tr("measure")
                          : known                          ? qt(l.with_sign(still))
                                                           : tr("open");
    painter.drawText(QRectF(x + 10, y - 9, 80, 18), Qt::AlignLeft | Qt::AlignVCenter, words);
    painter.drawText(QRectF(x - 45, height() - 22, 90, 17), Qt::AlignCenter, short_name(context_, h.id));
}

} // namespace pallix::ui
