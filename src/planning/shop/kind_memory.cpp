// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/shop/kind_memory.h"

#include "block/state/bore_state.h"
#include "block/state/deck_state.h"
#include "block/state/intake_state.h"
#include "block/state/readings_state.h"
#include "block/state/tunnel_state.h"
#include "planning/decks/deck_belief.h"

#include <algorithm>
#include <boost/math/distributions/students_t.hpp>
#include <cmath>
#include <limits>
#include <numeric>

namespace pallix::planning {
namespace {

using namespace block;

constexpr double needle = 0.00254; // mm, a tenth of a thousandth of an inch: nearer to nothing is nothing

double mean_of(const std::vector<double>& values) {
    return std::accumulate(values.begin(), values.end(), 0.0) / static_cast<double>(values.size());
}

void add_tunnel(BlockTraits& traits, const Evaluation& e) {
    std::map<FeatureId, std::vector<double>> up;
    std::map<FeatureId, std::vector<double>> along;
    for (const MainResult& main : e.mains) {
        up[main.id].push_back(main.centre.z);
        along[main.id].push_back(main.centre.x);
    }
    if (up.size() < 3)
        return;
    const auto at = [&](const FeatureId& id) { return std::pair(mean_of(along[id]), mean_of(up[id])); };
    const auto front = at(up.begin()->first), rear = at(std::prev(up.end())->first);
    double crown = 0;
    std::size_t inner = 0;
    for (auto main = std::next(up.begin()); main != std::prev(up.end()); ++main, ++inner) {
        const auto [x, z] = at(main->first);
        crown += z - std::lerp(front.second, rear.second, (x - front.first) / (rear.first - front.first));
    }
    traits[{Trait::saddle_crown, ""}] = crown / static_cast<double>(inner);
}

void add_bores(BlockTraits& traits, const Blueprint& blueprint, const Evaluation& e) {
    std::map<std::string, std::pair<std::vector<double>, std::vector<double>>> shifts;
    for (const HoleResult& bore : e.bores) {
        if (bore.place_known) {
            shifts["deck." + bore.id.bank].first.push_back(bore.error.x);
            shifts["deck." + bore.id.bank].second.push_back(bore.error.y);
        }
        if (const auto* hole = blueprint.hole(bore.id)) {
            double largest = bore.diameter();
            for (const HoleLevel& level : bore.levels)
                largest = std::max(largest, level.diameter);
            traits[{Trait::wear, bore.id.text()}] = largest - hole->diameter.nominal;
        }
    }
    for (const auto& [bank, shift] : shifts) {
        traits[{Trait::core_shift_along, bank}] = mean_of(shift.first);
        traits[{Trait::core_shift_across, bank}] = mean_of(shift.second);
    }
    std::vector<double> growth;
    for (const HoleResult& lifter : e.lifters)
        if (const auto* hole = blueprint.hole(lifter.id))
            growth.push_back(lifter.diameter() - hole->diameter.nominal);
    if (!growth.empty())
        traits[{Trait::lifter_growth, ""}] = mean_of(growth);
}

void add_deck(BlockTraits& traits, const JobState& state, const BankBlueprint& bank) {
    const std::string about = "deck." + bank.id;
    const DeckState& deck = decks_of(state).deck(bank.id);
    if (deck.as_found && !bank.deck_outline.empty()) {
        const auto [u0, u1] = std::ranges::minmax(bank.deck_outline, {}, [](const auto& p) { return p.x; });
        const auto [v0, v1] = std::ranges::minmax(bank.deck_outline, {}, [](const auto& p) { return p.y; });
        const DeckResult& found = deck.as_found->result;
        traits[{Trait::deck_slope, about}] = found.slope_u * (u1.x - u0.x);
        traits[{Trait::bank_turn, about}] = found.tilt_v * (v1.y - v0.y);
        if (deck.as_found->source == DeckSource::probe)
            traits[{Trait::deck_shape, about}] = found.flatness_mz;
    }
    const auto outcome = forecast_outcome(state, bank.id);
    if (!outcome || !outcome->clean)
        return;
    traits[{Trait::clean_up, about}] = outcome->taken;
    traits[{Trait::forecast_error, about}] = outcome->taken - (outcome->forecast.low + outcome->forecast.high) / 2;
}

/// What was read by hand of what nobody has cut yet, where no log tells it better.
void add_readings(BlockTraits& traits, const JobState& state) {
    std::map<FeatureId, double> saddles, largest;
    std::map<FeatureId, std::pair<double, double>> lifters; // sum and number
    const auto untouched = [&](const FeatureId& id, std::int64_t sequence) {
        const auto& cuts = bores_of(state).bore(id).cuts;
        return cuts.empty() || cuts.front().sequence > sequence;
    };
    const auto& tunnel = tunnel_of(state);
    const auto first = [](const auto& all) {
        return all.empty() ? std::numeric_limits<std::int64_t>::max() : all.front().sequence;
    };
    const std::int64_t first_work = std::min(first(tunnel.caps_cut), first(tunnel.tunnel_passes));
    for (const TakenReading& r : readings_of(state).readings) {
        const FeatureId& id = r.reading.at.feature;
        if (r.reading.at.quantity == Quantity::saddle && r.sequence < first_work)
            saddles[id] = r.value;
        if (r.reading.at.quantity != Quantity::size || !untouched(id, r.sequence))
            continue;
        if (id.kind == FeatureKind::bore)
            largest[id] = std::max(largest[id], r.value);
        if (id.kind == FeatureKind::lifter) {
            lifters[id].first += r.value;
            ++lifters[id].second;
        }
    }
    const Blueprint& blueprint = *intake_of(state).blueprint;
    for (const auto& [id, size] : largest)
        if (const auto* hole = blueprint.hole(id))
            traits.try_emplace({Trait::wear, id.text()}, size - hole->diameter.nominal);
    std::vector<double> growth;
    for (const auto& [id, sizes] : lifters)
        if (const auto* hole = blueprint.hole(id))
            growth.push_back(sizes.first / sizes.second - hole->diameter.nominal);
    if (!growth.empty())
        traits.try_emplace({Trait::lifter_growth, ""}, mean_of(growth));
    if (saddles.size() < 3 || saddles.size() != blueprint.mains.size())
        return;
    const MainBlueprint &front = blueprint.mains.front(), &rear = blueprint.mains.back();
    double crown = 0;
    for (const MainBlueprint& main : blueprint.mains) // both ends stand on the line
        crown +=
            saddles[main.id] - std::lerp(saddles[front.id], saddles[rear.id], (main.x - front.x) / (rear.x - front.x));
    traits.try_emplace({Trait::saddle_crown, ""}, crown / static_cast<double>(saddles.size() - 2));
}

} // namespace

BlockTraits traits_of(const JobState& state) {
    BlockTraits traits;
    const auto& blueprint = intake_of(state).blueprint;
    if (!blueprint)
        return traits;
    if (const auto& found = tunnel_of(state).as_found) {
        add_tunnel(traits, found->evaluation);
        add_bores(traits, *blueprint, found->evaluation);
    }
    add_readings(traits, state);
    for (const BankBlueprint& bank : blueprint->banks)
        add_deck(traits, state, bank);
    std::erase_if(traits, [](const auto& one) { return !std::isfinite(one.second); });
    return traits;
}

std::vector<TraitMemory> remember_kind(const BlockTraits& present, const std::vector<BlockTraits>& others) {
    std::map<TraitOf, TraitMemory> all;
    for (const BlockTraits& block : others)
        for (const auto& [what, value] : block)
            all[what].others.push_back(value);
    std::vector<TraitMemory> memory;
    memory.reserve(all.size());
    for (auto& [what, one] : all) {
        one.what = what;
        std::ranges::sort(one.others);
        if (const auto here = present.find(what); here != present.end())
            one.present = here->second;
        const auto n = static_cast<double>(one.others.size());
        if (one.others.size() >= enough_blocks) {
            const double mean = mean_of(one.others);
            double squares = 0;
            for (const double value : one.others)
                squares += (value - mean) * (value - mean);
            one.mean = mean;
            one.spread = std::sqrt(squares / (n - 1));
            one.same_side = static_cast<std::size_t>(std::ranges::count_if(
                one.others, [mean](double v) { return std::abs(v) > needle && (v > 0) == (mean > 0); }));
            const double t = boost::math::quantile(boost::math::students_t(n - 1), 0.975);
            one.unusual =
                one.present && std::abs(*one.present - mean) > t * *one.spread * std::sqrt(1 + 1 / n) + needle;
        }
        memory.push_back(std::move(one));
    }
    return memory;
}

} // namespace pallix::planning
