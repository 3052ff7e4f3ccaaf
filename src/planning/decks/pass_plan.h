// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/ledger.h"

#include <vector>

namespace pallix::planning {

/// mm; less is no infeed a machine can set.
inline constexpr double least_infeed = 5e-4;

/// What is usual where nothing else was chosen (common practice, no source): a witness cut of 1 thou shows where it
/// touches, 2 thou a pass in a worn surface, 12 thou while more than 30 must come off, a finishing cut of 1 thou,
/// two spring passes at zero infeed.
[[nodiscard]] block::PassPlanChosen usual_passes();
inline constexpr double roughing_from = 30 * 0.0254; ///< mm still to come off
inline constexpr double roughing_pass = 12 * 0.0254; ///< mm

struct Pass {
    block::PassKind kind = block::PassKind::pass;
    double depth = 0; ///< mm
};

/// The passes that take `remaining` off, in order, together exactly that much.
/// @param remaining mm; nothing to cut below half a micrometre
/// @param first whether nothing was cut yet, so that a witness cut comes first
/// @param maybe mm, last before the finishing cut, in which it may be clean already: in passes of half that depth
[[nodiscard]] std::vector<Pass> plan_passes(double remaining, const block::PassPlanChosen& chosen, bool first,
                                            double maybe = 0);

} // namespace pallix::planning
