// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/state/tunnel_state.h"
#include "planning/steps/contributors.h"
#include "planning/steps/steps.h"

namespace pallix::planning {
namespace {

using block::FeatureKind;
using block::Stage;
using block::TouchStandingOut;

std::string id_of(const TouchStandingOut& t) {
    return t.feature.text() + (t.level.empty() ? "" : "/" + id_part(t.level)) + "/touch";
}

Stage stage_of(FeatureKind kind) {
    switch (kind) {
    case FeatureKind::deck:
        return Stage::decks;
    case FeatureKind::bore:
        return Stage::cylinders;
    case FeatureKind::lifter:
        return Stage::lifters;
    default:
        return Stage::tunnel;
    }
}

/// Whether a step takes metal by that touch: by one of the mains everything is planned.
bool hangs_on(const Step& step, const TouchStandingOut& t) {
    if (!step.cannot_be_undone)
        return false;
    return stage_of(t.feature.kind) == Stage::tunnel || step.about == t.feature;
}

} // namespace

std::string touch_is_so(const TouchStandingOut& t) {
    return "touch looked at, " + t.feature.text() + (t.level.empty() ? "" : " " + t.level) + " is so";
}

const TouchStandingOut* touch_of(const Assessment& a, const Step& step) {
    for (const TouchStandingOut& t : a.touches)
        if (id_of(t) == step.id)
            return &t;
    return nullptr;
}

/// Asked about, never dropped: it is touched again with a log, or somebody has looked and says that it is so.
void add_touch_steps(Route& route) {
    for (const TouchStandingOut& t : route.a.touches) {
        if (!wanted(route.state, stage_of(t.feature.kind)))
            continue;
        Step& step = route.add(Task::look_at_touch, id_of(t), stage_of(t.feature.kind), t.feature);
        step.why = {tunnel_of(route.state).latest->sequence};
        step.asks = {{"reason", AskKind::text, {}, {}, {}}};
    }
}

void hold_for_touches(Route& route) {
    for (const TouchStandingOut& t : route.a.touches)
        for (Step& step : route.steps)
            if (hangs_on(step, t) && wanted(route.state, stage_of(t.feature.kind)))
                route.hold(step, block::Rule::doubt, id_of(t));
}

} // namespace pallix::planning
