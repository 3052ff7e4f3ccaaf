// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/fault.h"
#include "planning/common/assessment.h"

#include <optional>

namespace pallix::planning {

/// Why an entry does not belong to this block, whatever was done before it: places the blueprint does not list, sizes
/// that do not belong there, lengths that are no rings. By this a job from elsewhere is judged as well. Ranges of
/// single fields are `block::faults_in`.
/// @return what is wrong and what was expected; nothing where it belongs
[[nodiscard]] std::optional<block::Fault> fault_of(const block::JobState& state, const block::Payload& payload);

/// The same, and why it cannot be made now: a cut that nothing was measured before, a bush into a seat that is not in
/// size. What was done elsewhere was done, in whatever order.
[[nodiscard]] std::optional<block::Fault> fault_now(const block::JobState& state, const Assessment& assessment,
                                                    const block::Payload& payload);

} // namespace pallix::planning
