// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/blueprint.h"
#include "block/forward.h"
#include "block/units.h"
#include "metrology/decision.h"
#include "planning/common/certainty.h"

#include <cstddef>
#include <optional>
#include <vector>

namespace pallix::planning {

// Limits of common practice where blueprint and shop set none, mm.

/// The tunnel over all (1 thou).
inline constexpr double usual_tunnel_straightness = 1 * block::mm_per_thou;
/// One main to the next (half a thou).
inline constexpr double usual_tunnel_step = block::mm_per_thou / 2;

/// A main's diameter against its window, and the tunnel's straightness against what is usual.
struct MainVerdict {
    std::size_t index = 0;        ///< into Evaluation::mains
    metrology::Verdict verdict{}; ///< of all of these
    metrology::Verdict size{}, roundness{}, taper{};
    double taper_value = 0;     ///< mm, largest less smallest diameter over the main's levels
    double roundness_value = 0; ///< mm, as it was judged: without the touches' noise where that was drawn
};
/// What a main's roundness (minimum zone, on radius) and its taper (on diameter) may be where nobody stated it: half of
/// its size window each, so that opposite places of a section stay within the window together (common practice, no
/// source). Nothing where the window has no width.
[[nodiscard]] std::optional<double> usual_main_shape(const block::Tolerance& window);
struct TunnelVerdict {
    std::vector<MainVerdict> mains;
    metrology::Verdict straightness{};
    double straightness_value = 0; ///< mm, as it was judged: without the touches' noise where that was drawn
    double step = 0;               ///< mm, the largest from one main's centre to the next's, off the datum
    metrology::Verdict step_verdict{};
    metrology::Verdict overall{};
};
[[nodiscard]] TunnelVerdict judge_tunnel(const block::Blueprint& blueprint, const block::EvaluationState& state,
                                         const Certainty* certainty = nullptr);

} // namespace pallix::planning
