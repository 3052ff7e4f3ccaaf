// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/cylinders/cylinder_work.h"

#include "block/state/bore_state.h"
#include "block/state/intake_state.h"
#include "block/state/readings_state.h"
#include "block/state/tunnel_state.h"
#include "planning/common/shop_limits.h"
#include "planning/steps/steps.h"

#include <algorithm>
#include <cstdlib>

namespace pallix::planning {
namespace {

using block::BoreChoice;
using block::FeatureId;
using block::JobState;

/// The seat of a sleeve that is not yet in, as measured since it was bored for it.
std::optional<double> seat_as_bored(const JobState& state, const block::BoreWork& work, const FeatureId& id) {
    const bool open = work.insert && (!work.fitted || work.fitted->sequence < work.insert->sequence);
    if (!open || work.cuts.empty() || work.last_cut() < work.decided->sequence)
        return std::nullopt;
    const auto now = size_now(state, id);
    return now ? std::optional(now->size) : std::nullopt;
}

std::vector<SleeveWork> sleeves_of(const JobState& state, const CylinderStudy& study) {
    std::vector<SleeveWork> sleeves;
    const double expansion = block::expansion_of(intake_of(state).blueprint->material);
    for (const CylinderNeed& n : study.each) {
        if (!n.sleeved)
            continue;
        const block::BoreWork& work = bores_of(state).bore(n.found.id);
        SleeveWork s;
        s.bore = n.found.id;
        if (work.insert) {
            s.measured = true;
            s.plan = plan_insert(work.insert->payload, expansion);
            if (const auto seat = seat_as_bored(state, work, n.found.id); seat && s.plan) {
                block::InsertMeasured as_bored = work.insert->payload;
                as_bored.interference = s.plan->shape.mean - *seat;
                s.actual = plan_insert(as_bored, expansion);
            }
            s.fitted = work.fitted && work.fitted->sequence > work.insert->sequence;
            if (s.fitted)
                s.proud = work.fitted->payload.proud;
        }
        sleeves.push_back(s);
    }
    return sleeves;
}

/// Bores beside a sleeve that was pressed in, whose sizes hold no longer and that were not cut since.
std::vector<FeatureId> moved_neighbours(const JobState& state, const CylinderStudy& study) {
    std::vector<FeatureId> moved;
    for (const CylinderNeed& n : study.each) {
        const auto& id = n.found.id;
        const bool pushed = std::ranges::any_of(study.each, [&](const CylinderNeed& other) {
            const auto& fitted = bores_of(state).bore(other.found.id).fitted;
            return fitted && other.found.id.bank == id.bank && std::abs(other.found.id.number - id.number) == 1 &&
                   fitted->sequence > bores_of(state).bore(id).last_cut();
        });
        const bool stale = std::ranges::any_of(readings_of(state).places, [&](const block::MeasuredPlace& p) {
            return p.at.feature == id && p.at.quantity == block::Quantity::size && p.stale();
        });
        if (pushed && stale && !size_now(state, id))
            moved.push_back(id);
    }
    return moved;
}

/// A bore that its piston's size does not clean up, unless it was decided on since.
const CylinderNeed* past_its_piston(const JobState& state, const CylinderStudy& study) {
    constexpr double size_rounding = 1e-6; // mm
    if (!bores_of(state).pistons)
        return nullptr;
    const auto centre = cylinder_plan_of(state).centre;
    for (const CylinderNeed& n : study.each) {
        const block::BoreWork& work = bores_of(state).bore(n.found.id);
        const SchoolNeed* need = n.by(centre);
        if (!need)
            need = n.by(CentreSchool::top);
        const auto sizes = bore_sizes(state, n.found.id, study.oversize);
        const bool decided = work.decided && work.decided->sequence > bores_of(state).pistons->sequence;
        if (!n.left_out && !n.sleeved && !decided && work.cuts.empty() && need && sizes &&
            sizes->finish < need->needed - size_rounding)
            return &n;
    }
    return nullptr;
}

/// Walls that the plan makes too thin, unless the bore was decided on since the plan was.
const CylinderNeed* thin_wall(const JobState& state, const CylinderStudy& study) {
    for (const CylinderNeed& n : study.each) {
        const block::BoreWork& work = bores_of(state).bore(n.found.id);
        const std::int64_t planned = bores_of(state).cylinder_plan ? bores_of(state).cylinder_plan->sequence : 0;
        if (!n.left_out && !n.sleeved && n.thin() && work.cuts.empty() &&
            !(work.decided && work.decided->sequence > planned))
            return &n;
    }
    return nullptr;
}

bool place_signed_for(const JobState& state, const FeatureId& id) {
    return gate_passed(state, block::Rule::sign_off, id.text(), bores_of(state).bore(id).last_cut());
}

const Placed* off_place(const JobState& state, const std::vector<Placed>& placed) {
    const auto off = std::ranges::find_if(placed, [&state](const Placed& p) {
        return p.bored && p.verdict() == metrology::Verdict::fails && !place_signed_for(state, p.id);
    });
    return off == placed.end() ? nullptr : &*off;
}

/// A finished bore with a limit for its place that was not probed since it was bored, or not surely enough.
const FeatureId* place_to_prove(const JobState& state, const CylinderWork& w) {
    const block::LimitsChosen limits = limits_of(state);
    const bool left_out = std::ranges::any_of(intake_of(state).skipped, [&](const auto& skipped) {
        return skipped.payload.step == place_step && std::ranges::none_of(w.hone.bores, [&](const HoneBore& b) {
                   return bores_of(state).bore(b.id).last_cut() > skipped.sequence;
               });
    });
    if (left_out || (!limits.position_across && !limits.position_along))
        return nullptr;
    for (const HoneBore& b : w.hone.bores) {
        const auto p = std::ranges::find(w.placed, b.id, &Placed::id);
        const bool proven = p != w.placed.end() && p->bored && p->verdict() != metrology::Verdict::cannot_tell;
        if (b.honed && !proven && !place_signed_for(state, b.id))
            return &b.id;
    }
    return nullptr;
}

void next_step(CylinderWork& w, const JobState& state) {
    const auto at = [&w](CylinderStep step, const FeatureId& id) {
        w.step = step;
        w.bore = id;
    };
    // Places by a probe hang on the tunnel: cut since, they are measured anew before a bore is cut by them.
    if (tunnel_of(state).probe_stale() && std::ranges::any_of(w.study.each, [&](const CylinderNeed& n) {
            return !n.found.points.empty() && bores_of(state).bore(n.found.id).cuts.empty();
        })) {
        w.step = CylinderStep::measure;
        return;
    }
    if (!bores_of(state).cylinder_plan && !bores_of(state).pistons && bores_of(state).bores_cut.empty()) {
        w.step = CylinderStep::plan;
        return;
    }
    for (const CylinderNeed& n : w.study.each)
        if (!n.left_out && !n.sleeved && !w.study.oversize && !pistons_of(state).size &&
            !pistons_of(state).sizes.contains(n.found.id)) {
            const CommonSize* common = w.study.by(cylinder_plan_of(state).centre);
            return at(CylinderStep::decide_size, common && common->set_by ? *common->set_by : n.found.id);
        }
    for (const CylinderNeed& n : w.study.each)
        if (!n.left_out && !n.sleeved && trial_undecided(state, n.found))
            return at(CylinderStep::decide_size, n.found.id);
    if (const CylinderNeed* worn = past_its_piston(state, w.study))
        return at(CylinderStep::decide_size, worn->found.id);
    if (const CylinderNeed* thin = thin_wall(state, w.study))
        return at(CylinderStep::decide_wall, thin->found.id);
    for (const SleeveWork& s : w.sleeves) {
        if (!s.measured)
            return at(CylinderStep::measure_sleeve, s.bore);
        if (!s.fitted && (!s.plan || s.plan->shape.verdict == metrology::Verdict::fails))
            return at(CylinderStep::refuse_sleeve, s.bore);
        const auto hole = std::ranges::find(w.boring.holes, s.bore, &HoleProgress::id);
        if (!s.fitted && hole != w.boring.holes.end() && hole->seat && hole->state == HoleState::in)
            return at(CylinderStep::press, s.bore);
    }
    w.neighbours = moved_neighbours(state, w.study);
    if (!w.neighbours.empty())
        return at(CylinderStep::measure_neighbours, w.neighbours.front());
    if (w.boring.step != BoringStep::done) {
        w.step = CylinderStep::bore;
        w.bore = w.boring.hole;
        return;
    }
    if (const Placed* off = off_place(state, w.placed))
        return at(CylinderStep::decide_place, off->id);
    if (w.hone.step != HoneStep::done) {
        w.step = CylinderStep::hone;
        w.bore = w.hone.bore;
        return;
    }
    const FeatureId* unproven = place_to_prove(state, w);
    w.step = unproven ? CylinderStep::prove_place : CylinderStep::done;
    if (unproven)
        w.bore = *unproven;
}

} // namespace

std::optional<CylinderWork> cylinder_work(const JobState& state, const CentreLine& line) {
    auto study = study_cylinders(state, line);
    if (!study)
        return std::nullopt;
    CylinderWork w;
    w.boring = boring_board(state, *study);
    w.hone = hone_board(state, *study);
    w.sleeves = sleeves_of(state, *study);
    w.study = std::move(*study);
    w.placed = placed_cylinders(state, &w.study);
    next_step(w, state);
    return w;
}

} // namespace pallix::planning
