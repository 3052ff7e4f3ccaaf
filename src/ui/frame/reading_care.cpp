// SPDX-License-Identifier: GPL-3.0-or-later
// What the reading line knows of the gauge in hand: its zero, and the study that is laid out for it.
#include "ui/frame/reading_line.h"

#include "block/ledger.h"
#include "block/state/readings_state.h"
#include "planning/readings/reading_plan.h"
#include "wording/readings/care_words.h"
#include "wording/readings/readings.h"
#include "wording/shop/memory_words.h"

namespace pallix::ui {
namespace {

std::string heard(const block::Instrument& tool, const planning::ZeroDoubt& doubt) {
    return tool.name + tool.zero_time + std::to_string(static_cast<int>(doubt.why));
}

} // namespace

/// Whoever sets a gauge to what is wanted has set its zero.
void ReadingLine::zero_at_target() {
    if (!asked_)
        return;
    const block::Instrument tool = instrument();
    if (!block::reads_from_zero(tool.kind))
        return say(tr("The %1 reads no deviations from a zero.").arg(qt(tool.name)), context_.palette().fails);
    const double target = asked_->target();
    if (const auto saved = context_.instruments.zero(tool, target, tr("its target").toStdString(),
                                                     readings_of(context_.session.state()).conditions.gauge_c);
        !saved)
        return say(qt(saved.error().front().text()), context_.palette().fails);
    refresh();
    say(tr("%1 stands zeroed at %2.").arg(qt(tool.name), qt(context_.lengths().with_unit(target))),
        context_.palette().quiet);
}

/// What is doubtful of the zero of the gauge in hand, where readings are made from it. Asked once, then it is the
/// person's own affair, until something else makes it doubtful.
QString ReadingLine::doubt_of_zero() const {
    if (!asked_ || !(expected().zero || expected().plate))
        return {};
    const block::Instrument tool = instrument();
    const auto doubt = context_.instruments.doubt(tool, context_.session.state());
    return doubt && zero_heard_ != heard(tool, *doubt) ? qt(wording::zero_doubt_words(*doubt, context_.lengths()))
                                                       : QString();
}

/// What stands under the field while nothing is typed.
void ReadingLine::say_what_to_type() {
    const block::Instrument tool = instrument();
    if (const QString doubt = doubt_of_zero(); !doubt.isEmpty())
        return say(tr("%1 (Ctrl+H: zeroed at its target).").arg(doubt), context_.palette().cannot_tell);
    QString said = qt(wording::what_to_type(asked_->at.quantity, tool, context_.lengths()));
    if (const planning::InstrumentRecord record = context_.instruments.record(tool); record.overdue)
        said += tr(" · %1: %2").arg(qt(tool.name), qt(wording::due_words(record)));
    say(said, context_.palette().quiet);
}

bool ReadingLine::asks_about_zero(const QString& typed) {
    const QString doubt = doubt_of_zero();
    if (doubt.isEmpty())
        return false;
    const block::Instrument tool = instrument();
    zero_heard_ = heard(tool, *context_.instruments.doubt(tool, context_.session.state()));
    questioned_ = typed;
    say(tr("%1: set it anew (Ctrl+H when it stands at its target), or Enter once more to take the reading.").arg(doubt),
        context_.palette().cannot_tell);
    return true;
}

/// A study that was begun with the gauge in hand on what the line is at comes before everything else.
void ReadingLine::ask_for_study() {
    study_.reset();
    const auto standing = planning::study_standing(context_.session.state(), context_.session.at_bench().person);
    if (!standing || !standing->next || standing->study.instrument != instrument().name ||
        standing->study.plan != planning::plan_name(wish_.what, wish_.bank))
        return;
    study_ = standing;
    asked_.reset();
    if (standing->next->person != context_.session.at_bench().person)
        return;
    planning::ReadingWish wish = wish_;
    wish.feature.reset();
    wish.once_more = standing->next->at.key();
    asked_ = planning::next_reading(context_.session.state(), wish);
    if (!asked_)
        return;
    asked_->reading = standing->next->trial;
    asked_->number = standing->next->number;
    asked_->of = standing->next->of;
}

/// The study goes on when somebody else is at the bench.
void ReadingLine::show_whose_turn() {
    place_->setText(tr("Gauge study: %1 reads next").arg(qt(study_->next->person)));
    detail_->setText(tr("Ctrl+1 … 9, Ctrl+Shift+W: who is at the bench"));
    said_.clear();
    echo_->clear();
}

std::optional<std::int64_t> ReadingLine::running_study() const {
    return study_ ? std::optional(study_->begun) : std::nullopt;
}

/// What stands under the place: how far it is, what to expect.
QString ReadingLine::detail_of_asked() const {
    QString detail = tr("%1 of %2").arg(asked_->number).arg(asked_->of);
    if (study_)
        return tr("gauge study · %1 · time %2").arg(detail).arg(asked_->reading);
    if (asked_->reading > 1)
        detail += tr(" · reading %1").arg(asked_->reading);
    if (block::is_length(asked_->at.quantity) && asked_->expected != 0)
        detail += tr(" · expected %1").arg(qt(context_.lengths().with_unit(asked_->expected)));
    if (asked_->usual)
        detail +=
            tr("\n%1").arg(qt(wording::usual_words(context_.session.state(), *asked_->usual, context_.lengths())));
    return detail;
}

} // namespace pallix::ui
