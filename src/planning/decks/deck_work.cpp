// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/decks/deck_work.h"

#include "block/state/deck_state.h"
#include "block/state/intake_state.h"
#include "block/state/readings_state.h"
#include "block/state/tunnel_state.h"
#include "planning/decks/deck_targets.h"
#include "planning/readings/second_look.h"
#include "planning/steps/steps.h"
#include "planning/tunnel/doubtful.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <numbers>

namespace pallix::planning {

using block::JobState;
using metrology::Verdict;

namespace {

/// By less than this no bank is cut after the other (common practice, no source).
constexpr double worth_following = block::mm_per_thou / 2;

/// The bank to work on: the one begun, else the one that lies lowest, else the next that has something left.
const BankProgress* bank_to_cut(const DeckPlan& plan, const std::vector<BankProgress>& banks) {
    const auto open = [](const BankProgress& b) { return !b.passes.empty(); };
    for (const BankProgress& b : banks)
        if (open(b) && b.stale)
            return &b;
    for (const BankProgress& b : banks)
        if (open(b) && b.plan.bank == plan.start_with)
            return &b;
    const auto any = std::ranges::find_if(banks, open);
    return any == banks.end() ? nullptr : &*any;
}

/// The first bank that straightedge and passes are not done with.
std::optional<DeckCall> call_by_feel(const JobState& state, const std::vector<BankProgress>& banks,
                                     const std::vector<FeelProgress>& by_feel) {
    for (const FeelProgress& f : by_feel) {
        const bool flat = f.verdict == Verdict::meets || (f.clean && f.verdict == Verdict::cannot_tell);
        if (flat && !(f.over && f.next))
            continue;
        if (f.next)
            return DeckCall{DeckStep::cut_by_feel, f.bank, f.next, 0, 0};
        // At its clearance, felt along every line and not flat: deeper is not for the list to say.
        if (f.over && felt_flat(state, *intake_of(state).blueprint->bank(f.bank))) {
            if (goes_on_unmeasured(state, f.bank))
                continue;
            return DeckCall{DeckStep::flat_by_feel, f.bank, {}, 0, 0};
        }
        return DeckCall{DeckStep::feel_again, f.bank, {}, 0, 0};
    }
    if (!banks.empty())
        return std::nullopt;
    for (const FeelProgress& f : by_feel)
        if (!goes_on_unmeasured(state, f.bank))
            return DeckCall{DeckStep::flat_by_feel, f.bank, {}, 0, 0};
    return by_feel.size() == intake_of(state).blueprint->banks.size() ? std::optional(DeckCall{DeckStep::done})
                                                                      : std::nullopt;
}

} // namespace

const block::DeckResult& surface_of(const BankProgress& progress, const JobState& state) {
    return progress.to_come ? *progress.to_come : decks_of(state).deck(progress.plan.bank).latest->result;
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

namespace {

/// The first pass that left nothing dark, against the range of the heights.
std::optional<double> came_clean_too_soon(const block::DeckState& deck) {
    const block::DeckMeasurement& heights = *deck.latest;
    double taken = 0;
    for (const block::TakenCut& cut : deck.cuts) {
        if (cut.sequence < heights.sequence)
            continue;
        taken += cut.cut.depth;
        if (!cut.cut.clean)
            continue;
        const double off = 2 * std::numbers::sqrt2 * heights.standard_uncertainty.value_or(block::mm_per_thou / 2),
                     soon = heights.result.height_max - heights.result.height_min - taken;
        return soon > block::mm_per_thou + off ? std::optional(soon) : std::nullopt;
    }
    return std::nullopt;
}

} // namespace

namespace {

block::PassPlanChosen with_finish(block::PassPlanChosen chosen, const BankPlan& plan) {
    chosen.finish = plan.finish.value_or(chosen.finish);
    return chosen;
}

} // namespace

int springs_left(const block::DeckState& deck, int chosen) {
    int made = 0;
    bool looked = false;
    for (auto c = deck.cuts.rbegin(); c != deck.cuts.rend() && c->cut.kind == block::PassKind::spring; ++c, ++made) {
        if (made == 0 && c->cut.lines == block::MarkerLines::gone)
            return 0;
        looked = looked || c->cut.lines != block::MarkerLines::not_looked_at;
    }
    if (springs_change_nothing(deck))
        return 0;
    return looked ? 1 : std::max(0, chosen - made);
}

bool springs_change_nothing(const block::DeckState& deck) {
    constexpr std::size_t enough = 3; // (common practice, no source)
    const auto unchanged = std::find_if(deck.cuts.rbegin(), deck.cuts.rend(), [](const block::TakenCut& c) {
        return c.cut.kind != block::PassKind::spring || c.cut.lines != block::MarkerLines::same;
    });
    return static_cast<std::size_t>(unchanged - deck.cuts.rbegin()) >= enough;
}

BankProgress progress_of(const block::BankBlueprint& bank, const BankPlan& plan, const block::DeckState& deck,
                         const block::PassPlanChosen& chosen, const DeckSeen& seen, const block::LimitsChosen& limits,
                         const std::optional<CentreLine>& line) {
    BankProgress p;
    p.plan = plan;
    if (line)
        p.to_come = measured_from(deck.latest->result, *line);
    p.taken = deck.depth_in_all();
    p.stale = deck.stale();
    p.dark_left = !deck.cuts.empty() && !deck.marked_clean();
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
        p.verdict = judge_deck(bank, newest, plan.held_at, {p.dark_left, seen.drawn, seen.felt}, limits);
        p.below_blueprint =
            bank.deck_height.lower &&
            metrology::decide(newest.result.height_min, newest.standard_uncertainty,
                              {bank.deck_height.smallest(), std::nullopt}, rule_of(limits)) == Verdict::fails;
    }
    if (p.stale)
        p.clean_too_soon = came_clean_too_soon(deck);
    const bool good = p.verdict && p.verdict->planned == Verdict::meets;
    p.remaining = stands_at(newest, deck) - plan.target;
    // What one bank had to give the other follows by, measured good or not.
    const bool behind =
        plan.behind > std::max(worth_following, 2 * std::numbers::sqrt2 * newest.standard_uncertainty.value_or(0));
    // Once it is measured at depth, only a place proven too high for the plan is a reason to cut on.
    const bool too_high = p.verdict && p.verdict->too_high();
    const bool clean = !deck.cuts.empty() && !p.dark_left;
    if (!deck.flushed_since() && (!good || behind) && !(clean && p.remaining < least_cut) && !p.clean_too_soon &&
        !deck.from_other_tunnel() && (!measured_after_cut || too_high || behind))
        p.passes = plan_passes(p.remaining, with_finish(chosen, plan), deck.cuts.empty(), plan.maybe);
    // Spring passes belong to the finishing cut: once it is made they are asked for one by one.
    if (p.passes.empty() && p.stale && !deck.flushed_since() && !p.clean_too_soon && !deck.from_other_tunnel())
        p.passes.resize(static_cast<std::size_t>(springs_left(deck, chosen.spring_passes)),
                        {block::PassKind::spring, 0});
    p.corners = corner_heights(bank, newest.result.points);
    p.lie = deck_lie(bank, newest.result, p.corners);
    return p;
}

namespace {

double thickest_in(const std::vector<EdgeComparison>& lines) {
    double thickest = 0;
    for (const EdgeComparison& c : lines)
        thickest = std::max(thickest, c.goes_in.value_or(0));
    return thickest;
}

} // namespace

std::optional<Verdict> felt_flat(const JobState& state, const block::BankBlueprint& bank, bool head) {
    const std::vector<EdgeComparison> lines =
        compare_edges(state, bank.id, nullptr, head ? block::Quantity::head_gap : block::Quantity::gap);
    if (thickest_in(lines) > flatness_limit(limits_of(state), bank))
        return Verdict::fails;
    for (const block::MeasuredAt& at :
         chosen_places(state, head ? Measuring::head_feelers : Measuring::feelers, bank.id))
        if (const block::MeasuredPlace* read = readings_of(state).place(at); !read || read->stale())
            return std::nullopt;
    return Verdict::meets;
}

bool cut_until_clean(const JobState& state, block::PassKind kind) {
    return decks_of(state).target.school == block::TargetSchool::least_cut && kind <= block::PassKind::pass;
}

bool cut_by_clearance_alone(const JobState& state) {
    const block::DecksState& decks = decks_of(state);
    return decks.target.school == block::TargetSchool::clearance && decks.target.clearance &&
           !decks.waiting_crowns.empty() &&
           std::ranges::none_of(decks.decks, [](const auto& deck) { return deck.second.latest.has_value(); });
}

namespace {

/// Its deck, as it now is, in as many logs as tell anything.
bool probed_enough(const JobState& state, const std::string& bank) {
    return tunnel_of(state).times_probed(block::FeatureKind::deck, bank, decks_of(state).deck(bank).last_cut()) >=
           enough_logs;
}

} // namespace

bool goes_on_unmeasured(const JobState& state, const std::string& bank) {
    const block::DeckState& deck = decks_of(state).deck(bank);
    return !deck.latest && gate_passed(state, block::Rule::sign_off, "deck." + bank, deck.last_cut());
}

std::optional<FeelProgress> feel_of(const JobState& state, const block::BankBlueprint& bank,
                                    const block::PassPlanChosen& chosen) {
    const block::DeckState& deck = decks_of(state).deck(bank.id);
    if (deck.latest)
        return std::nullopt;
    const std::vector<EdgeComparison> lines = compare_edges(state, bank.id, nullptr);
    const bool read = std::ranges::any_of(lines, [](const EdgeComparison& c) { return c.goes_in.has_value(); });
    std::optional<double> over;
    if (const auto clearance = cut_by_clearance_alone(state) ? least_clearance(state, bank.id) : std::nullopt)
        over = *clearance - *decks_of(state).target.clearance;
    if (!read && deck.cuts.empty() && !over)
        return std::nullopt;
    FeelProgress f{bank.id, flatness_from_feelers(lines), {}, deck.depth_in_all(), !deck.cuts.empty(), false, over, {}};
    f.clean = deck.marked_clean();
    const std::vector<Pass> to_go = over ? plan_passes(*over, chosen, !f.cut) : std::vector<Pass>();
    if (!to_go.empty() && *over > least_cut)
        f.next = to_go.front();
    else if (over)
        f.next = springs_left(deck, chosen.spring_passes) > 0 ? std::optional(Pass{block::PassKind::spring, 0})
                                                              : std::nullopt;
    else if (!f.cut)
        f.next = {block::PassKind::witness, chosen.witness};
    else if (!f.clean || read) // felt again and not flat: the same once more
        f.next = {block::PassKind::pass, chosen.pass};
    else if (!finished(deck) && chosen.finish >= least_infeed)
        f.next = {block::PassKind::finish, chosen.finish};
    else if (springs_left(deck, chosen.spring_passes) > 0)
        f.next = {block::PassKind::spring, 0};
    if (read) {
        const double limit = flatness_limit(limits_of(state), bank);
        f.verdict = thickest_in(lines) > limit                       ? Verdict::fails
                    : f.bounds.at_most && *f.bounds.at_most <= limit ? Verdict::meets
                                                                     : Verdict::cannot_tell;
    }
    return f;
}

bool under_limit(const JobState& state, const BankProgress& b) {
    if (gate_passed(state, block::Rule::sign_off, "deck." + b.plan.bank))
        return false;
    if (b.below_blueprint)
        return true;
    constexpr double rounding = 1e-6; // mm
    return !b.passes.empty() && b.plan.over_lower_limit.value_or(0) < -rounding;
}

const block::MeasuredPlace* seldomest_read(const JobState& state, const std::vector<std::string>& banks) {
    const block::MeasuredPlace* best = nullptr;
    const auto off = [&](const block::MeasuredPlace& p) {
        return std::abs(p.value - decks_of(state).deck(p.at.feature.bank).latest->result.height_mean);
    };
    for (const block::MeasuredPlace& p : readings_of(state).places) {
        if (p.at.quantity != block::Quantity::height || p.stale() ||
            std::ranges::find(banks, p.at.feature.bank) == banks.end() ||
            decks_of(state).deck(p.at.feature.bank).latest->source == block::DeckSource::probe)
            continue;
        if (!best || p.count < best->count || (p.count == best->count && off(p) > off(*best)))
            best = &p;
    }
    return best;
}

DeckCall deck_call(const JobState& state, const DeckPlan& plan, const std::vector<BankProgress>& banks,
                   const std::vector<FeelProgress>& by_feel, const std::optional<PairVerdict>& pair) {
    switch (plan.lack) {
    case TargetLack::height:
        return {DeckStep::give_height};
    case TargetLack::pistons:
        return {DeckStep::read_pistons};
    case TargetLack::figures:
        return {DeckStep::give_figures};
    case TargetLack::nothing:
        break;
    }
    if (banks.empty())
        return call_by_feel(state, banks, by_feel).value_or(DeckCall{});
    const auto first = [&banks](auto condition) -> const BankProgress* {
        const auto found = std::ranges::find_if(banks, condition);
        return found == banks.end() ? nullptr : &*found;
    };
    const bool uncut = std::ranges::all_of(banks, [](const BankProgress& b) { return b.taken == 0 && !b.stale; });
    if (const auto* b = first([&](const BankProgress& p) { return uncut && !p.plan.cleans && !p.passes.empty(); }))
        return {DeckStep::will_not_clean, b->plan.bank, {}, 0, b->plan.short_by};
    if (const auto* b = first([&](const BankProgress& p) { return under_limit(state, p); }))
        return {DeckStep::under_limit, b->plan.bank};
    if (const auto* b = first([](const BankProgress& p) { return p.clean_too_soon.has_value(); }))
        return {DeckStep::measure_again, b->plan.bank};
    if (const auto* b = bank_to_cut(plan, banks))
        return {DeckStep::cut, b->plan.bank, b->passes.front(), b->passes.size(), b->remaining};
    const auto looked = [&state](const BankProgress& b) {
        return std::ranges::any_of(tunnel_of(state).steps, [&](const auto& step) {
            return step.first > decks_of(state).deck(b.plan.bank).cuts.back().sequence &&
                   step.second == looked_why_dark(b.plan.bank);
        });
    };
    if (const auto* b = first([&](const BankProgress& p) {
            return p.stale && p.dark_left && !decks_of(state).deck(p.plan.bank).flushed_since() && !looked(p);
        }))
        return {DeckStep::look_why_dark, b->plan.bank};
    if (const auto* b = first([](const BankProgress& p) { return p.stale; }))
        return {DeckStep::measure_again, b->plan.bank};
    // A verdict is signed for by whoever has seen it: what was decided before it was measured is another decision.
    const auto measured = [&state](const BankProgress& b) {
        return decks_of(state).deck(b.plan.bank).latest->sequence;
    };
    // Who signed for a plan below the blueprint's least height has signed for what comes of it.
    const auto accepted = [&](const BankProgress& b) {
        const std::string deck = "deck." + b.plan.bank;
        return gate_passed(state, block::Rule::sign_off, deck, measured(b)) ||
               (b.verdict && b.verdict->planned == Verdict::meets && gate_passed(state, block::Rule::sign_off, deck));
    };
    const auto pair_accepted = [&] {
        return gate_passed(state, block::Rule::sign_off, "decks", std::max(measured(banks[0]), measured(banks[1])));
    };
    const auto has = [&](Verdict v) {
        return first([&](const BankProgress& p) { return p.verdict && p.verdict->verdict == v && !accepted(p); });
    };
    if (const auto* b = has(Verdict::fails))
        return {DeckStep::fails, b->plan.bank};
    if (pair && pair->verdict == Verdict::fails && !pair_accepted())
        return {DeckStep::fails};
    const auto doubt = [&state](const std::vector<std::string>& of) {
        const block::MeasuredPlace* seldomest = seldomest_read(state, of);
        const bool enough =
            seldomest
                ? seldomest->count >= enough_readings
                : std::ranges::all_of(of, [&state](const std::string& bank) { return probed_enough(state, bank); });
        return enough ? DeckStep::cannot_be_told : DeckStep::settle_doubt;
    };
    if (const auto* b =
            first([&](const BankProgress& p) { return p.verdict && p.verdict->flat_unseen && !accepted(p); }))
        return {DeckStep::see_flatness, b->plan.bank};
    if (const auto* b = has(Verdict::cannot_tell))
        return {intake_of(state).blueprint->bank(b->plan.bank)->deck_height.whole() ? doubt({b->plan.bank})
                                                                                    : DeckStep::no_limits,
                b->plan.bank};
    if (pair && pair->verdict == Verdict::cannot_tell && !pair_accepted())
        return {doubt({banks[0].plan.bank, banks[1].plan.bank})};
    if (const auto unmeasured = std::ranges::find_if(
            intake_of(state).blueprint->banks,
            [&](const auto& b) {
                return std::ranges::find(banks, b.id, [](const BankProgress& p) { return p.plan.bank; }) == banks.end();
            });
        unmeasured != intake_of(state).blueprint->banks.end())
        return {DeckStep::measure, unmeasured->id};
    return {DeckStep::done};
}

} // namespace pallix::planning
