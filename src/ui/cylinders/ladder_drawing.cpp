// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/cylinders/ladder_drawing.h"

#include "block/state/intake_state.h"
#include "planning/common/assessment.h"
#include "ui/theme.h"
#include "wording/cylinders/cylinder_words.h"
#include "wording/readings/readings.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>

namespace pallix::ui {

using block::CentreSchool;

namespace {
constexpr double head = 52, foot = 30; // px at 100 %
}

LadderDrawing::LadderDrawing(Context context, QWidget* parent)
    : Drawing(context, QStringLiteral("ladder"), tr("what every cylinder needs against the sizes on offer"), parent) {
    setToolTip(tr("Click a cylinder, or go from one to the next with Up and Down"));
    setFocusPolicy(Qt::StrongFocus);
}

/// What is said of a cylinder beside its row.
QString LadderDrawing::remark_of(const planning::CylinderNeed& n) const {
    const auto& study = context_.session.assessment().cylinders->study;
    const planning::CommonSize* common = study.by(planning::cylinder_plan_of(context_.session.state()).centre);
    QString remark;
    if (n.sleeved)
        remark = tr("to be sleeved");
    else if (n.left_out)
        remark = tr("left out");
    else if (common && common->set_by == n.found.id)
        remark =
            common->without && common->without != common->oversize
                ? tr("sets the size; else %1").arg(qt(wording::oversize_text(*common->without, context_.lengths())))
                : tr("sets the size");
    if (!n.cleans && !n.sleeved && !n.left_out)
        remark = tr("does not clean up");
    if (n.thin())
        remark += remark.isEmpty() ? tr("thin wall") : tr(", thin wall");
    return remark;
}

std::vector<Drawing::Thing> LadderDrawing::things() const {
    std::vector<Thing> all;
    const auto& work = context_.session.assessment().cylinders;
    if (!work || !intake_of(context_.session.state()).blueprint)
        return all;
    const double high = row_height();
    for (const auto& n : work->study.each) {
        QStringList value;
        for (const std::string& s :
             wording::bore_sentences(context_.session.state(), work->study, n.found.id, context_.lengths()))
            value << qt(s);
        all.push_back({n.found.id, QRectF(8, scaled(head) + high * static_cast<double>(all.size()), width() - 16, high),
                       short_name(context_, n.found.id), value.join(QLatin1Char(' '))});
    }
    return all;
}

double LadderDrawing::row_height() const {
    const auto& work = context_.session.assessment().cylinders;
    const auto rows = work ? static_cast<double>(work->study.each.size()) : 1.0;
    return std::clamp((height() - scaled(head) - scaled(foot)) / rows, 15.0, scaled(110) * 1.0);
}

LadderDrawing::Scale LadderDrawing::scale() const {
    Scale s{std::min(168_px, 0.24 * width()), width() - std::min(190_px, 0.28 * width()), 0, 0.1};
    const auto& study = context_.session.assessment().cylinders->study;
    const auto plan = planning::cylinder_plan_of(context_.session.state());
    for (const double o : plan.oversizes) {
        s.high = std::max(s.high, o);
    }
    for (const auto& n : study.each)
        for (const auto& school : n.schools) {
            const double over = school.needed_at_most - n.found.nominal;
            s.low = std::min(s.low, over);
            if (over < 1.6 * s.high) // one that is far gone is shown at the edge
                s.high = std::max(s.high, over);
        }
    s.high *= 1.08;
    return s;
}

void LadderDrawing::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    prepare(painter);
    const Palette& p = context_.palette();
    const auto& work = context_.session.assessment().cylinders;
    if (!work)
        return paint_empty(painter,
                           tr("No cylinder was measured yet: take in a probe log (Ctrl+I), or read sizes (Ctrl+R)."));
    const Scale s = scale();
    paint_sizes(painter, s);
    double y = scaled(head) + row_height() / 2;
    for (const auto& n : work->study.each) {
        paint_row(painter, s, n, y);
        y += row_height();
    }
    painter.setPen(p.quiet);
    write(painter, QRectF(12, height() - scaled(foot) + 2, width() - 24, scaled(22)), Qt::AlignCenter,
          tr("needed on diameter:  ○ anywhere   ● on the unworn top   ✚ on the blueprint   ━ by gauge, between"),
          Type::small);
    paint_focus(painter);
}

void LadderDrawing::paint_sizes(QPainter& painter, const Scale& s) {
    const Palette& p = context_.palette();
    const auto& study = context_.session.assessment().cylinders->study;
    const double bottom = scaled(head) + row_height() * static_cast<double>(study.each.size());
    const auto sizes = planning::cylinder_plan_of(context_.session.state()).oversizes;
    const double room = sizes.size() < 2 ? 120_px : s.x(sizes[1]) - s.x(sizes[0]) - 4; // for one of the numbers
    for (const double o : sizes) {
        const bool chosen = study.oversize && std::abs(*study.oversize - o) < 1e-9;
        const double x = s.x(o);
        if (chosen) { // what lies left of it cleans up
            painter.setPen(Qt::NoPen);
            painter.setBrush(p.selected);
            painter.drawRect(QRectF(QPointF(s.left, scaled(head)), QPointF(x, bottom)));
        }
        painter.setPen(QPen(chosen ? p.accent : p.hairline, chosen ? 3 : 1.4));
        painter.drawLine(QPointF(x, scaled(head) - 6), QPointF(x, bottom));
        painter.setPen(chosen ? p.accent : p.ink);
        if (chosen)
            write(painter, QRectF(x - 60_px, 8 + scaled(19), 120_px, scaled(18)), Qt::AlignCenter,
                  planning::cylinder_plan_of(context_.session.state()).oversize ? tr("decided") : tr("as planned"),
                  Type::small, true);
        write(painter, QRectF(x - room / 2, 8, room, scaled(20)), Qt::AlignCenter, qt(context_.lengths().with_sign(o)),
              Type::small, chosen);
    }
}

void LadderDrawing::paint_row(QPainter& painter, const Scale& s, const planning::CylinderNeed& n, double y) {
    const Palette& p = context_.palette();
    const bool marked = this->marked() == n.found.id;
    if (marked) {
        painter.setPen(QPen(p.accent, 1.4));
        painter.setBrush(Qt::NoBrush);
        painter.drawRoundedRect(QRectF(8, y - row_height() / 2 + 1, width() - 16, row_height() - 2), 5, 5);
    }
    painter.setPen(p.ink);
    const auto& bank = *intake_of(context_.session.state()).blueprint->bank(n.found.id.bank);
    write(painter, QRectF(16, y - scaled(12), s.left - 30, scaled(24)), Qt::AlignLeft | Qt::AlignVCenter,
          intake_of(context_.session.state()).blueprint->banks.size() > 1
              ? tr("%1 · %2").arg(n.found.cylinder).arg(qt(wording::bank_name(bank)))
              : tr("cylinder %1").arg(n.found.cylinder),
          Type::number, marked);
    painter.setPen(QPen(p.hairline, 1));
    painter.drawLine(QPointF(s.left, y), QPointF(s.right, y));
    const QString remark = remark_of(n);
    painter.setFont(font_of(Type::small, marked));
    painter.setPen(n.thin() || !n.cleans ? p.fails : p.accent);
    painter.drawText(QRectF(s.right + 8, y - row_height() / 2, width() - s.right - 18, row_height()),
                     Qt::AlignLeft | Qt::AlignVCenter | Qt::TextWordWrap, remark);
    const QColor colour = n.sleeved || n.left_out ? p.quiet : p.ink;
    for (const auto& school : n.schools) {
        const double over = school.needed_at_most - n.found.nominal;
        const double x = std::min(s.x(over), s.right + 2);
        if (school.needed_at_most > school.needed + 1e-9) {
            painter.setPen(QPen(colour, 4, Qt::SolidLine, Qt::FlatCap));
            painter.drawLine(QPointF(std::min(s.x(school.needed - n.found.nominal), s.right), y), QPointF(x, y));
        }
        painter.setPen(QPen(colour, 1.8));
        painter.setBrush(school.school == CentreSchool::free ? p.panel : colour);
        if (school.school == CentreSchool::blueprint) {
            painter.drawLine(QPointF(x - 5, y), QPointF(x + 5, y));
            painter.drawLine(QPointF(x, y - 5), QPointF(x, y + 5));
        } else {
            painter.drawEllipse(QPointF(x, y), 4.5, 4.5);
        }
        if (over > s.high && &school == &n.schools.front()) { // further than the drawing goes
            painter.setPen(colour);
            painter.drawText(QRectF(x - 90, y - 20, 84, 16), Qt::AlignRight, qt(context_.lengths().with_sign(over)));
        }
    }
}

} // namespace pallix::ui
