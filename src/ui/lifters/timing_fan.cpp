// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/lifters/timing_fan.h"

#include "planning/common/assessment.h"
#include "ui/theme.h"
#include "wording/cylinders/cylinder_words.h"
#include "wording/lifters/lifter_words.h"

#include <QPainter>
#include <algorithm>
#include <cmath>

namespace pallix::ui {

TimingFan::TimingFan(Context context, QWidget* parent)
    : Drawing(context, QStringLiteral("timing-fan"), tr("valve timing, lifter by lifter"), parent) {
    setFixedHeight(94);
    setFocusPolicy(Qt::NoFocus);
}

void TimingFan::show_bank(const std::string& bank) {
    bank_ = bank;
    const auto& work = context_.session.assessment().lifters;
    setVisible(work && work->study.before);
    if (work)
        setAccessibleDescription(qt(wording::spread_sentence(*work)));
    update();
}

void TimingFan::paintEvent(QPaintEvent*) {
    const auto& work = context_.session.assessment().lifters;
    if (!work || !work->study.before)
        return;
    QPainter painter(this);
    prepare(painter);
    const Palette& p = context_.palette();
    const double stem = 42, base = height() - 24;
    std::vector<const planning::LifterNeed*> row;
    double largest = 0.001; // rad
    for (const auto& n : work->study.each) {
        if (n.timing)
            largest = std::max(largest, std::abs(*n.timing));
        if (n.id.bank == bank_ && n.timing)
            row.push_back(&n);
    }
    const double factor = std::clamp(std::floor(0.6 / largest), 1.0, 60.0);
    const auto draw = [&](double x, double timing, const QColor& colour, double width) {
        const double lean = timing * factor;
        painter.setPen(QPen(colour, width, Qt::SolidLine, Qt::RoundCap));
        painter.drawLine(QPointF(x, base), QPointF(x + stem * std::sin(lean), base - stem * std::cos(lean)));
    };
    const auto& after = work->board.timings_after;
    for (std::size_t i = 0; i < row.size(); ++i) {
        const planning::LifterNeed& n = *row[i];
        const double x = 20 + (width() - 40) * (static_cast<double>(i) + 0.5) / static_cast<double>(row.size());
        painter.setPen(QPen(p.hairline, 1));
        painter.drawLine(QPointF(x, base), QPointF(x, base - stem));
        draw(x, *n.timing, p.quiet, 4);
        const auto now = std::ranges::find(after, n.id, [](const auto& t) { return t.first; });
        if (now != after.end())
            draw(x, now->second, p.accent, 2.4);
        else if (n.timing_planned)
            draw(x, *n.timing_planned, p.accent, 1.6);
        painter.setFont(font_of(Type::small));
        painter.setPen(p.ink);
        const double shown = 2 * (now != after.end() ? now->second : *n.timing) / block::radians_per_degree;
        painter.drawText(
            QRectF(x - 45, base + 3, 90, 17), Qt::AlignCenter,
            tr("%1 · %2°").arg(n.id.number).arg(shown, 0, 'f', 2).replace(QLatin1Char('-'), QChar(0x2212)));
    }
    painter.setFont(font_of(Type::small));
    painter.setPen(p.quiet);
    painter.drawText(QRectF(12, 6, width() - 24, 16), Qt::AlignLeft, tr("valve timing at the crankshaft, + late"));
    painter.drawText(QRectF(12, 6, width() - 24, 16), Qt::AlignRight,
                     tr("grey as found, blue %1 · angles × %2")
                         .arg(after.empty() ? tr("as planned") : tr("as probed since"))
                         .arg(factor, 0, 'f', 0));
}

} // namespace pallix::ui
