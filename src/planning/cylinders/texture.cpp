// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/cylinders/texture.h"

#include <array>
#include <boost/math/distributions/students_t.hpp>
#include <cmath>
#include <tuple>

namespace pallix::planning {
namespace {

constexpr double um = 1e-3;

constexpr std::size_t parameters = 7;
constexpr std::size_t fewest_lengths = 3;

/// Ra, Rz, Rk, Rpk, Rvk, Mr1, Mr2.
std::array<double, parameters> numbers_of(const metrology::Roughness& r, const metrology::MaterialRatio& m) {
    return {r.ra, r.rz, m.rk, m.rpk, m.rvk, m.mr1, m.mr2};
}

/// The heights without those of one cutoff length.
std::vector<double> without(const std::vector<double>& heights, std::size_t from, std::size_t count) {
    std::vector<double> left(heights.begin(), heights.begin() + static_cast<std::ptrdiff_t>(from));
    left.insert(left.end(), heights.begin() + static_cast<std::ptrdiff_t>(from + count), heights.end());
    return left;
}

std::optional<std::array<double, parameters>> uncertainties(const metrology::Profile& roughness,
                                                            const std::vector<double>& for_ratio, double cutoff) {
    const auto per_length = static_cast<std::size_t>(std::lround(cutoff / roughness.step));
    const std::size_t lengths = per_length > 0 ? roughness.heights.size() / per_length : 0;
    if (lengths < fewest_lengths)
        return std::nullopt;
    std::vector<std::array<double, parameters>> each;
    for (std::size_t k = 0; k < lengths; ++k) {
        const std::size_t from = k * per_length;
        const auto ratio =
            metrology::material_ratio(without(for_ratio, from, std::min(per_length, for_ratio.size() - from)));
        if (!ratio)
            return std::nullopt;
        const metrology::Profile left{roughness.step, without(roughness.heights, from, per_length)};
        each.push_back(numbers_of(metrology::roughness_of(left, cutoff), *ratio));
    }
    const auto n = static_cast<double>(lengths);
    // Twice this is Student's interval at 95 %.
    const double few = boost::math::quantile(boost::math::students_t(n - 1), 0.975) / 2;
    std::array<double, parameters> u{};
    for (std::size_t p = 0; p < parameters; ++p) {
        double mean = 0, squares = 0;
        for (const auto& numbers : each)
            mean += numbers[p] / n;
        for (const auto& numbers : each)
            squares += (numbers[p] - mean) * (numbers[p] - mean);
        u[p] = few * std::sqrt((n - 1) / n * squares);
    }
    return u;
}

} // namespace

std::optional<TextureFinding> judge_texture(const block::ProfileTrace& trace, const block::TextureLimits& limits) {
    TextureFinding f;
    f.cutoff = trace.cutoff;
    metrology::Profile profile = trace.profile;
    if (const double short_wave = metrology::short_wave_cutoff(trace.cutoff); short_wave > 2 * profile.step) {
        f.short_wave = short_wave;
        profile = metrology::without_short_waves(profile, short_wave);
    }
    f.shown = metrology::roughness_profile(profile, trace.cutoff);
    f.ends_whole = profile.heights.size() - f.shown.heights.size() >=
                   2 * static_cast<std::size_t>(std::lround(trace.cutoff / profile.step));
    const std::vector<double> for_ratio = metrology::roughness_profile_with_valleys(profile, trace.cutoff).heights;
    const auto ratio = metrology::material_ratio(for_ratio);
    if (!ratio)
        return std::nullopt;
    f.roughness = metrology::roughness_of(f.shown, trace.cutoff);
    f.ratio = *ratio;
    const std::array<double, parameters> numbers = numbers_of(f.roughness, f.ratio);
    const auto sure = uncertainties(f.shown, for_ratio, trace.cutoff);
    using Range = block::TextureLimits::Range;
    const std::array<std::tuple<const char*, const Range*, bool>, parameters> names{{{"Ra", &limits.ra, false},
                                                                                     {"Rz", &limits.rz, false},
                                                                                     {"Rk", &limits.rk, false},
                                                                                     {"Rpk", &limits.rpk, false},
                                                                                     {"Rvk", &limits.rvk, false},
                                                                                     {"Mr1", &limits.mr1, true},
                                                                                     {"Mr2", &limits.mr2, true}}};
    for (std::size_t p = 0; p < parameters; ++p) {
        const auto& [name, wanted, is_ratio] = names[p];
        const auto u = sure ? std::optional((*sure)[p]) : std::nullopt;
        f.checks.push_back(
            {name, numbers[p], u, is_ratio, *wanted, metrology::decide(numbers[p], u, {wanted->least, wanted->most})});
    }
    return f;
}

std::vector<block::TextureLimits> usual_texture_limits() {
    using R = block::TextureLimits::Range;
    return {{"moly-faced rings, road", R{0.3 * um, 0.6 * um}, R{{}, 6 * um}, R{0.6 * um, 1.3 * um}, R{{}, 0.35 * um},
             R{0.9 * um, 2.2 * um}, R{{}, 0.12}, R{0.7, 0.85}},
            {"thin low-tension rings, race", R{0.15 * um, 0.4 * um}, R{{}, 4.5 * um}, R{0.3 * um, 0.8 * um},
             R{{}, 0.2 * um}, R{0.8 * um, 1.8 * um}, R{{}, 0.1}, R{0.72, 0.88}},
            {"plain iron rings, workboat", R{0.4 * um, 0.9 * um}, R{{}, 9 * um}, R{0.9 * um, 2.0 * um}, R{{}, 0.5 * um},
             R{1.2 * um, 3.0 * um}, R{{}, 0.13}, R{0.65, 0.85}}};
}

} // namespace pallix::planning
