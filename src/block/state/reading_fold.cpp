// SPDX-License-Identifier: GPL-3.0-or-later
// What was measured by hand, and under which conditions.
#include "block/state/folding.h"

#include <algorithm>

namespace pallix::block {
namespace {

bool still_resting(const Folding& f, const Reading& reading) {
    return f.state.rest && reading.at.quantity == Quantity::size && f.state.honed_last(reading.at.feature) &&
           f.entry->time < f.state.rest->payload.until;
}

/// A piston's clearance is kept as the height of its crown, which no cut of the deck changes.
void take_crown(Folding& f, const TakenReading& taken) {
    const FeatureId& bore = taken.reading.at.feature;
    const DeckState* deck = f.deck_of(bore.bank);
    const HoleBlueprint* meant = f.state.blueprint->hole(bore);
    if (!deck || !meant)
        return;
    CrownReading crown{taken.sequence, bore, taken.reading.at.direction, 0, taken.value, taken.fixed};
    const auto height = height_now(*deck, {meant->u, meant->v});
    if (height)
        crown.crown = *height - taken.value;
    (height ? f.state.crowns : f.state.waiting_crowns).push_back(std::move(crown));
}

void take_height(Folding& f, const TakenReading& taken) {
    const std::string& bank = taken.reading.at.feature.bank;
    DeckState* deck = f.deck_of(bank);
    if (!deck)
        return;
    deck->readings.push_back(taken);
    f.heights[bank] = f.entry->sequence;
}

void apply(Folding& f, const Reading& reading) {
    JobState& state = f.state;
    if (!state.blueprint)
        return;
    if (!state.blueprint->lists(reading.at.feature))
        return f.trouble("is a reading of " + reading.at.feature.text() + ", which the blueprint does not list");
    // Both are in the order of the ledger; what could not be used stays behind.
    while (f.corrected[f.next_corrected].sequence != f.entry->sequence)
        ++f.next_corrected;
    state.readings.push_back(std::move(f.corrected[f.next_corrected++]));
    TakenReading& taken = state.readings.back();
    complete(taken.reading.conditions, state.conditions);
    if (still_resting(f, reading))
        taken.stale_because = still_warm;
    else if (is_from_mains(reading.at.quantity) && f.from_open_mains(taken.reading.conditions, reading.at.feature))
        taken.stale_because = "it was read from mains with their caps off";
    else
        f.fresh.push_back(state.readings.size() - 1);
    if (reading.at.quantity == Quantity::temperature)
        (reading.at.direction == "gauge" ? state.conditions.gauge_c : state.conditions.part_c) = reading.value;
    if (reading.at.quantity == Quantity::height && taken.stale_because.empty())
        take_height(f, taken);
    if (reading.at.quantity == Quantity::piston && taken.stale_because.empty())
        take_crown(f, taken);
}

/// A plate that comes off may have been taken off for the night: only who says so once more, at the same temperatures,
/// means to go on without.
bool plate_came_off(const Folding& f, const Conditions& now) {
    const Conditions& before = f.state.conditions;
    if (now.plate_on != false)
        return false;
    if (before.plate_on != false)
        return before.plate_on == true;
    return f.state.plate_came_off && (now.part_c != before.part_c || now.gauge_c != before.gauge_c);
}

void apply(Folding& f, const ConditionsStated& stated) {
    f.state.plate_came_off = plate_came_off(f, stated.conditions);
    f.state.conditions = stated.conditions;
    if (stated.conditions.caps_torqued.value_or(false))
        f.state.caps_torqued = f.entry->sequence;
    if (!stated.also_before)
        return;
    for (const std::size_t i : f.fresh)
        complete(f.state.readings[i].reading.conditions, stated.conditions);
    if (!f.state.latest)
        return;
    complete(f.state.latest->conditions, stated.conditions);
    for (auto& entry : f.state.decks)
        if (auto& measured = entry.second.latest;
            measured && measured->source == DeckSource::probe && measured->sequence >= f.state.latest->mains_sequence())
            measured->caps_off = f.from_open_mains(f.state.latest->conditions, {FeatureKind::deck, entry.first, 0});
}

void apply(Folding& f, const RingCheck& check) {
    f.state.checks.push_back({f.entry->sequence, check.instrument, check.reading - check.size});
}
void apply(Folding& f, const RepeatabilityTest& test) {
    f.state.repeats.push_back(test);
}
void apply(Folding& f, const ReadingPlanChosen& plan) {
    f.state.reading_plans[plan.plan] = plan;
    // What was read already may be all that is wanted now.
    if (plan.plan.starts_with(deck_heights_plan))
        if (const auto deck = f.state.decks.find(plan.plan.substr(deck_heights_plan.size()));
            deck != f.state.decks.end() && !deck->second.readings.empty())
            f.heights[deck->first] = f.entry->sequence;
}
void apply(Folding& f, const GaugeStudyBegun& study) {
    f.state.study = {f.entry->sequence, study};
}

} // namespace

void fold_entry(Folding& f, ReadingKinds kinds, const Payload& payload) {
    kinds.take(payload, [&f](const auto& entry) { apply(f, entry); });
}

void complete(Conditions& own, const Conditions& stated) {
    if (!own.caps_torqued)
        own.caps_torqued = stated.caps_torqued;
    if (!own.plate_on)
        own.plate_on = stated.plate_on;
}

bool Folding::from_open_mains(const Conditions& then, const FeatureId& about) const {
    return then.caps_torqued == false && std::ranges::none_of(state.gates, [&](const Taken<GatePassed>& gate) {
               const std::string& of = gate.payload.about;
               return gate.payload.rule == Rule::conditions &&
                      (of.empty() || of == about.text() || of == "decks" || of == "mock_up");
           });
}

void Folding::end_round(const RoundEnd& round) {
    std::erase_if(fresh, [&](std::size_t i) {
        TakenReading& r = state.readings[i];
        const bool over = round.touches(r.reading.at);
        if (over)
            r.stale_because = round.because;
        return over;
    });
    static const MeasuredAt upright{{FeatureKind::main, "", 1}, Quantity::size, "front", "upright", {}};
    if (round.touches(upright)) {
        state.mains_round = entry->sequence;
        state.mains_round_because = round.because;
    }
}

const MeasuredPlace* ReadingsState::place(const MeasuredAt& at) const {
    const auto found = std::ranges::find_if(places, [&at](const MeasuredPlace& p) { return is_same_place(p.at, at); });
    return found == places.end() ? nullptr : &*found;
}

} // namespace pallix::block
