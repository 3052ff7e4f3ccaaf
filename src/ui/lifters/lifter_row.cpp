// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/lifters/lifter_row.h"

#include "block/state/bore_state.h"
#include "block/state/intake_state.h"
#include "planning/common/assessment.h"
#include "wording/common/sentences.h"
#include "wording/lifters/lifter_words.h"

#include <QPainter>
#include <algorithm>
#include <cmath>

namespace pallix::ui {

using planning::LifterState;

namespace {

const planning::LifterProgress* progress_of(const Context& context, const block::FeatureId& id) {
    const auto& work = context.session.assessment().lifters;
    if (!work)
        return nullptr;
    const auto found = std::ranges::find(work->board.each, id, &planning::LifterProgress::id);
    return found == work->board.each.end() ? nullptr : &*found;
}

QString state_word(LifterState state) {
    switch (state) {
    case LifterState::left_alone:
        return SectionRow::tr("left alone");
    case LifterState::near_limit:
        return SectionRow::tr("can't tell yet");
    case LifterState::to_cut:
        return SectionRow::tr("to cut");
    case LifterState::to_measure:
        return SectionRow::tr("measure it");
    case LifterState::to_press:
        return SectionRow::tr("press it in");
    case LifterState::too_large:
        return SectionRow::tr("too large");
    case LifterState::to_prove:
        return SectionRow::tr("prove it");
    case LifterState::proven:
        return SectionRow::tr("proven");
    case LifterState::off_place:
        return SectionRow::tr("off its place");
    case LifterState::answered:
        return SectionRow::tr("left so");
    }
    return {};
}

class LifterRow final : public SectionRow {
  public:
    LifterRow(Context context, QWidget* parent)
        : SectionRow(context, QStringLiteral("lifter-work"), tr("lifter bores and what becomes of them"),
                     tr("a lifter"), parent) {}

  protected:
    [[nodiscard]] Words words() const override;
    [[nodiscard]] std::vector<block::FeatureId> bores() const override;
    [[nodiscard]] QString value_of(const block::FeatureId& id) const override;
    void paint_section(QPainter& painter, const block::FeatureId& id, const QRectF& box) override;

  private:
    void paint_timing(QPainter& painter, const block::FeatureId& id, const QRectF& box);
};

std::vector<block::FeatureId> LifterRow::bores() const {
    std::vector<block::FeatureId> ids;
    if (const auto& work = context_.session.assessment().lifters)
        for (const auto& need : work->study.each)
            if (need.id.bank == bank())
                ids.push_back(need.id);
    return ids;
}

QString LifterRow::value_of(const block::FeatureId& id) const {
    const auto& work = context_.session.assessment().lifters;
    if (!work)
        return {};
    QStringList words;
    for (const std::string& s : wording::lifter_sentences(context_.session.state(), *work, id, context_.lengths()))
        words << qt(s);
    return words.join(QLatin1Char(' '));
}

LifterRow::Words LifterRow::words() const {
    const auto& work = context_.session.assessment().lifters;
    return {work ? qt(wording::spread_sentence(*work)) : QString(), QString(),
            tr("No lifter bore was measured yet: take in a probe log (Ctrl+I), or read sizes (Ctrl+R).")};
}

void LifterRow::paint_section(QPainter& painter, const block::FeatureId& id, const QRectF& box) {
    const auto& work = context_.session.assessment().lifters;
    const auto* need = work->study.lifter(id);
    const auto* p_of = progress_of(context_, id);
    if (!need)
        return;
    const Palette& p = context_.palette();
    const auto l = context_.lengths();
    const double words_below = scaled(230);
    const QRectF section(box.left() + 4, box.top() + scaled(22), box.width() - 8,
                         std::max(24.0, box.height() - words_below - scaled(22)));
    painter.setFont(font_of(Type::small, true));
    painter.setPen(p.ink);
    painter.drawText(QRectF(box.left(), box.top() - 2, box.width(), scaled(22)), Qt::AlignCenter | Qt::TextDontClip,
                     qt(wording::lifter_choice_name(need->choice)));
    paint_walls(painter, section, {});
    const bool bush = bores_of(context_.session.state()).bore(id).fitted.has_value();
    if (bush) { // the ring that is in
        painter.setPen(QPen(p.accent, 1.4));
        painter.setBrush(p.selected);
        const double in = scaled(14), ring = scaled(7);
        painter.drawRect(QRectF(section.left() + in, section.top(), ring, section.height()));
        painter.drawRect(QRectF(section.right() - in - ring, section.top(), ring, section.height()));
    }
    const std::optional<double> size = p_of && p_of->size ? p_of->size : need->diameter;
    double y = section.bottom() + scaled(4);
    const auto line = [&](const QString& words, Type type, bool bold, const QColor& colour, int high) {
        painter.setPen(colour);
        write(painter, QRectF(box.left() - 5, y, box.width() + 10, scaled(high)), Qt::AlignCenter | Qt::TextDontClip,
              words, type, bold);
        y += scaled(high);
    };
    const bool set_to = p_of && p_of->by_setting; // what the tool was set to is no reading
    line(!size    ? QString()
         : set_to ? tr("set %1").arg(qt(l.plain(*size)))
                  : qt(l.plain(*size)),
         Type::number, marked() == id, p.ink, 23);
    line(p_of && p_of->next ? tr("→ %1").arg(qt(l.plain(p_of->next->to))) : QString(), Type::number, false, p.accent,
         23);
    const bool bad = p_of && (p_of->state == LifterState::too_large || p_of->state == LifterState::off_place ||
                              p_of->state == LifterState::answered);
    const bool good = p_of && p_of->state == LifterState::proven;
    line(p_of ? state_word(p_of->state) : QString(), Type::small, true, bad ? p.fails : good ? p.meets : p.ink, 20);
    line(need->clearance ? tr("has %1").arg(qt(l.plain(*need->clearance))) : QString(), Type::small, false, p.quiet,
         18);
    // Its side on a line of its own: the columns are narrow.
    const auto& bank_of = *intake_of(context_.session.state()).blueprint->bank(id.bank);
    const QStringList off =
        need->error ? qt(wording::across_text(bank_of, need->error->y, l)).split(QLatin1Char(' ')) : QStringList();
    line(!off.isEmpty() ? tr("off %1").arg(off.front()) : QString(), Type::small, false, p.quiet, 18);
    line(off.size() > 1 ? off.back() : QString(), Type::small, false, p.quiet, 18);
    paint_timing(painter, id, QRectF(box.left(), y + 2, box.width(), scaled(84)));
}

/// A stem that leans as the valve is late or early, larger than life: as found, and as planned or probed since.
void LifterRow::paint_timing(QPainter& painter, const block::FeatureId& id, const QRectF& box) {
    const auto& work = context_.session.assessment().lifters;
    const auto* need = work->study.lifter(id);
    if (!need->timing)
        return;
    const Palette& p = context_.palette();
    double largest = 0.001; // rad
    for (const auto& n : work->study.each)
        if (n.timing)
            largest = std::max(largest, std::abs(*n.timing));
    const double factor = std::clamp(std::floor(0.6 / largest), 1.0, 60.0), stem = scaled(50);
    const QPointF base(box.center().x(), box.top() + stem + 4);
    const auto draw = [&](double timing, const QColor& colour, double wide) {
        const double lean = timing * factor;
        painter.setPen(QPen(colour, wide, Qt::SolidLine, Qt::RoundCap));
        painter.drawLine(base, base + QPointF(stem * std::sin(lean), -stem * std::cos(lean)));
    };
    painter.setPen(QPen(p.hairline, 1));
    painter.drawLine(base, base - QPointF(0, stem));
    draw(*need->timing, p.quiet, 4);
    const auto& after = work->board.timings_after;
    const auto now = std::ranges::find(after, id, [](const auto& t) { return t.first; });
    if (now != after.end())
        draw(now->second, p.accent, 2.4);
    else if (need->timing_planned)
        draw(*need->timing_planned, p.accent, 1.6);
    painter.setFont(font_of(Type::small));
    painter.setPen(p.ink);
    const double shown = 2 * (now != after.end() ? now->second : *need->timing) / block::radians_per_degree;
    const QRectF angle(box.left(), base.y() + 4, box.width(), scaled(20));
    painter.drawText(angle, Qt::AlignCenter | Qt::TextDontClip, tr("%1°").arg(std::abs(shown), 0, 'f', 2));
    if (std::abs(shown) >= 0.005)
        painter.drawText(angle.translated(0, scaled(17)), Qt::AlignCenter | Qt::TextDontClip,
                         shown > 0 ? tr("late") : tr("early"));
}

} // namespace

SectionRow* lifter_row(Context context, QWidget* parent) {
    return new LifterRow(context, parent);
}

} // namespace pallix::ui
