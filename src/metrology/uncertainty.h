// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cstddef>
#include <optional>
#include <span>
#include <string>
#include <vector>

namespace pallix::metrology {

/// Repeated readings of one place.
struct Repeatability {
    std::size_t count = 0;
    double mean = 0;
    double standard_deviation = 0; ///< s of one reading, n − 1 degrees of freedom; 0 for one reading
    /// Standard uncertainty of the mean of `count` readings, s/√n.
    [[nodiscard]] double of_mean() const;
};
/// Two passes, so that large values with a small spread keep their digits.
[[nodiscard]] Repeatability repeatability(std::span<const double> readings);

/// Standard uncertainty of a value known only to lie within ± half_width, all equally likely: half_width/√3
/// (JCGM 100:2008, 4.3.7).
[[nodiscard]] double of_half_width(double half_width);
/// Of an indication rounded to steps of `resolution`: resolution/√12 (JCGM 100:2008, F.2.2.1).
[[nodiscard]] double of_resolution(double resolution);
/// Left over after a drift of the zero was spread evenly over the readings between two checks. Nobody knows when it
/// came: all at once, as of a knock, at a time that may be any, it is drift·√(s(1 − s)) at the share s of the way (the
/// variance of a chance of s), and less however else it came.
/// @param share of the readings between the checks, 0 to 1
[[nodiscard]] double of_spread_drift(double drift, double share);

/// A part measured with a gauge, both away from 20 °C. Expansion per kelvin; temperatures °C.
struct Thermal {
    double part_c = 20;
    double gauge_c = 20;
    double part_expansion = 0;
    double gauge_expansion = 0;
    double temperature_uncertainty = 0.5;        ///< K, standard, of either thermometer reading
    double expansion_relative_uncertainty = 0.1; ///< standard, of either expansion coefficient
};
/// D20 = D·(1 + α_g(T_g − 20) − α_p(T_p − 20)): first order, better than 1e-7 of D within 30 K (ISO 1: 20 °C).
/// @return mm to add to the reading
[[nodiscard]] double thermal_correction(double length, const Thermal& t);
/// Standard uncertainty that correction leaves, mm.
[[nodiscard]] double thermal_uncertainty(double length, const Thermal& t);

/// One part of an uncertainty, by name.
struct Contribution {
    std::string name;
    double standard_uncertainty = 0; ///< mm
};
/// Uncorrelated contributions: root of the sum of squares (JCGM 100:2008, 5.1.2).
[[nodiscard]] double combined(std::span<const Contribution> contributions);

/// How likely places that were measured, each with noise of its own, all lie within their bounds: the product of
/// Φ(room/u), nothing being known of them beforehand.
/// @param rooms mm, from each to its bound, + inside; @param u mm, standard, of each, > 0
[[nodiscard]] double chance_of_all(std::span<const double> rooms, double u);
/// What is sure enough to cut on: 95 %, of all places together.
inline constexpr double sure_enough = 0.95;

/// Covariance of a fitted circle's (centre x, centre y, radius) in units of the variance of one point: (JᵀJ)⁻¹ for
/// points at these angles (rad) about the centre, row by row. Nothing where the angles fix no circle.
[[nodiscard]] std::optional<std::vector<double>> circle_covariance(std::span<const double> angles);

} // namespace pallix::metrology
