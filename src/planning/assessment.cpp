// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/assessment.h"

#include "block/job_state.h"
#include "planning/tunnel_work.h"

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
    if (!p.stale)
        p.verdict = judge_deck(bank, newest, plan.target, p.dark_left, flatness_uncertainty);
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
std::optional<Call> call_by_feel(const Assessment& a) {
    for (const FeelProgress& f : a.by_feel) {
        if (f.cut && f.clean && !f.verdict)
            return Call{CallKind::feel_again, f.bank, {}, 0, 0};
        if (f.verdict != Verdict::meets && !(f.clean && f.verdict == Verdict::cannot_tell))
            return Call{CallKind::cut_by_feel, f.bank, f.next, 0, 0};
    }
    if (!a.by_feel.empty() && a.banks.empty())
        return Call{CallKind::flat_by_feel, a.by_feel.front().bank, {}, 0, 0};
    return std::nullopt;
}

/// Measured since it was last cut, by probe or by gauge.
bool tunnel_known(const JobState& state, const Assessment& a) {
    return (a.tunnel && !state.probe_stale()) ||
           std::ranges::any_of(a.gauge.mains, [](const BoreFinding& m) { return !m.stale; });
}

Call call_for(const JobState& state, const Assessment& a) {
    if (!state.blueprint)
        return {CallKind::mend_blueprint, {}, {}, 0, 0};
    if (!state.troubles.empty())
        return {CallKind::mend_ledger, {}, {}, 0, 0};
    switch (a.plan.lack) {
    case TargetLack::height:
        return {CallKind::give_height, {}, {}, 0, 0};
    case TargetLack::pistons:
        return {CallKind::read_pistons, {}, {}, 0, 0};
    case TargetLack::figures:
        return {CallKind::give_figures, {}, {}, 0, 0};
    case TargetLack::nothing:
        break;
    }
    if (state.tunnel_cut > 0 && !tunnel_known(state, a))
        return {CallKind::measure_tunnel, {}, {}, 0, 0};
    if (a.banks.empty())
        if (const auto by_feel = call_by_feel(a))
            return *by_feel;
    if (a.banks.empty())
        return {state.places.empty() ? CallKind::take_probe_log : CallKind::measure_decks, {}, {}, 0, 0};
    const auto first = [&a](auto condition) -> const BankProgress* {
        const auto found = std::ranges::find_if(a.banks, condition);
        return found == a.banks.end() ? nullptr : &*found;
    };
    const bool uncut = std::ranges::all_of(a.banks, [](const BankProgress& b) { return b.taken == 0 && !b.stale; });
    if (const auto* b = first([&](const BankProgress& p) { return uncut && !p.plan.cleans && !p.passes.empty(); }))
        return {CallKind::will_not_clean, b->plan.bank, {}, 0, b->plan.short_by};
    if (const auto* b = bank_to_cut(a))
        return {CallKind::cut, b->plan.bank, b->passes.front(), b->passes.size(), b->remaining};
    if (const auto* b = first([](const BankProgress& p) { return p.stale && p.dark_left; }))
        return {CallKind::look_why_dark, b->plan.bank, {}, 0, 0};
    if (const auto* b = first([](const BankProgress& p) { return p.stale; }))
        return {CallKind::measure_again, b->plan.bank, {}, 0, 0};
    const auto has = [&](Verdict v) {
        return first([v](const BankProgress& p) { return p.verdict && p.verdict->verdict == v; });
    };
    if (const auto* b = has(Verdict::fails))
        return {CallKind::fails, b->plan.bank, {}, 0, 0};
    if (a.pair && a.pair->verdict == Verdict::fails)
        return {CallKind::fails, {}, {}, 0, 0};
    if (const auto* b = has(Verdict::cannot_tell))
        return {CallKind::settle_doubt, b->plan.bank, {}, 0, 0};
    if (a.pair && a.pair->verdict == Verdict::cannot_tell)
        return {CallKind::settle_doubt, {}, {}, 0, 0};
    const auto begun = [&state](block::FeatureKind kind) {
        return std::ranges::any_of(state.bores_cut, [kind](const auto& id) { return id.kind == kind; });
    };
    if (a.cylinders && a.cylinders->step != CylinderStep::done &&
        (state.cylinder_plan || begun(block::FeatureKind::bore)))
        return {CallKind::cylinders, {}, {}, 0, 0};
    if (a.lifters && a.lifters->board.step != LifterStep::done &&
        (state.lifter_plan || begun(block::FeatureKind::lifter)))
        return {CallKind::lifters, {}, {}, 0, 0};
    return {CallKind::done, {}, {}, 0, 0};
}

StageMark mark_of(Verdict v) {
    return v == Verdict::meets ? StageMark::meets : v == Verdict::fails ? StageMark::fails : StageMark::cannot_tell;
}

StageMark deck_mark(const Assessment& a) {
    if (a.banks.empty() && !a.by_feel.empty()) {
        const bool flat =
            std::ranges::all_of(a.by_feel, [](const FeelProgress& f) { return f.verdict == Verdict::meets; });
        return flat ? StageMark::cannot_tell : StageMark::current; // flat along its lines; how high, nobody knows
    }
    if (a.banks.empty())
        return StageMark::open;
    if (std::ranges::any_of(a.banks, [](const BankProgress& b) { return !b.passes.empty(); }))
        return StageMark::current;
    if (std::ranges::any_of(a.banks, [](const BankProgress& b) { return b.stale; }))
        return StageMark::stale;
    Verdict v = a.pair ? a.pair->verdict : Verdict::meets;
    for (const BankProgress& b : a.banks)
        if (b.verdict)
            v = worse(v, b.verdict->verdict);
    return mark_of(v);
}

/// Of what the probe and the gauges say of it, the worse; what was measured before it was cut says nothing.
StageMark tunnel_mark(const JobState& state, const Assessment& a) {
    std::optional<Verdict> verdict;
    const auto hold = [&verdict](Verdict v) { verdict = verdict ? metrology::worse(*verdict, v) : v; };
    if (a.tunnel && !state.probe_stale())
        hold(a.tunnel->overall);
    for (const BoreFinding& main : a.gauge.mains)
        if (!main.stale)
            hold(main.verdict);
    if (a.gauge.saddles)
        hold(a.gauge.saddles->verdict);
    // Sizes alone do not say that three mains and more stand in one line.
    const bool aligned =
        (a.tunnel && !state.probe_stale()) || a.gauge.saddles || !state.blueprint || state.blueprint->mains.size() < 3;
    if (verdict && !aligned)
        hold(Verdict::cannot_tell);
    if (verdict)
        return mark_of(*verdict);
    return a.tunnel || !a.gauge.mains.empty() ? StageMark::stale : StageMark::open;
}

/// Measured and not yet worked on: known, nothing to judge.
StageMark found_mark(const JobState& state, bool probed) {
    return probed && state.probe_stale() ? StageMark::stale : StageMark::done;
}

StageMark cylinders_mark(const JobState& state, const Assessment& a) {
    if (!a.cylinders)
        return StageMark::open;
    if (state.bores_cut.empty() || std::ranges::none_of(a.cylinders->study.each, [&](const CylinderNeed& n) {
            return !state.bore(n.found.id).cuts.empty();
        }))
        return state.cylinder_plan ? StageMark::current
                                   : found_mark(state, state.latest && !state.latest->evaluation.bores.empty());
    if (a.cylinders->step != CylinderStep::done)
        return a.cylinders->hone.step == HoneStep::too_large ? StageMark::fails : StageMark::current;
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
    if (!begun)
        return state.lifter_plan ? StageMark::current
                                 : found_mark(state, state.latest && !state.latest->evaluation.lifters.empty());
    switch (a.lifters->board.step) {
    case LifterStep::done:
        return StageMark::meets;
    case LifterStep::too_large:
    case LifterStep::off_place:
        return StageMark::fails;
    default:
        return StageMark::current;
    }
}

std::vector<StageState> stages_of(const JobState& state, const Assessment& a) {
    const bool measured = state.latest.has_value() || !a.banks.empty() || !state.places.empty();
    const StageMark decks = deck_mark(a);
    return {{Stage::received, state.blueprint ? StageMark::done : StageMark::fails},
            {Stage::as_found, measured          ? StageMark::done
                              : state.blueprint ? StageMark::current
                                                : StageMark::open},
            {Stage::tunnel, tunnel_mark(state, a)},
            {Stage::decks, decks},
            {Stage::cylinders, cylinders_mark(state, a)},
            {Stage::lifters, lifters_mark(state, a)},
            {Stage::passport, decks == StageMark::meets ? StageMark::current : StageMark::open}};
}

/// After the block was rolled the datum is confirmed on each bank by its dowel pair.
std::vector<std::string> unconfirmed_banks(const block::Blueprint& blueprint, const block::EvaluationState& latest,
                                           const std::vector<BankPositions>& positions) {
    if (std::ranges::none_of(latest.logs, &block::LogHeader::rolled))
        return {};
    std::vector<std::string> banks;
    for (const block::BankBlueprint& bank : blueprint.banks) {
        const auto listed =
            std::ranges::count_if(blueprint.dowels, [&](const auto& d) { return d.id.bank == bank.id; });
        const auto found = std::ranges::find(positions, bank.id, &BankPositions::bank);
        const bool probed = latest.evaluation.deck(bank.id) || found != positions.end();
        if (probed && listed >= 2 && (found == positions.end() || !found->dowels))
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

Assessment assess(const JobState& state, const Certainty* certainty) {
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
            a.unconfirmed_banks = unconfirmed_banks(*state.blueprint, *state.latest, a.positions);
        }
        if (a.banks.size() == 2 && !a.banks[0].stale && !a.banks[1].stale)
            a.pair = pair_of(state, a.banks[0], a.banks[1]);
    }
    a.call = call_for(state, a);
    a.stages = stages_of(state, a);
    return a;
}

} // namespace pallix::planning
