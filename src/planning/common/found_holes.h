// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/evaluation.h"
#include "block/forward.h"
#include "block/state/tunnel_state.h"

#include <cstdint>

namespace pallix::planning {

/// Entry of the first cut of a cylinder or lifter bore; the largest number where it was not cut.
[[nodiscard]] std::int64_t first_cut_of(const block::JobState& state, const block::FeatureId& id);

/// The log that shows a cylinder or lifter bore before it was cut: the newest, of a cylinder only as long as its tunnel
/// stands; else the first.
/// @return null where there is none
[[nodiscard]] const block::EvaluationState* probed_before_cuts(const block::JobState& state,
                                                               const block::FeatureId& id);

/// @param e may be null @return null where the cylinder or lifter bore was not probed
[[nodiscard]] const block::HoleResult* hole_of(const block::Evaluation* e, const block::FeatureId& id);

} // namespace pallix::planning
