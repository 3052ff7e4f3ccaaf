// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/common/assessment.h"

#include "block/state/job_state.h"
#include "planning/steps/steps.h"

#include <algorithm>
#include <cmath>

namespace pallix::planning {
namespace {

using block::JobState;
using metrology::Verdict;

constexpr double nothing = 5e-4; // mm, less cannot be dialled in

BankProgress progress_of(const block::BankBlueprint& bank, const BankPlan& plan, const block::DeckState& deck,
                         const block::PassPlanChosen& chosen, std::optional<double> flatness_uncertainty,
                         const std::optional<CentreLine>& line) {
    BankProgress p;
    p.plan = plan;
    if (line)
        p.to_come = measured_from(deck.latest->result, *line);
    p.taken = deck.depth_in_all();
    p.stale = deck.stale();
    p.dark_left = !deck.cuts.empty() && !deck.cuts.back().cut.clean;
    block::DeckMeasurement moved;
    if (p.to_come) {
        moved = *deck.latest;
        moved.result = *p.to_come;
    }
    const block::DeckMeasurement& newest = p.to_come ? moved : *deck.latest;
    const bool measured_after_cut = !deck.cuts.empty() && !p.stale;
    if (measured_after_cut)
        p.dark_left = false; // heights say it better than marks
    if (!p.stale) {
        p.verdict = judge_deck(bank, newest, plan.target, p.dark_left, flatness_uncertainty);
        p.below_blueprint = metrology::decide(newest.result.height_min, newest.standard_uncertainty,
                                              {bank.deck_height.smallest(), std::nullopt}) == Verdict::fails;
    }
    const bool good = p.verdict && p.verdict->verdict == Verdict::meets;
    p.remaining = newest.result.height_max - plan.target - deck.depth_since(newest.sequence);
    // Once it is measured at depth, only a place proven too high is a reason to cut on.
    const bool too_high = p.verdict && std::ranges::any_of(p.verdict->checks, [](const DeckCheck& c) {
                              return c.kind == CheckKind::highest_height && c.verdict == Verdict::fails;
                          });
    if (!good && !deck.from_old_tunnel() && (!measured_after_cut || too_high))
        p.passes = plan_passes(p.remaining, chosen, deck.cuts.empty());
    // Spring passes belong to the finishing cut: once it is made they are asked for one by one.
    if (p.passes.empty() && p.stale && !deck.from_old_tunnel()) {
        int spring = 0;
        for (auto c = deck.cuts.rbegin(); c != deck.cuts.rend() && c->cut.kind == block::PassKind::spring; ++c)
            ++spring;
        for (; spring < chosen.spring_passes; ++spring)
            p.passes.push_back({block::PassKind::spring, 0});
    }
    p.corners = corner_heights(bank, newest.result.points);
    p.lie = deck_lie(bank, newest.result, p.corners);
    return p;
}

/// How far a surface may lie below its lowest measured place: what the gauge could not tell, and what lies between the
/// touches, a thou at least (common practice, no source).
double belief_margin(const block::DeckMeasurement& found) {
    return std::max(block::mm_per_thou, 2 * found.standard_uncertainty.value_or(0) + found.result.flatness_lsq / 2);
}

/// What had to come off beyond the planned depth because places stayed dark at it, and what is still to: metal tells
/// more than the heights before it. Nothing where it is past what can be believed: then somebody looks why.
double deeper_than_planned(const block::DeckState& deck, const BankPlan& plan, const block::PassPlanChosen& chosen) {
    constexpr double rounding = 1e-6; // mm
    double taken = 0, deeper = 0;
    bool dark = false;
    for (const block::TakenCut& c : deck.cuts) {
        if (c.sequence < deck.as_found->sequence)
            continue;
        if (dark && taken >= plan.cut - rounding)
            deeper += c.cut.depth;
        taken += c.cut.depth;
        dark = !c.cut.clean;
    }
    const bool measured_since = deck.latest->sequence > (deck.cuts.empty() ? 0 : deck.cuts.back().sequence);
    const double left = belief_margin(*deck.as_found) - deeper;
    if (dark && !measured_since && taken >= plan.cut - rounding && left > nothing)
        deeper += std::min(left, std::max(chosen.finish, nothing));
    return deeper;
}

/// Where one bank had to go deeper to clean, equal banks go with it.
void move_targets(DeckPlan& plan, const JobState& state, const block::PassPlanChosen& chosen) {
    if (state.target.school != block::TargetSchool::least_cut)
        return;
    double most = 0;
    for (BankPlan& bank : plan.banks) {
        bank.moved = deeper_than_planned(state.deck(bank.bank), bank, chosen);
        most = std::max(most, bank.moved);
    }
    for (BankPlan& bank : plan.banks) {
        if (state.target.equal)
            bank.moved = most;
        bank.target -= bank.moved;
        bank.cut += bank.moved;
        bank.over_lower_limit -= bank.moved;
    }
}

/// The bank to work on: the one begun, else the one that lies lowest, else the next that has something left.
const BankProgress* bank_to_cut(const Assessment& a) {
    const auto open = [](const BankProgress& b) { return !b.passes.empty(); };
    for (const BankProgress& b : a.banks)
        if (open(b) && b.stale)
            return &b;
    for (const BankProgress& b : a.banks)
        if (open(b) && b.plan.bank == a.plan.start_with)
            return &b;
    const auto any = std::ranges::find_if(a.banks, open);
    return any == a.banks.end() ? nullptr : &*any;
}

/// A bank without heights, as far as straightedge and passes tell.
std::optional<FeelProgress> feel_of(const JobState& state, const block::BankBlueprint& bank,
                                    const block::PassPlanChosen& chosen) {
    const block::DeckState& deck = state.deck(bank.id);
    if (deck.latest)
        return std::nullopt;
    const std::vector<EdgeComparison> lines = compare_edges(state, bank.id, nullptr);
    const bool read = std::ranges::any_of(lines, [](const EdgeComparison& c) { return c.goes_in.has_value(); });
    if (!read && deck.cuts.empty())
        return std::nullopt;
    FeelProgress f{bank.id, flatness_from_feelers(lines), {}, deck.depth_in_all(), !deck.cuts.empty(), false, {}};
    f.clean = f.cut && deck.cuts.back().cut.clean;
    f.next = f.cut ? Pass{block::PassKind::pass, chosen.pass} : Pass{block::PassKind::witness, chosen.witness};
    if (read) {
        const double limit = bank.deck_flatness.value_or(usual_flatness);
        double thickest = 0;
        for (const EdgeComparison& c : lines)
            thickest = std::max(thickest, c.goes_in.value_or(0));
        f.verdict = thickest > limit                                 ? Verdict::fails
                    : f.bounds.at_most && *f.bounds.at_most <= limit ? Verdict::meets
                                                                     : Verdict::cannot_tell;
    }
    return f;
}

/// The first bank that straightedge and passes are not done with.
std::optional<DeckCall> call_by_feel(const Assessment& a) {
    for (const FeelProgress& f : a.by_feel) {
        if (f.cut && f.clean && !f.verdict)
            return DeckCall{DeckStep::feel_again, f.bank, {}, 0, 0};
        if (f.verdict != Verdict::meets && !(f.clean && f.verdict == Verdict::cannot_tell))
            return DeckCall{DeckStep::cut_by_feel, f.bank, f.next, 0, 0};
    }
    if (!a.by_feel.empty() && a.banks.empty())
        return DeckCall{DeckStep::flat_by_feel, a.by_feel.front().bank, {}, 0, 0};
    return std::nullopt;
}

/// A bank that is to be cut, or was, under the blueprint's least height, and nobody has said that it may.
bool under_limit(const JobState& state, const BankProgress& b) {
    if (gate_passed(state, block::Rule::sign_off, "deck." + b.plan.bank))
        return false;
    if (b.below_blueprint)
        return true;
    constexpr double rounding = 1e-6; // mm
    return !b.passes.empty() && b.plan.over_lower_limit < -rounding;
}

DeckCall deck_call(const JobState& state, const Assessment& a) {
    switch (a.plan.lack) {
    case TargetLack::height:
        return {DeckStep::give_height};
    case TargetLack::pistons:
        return {DeckStep::read_pistons};
    case TargetLack::figures:
        return {DeckStep::give_figures};
    case TargetLack::nothing:
        break;
    }
    if (a.banks.empty())
        return call_by_feel(a).value_or(DeckCall{});
    const auto first = [&a](auto condition) -> const BankProgress* {
        const auto found = std::ranges::find_if(a.banks, condition);
        return found == a.banks.end() ? nullptr : &*found;
    };
    const bool uncut = std::ranges::all_of(a.banks, [](const BankProgress& b) { return b.taken == 0 && !b.stale; });
    if (const auto* b = first([&](const BankProgress& p) { return uncut && !p.plan.cleans && !p.passes.empty(); }))
        return {DeckStep::will_not_clean, b->plan.bank, {}, 0, b->plan.short_by};
    if (const auto* b = first([&](const BankProgress& p) { return under_limit(state, p); }))
        return {DeckStep::under_limit, b->plan.bank};
    if (const auto* b = bank_to_cut(a))
        return {DeckStep::cut, b->plan.bank, b->passes.front(), b->passes.size(), b->remaining};
    const auto looked = [&state](const BankProgress& b) {
        return std::ranges::any_of(state.steps, [&](const auto& step) {
            return step.first > state.deck(b.plan.bank).cuts.back().sequence &&
                   step.second == looked_why_dark(b.plan.bank);
        });
    };
    if (const auto* b = first([&](const BankProgress& p) { return p.stale && p.dark_left && !looked(p); }))
        return {DeckStep::look_why_dark, b->plan.bank};
    if (const auto* b = first([](const BankProgress& p) { return p.stale; }))
        return {DeckStep::measure_again, b->plan.bank};
    // A verdict is signed for by whoever has seen it: what was decided before it was measured is another decision.
    const auto measured = [&state](const BankProgress& b) { return state.deck(b.plan.bank).latest->sequence; };
    const auto accepted = [&](const BankProgress& b) {
        return gate_passed(state, block::Rule::sign_off, "deck." + b.plan.bank, measured(b));
    };
    const auto pair_accepted = [&] {
        return gate_passed(state, block::Rule::sign_off, "decks", std::max(measured(a.banks[0]), measured(a.banks[1])));
    };
    const auto has = [&](Verdict v) {
        return first([&](const BankProgress& p) { return p.verdict && p.verdict->verdict == v && !accepted(p); });
    };
    if (const auto* b = has(Verdict::fails))
        return {DeckStep::fails, b->plan.bank};
    if (a.pair && a.pair->verdict == Verdict::fails && !pair_accepted())
        return {DeckStep::fails};
    if (const auto* b = has(Verdict::cannot_tell))
        return {DeckStep::settle_doubt, b->plan.bank};
    if (a.pair && a.pair->verdict == Verdict::cannot_tell && !pair_accepted())
        return {DeckStep::settle_doubt};
    if (const auto unmeasured =
            std::ranges::find_if(state.blueprint->banks, [&](const auto& b) { return !a.bank(b.id); });
        unmeasured != state.blueprint->banks.end())
        return {DeckStep::measure, unmeasured->id};
    return {DeckStep::done};
}

StageMark mark_of(Verdict v) {
    return v == Verdict::meets ? StageMark::meets : v == Verdict::fails ? StageMark::fails : StageMark::cannot_tell;
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
    if (v == Verdict::meets && !tunnel_stands(state, a, Stage::decks))
        v = Verdict::cannot_tell;
    return mark_of(v);
}

/// What counts of it; what was measured before it was worked on says nothing.
StageMark tunnel_mark(const JobState& state, const Assessment& a) {
    using enum TunnelStep;
    const TunnelWork& w = a.tunnel_work;
    const bool anything = state.latest || !a.gauge.mains.empty();
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

StageMark cylinders_mark(const JobState& state, const Assessment& a) {
    if (!a.cylinders)
        return StageMark::open;
    if (a.cylinders->step != CylinderStep::done) {
        const bool begun = std::ranges::any_of(
            a.cylinders->study.each, [&](const CylinderNeed& n) { return !state.bore(n.found.id).cuts.empty(); });
        if (!begun && !state.cylinder_plan && state.latest && !state.latest->evaluation.bores.empty())
            return state.probe_stale() ? StageMark::stale : StageMark::done; // found, and nothing to judge yet
        return a.cylinders->hone.step == HoneStep::too_large ? StageMark::fails : StageMark::open;
    }
    Verdict v = Verdict::meets;
    for (const HoneBore& b : a.cylinders->hone.bores)
        v = worse(v, b.verdict.value_or(Verdict::cannot_tell));
    return mark_of(v);
}

StageMark lifters_mark(const JobState& state, const Assessment& a) {
    if (!a.lifters)
        return StageMark::open;
    const bool begun =
        std::ranges::any_of(a.lifters->study.each, [&](const LifterNeed& n) { return !state.bore(n.id).cuts.empty(); });
    if (!begun && !state.lifter_plan) {
        const bool probed = state.latest && !state.latest->evaluation.lifters.empty();
        return probed && state.probe_stale() ? StageMark::stale : StageMark::done;
    }
    switch (a.lifters->board.step) {
    case LifterStep::done:
        return StageMark::meets;
    case LifterStep::too_large:
    case LifterStep::off_place:
        return StageMark::fails;
    default:
        return StageMark::open;
    }
}

/// What is known of each stage; where the one call stands, the work is.
std::vector<StageState> stages_of(const JobState& state, const Assessment& a) {
    std::vector<StageState> stages;
    const Step* now = a.steps.now();
    for (std::size_t i = 0; i < block::stage_keys.size(); ++i) {
        const auto stage = static_cast<Stage>(i);
        StageMark mark = StageMark::open;
        switch (stage) {
        case Stage::received:
            mark = state.blueprint ? StageMark::done : StageMark::fails;
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
            if (stage == Stage::as_found && !state.places.empty())
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

/// After the block was rolled the datum is confirmed on each bank by its dowel pair.
std::vector<std::string> unconfirmed_banks(const JobState& state, const std::vector<BankPositions>& positions) {
    const block::Blueprint& blueprint = *state.blueprint;
    const block::EvaluationState& latest = *state.latest;
    if (std::ranges::none_of(latest.logs, &block::LogHeader::rolled))
        return {};
    std::vector<std::string> banks;
    for (const block::BankBlueprint& bank : blueprint.banks) {
        const auto listed =
            std::ranges::count_if(blueprint.dowels, [&](const auto& d) { return d.id.bank == bank.id; });
        const auto found = std::ranges::find(positions, bank.id, &BankPositions::bank);
        const bool probed = latest.evaluation.deck(bank.id) || found != positions.end();
        const bool said = std::ranges::any_of(state.steps, [&](const auto& step) {
            return step.first > latest.sequence && step.second == datum_confirmed(bank.id);
        });
        if (probed && listed >= 2 && !said && (found == positions.end() || !found->dowels))
            banks.push_back(bank.id);
    }
    return banks;
}

PairVerdict pair_of(const JobState& state, const BankProgress& first, const BankProgress& second) {
    const auto measured = [&state](const BankProgress& b) {
        block::DeckMeasurement m = *state.deck(b.plan.bank).latest;
        if (b.to_come)
            m.result.height_mean = b.to_come->height_mean;
        return m;
    };
    return judge_pair(measured(first), first.plan.target, measured(second), second.plan.target);
}

std::vector<BankPositions> positions_of(const block::Blueprint& blueprint, const block::Evaluation& e) {
    std::vector<BankPositions> found;
    for (const block::BankBlueprint& bank : blueprint.banks) {
        BankPositions p;
        p.bank = bank.id;
        p.cylinder_errors = position_errors(blueprint, e.bores, bank.id);
        p.lifter_errors = position_errors(blueprint, e.lifters, bank.id);
        p.cylinders = read_pattern(p.cylinder_errors);
        p.lifters = read_pattern(p.lifter_errors);
        std::vector<metrology::Vec2> sizes;
        for (const block::HoleResult& h : e.lifters)
            if (h.id.bank == bank.id)
                sizes.push_back({h.centre.x, h.diameter()});
        p.lifter_sizes = read_size_drift(sizes);
        p.dowels = dowel_pair(blueprint, e.dowels, bank.id);
        if (!p.cylinder_errors.empty() || !p.lifter_errors.empty() || p.dowels)
            found.push_back(std::move(p));
    }
    return found;
}

} // namespace

Assessment::Assessment() = default;
Assessment::~Assessment() = default;
Assessment::Assessment(const Assessment&) = default;
Assessment::Assessment(Assessment&&) noexcept = default;
Assessment& Assessment::operator=(const Assessment&) = default;
Assessment& Assessment::operator=(Assessment&&) noexcept = default;

const block::DeckResult& surface_of(const BankProgress& progress, const JobState& state) {
    return progress.to_come ? *progress.to_come : state.deck(progress.plan.bank).latest->result;
}

std::optional<CentreLine> line_to_come(const JobState& state) {
    if (!state.tunnel_policy || state.tunnel_policy_chosen < state.tunnel_cut)
        return std::nullopt;
    const auto study = study_tunnel(state);
    if (!study || !study->plan.feasible)
        return std::nullopt;
    const CentreLine& line = study->plan.line;
    return line.y0 == 0 && line.yk == 0 && line.z0 == 0 && line.zk == 0 ? std::nullopt : std::optional(line);
}

block::DeckResult measured_from(const block::DeckResult& deck, const CentreLine& line) {
    const double s = std::sin(deck.bank_angle), c = std::cos(deck.bank_angle);
    const auto lower_by = [&](double u) { return line.y(u) * s + line.z(u) * c; };
    block::DeckResult moved = deck;
    std::vector<metrology::Vec3> points = deck.points;
    double sum = 0;
    for (metrology::Vec3& p : points) {
        const double by = lower_by(p.x);
        p.z -= by;
        sum += by;
    }
    moved.points = std::move(points);
    const auto [lowest, highest] = std::ranges::minmax(moved.points, {}, &metrology::Vec3::z);
    moved.height_min = lowest.z;
    moved.height_max = highest.z;
    moved.height_mean -= sum / static_cast<double>(moved.points.size());
    moved.slope_u -= line.yk * s + line.zk * c; // flatness does not feel a tilt
    return moved;
}

bool Assessment::tunnel_fails() const {
    return std::ranges::any_of(
        stages, [](const StageState& s) { return s.stage == Stage::tunnel && s.mark == StageMark::fails; });
}

const FeelProgress* Assessment::feel(std::string_view id) const {
    const auto found = std::ranges::find(by_feel, id, [](const FeelProgress& f) { return std::string_view(f.bank); });
    return found == by_feel.end() ? nullptr : &*found;
}

const BankProgress* Assessment::bank(std::string_view id) const {
    const auto found =
        std::ranges::find(banks, id, [](const BankProgress& b) { return std::string_view(b.plan.bank); });
    return found == banks.end() ? nullptr : &*found;
}

void look_again(Assessment& a, const JobState& state, const std::string& at) {
    a.steps = steps_of(state, a, at);
    a.stages = stages_of(state, a);
}

Assessment assess(const JobState& state, const Certainty* certainty, const std::string& at) {
    Assessment a;
    if (state.blueprint) {
        const std::optional<CentreLine> line = line_to_come(state);
        a.tunnel_to_come = line.has_value();
        a.crowns = piston_crowns(state);
        std::vector<block::DeckResult> moved;
        moved.reserve(state.blueprint->banks.size());
        std::vector<DeckToPlan> decks;
        for (const block::BankBlueprint& bank : state.blueprint->banks)
            if (const auto& deck = state.deck(bank.id); deck.as_found) {
                if (line)
                    moved.push_back(measured_from(deck.as_found->result, *line));
                decks.push_back({&bank, line ? &moved.back() : &deck.as_found->result});
            }
        using enum block::TargetSchool;
        const bool from_mock_up = state.target.school == clearance || state.target.school == ratio;
        a.plan = plan_decks(decks, state.target,
                            from_mock_up ? mock_up_heights(state, a.crowns, state.target) : MockUpHeights{});
        const block::PassPlanChosen chosen = state.passes.value_or(usual_passes());
        move_targets(a.plan, state, chosen);
        for (const BankPlan& plan : a.plan.banks)
            a.banks.push_back(progress_of(*state.blueprint->bank(plan.bank), plan, state.deck(plan.bank), chosen,
                                          drawn_flatness(state, *state.deck(plan.bank).latest, certainty), line));
        if (state.latest)
            a.tunnel = judge_tunnel(*state.blueprint, *state.latest, certainty);
        for (const block::BankBlueprint& bank : state.blueprint->banks)
            if (auto feel = feel_of(state, bank, chosen))
                a.by_feel.push_back(std::move(*feel));
        a.cylinders = cylinder_work(state, line.value_or(CentreLine{}));
        a.lifters = lifter_work(state);
        a.gauge = gauge_findings(state, a.cylinders ? a.cylinders->study.oversize : std::nullopt);
        if (state.latest) {
            a.positions = positions_of(*state.blueprint, state.latest->evaluation);
            a.unconfirmed_banks = unconfirmed_banks(state, a.positions);
        }
        if (a.banks.size() == 2 && !a.banks[0].stale && !a.banks[1].stale)
            a.pair = pair_of(state, a.banks[0], a.banks[1]);
        a.tunnel_work = tunnel_work(state, a.gauge, a.tunnel && state.mains_as_probed() ? &*a.tunnel : nullptr);
        a.decks = deck_call(state, a);
    }
    look_again(a, state, at);
    return a;
}

} // namespace pallix::planning
