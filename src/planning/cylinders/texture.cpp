// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/cylinders/texture.h"

namespace pallix::planning {
namespace {

constexpr double um = 1e-3;

metrology::Verdict within(double value, const block::TextureLimits::Range& r) {
    const bool in = (!r.least || value >= *r.least) && (!r.most || value <= *r.most);
    return in ? metrology::Verdict::meets : metrology::Verdict::fails;
}

} // namespace

std::optional<TextureFinding> judge_texture(const block::ProfileTrace& trace, const block::TextureLimits& limits) {
    TextureFinding f;
    f.cutoff = trace.cutoff;
    f.shown = metrology::roughness_profile(trace.profile, trace.cutoff);
    f.roughness = metrology::roughness_of(f.shown, trace.cutoff);
    const auto ratio =
        metrology::material_ratio(metrology::roughness_profile_with_valleys(trace.profile, trace.cutoff).heights);
    if (!ratio)
        return std::nullopt;
    f.ratio = *ratio;
    const auto add = [&f](const char* name, double value, const block::TextureLimits::Range& wanted, bool is_ratio) {
        f.checks.push_back({name, value, is_ratio, wanted, within(value, wanted)});
    };
    add("Ra", f.roughness.ra, limits.ra, false);
    add("Rz", f.roughness.rz, limits.rz, false);
    add("Rk", f.ratio.rk, limits.rk, false);
    add("Rpk", f.ratio.rpk, limits.rpk, false);
    add("Rvk", f.ratio.rvk, limits.rvk, false);
    add("Mr1", f.ratio.mr1, limits.mr1, true);
    add("Mr2", f.ratio.mr2, limits.mr2, true);
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
