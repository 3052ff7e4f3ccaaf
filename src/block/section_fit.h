// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

// Internal to the block library: what evaluating a section shares between bearings, dowels, bores and lifters.

#include "block/probe_log.h"
#include "metrology/geometry.h"

#include <vector>

namespace pallix::block {

/// Carries a fault out of the depth of an evaluation; never leaves the block library.
struct Refused {
    Fault fault;
};

/// A circle fitted to one section of an inside surface, in a measuring plane.
struct RoundSection {
    metrology::Vec2 centre;               ///< mm, in the plane
    double radius{};                      ///< mm
    double range{};                       ///< mm, roundness against the LSQ circle
    double squares{};                     ///< mm², sum over the deviations from the circle
    std::vector<metrology::Vec2> surface; ///< mm, in the plane, tip compensated
};

[[nodiscard]] metrology::Vec3 mean_of(const std::vector<Touch>& touches);

/// Fits the section's touches projected on a plane. A ball touches on the far side of its centre, seen from the axis.
/// Throws Refused when the points do not fix a circle.
[[nodiscard]] RoundSection fit_round(const ProbeSet& probe, const Section& section, const metrology::PlaneBasis& basis);

/// A section's centre in space: the circle's, at the section's mean position along the axis.
[[nodiscard]] metrology::Vec3 centre_in_space(const RoundSection& round, const Section& section,
                                              const metrology::PlaneBasis& basis, metrology::Vec3 axis);

} // namespace pallix::block
