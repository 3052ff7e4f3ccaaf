// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "metrology/geometry.h"

#include <span>

namespace pallix::metrology {

struct Circle {
    Vec2 centre;       ///< mm
    double radius = 0; ///< mm
};

/// Smallest circle that holds all points (Welzl 1991, in the iterative form that grows the circle through one, two,
/// three points). The result is unique. Expected time linear in the number of points; the order they are tried in is
/// shuffled with a fixed seed, so that the same points give the same digits.
/// Radius better than 1e-12 of the extent.
/// @param points mm; none: a circle of radius 0 at the origin
[[nodiscard]] Circle enclosing_circle(std::span<const Vec2> points);

} // namespace pallix::metrology
