// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/forward.h"
#include "planning/steps/step.h"
#include "wording/common/lengths.h"

#include <string>
#include <vector>

namespace pallix::wording {

/// "boring bar"; empty for the desk.
[[nodiscard]] std::string machine_name(planning::Machine machine);
/// Where a step is done, how the block lies for it and how long it usually takes: "surfacer, right bank up and level,
/// about 12 min"; empty for what is done at the desk.
[[nodiscard]] std::string where_words(const block::JobState& state, const planning::Step& step);
/// What a step changes elsewhere, a clause for each thing: "right bank 0.0020 in lower", "compression 9.86 to 9.91",
/// "to be read again: main 1, main 2". A list of things alike is told by its first and last.
[[nodiscard]] std::vector<std::string> change_words(const block::JobState& state,
                                                    const std::vector<planning::Change>& changes, const LengthText& l);

} // namespace pallix::wording
