// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "metrology/geometry.h"

#include <array>
#include <cstddef>
#include <vector>

namespace pallix::planning {

using Triangle = std::array<std::size_t, 3>;

/// Delaunay triangles of points in a plane (dual of Boost.Polygon's Voronoi diagram; points are told apart to 1 µm).
/// @param points mm
/// @return corners as indices into points; empty for points on one line
[[nodiscard]] std::vector<Triangle> delaunay(const std::vector<metrology::Vec2>& points);

} // namespace pallix::planning
