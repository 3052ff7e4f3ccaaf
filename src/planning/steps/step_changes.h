// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/forward.h"
#include "planning/steps/step.h"

#include <vector>

namespace pallix::planning {

struct Assessment;

/// What a step would change besides the place it is done at, once it is done as proposed: deck heights with the piston
/// clearances and compression ratios that hang on them, sizes, and whatever was read and no longer holds. The job is
/// taken one step on and held against what it is, so nothing here has a rule of its own.
/// @return nothing of a step that is done, or whose answer is a choice or a file
[[nodiscard]] std::vector<Change> changes_of(const block::JobState& state, const Assessment& assessment,
                                             const Step& step);

} // namespace pallix::planning
