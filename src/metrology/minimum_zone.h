// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "metrology/geometry.h"

#include <span>

namespace pallix::metrology {

/// Smallest distance between two parallel lines that hold all points: minimum-zone straightness in a plane, exact
/// (one line lies along an edge of the convex hull, the other through a vertex). 0 for fewer than 3 points.
/// @param points mm
[[nodiscard]] double strip_width(std::span<const Vec2> points);

struct PlaneZone {
    double width{}; ///< mm
    Vec3 normal{0, 0, 1};
};

/// Smallest distance between two parallel planes that hold all points (minimum-zone flatness, ISO 12781-1), exact.
///
/// A small working set is solved over every way two parallel planes can be held (three points against one, two
/// against two); the points that stick out of its zone join it until none does. The zone of a subset can only be
/// narrower, so a working set whose zone holds all points proves the result. The normal is not unique for every set;
/// the width is. Agreement with the proof: 1e-11 mm + 1e-14 of the extent.
/// @param points mm; fewer than 4: 0
[[nodiscard]] PlaneZone flatness_zone(std::span<const Vec3> points);

struct RingZone {
    double width{}; ///< mm
    Vec2 centre;    ///< mm
};

/// Smallest largest-less-smallest distance from one centre (minimum-zone roundness, ISO 12181-1), exact by the same
/// argument: two points outside against two inside, or three against one.
/// @param points mm; fewer than 4: width 0
/// @param near where to start, the LSQ centre
[[nodiscard]] RingZone roundness_zone(std::span<const Vec2> points, Vec2 near);

} // namespace pallix::metrology
