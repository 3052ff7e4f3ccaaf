// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/decks/deck_work.h"

#include "block/state/deck_state.h"
#include "block/state/intake_state.h"
#include "block/state/readings_state.h"
#include "block/state/tunnel_state.h"
#include "planning/decks/deck_belief.h"
#include "planning/steps/steps.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <map>
#include <numbers>

namespace pallix::planning {

using block::JobState;
using metrology::Verdict;

namespace {

/// How far a surface may lie below its lowest measured place: what the gauge could not tell, and what lies between the
/// touches, a thou at least (common practice, no source).
double belief_margin(const block::DeckMeasurement& found) {
    return std::max(block::mm_per_thou, 2 * found.standard_uncertainty.value_or(0) + found.result.flatness_lsq / 2);
}

/// Another pass where it stayed dark at its lowest measured place (common practice, no source).
constexpr double dark_step = block::mm_per_thou / 2;

/// A clean surface is not cut again for less: what a surfacer's hand wheel is set to (common practice, no source).
constexpr double least_cut = block::mm_per_thou / 10;

/// By less than this no bank is cut after the other (common practice, no source).
constexpr double worth_following = block::mm_per_thou / 2;

/// A finishing cut since it was dark for the last time.
bool finished(const block::DeckState& deck) {
    for (auto c = deck.cuts.rbegin(); c != deck.cuts.rend() && c->cut.clean; ++c)
        if (c->cut.kind == block::PassKind::finish)
            return true;
    return false;
}

/// Where a deck's highest place stands: by its newest heights and the passes since. Whatever is compared is told in
/// this one way, or a micrometre between ledger and gauge would be cut again and again.
double stands_at(const block::DeckMeasurement& newest, const block::DeckState& deck) {
    return newest.result.height_max - deck.depth_since(newest.sequence);
}

/// The height at which a bank is clean, as far as heights and marks tell.
struct Clean {
    double height = 0;
    bool ended = false; ///< that is where it stands, and nothing more is cut for its own sake
};

/// Metal tells more than the heights before it. Where it stayed dark past what can be believed of the heights, it ends:
/// then somebody looks why.
Clean clean_height(const block::DeckState& deck, const BankPlan& plan, double at, double finish) {
    constexpr double rounding = 1e-6; // mm
    const double wanted = plan.low - plan.doubt;
    if (deck.depth_since(deck.as_found->sequence) == 0)
        return {wanted};
    const bool measured_since = !deck.stale();
    if (deck.cuts.back().cut.clean) {
        const bool deep_enough = at <= plan.low - finish + rounding; // whatever the passes were called
        return {at, finished(deck) || deep_enough || measured_since};
    }
    const double deeper = std::max(0.0, plan.low - at);
    if (measured_since)
        return {std::min(wanted, plan.low - deeper)};
    if (at > plan.low + rounding)
        return {at > wanted + rounding ? wanted : plan.low};
    if (at > wanted + rounding)
        return {wanted};
    const double left = belief_margin(*deck.as_found) - deeper;
    return left > least_infeed ? Clean{at - std::min(left, dark_step)} : Clean{at, true};
}

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
std::optional<DeckCall> call_by_feel(const std::vector<BankProgress>& banks, const std::vector<FeelProgress>& by_feel) {
    for (const FeelProgress& f : by_feel) {
        const bool flat = f.verdict == Verdict::meets || (f.clean && f.verdict == Verdict::cannot_tell);
        if (flat && !(f.over && f.next))
            continue;
        if (f.next)
            return DeckCall{DeckStep::cut_by_feel, f.bank, f.next, 0, 0};
        return DeckCall{DeckStep::feel_again, f.bank, {}, 0, 0};
    }
    if (!by_feel.empty() && banks.empty())
        return DeckCall{DeckStep::flat_by_feel, by_feel.front().bank, {}, 0, 0};
    return std::nullopt;
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

/// Until the lines are gone; where nobody looked at them, as many as were chosen.
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

} // namespace

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
    if ((!good || behind) && !(clean && p.remaining < least_cut) && !p.clean_too_soon && !deck.from_old_tunnel() &&
        (!measured_after_cut || too_high || behind))
        p.passes = plan_passes(p.remaining, with_finish(chosen, plan), deck.cuts.empty(), plan.maybe);
    // Spring passes belong to the finishing cut: once it is made they are asked for one by one.
    if (p.passes.empty() && p.stale && !p.clean_too_soon && !deck.from_old_tunnel())
        p.passes.resize(static_cast<std::size_t>(springs_left(deck, chosen.spring_passes)),
                        {block::PassKind::spring, 0});
    p.corners = corner_heights(bank, newest.result.points);
    p.lie = deck_lie(bank, newest.result, p.corners);
    return p;
}

namespace {

/// What fits of a finishing cut over the blueprint's least height, so that it can be proven; all of it where the bank
/// is clean only under that.
double finish_over_limit(const BankPlan& bank, const block::DeckState& deck, double clean, double finish) {
    const double over = bank.over_lower_limit ? clean - (bank.target - *bank.over_lower_limit) : -1;
    if (over < 0)
        return finish;
    const double fits = over - 2 * std::hypot(infeed_uncertainty, deck.latest->standard_uncertainty.value_or(0));
    return fits < least_cut ? 0 : std::min(finish, fits);
}

} // namespace

namespace {

/// Where each bank ends, told from where they stand: equal banks where the deepest does.
class Ends {
  public:
    /// @param stands by bank, the height of its highest place
    Ends(const DeckPlan& plan, const block::DecksState& decks, const std::map<std::string, double>& stands,
         double finish)
        : room_(finish) {
        std::map<std::string, Clean> clean;
        double both = std::numeric_limits<double>::infinity(); // clean
        for (const BankPlan& bank : plan.banks) {
            const Clean c = clean_height(decks.deck(bank.bank), bank, stands.at(bank.bank), finish);
            clean[bank.bank] = c;
            both = c.ended ? both : std::min(both, c.height);
        }
        for (const BankPlan& bank : plan.banks)
            if (const Clean& c = clean[bank.bank]; !c.ended)
                room_ = std::min(room_, finish_over_limit(bank, decks.deck(bank.bank),
                                                          decks.target.equal ? both : c.height, finish));
        const auto seen_clean = [&decks](const std::string& bank) {
            const auto& cuts = decks.deck(bank).cuts;
            return !cuts.empty() && cuts.back().cut.clean;
        };
        double deepest = std::numeric_limits<double>::infinity(), as_measured = deepest;
        for (const BankPlan& bank : plan.banks) {
            const Clean& c = clean[bank.bank];
            const double own = own_[bank.bank] = c.ended ? c.height : c.height - room_;
            deepest = std::min(deepest, own);
            as_measured = std::min(as_measured, seen_clean(bank.bank) ? own : own + std::max(0.0, bank.doubt));
        }
        // A bank that is clean goes deeper for what was measured or cut of the other, not for what only may be.
        for (const auto& [bank, own] : own_)
            height_[bank] = !decks.target.equal ? own : seen_clean(bank) ? std::min(own, as_measured) : deepest;
    }
    [[nodiscard]] double room() const { return room_; } ///< for the finishing cut
    [[nodiscard]] double height(const std::string& bank) const { return height_.at(bank); }
    [[nodiscard]] bool follows(const std::string& bank) const { return height_.at(bank) < own_.at(bank); }

  private:
    double room_;
    std::map<std::string, double> own_, height_;
};

} // namespace

namespace {

/// How far under its lowest measured place a bank is to be cut: no deeper than leaves room over the blueprint's least
/// height for the finishing cut, where its heights do. Whether it must go under that the metal is to show.
/// @param stands the height of its highest place by the newest heights, before the passes since
double doubt_of(const BankPlan& bank, const CleanDepth& depth, block::Sureness clean, double stands, double finish) {
    if (clean == block::Sureness::as_measured)
        return 0;
    const double doubt = bank.low - (stands - (clean == block::Sureness::sure ? depth.sure : depth.likely));
    if (doubt <= 0 || !bank.over_lower_limit)
        return doubt;
    const double least = bank.target - *bank.over_lower_limit;
    return std::min(doubt, std::max(0.0, bank.low - least - finish - 2 * infeed_uncertainty));
}

} // namespace

void move_targets(DeckPlan& plan, const JobState& state, const block::PassPlanChosen& chosen,
                  const std::optional<CentreLine>& line, const CleanDepths& depths) {
    const block::DecksState& decks = decks_of(state);
    if (decks.target.school != block::TargetSchool::least_cut)
        return;
    const double finish = chosen.finish < least_infeed ? 0 : chosen.finish;
    std::map<std::string, double> stands, by_passes;
    bool cut = false;
    for (BankPlan& bank : plan.banks) {
        const block::DeckState& deck = decks.deck(bank.bank);
        block::DeckMeasurement newest = *deck.latest;
        if (line)
            newest.result = measured_from(newest.result, *line);
        stands[bank.bank] = stands_at(newest, deck);
        if (const auto known = depths.find(bank.bank); known != depths.end() && !line)
            bank.doubt = doubt_of(bank, known->second, decks.target.clean, newest.result.height_max, finish);
        by_passes[bank.bank] = bank.high - deck.depth_since(deck.as_found->sequence);
        cut = cut || !deck.cuts.empty();
    }
    // Cut on by what heights say now; held against where the passes should have left it.
    const Ends ends(plan, decks, stands, finish), meant(plan, decks, by_passes, finish);
    double planned_for_both = std::numeric_limits<double>::infinity();
    for (const BankPlan& bank : plan.banks)
        planned_for_both = std::min(planned_for_both, bank.low - bank.doubt);
    for (BankPlan& bank : plan.banks) {
        const double height = ends.height(bank.bank);
        if (cut && ends.follows(bank.bank))
            bank.behind = stands[bank.bank] - height;
        bank.finish = ends.room();
        bank.follows = ends.follows(bank.bank);
        if (const auto known = depths.find(bank.bank);
            decks.target.clean == block::Sureness::sure && bank.doubt != 0 && !bank.follows)
            bank.maybe = std::min(known->second.sure - known->second.likely, stands[bank.bank] - height - ends.room());
        bank.moved = (decks.target.equal ? planned_for_both : bank.low - bank.doubt) - ends.room() - height;
        if (bank.over_lower_limit)
            *bank.over_lower_limit += height - bank.target;
        bank.target = height;
        if (cut)
            bank.held_at = meant.height(bank.bank);
        bank.cut = bank.high - height;
    }
}

namespace {

double thickest_in(const std::vector<EdgeComparison>& lines) {
    double thickest = 0;
    for (const EdgeComparison& c : lines)
        thickest = std::max(thickest, c.goes_in.value_or(0));
    return thickest;
}

} // namespace

std::optional<Verdict> felt_flat(const JobState& state, const block::BankBlueprint& bank) {
    const std::vector<EdgeComparison> lines = compare_edges(state, bank.id, nullptr);
    if (thickest_in(lines) > flatness_limit(limits_of(state), bank))
        return Verdict::fails;
    for (const block::MeasuredAt& at : chosen_places(state, Measuring::feelers, bank.id))
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
    f.clean = f.cut && deck.cuts.back().cut.clean;
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
        return call_by_feel(banks, by_feel).value_or(DeckCall{});
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
    if (const auto* b = first([&](const BankProgress& p) { return p.stale && p.dark_left && !looked(p); }))
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
    // More with the same gauge tell no more than so many of each place (common practice, no source).
    constexpr std::size_t enough_readings = 4;
    const auto doubt = [&state](const std::vector<std::string>& of) {
        const block::MeasuredPlace* seldomest = seldomest_read(state, of);
        return seldomest && seldomest->count >= enough_readings ? DeckStep::cannot_be_told : DeckStep::settle_doubt;
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
