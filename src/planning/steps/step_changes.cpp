// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/steps/step_changes.h"

#include "block/state/deck_state.h"
#include "block/state/fold.h"
#include "block/state/intake_state.h"
#include "block/state/readings_state.h"
#include "block/state/tunnel_state.h"
#include "planning/common/assessment.h"
#include "planning/decks/compression.h"
#include "planning/decks/deck_consequences.h"
#include "planning/steps/answer.h"

#include <algorithm>
#include <cmath>
#include <optional>
#include <set>

namespace pallix::planning {
namespace {

using block::FeatureId;
using block::FeatureKind;
using block::JobState;

constexpr double nothing_much = 1e-6; // mm

/// What the step proposes; what it does not is answered with the number it calls for.
std::optional<Answers> as_called_for(const Step& step) {
    Answers answers = proposed(step);
    for (const Ask& ask : step.asks) {
        if (answers.contains(ask.key) || !ask.needed())
            continue;
        if (ask.kind == AskKind::length && step.number)
            answers[ask.key] = *step.number;
        else if (ask.kind == AskKind::count)
            answers[ask.key] = ask.least.value_or(1);
        else if (ask.kind != AskKind::tick)
            return std::nullopt;
    }
    return answers;
}

FeatureId deck_id(const std::string& bank) {
    return {FeatureKind::deck, bank, 0};
}

/// Mean of a deck's four places; nothing where its heights do not hold.
std::optional<double> mean_height(const JobState& state, const block::BankBlueprint& bank) {
    const auto places = block::deck_places(bank);
    double sum = 0;
    for (const block::DeckPlace& at : places) {
        const auto height = block::height_now(decks_of(state).deck(bank.id), at.place);
        if (!height)
            return std::nullopt;
        sum += *height / static_cast<double>(places.size());
    }
    return places.empty() ? std::nullopt : std::optional(sum);
}

bool differ(const std::optional<double>& a, const std::optional<double>& b) {
    return a.has_value() != b.has_value() || (a && std::abs(*a - *b) > nothing_much);
}

void add_decks(std::vector<Change>& changes, const JobState& before, const JobState& then,
               const std::vector<PistonCrown>& crowns) {
    for (const block::BankBlueprint& bank : intake_of(before).blueprint->banks) {
        const auto was = mean_height(before, bank), is = mean_height(then, bank);
        const bool of_head = head_state(before, bank.id).cut != head_state(then, bank.id).cut;
        if (!was || !is || (!differ(was, is) && !of_head))
            continue;
        if (differ(was, is))
            changes.push_back({Changed::deck_height, deck_id(bank.id), was, is});
        const auto old = deck_consequences(before, crowns, bank.id, *was, 0).cylinders;
        const auto now = deck_consequences(then, crowns, bank.id, *is, *was - *is).cylinders;
        for (std::size_t i = 0; i < std::min(old.size(), now.size()); ++i) {
            if (old[i].bore != now[i].bore)
                continue;
            if (differ(was, is))
                changes.push_back({Changed::clearance, now[i].bore, old[i].clearance, now[i].clearance});
            if (old[i].ratio && now[i].ratio)
                changes.push_back({Changed::ratio, now[i].bore, old[i].ratio, now[i].ratio});
        }
    }
}

/// What was true of a feature and is no longer, each named once, in the order of the block.
void add_stale(std::vector<Change>& changes, const JobState& before, const JobState& then) {
    std::set<FeatureId> stale;
    for (const block::MeasuredPlace& place : readings_of(then).places) {
        if (block::is_on_head(place.at.quantity))
            continue; // it would be named as the deck under it
        const block::MeasuredPlace* was = readings_of(before).place(place.at);
        if (place.stale() && was && !was->stale())
            stale.insert(place.at.feature);
    }
    for (const auto& [bank, deck] : decks_of(then).decks) {
        const block::DeckState& was = decks_of(before).deck(bank);
        const auto holds = [](const block::DeckState& d) { return d.latest && !d.stale() && !d.from_other_tunnel(); };
        if (holds(was) && !holds(deck))
            stale.insert(deck_id(bank));
    }
    if (tunnel_of(before).mains_as_probed() && !tunnel_of(then).mains_as_probed())
        for (const block::MainBlueprint& main : intake_of(before).blueprint->mains)
            stale.insert(main.id);
    for (const FeatureId& id : stale)
        changes.push_back({Changed::stale, id, {}, {}});
}

/// The largest size that was read of a bore and holds.
std::optional<double> size_of(const JobState& state, const FeatureId& bore) {
    std::optional<double> largest;
    for (const block::MeasuredPlace& place : readings_of(state).places)
        if (place.at.feature == bore && place.at.quantity == block::Quantity::size && !place.stale())
            largest = std::max(largest.value_or(place.value), place.value);
    return largest;
}

} // namespace

std::vector<Change> changes_of(const JobState& state, const Assessment& assessment, const Step& step) {
    if (step.state > StepState::waits || !intake_of(state).blueprint)
        return {};
    const std::optional<Answers> answers = as_called_for(step);
    Step at_its_turn = step;
    at_its_turn.state = StepState::ready;
    constexpr const char* any_time = "2000-01-01T00:00:00Z"; // a rest ends then; nothing that is compared hangs on it
    const auto done = answers ? answer(state, assessment, at_its_turn, *answers, any_time)
                              : block::Result<std::vector<block::Payload>>();
    if (!done || done->empty())
        return {};
    const block::Folded then = block::after(state, *done);
    std::vector<Change> changes;
    add_decks(changes, state, then, assessment.crowns);
    if (step.task == Task::bore && step.about && step.number)
        changes.push_back({Changed::size, *step.about, size_of(state, *step.about), step.number});
    add_stale(changes, state, then);
    return changes;
}

} // namespace pallix::planning
