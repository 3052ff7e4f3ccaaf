// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/cylinders/texture.h"

#include "block/state/bore_state.h"

#include <algorithm>
#include <array>
#include <boost/math/distributions/students_t.hpp>
#include <cmath>
#include <tuple>

namespace pallix::planning {
namespace {

constexpr double um = 1e-3;

constexpr std::size_t parameters = 7;
constexpr std::size_t first_ratio = 5; // Mr1 and Mr2 do not grow with a wall's coarseness
constexpr std::size_t fewest_lengths = 3;
using Numbers = std::array<double, parameters>; // Ra, Rz, Rk, Rpk, Rvk, Mr1, Mr2

Numbers numbers_of(const metrology::Roughness& r, const metrology::MaterialRatio& m) {
    return {r.ra, r.rz, m.rk, m.rpk, m.rvk, m.mr1, m.mr2};
}

/// What one trace shows.
struct OneTrace {
    metrology::Roughness roughness;
    metrology::MaterialRatio ratio;
    metrology::Profile shown;
    double short_wave = 0;
    bool ends_whole = true;
    Numbers numbers{};
    std::size_t lengths = 1;          ///< cutoff lengths
    std::optional<Numbers> variances; ///< of the numbers, as they change along the trace
};

/// The heights without those of one cutoff length.
std::vector<double> without(const std::vector<double>& heights, std::size_t from, std::size_t count) {
    std::vector<double> left(heights.begin(), heights.begin() + static_cast<std::ptrdiff_t>(from));
    left.insert(left.end(), heights.begin() + static_cast<std::ptrdiff_t>(from + count), heights.end());
    return left;
}

std::optional<Numbers> jackknife(const metrology::Profile& roughness, const std::vector<double>& for_ratio,
                                 double cutoff, std::size_t lengths) {
    if (lengths < fewest_lengths)
        return std::nullopt;
    const std::size_t per_length = roughness.heights.size() / lengths;
    std::vector<Numbers> each;
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
    Numbers variances{};
    for (std::size_t p = 0; p < parameters; ++p) {
        double mean = 0;
        for (const Numbers& numbers : each)
            mean += numbers[p] / n;
        for (const Numbers& numbers : each)
            variances[p] += (n - 1) / n * (numbers[p] - mean) * (numbers[p] - mean);
    }
    return variances;
}

std::optional<OneTrace> look_at(const block::ProfileTrace& trace) {
    OneTrace one;
    metrology::Profile profile = trace.profile;
    if (const double short_wave = metrology::short_wave_cutoff(trace.cutoff); short_wave > 2 * profile.step) {
        one.short_wave = short_wave;
        profile = metrology::without_short_waves(profile, short_wave);
    }
    one.shown = metrology::roughness_profile(profile, trace.cutoff);
    const auto per_length = static_cast<std::size_t>(std::lround(trace.cutoff / profile.step));
    one.ends_whole = profile.heights.size() - one.shown.heights.size() >= 2 * per_length;
    one.lengths = std::max<std::size_t>(1, one.shown.heights.size() / per_length);
    const std::vector<double> for_ratio = metrology::roughness_profile_with_valleys(profile, trace.cutoff).heights;
    const auto ratio = metrology::material_ratio(for_ratio);
    if (!ratio)
        return std::nullopt;
    one.roughness = metrology::roughness_of(one.shown, trace.cutoff);
    one.ratio = *ratio;
    one.numbers = numbers_of(one.roughness, one.ratio);
    one.variances = jackknife(one.shown, for_ratio, trace.cutoff, one.lengths);
    return one;
}

/// How much places of one bore usually differ, of a parameter's value, and how many places that is worth knowing
/// (from memory: a guess that few traces are held against, and many overrule).
constexpr double usually_uneven = 0.1, worth_places = 2;

/// Half of Student's interval at 95 %: standard, as everything that is said with ± is twice that.
double half_of_student(double freedom) {
    return boost::math::quantile(boost::math::students_t(freedom), 0.975) / 2;
}

/// The mean of a parameter over traces, and its standard uncertainty.
struct Mean {
    double value = 0;
    std::optional<double> uncertainty;
};
Mean mean_of(const std::vector<OneTrace>& traces, std::size_t p) {
    const auto n = static_cast<double>(traces.size());
    double lengths = 0, along = 0; // variance of one trace, as it changes along itself
    for (const OneTrace& t : traces) {
        lengths += static_cast<double>(t.lengths);
        along += t.variances ? (*t.variances)[p] / n : 0;
    }
    Mean mean;
    double scatter = 0, weights = 0;
    for (const OneTrace& t : traces) {
        const double weight = static_cast<double>(t.lengths) / lengths;
        mean.value += weight * t.numbers[p];
        weights += weight * weight;
    }
    for (const OneTrace& t : traces)
        scatter += (t.numbers[p] - mean.value) * (t.numbers[p] - mean.value);
    if (!std::ranges::all_of(traces, [](const OneTrace& t) { return t.variances.has_value(); }))
        return mean;
    if (traces.size() == 1)
        mean.uncertainty = half_of_student(lengths - 1) * std::sqrt(along);
    else {
        const double uneven = p < first_ratio ? usually_uneven * mean.value : 0, usual = along + uneven * uneven,
                     freedom = n - 1 + worth_places;
        mean.uncertainty = half_of_student(freedom) * std::sqrt(weights * (scatter + worth_places * usual) / freedom);
    }
    return mean;
}

} // namespace

std::optional<TextureFinding> judge_texture(const std::vector<block::ProfileTrace>& traces,
                                            const block::TextureLimits& limits) {
    std::vector<OneTrace> each;
    for (const block::ProfileTrace& trace : traces) {
        if (trace.cutoff != traces.back().cutoff)
            continue;
        auto one = look_at(trace);
        if (!one)
            return std::nullopt;
        each.push_back(std::move(*one));
    }
    OneTrace& last = each.back();
    TextureFinding f{.traces = each.size(),
                     .left_out = traces.size() - each.size(),
                     .before_cut = false,
                     .roughness = last.roughness,
                     .ratio = last.ratio,
                     .shown = last.shown,
                     .cutoff = traces.back().cutoff,
                     .short_wave = last.short_wave,
                     .ends_whole = std::ranges::all_of(each, &OneTrace::ends_whole),
                     .checks = {}};
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
        const auto [value, u] = mean_of(each, p);
        f.checks.push_back(
            {name, value, u, is_ratio, *wanted, metrology::decide(value, u, {wanted->least, wanted->most})});
    }
    return f;
}

std::optional<TextureFinding> texture_of(const block::BoresState& bores, const block::FeatureId& cylinder) {
    const block::BoreWork& work = bores.bore(cylinder);
    std::vector<block::ProfileTrace> since, before;
    for (const auto& taken : work.traces)
        if (auto read = block::read_trace({taken.payload.file, taken.payload.text}))
            (taken.sequence > work.last_cut() ? since : before).push_back(std::move(*read));
    if (since.empty() && before.empty())
        return std::nullopt;
    const std::vector<block::ProfileTrace> shown = since.empty() ? std::vector{before.back()} : since;
    auto finding = judge_texture(shown, bores.texture_limits ? bores.texture_limits->payload : block::TextureLimits{});
    if (finding && since.empty())
        finding->before_cut = true;
    return finding;
}

std::vector<TextureCheck> typed_texture(const block::BoresState& bores, const block::FeatureId& cylinder) {
    const block::BoreWork& work = bores.bore(cylinder);
    std::vector<TextureCheck> checks;
    if (work.roughness.empty() || work.roughness.back().sequence < work.last_cut())
        return checks;
    constexpr double tester_share = 0.05;
    const block::RoughnessRead& read = work.roughness.back().payload;
    const block::TextureLimits limits = bores.texture_limits ? bores.texture_limits->payload : block::TextureLimits{};
    const auto add = [&checks](const char* name, const std::optional<double>& value, bool is_ratio,
                               const block::TextureLimits::Range& wanted) {
        if (!value)
            return;
        const double u = tester_share * *value;
        checks.push_back(
            {name, *value, u, is_ratio, wanted, metrology::decide(*value, u, {wanted.least, wanted.most})});
    };
    add("Ra", read.ra, false, limits.ra);
    add("Rz", read.rz, false, limits.rz);
    add("Rk", read.rk, false, limits.rk);
    add("Rpk", read.rpk, false, limits.rpk);
    add("Rvk", read.rvk, false, limits.rvk);
    add("Mr1", read.mr1, true, limits.mr1);
    add("Mr2", read.mr2, true, limits.mr2);
    return checks;
}

TextureAdvice texture_advice(const std::vector<TextureCheck>& checks) {
    TextureAdvice advice = TextureAdvice::nothing;
    for (const TextureCheck& c : checks) {
        if (!c.wanted.least && !c.wanted.most)
            continue;
        if (c.verdict == metrology::Verdict::fails) {
            const bool valleys = c.name == "Rvk" && c.wanted.least && c.value < *c.wanted.least;
            const bool worn_off = c.name != "Mr2" && c.wanted.least && c.value < *c.wanted.least;
            if (valleys || worn_off)
                return TextureAdvice::coarser_last;
            advice = TextureAdvice::brush;
        } else if (c.verdict == metrology::Verdict::cannot_tell && advice != TextureAdvice::brush) {
            advice = TextureAdvice::cannot_tell;
        } else if (advice == TextureAdvice::nothing) {
            advice = TextureAdvice::enough;
        }
    }
    return advice;
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
