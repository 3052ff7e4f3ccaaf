// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/blueprint.h"
#include "block/feature.h"
#include "block/probe_log.h"

#include <cstddef>
#include <optional>
#include <string>
#include <vector>

namespace pallix::block {

struct BlockFrame;

/// A touch that agrees with no other of its section: a chip, dirt, a burr, or a place that really is so. It is asked
/// about and never dropped.
struct TouchStandingOut {
    FeatureId feature;
    std::string level;                ///< empty where a feature has none
    std::optional<std::size_t> touch; ///< from 1, in the order of the log; nothing for four, of which any may be it
    std::size_t of = 0;               ///< touches of that section
    double off = 0;     ///< mm, outward or above where the others have it; of four: one diagonal over the other
    double scatter = 0; ///< mm, standard, of the others
    bool operator==(const TouchStandingOut&) const = default;
};

/// With five and more touches one that lies over four times as far off as the others scatter, and over four times its
/// stated uncertainty; with four, diameters that differ by more than worn holes do. Bounds are common practice without
/// a source. Low places of a face are left alone: so they wear, and the first passes show it. So are scans of hundreds
/// of touches: what stands out there has neighbours.
/// @param touch mm, standard uncertainty of one touch as stated
[[nodiscard]] std::vector<TouchStandingOut> touches_standing_out(const Blueprint& blueprint, const ProbeSet& probe,
                                                                 const BlockFrame& frame, std::optional<double> touch);

} // namespace pallix::block
