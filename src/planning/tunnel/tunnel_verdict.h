// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/blueprint.h"
#include "block/forward.h"
#include "metrology/decision.h"
#include "planning/common/certainty.h"
#include "planning/common/shop_limits.h"

#include <cstddef>
#include <optional>
#include <vector>

namespace pallix::planning {

/// A main's diameter and shape against its window.
struct MainVerdict {
    std::size_t index = 0;        ///< into Evaluation::mains
    metrology::Verdict verdict{}; ///< of all of these
    metrology::Verdict size{}, roundness{}, taper{};
    double taper_value = 0;     ///< mm, largest less smallest diameter over the main's levels
    double roundness_value = 0; ///< mm, as it was judged: without the touches' noise where that was drawn
};
struct TunnelVerdict {
    std::vector<MainVerdict> mains;
    metrology::Verdict straightness{};
    double straightness_value = 0; ///< mm, as it was judged: without the touches' noise where that was drawn
    double step = 0;               ///< mm, the largest from one main's centre to the next's, off the datum
    metrology::Verdict step_verdict{};
    metrology::Verdict overall{};
};
[[nodiscard]] TunnelVerdict judge_tunnel(const block::Blueprint& blueprint, const block::EvaluationState& state,
                                         const Certainty* certainty = nullptr,
                                         const block::LimitsChosen& limits = usual_limits());

} // namespace pallix::planning
