// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/readings/reading_plan.h"

#include "block/state/tunnel_state.h"
#include "planning/steps/contributors.h"
#include "planning/steps/steps.h"
#include "planning/tunnel/tunnel_consequences.h"

#include <algorithm>
#include <cmath>

namespace pallix::planning {

/// Both ends swept, the indicator's sag taken off by a ring, screws turned, swept again, until it is enough. Offered
/// before the first pass of a bar; called for once somebody has begun with it, and no more once the bar has cut: its
/// own bores stand round it wherever it is.
std::string add_dial_in_steps(Route& route) {
    const block::TunnelState& tunnel = tunnel_of(route.state);
    const auto places = chosen_places(route.state, Measuring::bar_sweep, "");
    std::int64_t newest = 0;
    for (const block::MeasuredAt& at : places)
        if (const auto* known = route.place(at))
            newest = std::max(newest, known->sequences.back());
    const bool swept = newest > tunnel.tunnel_done; // for this campaign
    const bool cut =
        !tunnel.tunnel_passes.empty() && tunnel.tunnel_passes.back().sequence > std::max(newest, tunnel.tunnel_done);
    if (!swept && route.a.tunnel_work.step == TunnelStep::good)
        return "";
    const bool begun = swept || tunnel.sag;
    const bool bar = tunnel.tunnel_policy && tunnel.tunnel_policy->method == block::TunnelMethod::bore;
    if (places.empty() || cut || (!begun && !bar))
        return "";
    std::string first;
    if (begun)
        for (const block::MeasuredAt& at : places)
            if (const Step& step = route.add_reading(at, block::Stage::tunnel); step.state == StepState::ready)
                first = first.empty() ? step.id : first;
    Step& ring = route.add(Task::read_ring, "tunnel/dial_in/ring", block::Stage::tunnel);
    ring.asks = {{"at_12", AskKind::length, {}, -5, 5}, {"at_6", AskKind::length, {}, -5, 5}};
    ring.aside = !begun;
    if (tunnel.sag)
        ring.state = StepState::done;
    else if (begun && first.empty())
        first = ring.id;
    const auto& sweeps = route.a.gauge.sweeps;
    if (!first.empty() || sweeps.size() < 2)
        return first;
    double off = 0;
    for (const SweepFinding& s : sweeps)
        off = std::max(off, std::hypot(s.up, s.towards_3));
    if (off <= dialled_in)
        return "";
    Step& move = route.add(Task::move_bar, "tunnel/dial_in/move", block::Stage::tunnel);
    move.number = off;
    move.asks = {{"done", AskKind::tick, 1, {}, {}}};
    return move.id;
}

} // namespace pallix::planning
