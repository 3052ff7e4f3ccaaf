// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/decks/deck_targets.h"

#include "planning/decks/deck_belief.h"
#include "planning/decks/deck_work.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <map>

namespace pallix::planning {

using block::JobState;

bool finished(const block::DeckState& deck) {
    for (auto c = deck.cuts.rbegin(); c != deck.cuts.rend() && c->cut.clean; ++c)
        if (c->cut.kind == block::PassKind::finish)
            return true;
    return false;
}

double stands_at(const block::DeckMeasurement& newest, const block::DeckState& deck) {
    return newest.result.height_max - deck.depth_since(newest.sequence);
}

namespace {

/// How far a surface may lie below its lowest measured place: what the gauge could not tell, and what lies between the
/// touches, a thou at least (common practice, no source).
double belief_margin(const block::DeckMeasurement& found) {
    return std::max(block::mm_per_thou, 2 * found.standard_uncertainty.value_or(0) + found.result.flatness_lsq / 2);
}

/// Another pass where it stayed dark at its lowest measured place (common practice, no source).
constexpr double dark_step = block::mm_per_thou / 2;

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
    if (deck.marked_clean()) {
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

} // namespace

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
        double deepest = std::numeric_limits<double>::infinity(), as_measured = deepest;
        for (const BankPlan& bank : plan.banks) {
            const Clean& c = clean[bank.bank];
            const double own = own_[bank.bank] = c.ended ? c.height : c.height - room_;
            deepest = std::min(deepest, own);
            as_measured =
                std::min(as_measured, decks.deck(bank.bank).marked_clean() ? own : own + std::max(0.0, bank.doubt));
        }
        // A bank that is clean goes deeper for what was measured or cut of the other, not for what only may be.
        for (const auto& [bank, own] : own_)
            height_[bank] = !decks.target.equal               ? own
                            : decks.deck(bank).marked_clean() ? std::min(own, as_measured)
                                                              : deepest;
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

} // namespace pallix::planning
