// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/steps/contributors.h"

#include "block/state/bore_state.h"
#include "block/state/card_state.h"
#include "block/state/deck_state.h"
#include "block/state/readings_state.h"
#include "block/state/tunnel_state.h"
#include <algorithm>
#include <array>
#include <initializer_list>

namespace pallix::planning {
namespace {

using block::JobState;

/// Something was read or cut: whoever did that has the block on the machine.
bool worked_on(const JobState& state) {
    const bool deck_cut =
        std::ranges::any_of(decks_of(state).decks, [](const auto& d) { return !d.second.cuts.empty(); });
    return tunnel_of(state).latest || !readings_of(state).places.empty() || deck_cut ||
           tunnel_of(state).mains_round > 0 || !bores_of(state).bores_cut.empty();
}

bool ticked(const JobState& state, std::initializer_list<const char*> words) {
    return std::ranges::any_of(tunnel_of(state).steps, [&words](const auto& step) {
        return std::ranges::any_of(words, [&](const char* word) { return step.second.starts_with(word); });
    });
}

/// Threads, caps and cracks, one by one.
bool looked_over(const JobState& state) {
    using enum block::Inspection;
    return std::ranges::all_of(std::array{threads, caps, cracks},
                               [&state](auto what) { return card_of(state).inspected.contains(what); });
}

} // namespace

/// Washed, looked over, measured as found. A job on which work was done without a word of it counts as past it.
void add_intake_steps(Route& route) {
    const JobState& state = route.state;
    const bool washed = ticked(state, {"washed", "cleaned"});
    const bool inspected = ticked(state, {"inspected", "cracks"}) || looked_over(state) ||
                           decks_of(state).pressure_test || !decks_of(state).flaws.empty();
    const bool past_it = worked_on(state) && !washed && !inspected;
    const auto settle = [&](Step& step, bool done) {
        step.state = done ? StepState::done : past_it ? StepState::skipped : StepState::ready;
        step.asks = {{"done", AskKind::tick, 1, {}, {}}};
    };
    settle(route.add(Task::wash, "cleaned/wash", block::Stage::cleaned), washed || inspected);
    Step& inspect = route.add(Task::inspect, "cleaned/inspect", block::Stage::cleaned);
    settle(inspect, inspected);
    route.hold(inspect, block::Rule::clean_first, "cleaned/wash");

    Step& log = route.add(Task::take_log, "as_found/log", block::Stage::as_found);
    log.asks = {{"log", AskKind::file, {}, {}, {}}};
    if (tunnel_of(state).as_found)
        log.state = StepState::done;
    else
        log.aside = !readings_of(state).places.empty(); // measured by hand: a log may still come
    if (tunnel_of(state).as_found)
        log.why = {tunnel_of(state).as_found->sequence};
    route.hold(log, block::Rule::clean_first, "cleaned/wash");
}

} // namespace pallix::planning
