// SPDX-License-Identifier: GPL-3.0-or-later
#include "metrology/uncertainty.h"

#include <Eigen/Dense>
#include <cmath>
#include <numbers>

namespace pallix::metrology {

double Repeatability::of_mean() const {
    return count > 0 ? standard_deviation / std::sqrt(static_cast<double>(count)) : 0;
}

Repeatability repeatability(std::span<const double> readings) {
    Repeatability r;
    r.count = readings.size();
    if (readings.empty())
        return r;
    const double n = static_cast<double>(readings.size());
    double sum = 0; // of differences from the first: large values with a small spread keep their digits
    for (const double x : readings)
        sum += x - readings.front();
    r.mean = readings.front() + sum / n;
    double squares = 0;
    for (const double x : readings)
        squares += (x - r.mean) * (x - r.mean);
    r.standard_deviation = readings.size() > 1 ? std::sqrt(squares / (n - 1)) : 0;
    return r;
}

double of_half_width(double half_width) {
    return std::abs(half_width) / std::numbers::sqrt3;
}

double of_resolution(double resolution) {
    return std::abs(resolution) / std::sqrt(12.0);
}

double of_spread_drift(double drift, double share) {
    return std::abs(drift) * std::sqrt(share * (1 - share));
}

double thermal_correction(double length, const Thermal& t) {
    return length * (t.gauge_expansion * (t.gauge_c - 20) - t.part_expansion * (t.part_c - 20));
}

double thermal_uncertainty(double length, const Thermal& t) {
    const auto part = [&t](double expansion, double celsius) {
        return std::hypot(expansion * t.temperature_uncertainty,
                          (celsius - 20) * expansion * t.expansion_relative_uncertainty);
    };
    return std::abs(length) * std::hypot(part(t.part_expansion, t.part_c), part(t.gauge_expansion, t.gauge_c));
}

double combined(std::span<const Contribution> contributions) {
    double squares = 0;
    for (const Contribution& c : contributions)
        squares += c.standard_uncertainty * c.standard_uncertainty;
    return std::sqrt(squares);
}

double chance_of_all(std::span<const double> rooms, double u) {
    double chance = 1;
    for (const double room : rooms)
        chance *= std::erfc(-room / u / std::numbers::sqrt2) / 2;
    return chance;
}

std::optional<std::vector<double>> circle_covariance(std::span<const double> angles) {
    Eigen::Matrix3d normal = Eigen::Matrix3d::Zero();
    for (const double a : angles) {
        const Eigen::Vector3d j{std::cos(a), std::sin(a), 1};
        normal += j * j.transpose();
    }
    const Eigen::FullPivLU<Eigen::Matrix3d> factor(normal);
    if (!factor.isInvertible())
        return std::nullopt;
    const Eigen::Matrix3d inverse = factor.inverse();
    return std::vector<double>(inverse.data(), inverse.data() + 9);
}

} // namespace pallix::metrology
