// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/forward.h"
#include "block/ledger.h"

#include <functional>
#include <string>
#include <string_view>
#include <vector>

namespace pallix::block {

/// A round is what was read of a thing between two events that could have changed it. This is what an event ends.
struct RoundEnd {
    std::string because; ///< "the bore was cut since"
    std::function<bool(const MeasuredAt&)> touches;
};

/// The one place that knows which event makes what stale: cuts, honing, pressing in and heat, caps that come off or are
/// torqued again, screws that are turned, a person who wants it read from the start.
/// @param before the state that the entry is about to change
[[nodiscard]] std::vector<RoundEnd> rounds_ended_by(const Payload& entry, const JobState& before);

/// Whether a step that was ticked moved the block under the bar: "screws turned", "block rolled", …
[[nodiscard]] bool moves_the_block(const std::string& step);

inline constexpr std::string_view head_levelled = "head levelled, "; ///< and the bank: ticked when its feet were set

/// The names a round is opened by hand under, besides features.
inline constexpr const char* round_of_mains = "mains";
inline constexpr const char* round_of_sweep = "sweep";

} // namespace pallix::block
