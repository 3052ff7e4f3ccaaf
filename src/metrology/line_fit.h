// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "metrology/fit_fault.h"
#include "metrology/geometry.h"

#include <span>
#include <tl/expected.hpp>

namespace pallix::metrology {

struct LineFit {
    Vec3 point;                ///< centroid of the points, mm
    Vec3 direction;            ///< unit length; sign: from the first point towards the last
    double largest_distance{}; ///< mm, of a point from the line
};

/// Orthogonal least-squares line in space, equal weights (principal axis of the scatter; Pearson 1901).
/// @param points mm, at least 2, not all in one place
[[nodiscard]] tl::expected<LineFit, FitFault> fit_line(std::span<const Vec3> points);

} // namespace pallix::metrology
