// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/tunnel/tunnel_verdict.h"

#include "block/state/tunnel_state.h"
#include "planning/common/fit_spread.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <numbers>

namespace pallix::planning {

using metrology::decide;
using metrology::decide_extreme;
using metrology::Limits;
using metrology::noise_in_extreme;
using metrology::Verdict;
using metrology::worse;

namespace {

std::optional<double> times(double factor, std::optional<double> u) {
    return u ? std::optional(factor * *u) : std::nullopt;
}

/// The smallest and the largest diameter over the levels of a main.
std::pair<double, double> diameters_of(const block::Evaluation& e, const block::FeatureId& id) {
    double least = std::numeric_limits<double>::infinity(), most = 0;
    for (const block::MainResult& m : e.mains)
        if (m.id == id) {
            least = std::min(least, m.diameter);
            most = std::max(most, m.diameter);
        }
    return {least, most};
}

} // namespace

TunnelVerdict judge_tunnel(const block::Blueprint& blueprint, const block::EvaluationState& state,
                           const Certainty* certainty, const block::LimitsChosen& limits) {
    const metrology::DecisionRule rule = rule_of(limits);
    if (certainty && certainty->sequence != state.sequence)
        certainty = nullptr;
    const auto noise = state.mains_uncertainty();
    // Zones are held against their limits without the touches' noise, once that was drawn.
    const auto judge_zone = [&](const std::string& address, double touched, double each, std::size_t count,
                                Limits within, double& judged) {
        judged = touched;
        if (const auto drawn = certainty ? certainty->drawn(address) : std::nullopt) {
            judged = drawn->value;
            return decide(drawn->value, drawn->uncertainty, within, rule);
        }
        return decide_extreme(touched, times(std::numbers::sqrt2, noise),
                              2 * noise_in_extreme(each * noise.value_or(0), count), within, rule);
    };
    TunnelVerdict t;
    const block::Evaluation& e = state.evaluation;
    for (std::size_t i = 0; i < e.mains.size(); ++i) {
        const auto meant = std::ranges::find(blueprint.mains, e.mains[i].id, &block::MainBlueprint::id);
        auto u = times(fit_spread(e.mains[i]).diameter, state.mains_uncertainty());
        const std::string at = "mains[" + std::to_string(i) + "].";
        if (const auto better = certainty ? certainty->values.of(at + "diameter") : std::nullopt)
            u = better;
        MainVerdict m{i, {}, {}, {}, {}, 0, e.mains[i].roundness_mz};
        m.size = decide(e.mains[i].diameter, u, {meant->diameter.smallest(), meant->diameter.largest()}, rule);
        if (const auto shape = main_shape_limit(limits, meant->diameter)) {
            // Three touches always lie on a circle: they say nothing of its shape.
            m.roundness = e.mains[i].points < 4
                              ? Verdict::cannot_tell
                              : judge_zone(at + "roundness_mz", e.mains[i].roundness_mz, 1, e.mains[i].points,
                                           {std::nullopt, shape}, m.roundness_value);
            const auto [least, most] = diameters_of(e, e.mains[i].id);
            m.taper_value = most - least;
            m.taper = decide(m.taper_value, times(std::numbers::sqrt2, u), {std::nullopt, shape}, rule);
        }
        m.verdict = worse(m.size, worse(m.roundness, m.taper));
        t.mains.push_back(m);
        t.overall = worse(t.overall, m.verdict);
    }
    double spread_of_one = 0;
    for (const block::MainResult& m : e.mains)
        spread_of_one = std::max(spread_of_one, fit_spread(m).centre);
    t.straightness = judge_zone("tunnel.straightness_lsq", e.tunnel.straightness_lsq, spread_of_one, e.mains.size(),
                                {std::nullopt, limits.straightness}, t.straightness_value);
    t.overall = worse(t.overall, t.straightness);
    // From one main to the next: centres as the mean of a main's sections, each a mean of its touches.
    metrology::Vec3 before;
    std::optional<block::FeatureId> main;
    double widest = 0, last = 0;
    std::size_t steps = 0;
    for (std::size_t i = 0; i < e.mains.size();) {
        metrology::Vec3 centre;
        double n = 0, squares = 0;
        const block::FeatureId id = e.mains[i].id;
        for (; i < e.mains.size() && e.mains[i].id == id; ++i, ++n) {
            centre = centre + e.mains[i].centre;
            squares += fit_spread(e.mains[i]).centre * fit_spread(e.mains[i]).centre;
        }
        centre = (1 / n) * centre;
        const double spread = std::sqrt(squares) / n;
        widest = main ? std::max(widest, std::hypot(spread, last)) : 0;
        last = spread;
        steps += main ? 1 : 0;
        if (main)
            t.step = std::max(t.step, std::hypot(centre.y - before.y, centre.z - before.z));
        main = id;
        before = centre;
    }
    t.step_verdict =
        decide_extreme(t.step, times(widest, noise), noise_in_extreme(widest * noise.value_or(0), 2 * steps),
                       {std::nullopt, limits.main_step}, rule);
    t.overall = worse(t.overall, t.step_verdict);
    return t;
}

} // namespace pallix::planning
