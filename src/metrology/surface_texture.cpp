// SPDX-License-Identifier: GPL-3.0-or-later
#include "metrology/surface_texture.h"

#include <Eigen/Core>
#include <algorithm>
#include <cmath>
#include <functional>
#include <numbers>

namespace pallix::metrology {
namespace {

/// The filter's weights, from one cutoff before the middle to one after.
Eigen::VectorXd gaussian_weights(double cutoff, double step) {
    const double alpha = std::sqrt(std::numbers::ln2 / std::numbers::pi);
    const auto reach = static_cast<Eigen::Index>(cutoff / step);
    Eigen::VectorXd weights(2 * reach + 1);
    for (Eigen::Index i = -reach; i <= reach; ++i) {
        const double x = static_cast<double>(i) * step / (alpha * cutoff);
        weights[i + reach] = std::exp(-std::numbers::pi * x * x);
    }
    return weights;
}

Profile less(const Profile& profile, const std::vector<double>& mean_line, double cutoff) {
    const bool long_enough = profile.length() >= 6 * cutoff * (1 - 1e-9);
    const std::size_t drop =
        std::min(static_cast<std::size_t>(std::lround((long_enough ? 1 : 0.5) * cutoff / profile.step)),
                 profile.heights.size() / 2);
    Profile out{profile.step, {}};
    for (std::size_t i = drop; i + drop < profile.heights.size(); ++i)
        out.heights.push_back(profile.heights[i] - mean_line[i]);
    return out;
}

/// Where a falling curve, evenly spaced over 0…1, passes a height, and the area between curve and height before that.
struct Crossing {
    double ratio = 0, area = 0;
};
/// @param falling the curve read from the side where it lies above `height`
Crossing crossing_from_above(const std::vector<double>& falling, double height) {
    const double step = 1.0 / static_cast<double>(falling.size() - 1);
    Crossing c;
    for (std::size_t i = 0; i + 1 < falling.size(); ++i) {
        const double a = falling[i] - height, b = falling[i + 1] - height;
        if (a <= 0)
            return c;
        if (b <= 0) {
            const double share = a / (a - b);
            return {c.ratio + share * step, c.area + share * step * a / 2};
        }
        c.ratio += step;
        c.area += step * (a + b) / 2;
    }
    return c;
}

} // namespace

std::vector<double> gaussian_mean_line(const Profile& profile, double cutoff) {
    const Eigen::VectorXd weights = gaussian_weights(cutoff, profile.step);
    const auto n = static_cast<Eigen::Index>(profile.heights.size());
    const Eigen::Index reach = weights.size() / 2;
    const double whole = weights.sum();
    const Eigen::Map<const Eigen::VectorXd> heights(profile.heights.data(), n);
    std::vector<double> mean(profile.heights.size());
    for (Eigen::Index i = 0; i < n; ++i) {
        const Eigen::Index first = std::max<Eigen::Index>(0, i - reach), last = std::min(n - 1, i + reach);
        const auto near = weights.segment(first - i + reach, last - first + 1);
        const double sum = last - first + 1 == weights.size() ? whole : near.sum();
        mean[static_cast<std::size_t>(i)] = near.dot(heights.segment(first, last - first + 1)) / sum;
    }
    return mean;
}

Profile without_short_waves(const Profile& profile, double cutoff) {
    return {profile.step, gaussian_mean_line(profile, cutoff)};
}

double short_wave_cutoff(double cutoff) {
    constexpr double half_way = 1.8; // between neighbours of the table
    return cutoff < 0.8 * half_way ? 0.0025 : cutoff < 2.5 * half_way ? 0.008 : 0.025;
}

Profile roughness_profile(const Profile& profile, double cutoff) {
    return less(profile, gaussian_mean_line(profile, cutoff), cutoff);
}

Profile roughness_profile_with_valleys(const Profile& profile, double cutoff) {
    const std::vector<double> first = gaussian_mean_line(profile, cutoff);
    Profile filled = profile;
    for (std::size_t i = 0; i < first.size(); ++i)
        filled.heights[i] = std::max(filled.heights[i], first[i]);
    return less(profile, gaussian_mean_line(filled, cutoff), cutoff);
}

Roughness roughness_of(const Profile& roughness, double cutoff) {
    Roughness r;
    const auto n = static_cast<double>(roughness.heights.size());
    for (const double z : roughness.heights) {
        r.ra += std::abs(z) / n;
        r.rq += z * z / n;
    }
    r.rq = std::sqrt(r.rq);
    const auto per_length = static_cast<std::size_t>(std::lround(cutoff / roughness.step));
    for (std::size_t from = 0; from + per_length <= roughness.heights.size(); from += per_length, ++r.lengths) {
        const auto [low, high] =
            std::minmax_element(roughness.heights.begin() + static_cast<std::ptrdiff_t>(from),
                                roughness.heights.begin() + static_cast<std::ptrdiff_t>(from + per_length));
        r.rz += *high - *low;
    }
    if (r.lengths > 0)
        r.rz /= static_cast<double>(r.lengths);
    return r;
}

std::optional<MaterialRatio> material_ratio(std::vector<double> heights) {
    constexpr std::size_t fewest = 10;
    if (heights.size() < fewest)
        return std::nullopt;
    std::ranges::sort(heights, std::greater<>());
    if (heights.front() == heights.back())
        return std::nullopt;
    MaterialRatio m;
    m.curve = std::move(heights);
    const std::vector<double>& z = m.curve;
    const auto intervals = static_cast<double>(z.size() - 1);
    const auto window = static_cast<std::size_t>(std::lround(0.4 * intervals));
    std::size_t start = 0;
    for (std::size_t i = 0; i + window < z.size(); ++i)
        if (z[i] - z[i + window] < z[start] - z[start + window])
            start = i;
    // Least-squares line of height over ratio within the window.
    double ratio = 0, height = 0, rr = 0, rz = 0;
    const auto points = static_cast<double>(window + 1);
    for (std::size_t i = start; i <= start + window; ++i) {
        ratio += static_cast<double>(i) / intervals / points;
        height += z[i] / points;
    }
    for (std::size_t i = start; i <= start + window; ++i) {
        const double r = static_cast<double>(i) / intervals - ratio;
        rr += r * r;
        rz += r * (z[i] - height);
    }
    const double slope = rz / rr;
    m.upper = height - slope * ratio;
    m.lower = m.upper + slope;
    m.rk = m.upper - m.lower;
    const Crossing peaks = crossing_from_above(z, m.upper);
    std::vector<double> upside_down(z.rbegin(), z.rend());
    for (double& h : upside_down)
        h = -h;
    const Crossing valleys = crossing_from_above(upside_down, -m.lower);
    m.mr1 = peaks.ratio;
    m.mr2 = 1 - valleys.ratio;
    // The triangle of the same area on the same base.
    m.rpk = peaks.ratio > 0 ? 2 * peaks.area / peaks.ratio : 0;
    m.rvk = valleys.ratio > 0 ? 2 * valleys.area / valleys.ratio : 0;
    return m;
}

} // namespace pallix::metrology
