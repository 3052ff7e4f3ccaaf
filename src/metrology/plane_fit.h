// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "metrology/fit_fault.h"
#include "metrology/geometry.h"

#include <span>
#include <tl/expected.hpp>

namespace pallix::metrology {

struct PlaneFit {
    Vec3 point;     ///< centroid of the points, mm
    Vec3 normal;    ///< unit length, sign as it falls: turn it with `facing`
    double range{}; ///< mm, of the signed distances: flatness against the LSQ plane
};

/// Orthogonal least-squares plane (smallest principal axis of the scatter; Pearson 1901).
/// @param points mm, at least 3, not on one line
[[nodiscard]] tl::expected<PlaneFit, FitFault> fit_plane(std::span<const Vec3> points);

/// w = height + a·u + b·v with all the error in w (ordinary least squares).
struct HeightFit {
    double height{};  ///< mm, at u = v = 0
    double slope_u{}; ///< dimensionless
    double slope_v{}; ///< dimensionless
};

/// @param points x = u, y = v, z = w in mm; at least 3 whose (u, v) are not on one line
[[nodiscard]] tl::expected<HeightFit, FitFault> fit_heights(std::span<const Vec3> points);

/// @return the normal or its opposite, whichever points the same way as `towards`
constexpr Vec3 facing(Vec3 normal, Vec3 towards) {
    return dot(normal, towards) < 0 ? -normal : normal;
}

} // namespace pallix::metrology
