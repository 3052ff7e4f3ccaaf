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
constexpr double head = 44, foot = 26; // px
}

LadderDrawing::LadderDrawing(Context context, QWidget* parent)
    : Drawing(context, QStringLiteral("ladder"), tr("what every cylinder needs against the sizes on offer"), parent) {
    setToolTip(tr("Click a cylinder, or go from one to the next with Up and Down"));
    setFocusPolicy(Qt::StrongFocus);
}

void LadderDrawing::mark(const std::optional<block::FeatureId>& id) {
    marked_ = id;
    update();
}

void LadderDrawing::refresh() {
    const auto& work = context_.session.assessment().cylinders;
    if (work && intake_of(context_.session.state()).blueprint) {
        QStringList words;
        for (const std::string& s : wording::size_sentences(context_.session.state(), work->study, context_.lengths()))
            words << qt(s);
        setAccessibleDescription(words.join(QLatin1Char(' ')));
    }
    update();
}

double LadderDrawing::row_height() const {
    const auto& work = context_.session.assessment().cylinders;
    const auto rows = work ? static_cast<double>(work->study.each.size()) : 1.0;
    return std::clamp((height() - head - foot) / rows, 15.0, 46.0);
}

LadderDrawing::Scale LadderDrawing::scale() const {
    Scale s{150, width() - 150.0, 0, 0.1};
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
    painter.setFont(font_of(Type::text));
    painter.setPen(p.quiet);
    if (!work) {
        painter.drawText(rect().adjusted(20, 0, -20, 0), Qt::AlignCenter | Qt::TextWordWrap,
                         tr("No cylinder was measured yet: take in a probe log (Ctrl+I), or read sizes (Ctrl+R)."));
        return;
    }
    const Scale s = scale();
    paint_sizes(painter, s);
    double y = head + row_height() / 2;
    for (const auto& n : work->study.each) {
        paint_row(painter, s, n, y);
        y += row_height();
    }
    painter.setFont(font_of(Type::small));
    painter.setPen(p.quiet);
    painter.drawText(
        QRectF(12, height() - foot + 4, width() - 24, 18), Qt::AlignCenter,
        tr("needed on diameter:  ○ anywhere   ● on the unworn top   ✚ on the blueprint   ━ by gauge, between"));
    paint_focus(painter);
}

void LadderDrawing::paint_sizes(QPainter& painter, const Scale& s) {
    const Palette& p = context_.palette();
    const auto& study = context_.session.assessment().cylinders->study;
    const double bottom = head + row_height() * static_cast<double>(study.each.size());
    for (const double o : planning::cylinder_plan_of(context_.session.state()).oversizes) {
        const bool chosen = study.oversize && std::abs(*study.oversize - o) < 1e-9;
        const double x = s.x(o);
        if (chosen) { // what lies left of it cleans up
            painter.setPen(Qt::NoPen);
            painter.setBrush(p.selected);
            painter.drawRect(QRectF(QPointF(s.left, head), QPointF(x, bottom)));
        }
        painter.setPen(QPen(chosen ? p.accent : p.hairline, chosen ? 3 : 1.4));
        painter.drawLine(QPointF(x, head - 6), QPointF(x, bottom));
        painter.setFont(font_of(Type::small, chosen));
        painter.setPen(chosen ? p.accent : p.ink);
        painter.drawText(QRectF(x - 50, head - 36, 100, 16), Qt::AlignCenter, qt(context_.lengths().with_sign(o)));
        if (chosen)
            painter.drawText(QRectF(x - 60, head - 22, 120, 16), Qt::AlignCenter,
                             planning::cylinder_plan_of(context_.session.state()).oversize ? tr("decided")
                                                                                           : tr("as planned"));
    }
}

void LadderDrawing::paint_row(QPainter& painter, const Scale& s, const planning::CylinderNeed& n, double y) {
    const Palette& p = context_.palette();
    const auto& study = context_.session.assessment().cylinders->study;
    const auto plan = planning::cylinder_plan_of(context_.session.state());
    const bool marked = marked_ == n.found.id;
    if (marked) {
        painter.setPen(QPen(p.accent, 1.4));
        painter.setBrush(Qt::NoBrush);
        painter.drawRoundedRect(QRectF(8, y - row_height() / 2 + 1, width() - 16, row_height() - 2), 5, 5);
    }
    painter.setFont(font_of(Type::small, marked));
    painter.setPen(p.ink);
    const auto& bank = *intake_of(context_.session.state()).blueprint->bank(n.found.id.bank);
    painter.drawText(QRectF(16, y - 9, s.left - 40, 18), Qt::AlignLeft | Qt::AlignVCenter,
                     tr("cylinder %1 · %2").arg(n.found.cylinder).arg(qt(wording::bank_name(bank))));
    painter.setPen(QPen(p.hairline, 1));
    painter.drawLine(QPointF(s.left, y), QPointF(s.right, y));
    const planning::CommonSize* common = study.by(plan.centre);
    QString remark;
    if (n.sleeved)
        remark = tr("to be sleeved");
    else if (n.left_out)
        remark = tr("left out");
    else if (common && common->set_by == n.found.id)
        remark = tr("sets the size");
    if (!n.cleans && !n.sleeved && !n.left_out)
        remark = tr("does not clean up");
    if (n.thin())
        remark += remark.isEmpty() ? tr("thin wall") : tr(", thin wall");
    painter.setPen(n.thin() || !n.cleans ? p.fails : p.accent);
    painter.drawText(QRectF(s.right + 8, y - 9, width() - s.right - 20, 18), Qt::AlignLeft | Qt::AlignVCenter, remark);
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

void LadderDrawing::mousePressEvent(QMouseEvent* event) {
    setFocus();
    const auto& work = context_.session.assessment().cylinders;
    const auto row = static_cast<std::ptrdiff_t>(std::floor((event->position().y() - head) / row_height()));
    if (work && row >= 0 && row < std::ssize(work->study.each))
        Q_EMIT pointed_at(work->study.each[static_cast<std::size_t>(row)].found.id);
}

void LadderDrawing::keyPressEvent(QKeyEvent* event) {
    const auto& work = context_.session.assessment().cylinders;
    if (!work || (event->key() != Qt::Key_Up && event->key() != Qt::Key_Down))
        return QWidget::keyPressEvent(event);
    const auto& each = work->study.each;
    const auto here = std::ranges::find_if(each, [this](const auto& n) { return marked_ == n.found.id; });
    auto i = here == each.end() ? -1 : here - each.begin();
    i = std::clamp<std::ptrdiff_t>(i + (event->key() == Qt::Key_Down ? 1 : -1), 0, std::ssize(each) - 1);
    Q_EMIT pointed_at(each[static_cast<std::size_t>(i)].found.id);
}

} // namespace pallix::ui
