// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/readings/reading_plan.h"

#include "block/state/deck_state.h"
#include "block/state/intake_state.h"
#include "planning/steps/contributors.h"
#include "planning/steps/steps.h"

#include <algorithm>

namespace pallix::planning {
namespace {

using block::MeasuredAt;
using block::Stage;

/// Where a crown stood is kept when its deck is cut: it is not read again.
bool known(const Route& route, const MeasuredAt& at) {
    const block::MeasuredPlace* place = route.place(at);
    const auto of_it = [&at](const block::CrownReading& c) { return c.bore == at.feature && c.side == at.direction; };
    const bool kept = std::ranges::any_of(decks_of(route.state).crowns, of_it) ||
                      std::ranges::any_of(decks_of(route.state).waiting_crowns, of_it);
    return kept || (place && !place->stale());
}

std::vector<MeasuredAt> piston_places(const Route& route) {
    std::vector<MeasuredAt> all;
    for (const block::BankBlueprint& bank : intake_of(route.state).blueprint->banks)
        for (MeasuredAt& at : chosen_places(route.state, Measuring::piston_heights, bank.id))
            all.push_back(std::move(at));
    return all;
}

} // namespace

std::string first_piston_reading(const Route& route) {
    for (const MeasuredAt& at : piston_places(route))
        if (!known(route, at))
            return reading_id(at);
    return "";
}

/// Crank, one rod and piston per corner: asked for where the decks' target comes from it, or where it was begun.
void add_mock_up_steps(Route& route) {
    const block::JobState& state = route.state;
    using enum block::TargetSchool;
    const bool targeted = decks_of(state).target.school == clearance || decks_of(state).target.school == ratio;
    if (!wanted(state, Stage::mock_up) || (!targeted && decks_of(state).crowns.empty() &&
                                           decks_of(state).waiting_crowns.empty() && !intake_of(state).scope))
        return;
    bool first = true;
    for (const MeasuredAt& at : piston_places(route)) {
        Step& step = route.add_reading(at, Stage::mock_up);
        step.state = known(route, at) ? StepState::done : StepState::ready;
        step.aside = !targeted && !intake_of(state).scope;
        if (flush_due(state, at.feature.bank))
            route.hold(step, block::Rule::flush_first, "deck." + at.feature.bank + "/flush");
        step.leads = first && step.state == StepState::ready && route.a.decks.kind == DeckStep::read_pistons;
        first = first && step.state == StepState::done;
    }
    if (decks_of(state).target.school != ratio)
        return;
    Step& figures = route.add(Task::give_volumes, "mock_up/figures", Stage::mock_up);
    figures.leads = route.a.decks.kind == DeckStep::give_figures;
    const block::EngineFigures& known = decks_of(state).figures;
    const auto wanted = missing_figures(state);
    const auto ask = [&figures](const char* key, AskKind kind, bool missing) {
        if (missing)
            figures.asks.push_back({key, kind, {}, {}, {}});
    };
    ask("engine_figures/stroke_mm", AskKind::length, !known.stroke);
    ask("engine_figures/chamber_mm3", AskKind::count, std::ranges::find(wanted, "chamber volume") != wanted.end());
    ask("engine_figures/gasket_thickness_mm", AskKind::length, !known.gasket_thickness);
    if (wanted.empty())
        figures.state = StepState::done;
}

} // namespace pallix::planning
