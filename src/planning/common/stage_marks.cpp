// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/common/assessment.h"

#include "block/state/bore_state.h"
#include "block/state/intake_state.h"
#include "block/state/readings_state.h"
#include "block/state/tunnel_state.h"
#include "planning/steps/steps.h"

#include <algorithm>

namespace pallix::planning {

using block::JobState;
using metrology::Verdict;

namespace {

StageMark mark_of(Verdict v) {
    return v == Verdict::meets ? StageMark::meets : v == Verdict::fails ? StageMark::fails : StageMark::cannot_tell;
}

/// What counts of it; what was measured before it was worked on says nothing.
StageMark tunnel_mark(const JobState& state, const Assessment& a) {
    using enum TunnelStep;
    const TunnelWork& w = a.tunnel_work;
    const bool anything = tunnel_of(state).latest || !a.gauge.mains.empty();
    switch (w.step) {
    case good:
        return StageMark::meets;
    case measure:
    case torque_caps:
    case measure_caps:
    case measure_work:
    case caps_off:
        return anything ? StageMark::stale : StageMark::open;
    case too_large:
        return StageMark::fails;
    default:
        break;
    }
    return w.begun && w.step != decide ? StageMark::open : mark_of(w.verdict);
}

StageMark deck_mark(const JobState& state, const Assessment& a) {
    if (a.banks.empty() && !a.by_feel.empty()) {
        const bool flat =
            std::ranges::all_of(a.by_feel, [](const FeelProgress& f) { return f.verdict == Verdict::meets; });
        return flat ? StageMark::cannot_tell : StageMark::open; // flat along its lines; how high, nobody knows
    }
    if (a.banks.empty())
        return StageMark::open;
    if (std::ranges::any_of(a.banks, [](const BankProgress& b) { return b.stale && b.passes.empty(); }))
        return StageMark::stale;
    if (std::ranges::any_of(a.banks, [](const BankProgress& b) { return !b.passes.empty(); }))
        return StageMark::open;
    Verdict v = a.pair ? a.pair->verdict : Verdict::meets;
    for (const BankProgress& b : a.banks)
        if (b.verdict)
            v = worse(v, under_limit(state, b) ? Verdict::fails : b.verdict->verdict);
    // Everything is measured from the mains: where they fail or nobody knows, heights from them are not the last word.
    // Whoever goes on all the same vouches for mains that nobody measured, not for some that are proven bad.
    if (v == Verdict::meets && (tunnel_mark(state, a) == StageMark::fails || !tunnel_stands(state, a, Stage::decks)))
        v = Verdict::cannot_tell;
    return mark_of(v);
}

StageMark cylinders_mark(const JobState& state, const Assessment& a) {
    if (!a.cylinders)
        return StageMark::open;
    if (a.cylinders->step != CylinderStep::done) {
        const bool begun = std::ranges::any_of(a.cylinders->study.each, [&](const CylinderNeed& n) {
            return !bores_of(state).bore(n.found.id).cuts.empty();
        });
        if (!begun && !bores_of(state).cylinder_plan && tunnel_of(state).latest &&
            !tunnel_of(state).latest->evaluation.bores.empty())
            return tunnel_of(state).probe_stale() ? StageMark::stale
                                                  : StageMark::done; // found, and nothing to judge yet
        const bool off = a.cylinders->step == CylinderStep::decide_place;
        return off || a.cylinders->hone.step == HoneStep::too_large ? StageMark::fails : StageMark::open;
    }
    Verdict v = Verdict::meets;
    for (const Placed& p : a.cylinders->placed)
        if (p.bored)
            v = worse(v, p.verdict());
    for (const HoneBore& b : a.cylinders->hone.bores)
        v = worse(v, b.verdict.value_or(Verdict::cannot_tell));
    return mark_of(v);
}

StageMark lifters_mark(const JobState& state, const Assessment& a) {
    if (!a.lifters)
        return StageMark::open;
    const bool begun = std::ranges::any_of(
        a.lifters->study.each, [&](const LifterNeed& n) { return !bores_of(state).bore(n.id).cuts.empty(); });
    if (!begun && !bores_of(state).lifter_plan) {
        const bool probed = tunnel_of(state).latest && !tunnel_of(state).latest->evaluation.lifters.empty();
        return probed && tunnel_of(state).probe_stale() ? StageMark::stale : StageMark::done;
    }
    switch (a.lifters->board.step) {
    case LifterStep::done:
        return std::ranges::any_of(a.lifters->board.each,
                                   [](const LifterProgress& p) { return p.state == LifterState::answered; })
                   ? StageMark::fails
                   : StageMark::meets;
    case LifterStep::too_large:
    case LifterStep::off_place:
        return StageMark::fails;
    case LifterStep::cannot_be_told:
        return StageMark::cannot_tell;
    default:
        return StageMark::open;
    }
}

} // namespace

std::vector<StageState> stages_of(const JobState& state, const Assessment& a) {
    std::vector<StageState> stages;
    const Step* now = a.steps.now();
    for (std::size_t i = 0; i < block::stage_keys.size(); ++i) {
        const auto stage = static_cast<Stage>(i);
        StageMark mark = StageMark::open;
        switch (stage) {
        case Stage::received:
            mark = intake_of(state).blueprint ? StageMark::done : StageMark::fails;
            break;
        case Stage::tunnel:
            mark = tunnel_mark(state, a);
            break;
        case Stage::decks:
            mark = deck_mark(state, a);
            break;
        case Stage::cylinders:
            mark = cylinders_mark(state, a);
            break;
        case Stage::lifters:
            mark = lifters_mark(state, a);
            break;
        default: { // done where everything that it asks for is
            const auto of = [stage](const Step& s) { return s.stage == stage && !s.aside; };
            const auto closed = [](const Step& s) {
                return s.state == StepState::done || s.state == StepState::skipped;
            };
            const bool any_done =
                std::ranges::any_of(a.steps.steps, [&](const Step& s) { return of(s) && s.state == StepState::done; });
            if (any_done && std::ranges::all_of(a.steps.steps, [&](const Step& s) { return !of(s) || closed(s); }))
                mark = StageMark::done;
            if (stage == Stage::as_found && !readings_of(state).places.empty())
                mark = StageMark::done;
        }
        }
        const bool said = mark == StageMark::fails || mark == StageMark::cannot_tell || mark == StageMark::stale;
        if (now && now->stage == stage && !said)
            mark = StageMark::current;
        stages.push_back({stage, mark});
    }
    return stages;
}

} // namespace pallix::planning
