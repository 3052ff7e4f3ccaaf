// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/cylinders/placed.h"

#include "block/state/bore_state.h"
#include "block/state/intake_state.h"
#include "block/state/tunnel_state.h"
#include "planning/common/shop_limits.h"
#include "planning/cylinders/boring.h"

#include <algorithm>
#include <string>

namespace pallix::planning {

using block::JobState;
using metrology::Vec2;
using metrology::Verdict;

std::optional<Vec2> place_uncertainty(const block::EvaluationState& state, const block::HoleResult& hole) {
    const bool lifter = hole.id.kind == block::FeatureKind::lifter;
    const auto& all = lifter ? state.evaluation.lifters : state.evaluation.bores;
    const auto at = std::ranges::find(all, hole.id, &block::HoleResult::id);
    if (!state.standard_uncertainty || !state.propagated || at == all.end())
        return std::nullopt;
    const std::string address = (lifter ? "lifters[" : "bores[") + std::to_string(at - all.begin()) + "].";
    const auto along = state.propagated->of(address + "u", *state.standard_uncertainty),
               across = state.propagated->of(address + "v", *state.standard_uncertainty);
    return along && across ? std::optional(Vec2{*along, *across}) : std::nullopt;
}

namespace {

Verdict within(double error, const std::optional<double>& uncertainty, const std::optional<double>& most,
               const metrology::DecisionRule& rule) {
    return most ? metrology::decide(error, uncertainty, {-*most, *most}, rule) : Verdict::meets;
}

} // namespace

std::vector<Placed> placed_cylinders(const JobState& state, const CylinderStudy* study) {
    std::vector<Placed> placed;
    const auto& latest = tunnel_of(state).latest;
    if (!latest || tunnel_of(state).probe_stale())
        return placed;
    const block::LimitsChosen limits = limits_of(state);
    for (const block::HoleResult& hole : latest->evaluation.bores) {
        if (!hole.place_known)
            continue;
        const auto cuts = bores_of(state).bore(hole.id).cuts_now();
        const auto bar = std::find_if(cuts.rbegin(), cuts.rend(), [](const auto& cut) {
            return cut.payload.operation != block::BoreOperation::hone;
        });
        const bool moved_since = bar != cuts.rend() && bar->sequence > latest->sequence;
        if (moved_since)
            continue; // where it was before the bar says nothing any more
        Placed p{hole.id,
                 hole.error,
                 place_uncertainty(*latest, hole),
                 limits.position_across,
                 limits.position_along,
                 {},
                 {},
                 bar != cuts.rend(),
                 {}};
        const auto u = p.uncertainty;
        p.across = within(p.error.y, u ? std::optional(u->y) : std::nullopt, p.most_across, rule_of(limits));
        p.along = within(p.error.x, u ? std::optional(u->x) : std::nullopt, p.most_along, rule_of(limits));
        if (const auto sizes = study ? bore_sizes(state, hole.id, study->oversize) : std::nullopt)
            p.in_reach = hole.clean_blueprint <= sizes->finish;
        placed.push_back(p);
    }
    return placed;
}

} // namespace pallix::planning
