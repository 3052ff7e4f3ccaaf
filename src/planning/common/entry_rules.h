// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/fault.h"
#include "planning/common/assessment.h"

#include <optional>

namespace pallix::planning {

/// Why an entry cannot be made in this state, by what the job knows: places the blueprint does not list, sizes that do
/// not belong there, a cut that nothing was measured before. Ranges of single fields are `block::faults_in`.
/// @return what is wrong and what was expected; nothing where it can be made
[[nodiscard]] std::optional<block::Fault> fault_of(const block::JobState& state, const Assessment& assessment,
                                                   const block::Payload& payload);

} // namespace pallix::planning
