// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/common/fit_spread.h"

#include "metrology/uncertainty.h"

#include <algorithm>
#include <cmath>
#include <vector>

namespace pallix::planning {
namespace {

FitSpread spread_at(const std::vector<double>& angles, std::size_t points) {
    const double n = std::max(1.0, static_cast<double>(points));
    const FitSpread even{2 / std::sqrt(n), std::sqrt(2 / n)};
    const auto covariance = metrology::circle_covariance(angles);
    if (!covariance)
        return even;
    const auto& c = *covariance; // of centre x, centre y and radius, row by row
    const double mean = (c[0] + c[4]) / 2, apart = std::hypot((c[0] - c[4]) / 2, c[1]);
    return {2 * std::sqrt(c[8]), std::sqrt(mean + apart)};
}

} // namespace

FitSpread fit_spread(const block::MainResult& main) {
    std::vector<double> angles;
    angles.reserve(main.surface.size());
    for (const metrology::Vec3 p : main.surface)
        angles.push_back(std::atan2(p.z - main.centre.z, p.y - main.centre.y));
    return spread_at(angles, main.points);
}

FitSpread fit_spread(const block::HoleLevel& level) {
    std::vector<double> angles;
    angles.reserve(level.surface.size());
    for (const metrology::Vec2 p : level.surface)
        angles.push_back(std::atan2(p.y - level.centre.y, p.x - level.centre.x));
    return spread_at(angles, level.surface.size());
}

} // namespace pallix::planning
