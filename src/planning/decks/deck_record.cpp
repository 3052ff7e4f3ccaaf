// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/decks/deck_record.h"

#include "block/state/deck_state.h"
#include "planning/common/shop_limits.h"
#include "planning/decks/deck_belief.h"

#include <algorithm>
#include <cmath>

namespace pallix::planning {

namespace {
constexpr double unstated_height = 0.01; // mm, of a height nobody stated the uncertainty of
constexpr double tester_share = 0.05;    // of a roughness
} // namespace

bool DepthHeld::disagrees() const {
    // Without a forecast less may always have come off than was logged: nobody knows where the cutter first touched.
    return difference() > allowed || (above && difference() < -allowed);
}

std::optional<DepthHeld> depth_held(const block::JobState& state, const std::string& bank) {
    const block::DeckState& deck = decks_of(state).deck(bank);
    if (!deck.as_found || !deck.latest || deck.latest->sequence <= deck.as_found->sequence || deck.stale() ||
        deck.tunnel_cut > deck.as_found->sequence)
        return std::nullopt;
    DepthHeld held;
    double infeeds = 0;
    for (const block::TakenCut& taken : deck.cuts)
        if (taken.sequence > deck.as_found->sequence && taken.sequence < deck.latest->sequence) {
            held.ledger += taken.cut.depth;
            infeeds += taken.cut.depth > 0 ? 1 : 0;
        }
    if (infeeds == 0)
        return std::nullopt;
    // A clean surface lies where the cutter ran: of that every touch tells, not the highest alone.
    const bool clean = deck.cuts.back().cut.clean;
    const block::DeckResult &was = deck.as_found->result, &is = deck.latest->result;
    held.measured = was.height_max - (clean ? is.height_mean : is.height_max);
    double before = deck.as_found->standard_uncertainty.value_or(unstated_height);
    const double after = deck.latest->standard_uncertainty.value_or(unstated_height);
    for (const auto& kept : decks_of(state).forecasts)
        if (const block::DeckForecastKept& f = kept.payload;
            f.bank == bank && kept.sequence > deck.as_found->sequence && kept.sequence < deck.latest->sequence) {
            const double top = (f.lowest_low + f.lowest_high + f.low + f.high) / 2;
            held.above = std::max(0.0, top - was.height_max);
            before = std::max(before, (f.high - f.low) / 4);
            break;
        }
    held.allowed = 2 * std::hypot(before, after, infeed_uncertainty * std::sqrt(infeeds));
    return held;
}

std::optional<FinishHeld> finish_held(const block::JobState& state, const std::string& bank) {
    const block::DeckState& deck = decks_of(state).deck(bank);
    if (!decks_of(state).gasket || deck.cuts.empty())
        return std::nullopt;
    const auto last =
        std::ranges::find_if(decks_of(state).finishes.rbegin(), decks_of(state).finishes.rend(), [&](const auto& f) {
            return f.payload.bank == bank && f.payload.ra && f.sequence > deck.last_cut();
        });
    if (last == decks_of(state).finishes.rend())
        return std::nullopt;
    FinishHeld held{*last->payload.ra, decks_of(state).gasket->ra_at_most, {}};
    held.verdict = metrology::decide(held.ra, tester_share * held.ra, {std::nullopt, held.at_most}, rule_of(state));
    return held;
}

} // namespace pallix::planning
