// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/state/deck_state.h"
#include "planning/steps/contributors.h"
#include "planning/steps/steps.h"

namespace pallix::planning {
namespace {

using block::FlawWhere;
using block::KnownFlaw;

std::string id_of(const KnownFlaw& flaw) {
    return "flaw/" + std::to_string(flaw.sequence);
}

/// What a flaw that is in no deck holds up while nobody has decided on it: its cylinder, all of the tunnel, or the
/// block.
bool holds_up(const KnownFlaw& known, const Step& step) {
    switch (known.flaw.where) {
    case FlawWhere::deck:
        return false;
    case FlawWhere::bore:
        return step.cannot_be_undone && step.about == known.flaw.feature;
    case FlawWhere::saddle:
    case FlawWhere::web:
        return step.cannot_be_undone && step.stage == block::Stage::tunnel;
    case FlawWhere::outside:
        break;
    }
    return step.task == Task::hand_over;
}

} // namespace

/// Flaws of the decks are decided on with the deck, whatever else was found cracked here.
void add_flaw_steps(Route& route) {
    for (const KnownFlaw& known : decks_of(route.state).flaws) {
        if (known.flaw.where == FlawWhere::deck)
            continue;
        Step& step = route.add(Task::decide_flaw, id_of(known), block::Stage::cleaned, known.flaw.feature);
        step.why = {known.sequence};
        step.asks = flaw_asks(known.flaw.where);
        if (known.decided)
            step.state = StepState::done;
    }
}

void hold_for_flaws(Route& route) {
    for (const KnownFlaw& known : decks_of(route.state).flaws)
        if (!known.decided)
            for (Step& step : route.steps)
                if (holds_up(known, step))
                    route.hold(step, block::Rule::flaw_decided, id_of(known));
}

std::vector<Ask> flaw_asks(FlawWhere where) {
    std::vector<std::string> choices{"watch", "stop_and_pin"};
    if (where == FlawWhere::deck || where == FlawWhere::bore)
        choices.emplace_back("sleeve");
    choices.emplace_back("scrap");
    return {{"choice", AskKind::choice, {}, {}, {}, std::move(choices)}, {"note", AskKind::text, {}, {}, {}}};
}

} // namespace pallix::planning
