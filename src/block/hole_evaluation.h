// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

// Internal to the block library: cylinder and lifter bores.

#include "block/evaluation.h"

namespace pallix::block {

/// What a bore is evaluated from.
struct HoleSource {
    const ProbeSet& probe;
    const BlockFrame& frame;
    Detail detail = Detail::whole;
};

/// @param meant the bore in the blueprint
/// @param angle rad, of the frame it is measured in: its bank's, or a lifter's own
/// @param scatter gathers its sections' deviations
/// @return nothing where it was not probed; throws Refused where its points fix no circle
[[nodiscard]] std::optional<HoleResult> evaluate_hole(const HoleSource& source, const HoleBlueprint& meant,
                                                      double angle, Scatter& scatter);

} // namespace pallix::block
