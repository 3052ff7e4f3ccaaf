// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/decks/deck_verdict.h"

#include "block/state/deck_state.h"
#include "block/state/tunnel_state.h"
#include "planning/common/place.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

namespace pallix::planning {

using metrology::decide;
using metrology::Limits;
using metrology::Verdict;
using metrology::worse;

namespace {

constexpr double same_height = 1e-6; // mm

std::optional<double> times(double factor, std::optional<double> u) {
    return u ? std::optional(factor * *u) : std::nullopt;
}

} // namespace

bool shows_all_of(const block::BankBlueprint& bank, const std::vector<metrology::Vec3>& points) {
    if (points.size() < heights_for_flatness)
        return false;
    const DeckExtent e = deck_extent(bank);
    std::array<bool, 4> quarters{};
    for (const metrology::Vec3& p : points)
        quarters.at((p.x > (e.low.x + e.high.x) / 2 ? 2 : 0) + (p.y > (e.low.y + e.high.y) / 2 ? 1 : 0)) = true;
    return std::ranges::count(quarters, true) == 4;
}

BankVerdict judge_deck(const block::BankBlueprint& bank, const block::DeckMeasurement& measured, double target,
                       const DeckSeen& seen, const block::LimitsChosen& shop) {
    const DrawnDeck* drawn = seen.drawn;
    const metrology::DecisionRule rule = rule_of(shop);
    const auto u = measured.standard_uncertainty;
    const auto from = [](double height, const std::optional<double>& deviation) {
        return deviation ? std::optional(height + *deviation) : deviation;
    };
    const block::DeckResult& deck = measured.result;
    // What scatters from one height to the next; the rest they have in common.
    metrology::Sureness alone = measured.sureness;
    alone.fixed = 0;
    const double scatter = alone.of_one > 0 ? alone.standard_uncertainty() : u.value_or(0);
    const double noise = metrology::noise_in_extreme(scatter, deck.touches > 0 ? deck.touches : deck.points.size());
    BankVerdict v{bank.id, Verdict::meets, Verdict::meets, Verdict::meets, false, {}};
    const bool apart = std::abs(target - bank.deck_height.nominal) > same_height;
    /// @param factor of the uncertainty of one height; @param sides on which noise pushes it outwards
    const auto check = [&](CheckKind kind, double touched, const Drawn* without_noise, Limits limits, double factor,
                           double sides) {
        metrology::Sureness sureness = measured.sureness;
        sureness.fixed *= factor;
        sureness.of_one *= factor;
        const double value = without_noise ? without_noise->value : touched;
        std::optional<double> uncertainty = times(factor, u);
        // Heights share the probe's calibration: no extreme of them is surer than one is.
        if (without_noise)
            uncertainty = sides > 1 ? without_noise->uncertainty : std::max(without_noise->uncertainty, u.value_or(0));
        const Verdict verdict =
            metrology::decide_extreme(value, uncertainty, without_noise ? 0 : sides * noise, limits, rule);
        v.checks.push_back({kind, value, uncertainty, limits, verdict,
                            u ? metrology::settle(value, sureness, limits, rule) : metrology::Settling{}, touched});
        const bool of_blueprint = kind == CheckKind::lowest_height || kind == CheckKind::highest_height;
        if (of_blueprint)
            v.blueprint = worse(v.blueprint, verdict);
        if (!of_blueprint || !apart)
            v.planned = worse(v.planned, verdict);
        if (kind != CheckKind::highest_height || !apart)
            v.verdict = worse(v.verdict, verdict);
    };
    const auto check_heights = [&](CheckKind low, CheckKind high, double about) {
        check(low, deck.height_min, drawn ? &drawn->lowest : nullptr,
              {from(about, bank.deck_height.lower), std::nullopt}, 1, 1);
        check(high, deck.height_max, drawn ? &drawn->highest : nullptr,
              {std::nullopt, from(about, bank.deck_height.upper)}, 1, 1);
    };
    check_heights(CheckKind::lowest_height, CheckKind::highest_height, bank.deck_height.nominal);
    if (apart)
        check_heights(CheckKind::lowest_planned, CheckKind::highest_planned, target);
    // A zone is the difference of two heights: √2 of the uncertainty of one.
    check(CheckKind::flatness, deck.flatness_mz, drawn ? &drawn->flatness : nullptr,
          {std::nullopt, flatness_limit(shop, bank)}, std::numbers::sqrt2, 2);
    DeckCheck& flatness = v.checks.back();
    if (seen.felt == Verdict::fails) {
        flatness.verdict = v.planned = v.verdict = Verdict::fails;
    } else if (flatness.verdict == Verdict::meets && !seen.felt && !shows_all_of(bank, deck.points)) {
        v.flat_unseen = v.verdict == Verdict::meets;
        flatness.verdict = Verdict::cannot_tell;
        flatness.settling = {};
        v.verdict = worse(v.verdict, Verdict::cannot_tell);
    }
    if (seen.dark_left) {
        v.checks.push_back({CheckKind::clean, 0, std::nullopt, {}, Verdict::fails, {}, 0});
        v.verdict = v.planned = Verdict::fails;
    }
    return v;
}

const DeckCheck* BankVerdict::check(CheckKind kind) const {
    const auto found = std::ranges::find(checks, kind, &DeckCheck::kind);
    return found == checks.end() ? nullptr : &*found;
}

bool BankVerdict::too_high() const {
    const DeckCheck* plan = check(CheckKind::highest_planned);
    return (plan ? plan : check(CheckKind::highest_height))->verdict == Verdict::fails;
}

PairVerdict judge_pair(const block::DeckMeasurement& first, double first_target, const block::DeckMeasurement& second,
                       double second_target, const block::LimitsChosen& limits) {
    const double difference = (first.result.height_mean - first_target) - (second.result.height_mean - second_target);
    std::optional<double> u;
    if (first.standard_uncertainty && second.standard_uncertainty)
        u = std::hypot(*first.standard_uncertainty, *second.standard_uncertainty);
    return {difference, limits.bank_difference, u,
            decide(difference, u, {-limits.bank_difference, limits.bank_difference}, rule_of(limits))};
}

std::optional<DrawnDeck> drawn_deck(const block::JobState& state, const block::DeckMeasurement& measured,
                                    const Certainty* certainty) {
    if (!certainty || !tunnel_of(state).latest || tunnel_of(state).latest->sequence != certainty->sequence ||
        measured.source != block::DeckSource::probe || measured.sequence != certainty->sequence)
        return std::nullopt;
    const auto& decks = tunnel_of(state).latest->evaluation.decks;
    const auto found = std::ranges::find(decks, measured.result.id, &block::DeckResult::id);
    const std::string at = "decks[" + std::to_string(found - decks.begin()) + "].";
    const auto lowest = certainty->drawn(at + "height_min"), highest = certainty->drawn(at + "height_max"),
               flatness = certainty->drawn(at + "flatness_mz");
    return lowest && highest && flatness ? std::optional(DrawnDeck{*lowest, *highest, *flatness}) : std::nullopt;
}

} // namespace pallix::planning
