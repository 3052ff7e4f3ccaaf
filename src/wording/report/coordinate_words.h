// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/forward.h"
#include "planning/common/coordinates.h"
#include "wording/common/lengths.h"

#include <string>
#include <vector>

namespace pallix::wording {

/// "dowel 1 of the right bank, where it was probed"; of lifters, what each way counts from.
[[nodiscard]] std::string origin_words(const block::JobState& state, const planning::CoordinateSheet& sheet);
/// "outboard": what + across means on a bank.
[[nodiscard]] std::string plus_across(const block::BankBlueprint& bank);
/// "right bank, cylinders"; "left bank, lifters at 42.00°"
[[nodiscard]] std::string sheet_name(const block::JobState& state, const planning::CoordinateSheet& sheet);
/// What to see to before a machine is let go by numbers (common practice, no source).
inline constexpr const char* coordinates_caution =
    "Clock the machine on the dowel itself and touch one hole by hand before the spindle turns: a sign or an axis that "
    "is "
    "wrong puts the tool into the block. Guards shut, eyes covered, no hand near the tool; whoever runs the machine "
    "answers for its program.";

} // namespace pallix::wording
