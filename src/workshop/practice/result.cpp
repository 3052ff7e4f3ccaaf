// SPDX-License-Identifier: GPL-3.0-or-later
#include "workshop/practice/result.h"

#include "block/state/fold.h"
#include "block/state/intake_state.h"

namespace pallix::workshop {

PlayerHabits careful_player(const HiddenTruth& truth) {
    PlayerHabits h;
    h.gauge = truth.gauges.stated;
    h.sure = true;
    h.probe = truth.gauges.probe;
    h.straightedge = !truth.gauges.bridge;
    h.thermometer = true;
    h.check_every = 12;
    h.person = "the player";
    h.gauge_name.clear();
    h.takes_its_time = true;
    return h;
}

PlayerHabits careless_player(const HiddenTruth& truth) {
    PlayerHabits h = careful_player(truth);
    h.sure = h.thermometer = false;
    h.check_every = 0;
    h.careless = true;
    h.person = "the careless player";
    return h;
}

block::Result<Played> play_exercise(const std::vector<block::Entry>& entries, bool careless) {
    const block::Folded state = block::fold(entries);
    const auto truth = hidden_truth(state);
    if (!truth)
        return tl::unexpected(truth.error());
    std::vector<block::Payload> opening;
    for (const block::Entry& entry : entries) {
        opening.push_back(entry.payload);
        if (std::holds_alternative<block::PracticeBegun>(entry.payload))
            break;
    }
    PracticeBench bench(*intake_of(state).blueprint, *truth);
    PlayerHabits habits = careless ? careless_player(*truth) : careful_player(*truth);
    habits.begins = entries.front().time;
    return play(bench, std::move(opening), habits, truth->seed);
}

block::Result<PracticeResult> result_of(const std::vector<block::Entry>& entries) {
    auto own = reckon(entries);
    if (!own)
        return tl::unexpected(own.error());
    const auto played = play_exercise(entries);
    if (!played)
        return tl::unexpected(played.error());
    auto player = reckon(played->entries);
    if (!player)
        return tl::unexpected(player.error());
    return PracticeResult{std::move(*own), std::move(*player)};
}

} // namespace pallix::workshop
