// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/forward.h"
#include "planning/shop/estimate.h"
#include "wording/common/lengths.h"

#include <string>
#include <vector>

namespace pallix::wording {

/// What the owner is told before the work, in plain words.
struct EstimateWords {
    std::vector<std::string> scope, hours, sizes, may_turn_up;
};
[[nodiscard]] EstimateWords estimate_words(const block::JobState& state, const planning::Estimate& estimate,
                                           const LengthText& l);

} // namespace pallix::wording
