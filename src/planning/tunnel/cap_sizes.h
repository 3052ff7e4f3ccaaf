// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/evaluation.h"
#include "block/forward.h"
#include "block/state/tunnel_state.h"
#include "planning/common/experience.h"
#include "planning/tunnel/tunnel_work.h"

#include <vector>

namespace pallix::planning {

/// What the sizes before caps were cut should have become: by gauge, else by the probe. Nothing is said of what came.
[[nodiscard]] std::vector<CapPrediction> predict_caps(const block::JobState& state, const block::TakenCaps& caps);

/// A size that was foretold, and what it became before the mains were worked on again.
struct CapCame {
    double predicted = 0, allowed = 0, after = 0; ///< mm
    MeasuredBy by;
};
[[nodiscard]] std::vector<CapCame> cap_sizes_that_came(const block::JobState& state, const block::TakenCaps& caps);

} // namespace pallix::planning
