// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/shop/estimate.h"

#include "block/state/bore_state.h"
#include "block/state/card_state.h"
#include "block/state/deck_state.h"
#include "block/state/intake_state.h"
#include "block/state/readings_state.h"
#include "planning/common/assessment.h"
#include "planning/common/experience.h"
#include "planning/common/outcomes.h"
#include "planning/common/shop_limits.h"
#include "planning/shop/standing.h"
#include "planning/steps/steps.h"

#include <algorithm>
#include <boost/math/distributions/students_t.hpp>
#include <cmath>

namespace pallix::planning {
namespace {

using block::JobState;

std::vector<double> sizes_on_offer(const block::CylinderPlanChosen& plan) {
    std::vector<double> sizes = plan.oversizes;
    std::ranges::sort(sizes);
    return sizes;
}

/// Chances that each size holds all, ascending with the size.
void share_out(Estimate& e, const std::vector<double>& sizes, const std::vector<double>& holds) {
    constexpr double any = 0.005; // half of one in a hundred: less is not worth a word
    double before = 0;
    for (std::size_t i = 0; i < sizes.size(); ++i) {
        const double all = std::max(before, holds[i]);
        if (all - before >= any)
            e.sizes.push_back({sizes[i], all - before});
        before = all;
    }
    e.no_size = 1 - before < any ? 0 : 1 - before;
    e.sizes_known = true;
}

void sizes_as_measured(Estimate& e, const JobState& state, const CylinderStudy& study) {
    const block::CylinderPlanChosen plan = cylinder_plan_of(state);
    const CentreSchool school =
        study.by(plan.centre) && plan.centre != CentreSchool::limited ? plan.centre : CentreSchool::top;
    const std::vector<double> sizes = sizes_on_offer(plan);
    std::vector<double> holds;
    for (const double size : sizes)
        if (const auto chance = chance_all_clean(study.each, school, plan, size))
            holds.push_back(*chance);
        else
            holds.push_back(std::ranges::all_of(study.each,
                                                [&](const CylinderNeed& n) {
                                                    const SchoolNeed* need = n.by(school);
                                                    return n.sleeved || n.left_out || !need ||
                                                           n.found.nominal + size >= need->needed_at_most - 1e-9;
                                                })
                                ? 1
                                : 0);
    share_out(e, sizes, holds);
}

/// Of the kind's wear, where no cylinder of this block was measured.
void sizes_by_kind(Estimate& e, const JobState& state) {
    const auto& bores = intake_of(state).blueprint->bores;
    const block::CylinderPlanChosen plan = cylinder_plan_of(state);
    const std::vector<double> sizes = sizes_on_offer(plan);
    std::vector<double> holds(sizes.size(), 1);
    for (const block::HoleBlueprint& bore : bores) {
        auto wear = planning::usual_of(state, block::Trait::wear, bore.id.text());
        if (!wear)
            wear = planning::usual_of(state, block::Trait::wear);
        if (!wear || wear->blocks < 2)
            return;
        e.blocks = e.blocks == 0 ? wear->blocks : std::min(e.blocks, wear->blocks);
        const auto n = static_cast<double>(wear->blocks);
        const double spread = std::max(wear->spread, 1e-6) * std::sqrt(1 + 1 / n);
        const boost::math::students_t t(n - 1);
        for (std::size_t i = 0; i < sizes.size(); ++i)
            holds[i] *= boost::math::cdf(t, (sizes[i] - plan.margin - wear->mean) / spread);
    }
    if (!bores.empty())
        share_out(e, sizes, holds);
}

void look_for_surprises(Estimate& e, const JobState& state, const Assessment& a) {
    using enum MayTurnUp;
    const auto all = outcomes(state, a);
    const auto known = [&all](Told what) { return std::ranges::find(all, what, &Outcome::what) != all.end(); };
    if (!card_of(state).inspected.contains(block::Inspection::cracks))
        e.may_turn_up.push_back(cracks);
    if (wanted(state, block::Stage::tunnel) && !known(Told::main_size))
        e.may_turn_up.push_back(tunnel);
    if (wanted(state, block::Stage::decks) && !known(Told::deck_height))
        e.may_turn_up.push_back(decks);
    if (wanted(state, block::Stage::cylinders)) {
        if (!known(Told::bore_size))
            e.may_turn_up.push_back(cylinders);
        if (a.gauge.walls.empty())
            e.may_turn_up.push_back(walls);
    }
    if (wanted(state, block::Stage::lifters) && !intake_of(state).blueprint->lifters.empty() && !a.lifters)
        e.may_turn_up.push_back(lifters);
    if (std::ranges::any_of(decks_of(state).flaws, [](const auto& flaw) { return !flaw.decided; }))
        e.may_turn_up.push_back(undecided_flaw);
    if (e.no_size > 0)
        e.may_turn_up.push_back(no_size_cleans);
}

/// How blocks of the kind usually are, beyond what is allowed.
void look_at_kind(Estimate& e, const JobState& state) {
    const auto& experience = card_of(state).experience;
    if (!experience)
        return;
    const block::LimitsChosen limits = limits_of(state);
    for (const block::UsualTrait& usual : experience->payload.traits) {
        double allowed = 0;
        switch (usual.trait) {
        case block::Trait::saddle_crown:
            allowed = limits.straightness;
            break;
        case block::Trait::deck_shape:
        case block::Trait::deck_slope:
        case block::Trait::bank_turn:
            allowed = limits.flatness;
            break;
        default:
            continue;
        }
        if (std::abs(usual.mean) > allowed)
            e.usual.push_back(usual);
    }
}

} // namespace

Estimate estimate(const JobState& state, const Assessment& a, const std::vector<block::Entry>& entries,
                  const std::optional<HoursLeft>& hours) {
    Estimate e;
    if (!intake_of(state).blueprint)
        return e;
    for (const block::Stage stage : route_of(state)) {
        const auto of_stage = [stage](const Step& s) { return s.stage == stage; };
        const bool begun = std::ranges::any_of(
            a.steps.steps, [&](const Step& s) { return of_stage(s) && s.state == StepState::done; });
        const bool agreed =
            intake_of(state).scope && std::ranges::find(intake_of(state).scope->payload.stages, stage) !=
                                          intake_of(state).scope->payload.stages.end();
        if (std::ranges::any_of(a.steps.steps, [&](const Step& s) { return of_stage(s) && is_open(s); }) ||
            (agreed && !begun)) // its steps come once it was measured
            e.scope.push_back(stage);
    }
    if (hours) {
        e.hours = *hours;
        e.by_shop = hours->least.has_value();
    } else {
        const JobStanding standing = standing_of(state, a, entries, entries.empty() ? "" : entries.back().time);
        for (const auto& [work, times] : standing.open)
            e.hours.minutes += times * usual_minutes(work);
    }
    if (a.cylinders)
        sizes_as_measured(e, state, a.cylinders->study);
    else
        sizes_by_kind(e, state);
    look_for_surprises(e, state, a);
    look_at_kind(e, state);
    return e;
}

} // namespace pallix::planning
