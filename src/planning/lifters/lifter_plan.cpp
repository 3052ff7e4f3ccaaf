// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/lifters/lifter_plan.h"

#include "block/state/bore_state.h"
#include "block/state/intake_state.h"
#include "block/state/readings_state.h"
#include "block/state/tunnel_state.h"
#include "metrology/decision.h"
#include "metrology/uncertainty.h"
#include "planning/common/found_holes.h"
#include "planning/common/shop_limits.h"
#include "planning/cylinders/boring.h"
#include "planning/cylinders/placed.h"
#include "planning/lifters/lifter_row.h"
#include "planning/readings/second_look.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <map>

namespace pallix::planning {
namespace {

using block::BoreOperation;
using block::FeatureId;
using block::JobState;
using block::LifterChoice;
using metrology::Vec2;
using metrology::Verdict;

constexpr double thou = 0.0254;
constexpr double close_enough = 0.006; // mm, below which a cut counts as having reached its size

/// What gauges said of a lifter bore before it was cut, mm.
std::optional<double> gauged_before_cuts(const JobState& state, const FeatureId& id) {
    double sum = 0;
    int n = 0;
    for (const block::TakenReading& r : readings_of(state).readings)
        if (r.reading.at.feature == id && r.reading.at.quantity == block::Quantity::size &&
            r.sequence < first_cut_of(state, id)) {
            sum += r.value;
            ++n;
        }
    return n > 0 ? std::optional(sum / n) : std::nullopt;
}

/// In the direction that is known least.
std::optional<double> position_uncertainty(const block::EvaluationState& latest, const block::HoleResult& hole) {
    const auto u = place_uncertainty(latest, hole);
    return u ? std::optional(std::max(u->x, u->y)) : std::nullopt;
}

std::optional<double> timing_of(const block::Blueprint& blueprint, const block::Evaluation& e,
                                const block::HoleResult& hole, const block::LifterPlanChosen& plan) {
    if (!hole.v_cam || !e.cam)
        return std::nullopt;
    const double angle = blueprint.hole(hole.id)->angle.value_or(0);
    const double cam_w = e.cam->y * std::sin(angle) + e.cam->z * std::cos(angle);
    const LifterPlace place{*hole.v_cam, hole.lean.y, hole.levels.front().w - cam_w};
    // +v lies further round to the right: a cam whose top turns left comes there earlier.
    const double late = plan.cam_turns_left ? -1 : 1;
    if (plan.follower == block::Follower::flat)
        return late * flat_timing(place);
    if (!plan.base_radius || !plan.roller_radius)
        return std::nullopt;
    return late * roller_timing(place, *plan.base_radius + *plan.roller_radius);
}

std::optional<TimingSpread> spread_of(const std::vector<double>& timings) {
    if (timings.empty())
        return std::nullopt;
    return TimingSpread{std::ranges::min(timings), std::ranges::max(timings)};
}

/// Whether a bore lies where it should, as found; meets where nobody gave a limit, or no log says where it lies.
Verdict place_verdict(const LifterNeed& n, const JobState& state, const block::LifterPlanChosen& plan) {
    if (!n.error || !plan.position)
        return Verdict::meets;
    if (!n.place_uncertainty) // nobody stated how sure a touch is
        return norm(*n.error) > *plan.position ? Verdict::fails : Verdict::meets;
    return metrology::decide(norm(*n.error), n.place_uncertainty, {{}, *plan.position}, rule_of(state));
}

void advise(LifterNeed& n, const JobState& state, const block::LifterPlanChosen& plan) {
    const auto set = [&n](LifterChoice choice, LifterReason reason) {
        n.choice = choice;
        n.reason = reason;
    };
    const bool judged = n.clearance && plan.clearance_least && plan.clearance_most;
    if (const auto& decided = bores_of(state).bore(n.id).lifter_decided)
        set(decided->payload.choice, LifterReason::decided);
    else if (plan.school == block::LifterSchool::bush_all)
        set(LifterChoice::bush, LifterReason::school);
    else if (place_verdict(n, state, plan) == Verdict::fails)
        set(LifterChoice::bush, LifterReason::off_place);
    else if (!judged)
        set(LifterChoice::leave, LifterReason::unknown);
    else if (*n.clearance > *plan.clearance_most)
        set(LifterChoice::bush, LifterReason::loose);
    else if (*n.clearance < *plan.clearance_least)
        set(LifterChoice::hone, LifterReason::tight);
    else
        set(LifterChoice::leave, LifterReason::in_limits);
    // One that is bushed goes to its place whatever it was.
    if (n.choice != LifterChoice::bush && n.reason != LifterReason::decided &&
        place_verdict(n, state, plan) == Verdict::cannot_tell)
        n.reason = LifterReason::near_limit;
}

std::vector<std::string> missing_numbers(const LifterStudy& study, const block::LifterPlanChosen& plan) {
    std::vector<std::string> missing;
    const auto chosen = [&study](LifterChoice c) {
        return std::ranges::any_of(study.each, [c](const LifterNeed& n) { return n.choice == c; });
    };
    if (!plan.lifter)
        missing.emplace_back("diameter of the lifters");
    if (!plan.clearance_least || !plan.clearance_most)
        missing.emplace_back("their clearance, least and most");
    if (chosen(LifterChoice::bush) && !plan.bush_outside)
        missing.emplace_back("outside of the bushes");
    if (chosen(LifterChoice::bush) && !plan.interference)
        missing.emplace_back("interference of the bushes");
    return missing;
}

/// What the finished bore is to be: in the middle of the clearances.
std::optional<double> finished_size(const block::LifterPlanChosen& plan) {
    if (!plan.lifter || !plan.clearance_least || !plan.clearance_most)
        return std::nullopt;
    return *plan.lifter + (*plan.clearance_least + *plan.clearance_most) / 2;
}

/// Entry that last changed its metal.
std::int64_t last_change(const block::BoreWork& work) {
    return std::max(work.last_cut(), work.fitted ? work.fitted->sequence : 0);
}

bool proven_enough(const JobState& state, const FeatureId& id) {
    return tunnel_of(state).times_probed(block::FeatureKind::lifter, id.bank, last_change(bores_of(state).bore(id))) >=
           enough_logs;
}

/// Probed after the last cut and the bush, so that its position can be proven.
const block::HoleResult* proof_of(const JobState& state, const FeatureId& id) {
    const block::BoreWork& work = bores_of(state).bore(id);
    const bool after = tunnel_of(state).latest && tunnel_of(state).latest->sequence > last_change(work);
    return after ? hole_of(&tunnel_of(state).latest->evaluation, id) : nullptr;
}

/// How likely a seat about a lifter's place takes in all of the old bore.
std::optional<double> chance_to_cover(const block::EvaluationState& probed, const block::HoleResult& hole, Vec2 place,
                                      double radius) {
    const auto placed = position_uncertainty(probed, hole);
    if (!placed || !(*placed > 0))
        return std::nullopt;
    std::vector<double> rooms;
    for (const block::HoleLevel& level : hole.levels)
        for (const Vec2 p : level.surface)
            rooms.push_back(radius - norm(p - place));
    return metrology::chance_of_all(rooms, std::hypot(*placed, *probed.standard_uncertainty));
}

LifterProgress progress_as_it_stands(const JobState& state, const LifterNeed& n, const block::LifterPlanChosen& plan) {
    LifterProgress p;
    p.id = n.id;
    const block::BoreWork& work = bores_of(state).bore(n.id);
    if (n.reason == LifterReason::near_limit && work.cuts.empty()) {
        p.state = LifterState::near_limit;
        p.position = norm(*n.error);
        p.position_uncertainty = n.place_uncertainty;
        return p;
    }
    if (n.choice == LifterChoice::leave && work.cuts.empty())
        return p;
    const auto finished = finished_size(plan);
    p.inside = work.fitted.has_value();
    const bool to_seat = n.choice == LifterChoice::bush && !p.inside;
    std::vector<LifterCutStep> steps;
    if (to_seat && n.seat)
        steps = seat_steps(*n.seat);
    else if (!to_seat && finished)
        steps = {{BoreOperation::hone, *finished}};
    const auto cuts = work.cuts_now();
    const block::HoleResult* proof = proof_of(state, n.id);
    if (const auto now = size_now(state, n.id))
        p.size = now->size;
    else if (proof)
        p.size = proof->diameter();
    const double largest =
        steps.empty() ? 0
                      : steps.back().to + (to_seat ? close_enough : (*plan.clearance_most - *plan.clearance_least) / 2);
    if (!cuts.empty() && !p.size) {
        p.size = set_to(cuts.back().payload);
        p.by_setting = p.size.has_value();
    }
    if (!cuts.empty() && !p.size) {
        p.state = LifterState::to_measure;
        return p;
    }
    if (!cuts.empty() && p.size && *p.size > largest + 1e-9) {
        p.state = LifterState::too_large;
        return p;
    }
    for (std::size_t i = 0; i < steps.size(); ++i)
        if (!p.next && (cuts.empty() ? p.size.value_or(0) : *p.size) < steps[i].to - close_enough) {
            p.next = steps[i];
            p.tool = i;
        }
    // A bush has its own inside: as it comes it may be in size already.
    if (p.inside && cuts.empty() && !p.size)
        p.next = steps.empty() ? std::nullopt : std::optional(steps.back());
    if (p.next) {
        p.state = LifterState::to_cut;
        return p;
    }
    if (to_seat) {
        p.state = LifterState::to_press;
        return p;
    }
    // Where no probe ever told where it lies, its size after the last cut is all the proof there can be.
    if (!proof && !n.error) {
        p.state = p.by_setting ? LifterState::to_measure : LifterState::proven;
        return p;
    }
    if (!proof) {
        p.state = LifterState::to_prove;
        return p;
    }
    p.position = norm(proof->error);
    p.state = LifterState::proven;
    if (plan.position && (p.inside || n.choice == LifterChoice::bush)) { // whatever was decided on it since
        p.position_uncertainty = position_uncertainty(*tunnel_of(state).latest, *proof);
        switch (metrology::decide(*p.position, p.position_uncertainty, {{}, *plan.position}, rule_of(state))) {
        case Verdict::meets:
            break;
        case Verdict::cannot_tell:
            p.state = LifterState::to_prove;
            break;
        case Verdict::fails:
            p.state = LifterState::off_place;
            break;
        }
    }
    return p;
}

/// What is wrong with it and was left so since its last cut is called for no more.
LifterProgress progress_of(const JobState& state, const LifterNeed& n, const block::LifterPlanChosen& plan) {
    LifterProgress p = progress_as_it_stands(state, n, plan);
    const block::BoreWork& work = bores_of(state).bore(n.id);
    const auto& decided = work.lifter_decided;
    const bool wrong = p.state == LifterState::too_large || p.state == LifterState::off_place ||
                       (p.state == LifterState::to_prove && proven_enough(state, n.id));
    if (wrong && decided && decided->payload.choice == LifterChoice::leave && decided->sequence > last_change(work))
        p.state = LifterState::answered;
    return p;
}

} // namespace

double v_at_roller(const LifterPlace& place, double base_and_roller) {
    return place.v_cam + place.lean_v * (base_and_roller - place.above);
}
double roller_timing(const LifterPlace& place, double base_and_roller) {
    return std::asin(std::clamp(v_at_roller(place, base_and_roller) / base_and_roller, -1.0, 1.0));
}
double flat_timing(const LifterPlace& place) {
    return std::atan(place.lean_v);
}

block::LifterPlanChosen lifter_plan_of(const JobState& state) {
    return bores_of(state).lifter_plan ? bores_of(state).lifter_plan->payload : block::LifterPlanChosen{};
}

std::vector<std::pair<FeatureId, double>> lifter_timings(const block::Blueprint& blueprint,
                                                         const block::Evaluation& evaluation,
                                                         const block::LifterPlanChosen& plan) {
    std::vector<std::pair<FeatureId, double>> timings;
    for (const block::HoleResult& hole : evaluation.lifters)
        if (const auto timing = timing_of(blueprint, evaluation, hole, plan))
            timings.emplace_back(hole.id, *timing);
    return timings;
}

namespace {

std::vector<ValveTiming> by_valve(const block::Blueprint& blueprint, const std::vector<LifterNeed>& each) {
    std::map<std::optional<block::Valve>, std::array<std::vector<double>, 2>> timings; // as found, as planned
    for (const LifterNeed& n : each)
        if (n.timing) {
            auto& [before, planned] = timings[blueprint.hole(n.id)->valve];
            before.push_back(*n.timing);
            planned.push_back(n.timing_planned.value_or(*n.timing));
        }
    std::vector<ValveTiming> found;
    found.reserve(timings.size());
    for (const auto& [valve, values] : timings)
        found.push_back({valve, *spread_of(values[0]), spread_of(values[1])});
    return found;
}

} // namespace

std::optional<LifterStudy> study_lifters(const JobState& state) {
    if (!intake_of(state).blueprint)
        return std::nullopt;
    LifterStudy study;
    const block::LifterPlanChosen plan = lifter_plan_of(state);
    std::vector<double> before, planned;
    for (const block::HoleBlueprint& meant : intake_of(state).blueprint->lifters) {
        LifterNeed n;
        n.id = meant.id;
        n.nominal = meant.diameter.nominal;
        const block::EvaluationState* probed = probed_before_cuts(state, meant.id);
        const block::Evaluation* e = probed ? &probed->evaluation : nullptr;
        const block::HoleResult* hole_before = nullptr;
        if (const block::HoleResult* hole = hole_of(e, meant.id)) {
            if (hole->place_known) {
                n.error = hole->error;
                n.place_uncertainty = position_uncertainty(*probed, *hole);
            }
            n.from_dowel = hole->from_dowel;
            n.v_cam = hole->v_cam;
            n.clean_blueprint = hole->clean_blueprint;
            hole_before = hole;
            n.diameter = 0;
            for (const block::HoleLevel& level : hole->levels)
                n.diameter = std::max(*n.diameter, level.diameter);
            n.timing = timing_of(*intake_of(state).blueprint, *e, *hole, plan);
        } else if (const auto now = size_now(state, meant.id); now && bores_of(state).bore(meant.id).cuts.empty()) {
            n.diameter = now->size;
        } else if (const auto found = gauged_before_cuts(state, meant.id);
                   found && !bores_of(state).bore(meant.id).cuts.empty()) {
            n.diameter = found;
        } else if (bores_of(state).bore(meant.id).cuts.empty()) {
            continue;
        }
        if (n.diameter && plan.lifter)
            n.clearance = *n.diameter - *plan.lifter;
        advise(n, state, plan);
        if (plan.bush_outside && plan.interference) {
            n.seat = *plan.bush_outside - *plan.interference;
            if (n.clean_blueprint)
                n.covers = *n.seat >= *n.clean_blueprint;
            if (hole_before && hole_before->place_known)
                n.covers_chance = chance_to_cover(*probed, *hole_before, {meant.u, meant.v}, *n.seat / 2);
        }
        if (n.clean_blueprint && plan.interference)
            n.bush_needed = *n.clean_blueprint + *plan.interference;
        if (n.timing) {
            n.timing_planned = n.choice == LifterChoice::bush ? 0.0 : *n.timing;
            before.push_back(*n.timing);
            planned.push_back(*n.timing_planned);
        }
        study.each.push_back(n);
    }
    if (study.each.empty())
        return std::nullopt;
    study.by_valve = by_valve(*intake_of(state).blueprint, study.each);
    study.before = spread_of(before);
    study.planned = spread_of(planned);
    study.missing = missing_numbers(study, plan);
    return study;
}

const LifterNeed* LifterStudy::lifter(const FeatureId& id) const {
    const auto it = std::ranges::find(each, id, &LifterNeed::id);
    return it == each.end() ? nullptr : &*it;
}

std::vector<LifterCutStep> seat_steps(double seat) {
    return {{BoreOperation::rough, seat - 10 * thou},
            {BoreOperation::finish, seat - 5 * thou},
            {BoreOperation::finish, seat - thou},
            {BoreOperation::hone, seat}};
}

LifterBoard lifter_board(const JobState& state, const LifterStudy& study) {
    LifterBoard board;
    const block::LifterPlanChosen plan = lifter_plan_of(state);
    if (tunnel_of(state).probe_stale() && std::ranges::any_of(study.each, [&](const LifterNeed& n) {
            return n.error && bores_of(state).bore(n.id).cuts.empty();
        })) {
        board.step = LifterStep::measure; // the tunnel they are placed by was cut since
        return board;
    }
    if (!study.missing.empty()) {
        board.step = LifterStep::give_numbers;
        return board;
    }
    for (const LifterNeed& n : study.each)
        board.each.push_back(progress_of(state, n, plan));
    board.drift = compare_rows(state, board.each);
    const bool newest = tunnel_of(state).latest && std::ranges::any_of(study.each, [&](const LifterNeed& n) {
                            return bores_of(state).bore(n.id).last_cut() > 0 && proof_of(state, n.id);
                        });
    if (newest) {
        board.timings_after = lifter_timings(*intake_of(state).blueprint, tunnel_of(state).latest->evaluation, plan);
        std::vector<double> values;
        for (const auto& [id, timing] : board.timings_after)
            values.push_back(timing);
        board.after = spread_of(values);
    }
    const auto find = [&board](LifterState s) -> const LifterProgress* {
        const auto it = std::ranges::find(board.each, s, &LifterProgress::state);
        return it == board.each.end() ? nullptr : &*it;
    };
    const auto at = [&board](LifterStep step, const FeatureId& id) {
        board.step = step;
        board.lifter = id;
    };
    for (const LifterNeed& n : study.each)
        if (n.choice == LifterChoice::bush && n.covers == false && !bores_of(state).bore(n.id).fitted) {
            at(LifterStep::bush_too_small, n.id);
            return board;
        }
    const auto next_cut = [&board](bool inside) -> const LifterProgress* {
        const LifterProgress* next = nullptr; // the coarsest tool that is still needed; with it the first of its row
        for (const LifterProgress& p : board.each)
            if (p.state == LifterState::to_cut && p.inside == inside && (!next || p.tool < next->tool))
                next = &p;
        return next;
    };
    const auto* near = find(LifterState::near_limit);
    const bool probed_enough =
        near && tunnel_of(state).times_probed(block::FeatureKind::lifter, near->id.bank, 0) >= enough_logs;
    const auto* unproven = find(LifterState::to_prove);
    const bool told_enough = unproven && proven_enough(state, unproven->id);
    const std::array order{std::pair{near, probed_enough ? LifterStep::cannot_be_told : LifterStep::prove},
                           std::pair{find(LifterState::too_large), LifterStep::too_large},
                           std::pair{find(LifterState::to_measure), LifterStep::measure_cut},
                           std::pair{next_cut(false), LifterStep::cut},
                           std::pair{find(LifterState::to_press), LifterStep::press},
                           std::pair{next_cut(true), LifterStep::cut},
                           std::pair{find(LifterState::off_place), LifterStep::off_place},
                           std::pair{unproven, told_enough ? LifterStep::cannot_be_told : LifterStep::prove}};
    const auto first = std::ranges::find_if(order, [](const auto& o) { return o.first != nullptr; });
    if (first == order.end())
        board.step = LifterStep::done;
    else
        at(first->second, first->first->id);
    return board;
}

std::optional<LifterWork> lifter_work(const JobState& state) {
    auto study = study_lifters(state);
    if (!study)
        return std::nullopt;
    LifterBoard board = lifter_board(state, *study);
    return LifterWork{std::move(*study), std::move(board)};
}

} // namespace pallix::planning
