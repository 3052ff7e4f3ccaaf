// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <cmath>
#include <cstddef>

namespace pallix::metrology {

// What is believed of a machined or worn surface before any height of it is seen.

/// Standard deviations of the trend's coefficients over a half length and width, mm: wide, so that a few heights
/// decide.
inline constexpr std::array trend_deviation{1.0, 0.15, 0.15, 0.05, 0.03, 0.02}; // height, slope, tilt, twist, two bows
/// What the wavy rest may be: size (mm) and length (mm). Common practice gives no figures; the heights weigh them.
inline constexpr std::array rest_sizes{0.002, 0.004, 0.008, 0.016, 0.032};
inline constexpr std::array rest_lengths{25.0, 40.0, 65.0, 105.0, 170.0};
/// Weight of a size before any height is seen: middle 8 µm, a factor of 2.2 either way.
inline double size_weight(double size) {
    const double z = std::log(size / 0.008) / std::log(2.2);
    return std::exp(-z * z / 2);
}
/// Hollows and swellings smaller than the spacing of the measured places: the heights cannot rule them out.
struct LocalRest {
    double size, weight; ///< mm; before any height is seen
};
inline constexpr std::array<LocalRest, 4> local_rests{{{0, 0.25}, {0.005, 0.25}, {0.010, 0.3}, {0.018, 0.2}}};
inline constexpr double local_length = 30;                       // mm
inline constexpr std::array unstated_noise{0.001, 0.003, 0.006}; // mm
inline constexpr double grain = 0.0005;                          // mm, what the surface does between neighbouring nodes
inline constexpr double negligible_weight = 0.02;
inline constexpr std::size_t most_components = 6;
/// Low places that lie between the measured ones, a few to a deck: the heights cannot rule them out. Common practice
/// gives no figures; these make the intervals hold on simulated blocks (tests/metrology/surface_belief_test.cpp).
inline constexpr double hollows_expected = 4, hollow_depth = 0.022, hollow_radius_least = 20, hollow_radius_most = 60;
inline constexpr double swelling_share = 0.25; ///< of them stand up instead
inline constexpr double calming = 0.2;         ///< share of the spread an extreme is looked for with
inline constexpr double caution = 1.4; ///< on the spread of a field whose size and length are themselves estimated
inline constexpr std::ptrdiff_t hollow_patterns = 600;

/// One choice of size, length and noise, with how well it explains the heights.
struct Component {
    double size = 0, length = 0, local = 0, noise = 0;
    double prior = 1;
    double log_evidence = 0, weight = 0;
};

} // namespace pallix::metrology
