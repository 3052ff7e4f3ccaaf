// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/blueprint.h"
#include "block/fault.h"
#include "block/forward.h"
#include "block/touch_outliers.h"

#include <string>
#include <vector>

namespace pallix::planning {

// What a person is asked about before something measured elsewhere is taken, as every hand reading is: each doubt names
// the thing, its number and what was expected. The bounds are common practice without a source: wide enough for a worn,
// sunken or once reworked block, too narrow for another engine or the wrong unit.

/// Sizes and places of a log against the blueprint and the log before it.
/// @param before the job without the log
/// @param after the job with it
/// @return the first of them; empty where the log is plausible
[[nodiscard]] block::Faults doubts_about_log(const block::JobState& before, const block::JobState& after,
                                             const std::string& file);

/// Touches of the newest log that agree with no other of their section.
[[nodiscard]] std::vector<block::TouchStandingOut> touches_standing_out(const block::JobState& state);

/// Sizes of a blueprint against those of engines at all.
[[nodiscard]] block::Faults doubts_about_blueprint(const block::Blueprint& blueprint, const std::string& file);

} // namespace pallix::planning
