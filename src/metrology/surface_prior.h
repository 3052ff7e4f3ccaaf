// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "metrology/surface_belief.h"

#include <Eigen/Core>
#include <array>
#include <cmath>
#include <optional>
#include <vector>

namespace pallix::metrology {

class Deviates;

// What is believed of a machined or worn surface before any height of it is seen. Common practice gives no figures:
// these are chosen, wide, and the heights weigh them (tests/certainty).

/// Standard deviations of the trend's coefficients over a half length and width, mm: height, slope, tilt, twist, bows.
inline constexpr std::array trend_deviation{1.0, 0.15, 0.15, 0.03, 0.02, 0.01};
/// What the wavy rest may be: size (mm) and length (mm).
inline constexpr std::array rest_sizes{0.0005, 0.001, 0.002, 0.004, 0.008, 0.016};
inline constexpr std::array rest_lengths{35.0, 80.0, 180.0};
/// Weight of a size before any height is seen: middle 3 µm, a factor of 3 either way.
inline double size_weight(double size) {
    const double z = std::log(size / 0.003) / std::log(3.0);
    return std::exp(-z * z / 2);
}
/// The same where surfaces of the kind are known to be flat within so much over all, mm: half of the weight goes to
/// waves a quarter as large, within a factor of 2. The heights still have the last word.
inline double size_weight(double size, std::optional<double> usual_flatness) {
    if (!usual_flatness)
        return size_weight(size);
    const double z = std::log(4 * size / *usual_flatness) / std::log(2.0);
    return (size_weight(size) + std::exp(-z * z / 2)) / 2;
}
inline constexpr std::array unstated_noise{0.001, 0.003, 0.006}; // mm
inline constexpr double grain = 0.0007;                          // mm, what the surface does between neighbouring nodes

/// One pattern of features that a surface may have: unit shapes, and how high each may be.
struct SurfacePattern {
    SurfaceFeature kind = SurfaceFeature::hollows;
    std::vector<double> spread; ///< mm, standard, of each shape's height about 0; at most `most_shapes`
    /// One column a shape, −1 where it is deepest: at the touches; at the lowest and at the highest place of each
    /// patch.
    Eigen::MatrixXd at_seen, at_nodes, at_tops, at_places;
};
inline constexpr std::size_t most_shapes = 3;

/// Patterns, drawn; the first has nothing.
/// @param patch mm, radius of what a node stands for
[[nodiscard]] std::vector<SurfacePattern> draw_patterns(const SurfaceQuestion& question, double patch, Deviates& draw,
                                                        std::optional<SurfaceFeature> only);

} // namespace pallix::metrology
