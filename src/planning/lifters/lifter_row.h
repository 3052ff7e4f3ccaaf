// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/entries/cylinder_entries.h"
#include "block/forward.h"
#include "planning/lifters/lifter_plan.h"

#include <optional>
#include <vector>

namespace pallix::planning {

/// What a bored hole is taken for until it is measured; a honed one is as it is.
[[nodiscard]] std::optional<double> set_to(const block::BoreCut& cut);

/// Of each single-point tool the first bore is measured before the next is cut, and the last once it is through its
/// row; where they differ by more than a tool should, all of them.
[[nodiscard]] std::optional<ToolDrift> compare_rows(const block::JobState& state, std::vector<LifterProgress>& each);

} // namespace pallix::planning
