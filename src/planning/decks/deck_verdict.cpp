// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/decks/deck_verdict.h"

#include "block/state/deck_state.h"
#include "block/state/tunnel_state.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace pallix::planning {

using metrology::decide;
using metrology::Limits;
using metrology::Verdict;
using metrology::worse;

namespace {

std::optional<double> times(double factor, std::optional<double> u) {
    return u ? std::optional(factor * *u) : std::nullopt;
}

} // namespace

BankVerdict judge_deck(const block::BankBlueprint& bank, const block::DeckMeasurement& measured, double target,
                       bool dark_left, std::optional<double> flatness_uncertainty) {
    const auto u = measured.standard_uncertainty;
    const auto from_target = [target](const std::optional<double>& deviation) {
        return deviation ? std::optional(target + *deviation) : deviation;
    };
    BankVerdict v{bank.id, Verdict::meets, {}};
    const auto check = [&](CheckKind kind, double value, std::optional<double> uncertainty, Limits limits,
                           double factor) {
        metrology::Sureness sureness = measured.sureness;
        sureness.fixed *= factor;
        sureness.of_one *= factor;
        v.checks.push_back({kind, value, uncertainty, limits, decide(value, uncertainty, limits),
                            u ? metrology::settle(value, sureness, limits) : metrology::Settling{}});
        v.verdict = worse(v.verdict, v.checks.back().verdict);
    };
    const block::DeckResult& deck = measured.result;
    check(CheckKind::lowest_height, deck.height_min, u, {from_target(bank.deck_height.lower), std::nullopt}, 1);
    check(CheckKind::highest_height, deck.height_max, u, {std::nullopt, from_target(bank.deck_height.upper)}, 1);
    // A zone is the difference of two heights: √2 of the uncertainty of one.
    check(CheckKind::flatness, deck.flatness_mz,
          flatness_uncertainty ? flatness_uncertainty : times(std::numbers::sqrt2, u),
          {std::nullopt, bank.deck_flatness.value_or(usual_flatness)}, std::numbers::sqrt2);
    if (dark_left) {
        v.checks.push_back({CheckKind::clean, 0, std::nullopt, {}, Verdict::fails, {}});
        v.verdict = Verdict::fails;
    }
    return v;
}

PairVerdict judge_pair(const block::DeckMeasurement& first, double first_target, const block::DeckMeasurement& second,
                       double second_target) {
    const double difference = (first.result.height_mean - first_target) - (second.result.height_mean - second_target);
    std::optional<double> u;
    if (first.standard_uncertainty && second.standard_uncertainty)
        u = std::hypot(*first.standard_uncertainty, *second.standard_uncertainty);
    return {difference, u, decide(difference, u, {-usual_pair_difference, usual_pair_difference})};
}

std::optional<double> drawn_flatness(const block::JobState& state, const block::DeckMeasurement& measured,
                                     const Certainty* certainty) {
    if (!certainty || !tunnel_of(state).latest || tunnel_of(state).latest->sequence != certainty->sequence ||
        measured.source != block::DeckSource::probe || measured.sequence != certainty->sequence)
        return std::nullopt;
    const auto& decks = tunnel_of(state).latest->evaluation.decks;
    const auto found = std::ranges::find(decks, measured.result.id, &block::DeckResult::id);
    return certainty->values.of("decks[" + std::to_string(found - decks.begin()) + "].flatness_mz");
}

} // namespace pallix::planning
