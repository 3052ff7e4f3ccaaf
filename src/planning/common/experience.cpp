// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/common/experience.h"

#include "block/state/card_state.h"
#include "block/state/deck_state.h"
#include "block/state/readings_state.h"
#include "block/state/tunnel_state.h"

#include <algorithm>

namespace pallix::planning {

using block::ForecastRecord;
using block::JobState;
using block::UsualTrait;

std::optional<UsualTrait> usual_of(const JobState& state, block::Trait trait, const std::string& about) {
    const auto& known = card_of(state).experience;
    if (!known)
        return std::nullopt;
    const auto found = std::ranges::find_if(
        known->payload.traits, [&](const UsualTrait& one) { return one.trait == trait && one.about == about; });
    return found == known->payload.traits.end() ? std::nullopt : std::optional(*found);
}

std::optional<ForecastRecord> widened_by(const JobState& state, block::ForecastKind kind, const MeasuredBy& by) {
    const auto& known = card_of(state).experience;
    std::optional<ForecastRecord> broadest;
    if (!known)
        return broadest;
    for (const ForecastRecord& record : known->payload.forecasts) {
        const bool of_these = record.kind == kind && (record.gauge.empty() || record.gauge == by.gauge) &&
                              (record.person.empty() || record.person == by.person);
        if (of_these && record.widen > (broadest ? broadest->widen : 1))
            broadest = record;
    }
    return broadest;
}

namespace {

MeasuredBy by_readings(const JobState& state, const auto& of_these) {
    const auto& all = readings_of(state).readings;
    const auto last = std::ranges::find_if(all.rbegin(), all.rend(), of_these);
    return last == all.rend() ? MeasuredBy{} : MeasuredBy{last->reading.instrument.name, last->person};
}

const MeasuredBy by_probe{"probe", ""};

} // namespace

MeasuredBy deck_measured_by(const JobState& state, const std::string& bank) {
    const block::DeckState& deck = decks_of(state).deck(bank);
    if (!deck.latest || deck.latest->source == block::DeckSource::probe)
        return by_probe;
    return by_readings(state, [&](const block::TakenReading& r) {
        return r.reading.at.quantity == block::Quantity::height && r.reading.at.feature.bank == bank &&
               r.sequence <= deck.latest->sequence;
    });
}

MeasuredBy mains_measured_by(const JobState& state) {
    if (tunnel_of(state).mains_as_probed())
        return by_probe;
    return by_readings(state, [](const block::TakenReading& r) {
        return r.reading.at.feature.kind == block::FeatureKind::main && r.reading.at.quantity == block::Quantity::size;
    });
}

} // namespace pallix::planning
