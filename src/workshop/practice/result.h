// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "workshop/player.h"
#include "workshop/practice/reckoning.h"

#include <vector>

namespace pallix::workshop {

/// How somebody works who knows what he is doing, and one who does not.
[[nodiscard]] PlayerHabits careful_player(const HiddenTruth& truth);
[[nodiscard]] PlayerHabits careless_player(const HiddenTruth& truth);

/// What somebody made of an exercise, and beside it what the simulated player makes of the same block.
struct PracticeResult {
    Reckoning own, player;
};
/// A second or two for a whole block.
/// @return why it cannot be told: it is no practice, or its seal is broken
[[nodiscard]] block::Result<PracticeResult> result_of(const std::vector<block::Entry>& entries);

/// The exercise of a job from its beginning, by the player.
[[nodiscard]] block::Result<Played> play_exercise(const std::vector<block::Entry>& entries, bool careless = false);

} // namespace pallix::workshop
