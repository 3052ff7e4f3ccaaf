// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/forward.h"
#include "planning/steps/step.h"

#include <optional>
#include <string>
#include <vector>

namespace pallix::planning {

struct Assessment;

/// What can be done to a thing whatever is called for: a pit or a crack seen, a decision of one's own, a head worked
/// on, a pass that nobody planned. These stand in no list and nothing waits for them; they are answered like any step.
/// @param about a deck, cylinder, lifter or main; nothing for the block as a whole
[[nodiscard]] std::vector<Step> any_time_steps(const block::JobState& state,
                                               const std::optional<block::FeatureId>& about);

/// A step by its id: of the list, or one that can be done at any time.
[[nodiscard]] std::optional<Step> step_by_id(const block::JobState& state, const Assessment& assessment,
                                             const std::string& id);

} // namespace pallix::planning
