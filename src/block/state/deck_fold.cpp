// SPDX-License-Identifier: GPL-3.0-or-later
// What was decided on the decks, found on them and done to them.
#include "block/state/folding.h"

#include <algorithm>
#include <limits>

namespace pallix::block {
namespace {

using metrology::Vec2;
using metrology::Vec3;

/// The places that make a set: as the shop chose them, else the four corners.
std::vector<std::string> places_wanted(const Folding& f, const BankBlueprint& bank) {
    if (const auto chosen = f.state.reading_plans.find(deck_heights_plan + bank.id);
        chosen != f.state.reading_plans.end())
        return chosen->second.places;
    std::vector<std::string> keys;
    for (const DeckPlace& corner : deck_places(bank))
        keys.push_back(MeasuredAt{{FeatureKind::deck, bank.id, 0}, Quantity::height, "", "", corner.place}.key());
    return keys;
}

/// Heights by hand make a measurement of the deck once every place of the set was read; what was read beside them
/// counts with them.
/// @param sequence of the last of them
void measure_by_heights(Folding& f, const std::string& bank_id, std::int64_t sequence) {
    const BankBlueprint& bank = *f.state.blueprint->bank(bank_id);
    std::vector<Vec3> points;
    std::optional<double> uncertainty = 0.0;
    metrology::Sureness sureness;
    const std::vector<MeasuredPlace> places = measured_places(f.state.decks[bank_id].readings);
    for (const std::string& wanted : places_wanted(f, bank))
        if (std::ranges::none_of(places, [&wanted](const MeasuredPlace& p) { return p.at.key() == wanted; }))
            return; // the set is not complete
    for (const MeasuredPlace& read : places) {
        points.push_back({read.at.place.x, read.at.place.y, read.value});
        const auto u = read.standard_uncertainty();
        if (u && uncertainty && *u >= *uncertainty)
            sureness = *read.sureness;
        uncertainty = uncertainty && u ? std::optional(std::max(*uncertainty, *u)) : std::nullopt;
    }
    if (auto result = evaluate_deck(bank, std::move(points)))
        f.take_measurement(bank.id, {DeckSource::readings, sequence, uncertainty, std::move(*result), sureness});
}

void apply(Folding& f, const DeckCut& cut) {
    DeckState* deck = f.deck_of(cut.bank);
    if (!deck)
        return;
    const TakenCut taken{f.entry->sequence, f.entry->time, f.entry->person, cut};
    if (cut.head) {
        f.state.faces[cut.bank].cuts.push_back(taken);
        if (cut.depth > 0)
            f.state.heads.push_back({taken.sequence, {cut.bank, {}, {}, cut.depth, {}}});
        return;
    }
    (cut.kind == PassKind::flush ? deck->flushes : deck->cuts).push_back(taken);
    deck->readings.clear();
}

void apply(Folding& f, const DeckTargetChosen& target) {
    f.state.target = target;
}
void apply(Folding& f, const PassPlanChosen& passes) {
    f.state.passes = passes;
}
void apply(Folding& f, const FlawMarked& flaw) {
    const bool known = flaw.where == FlawWhere::deck      ? f.deck_of(flaw.bank) != nullptr
                       : flaw.where == FlawWhere::outside ? true
                                                          : f.listed(*flaw.feature);
    if (known)
        f.state.flaws.push_back({f.entry->sequence, flaw, {}});
}
void apply(Folding& f, const FlawDecided& decided) {
    const auto flaw = std::ranges::find(f.state.flaws, decided.flaw, &KnownFlaw::sequence);
    if (flaw != f.state.flaws.end())
        flaw->decided = decided;
}
void apply(Folding& f, const PressureTested& test) {
    f.state.pressure_test = {f.entry->sequence, test};
}
void apply(Folding& f, const DeckForecastKept& forecast) {
    if (f.deck_of(forecast.bank))
        f.state.forecasts.push_back({f.entry->sequence, forecast});
}
void apply(Folding& f, const CutterFitted& cutter) {
    f.state.cutter = {f.entry->sequence, cutter};
}
void apply(Folding& f, const FinishNoted& finish) {
    if (f.deck_of(finish.bank))
        f.state.finishes.push_back({f.entry->sequence, finish});
}
void apply(Folding& f, const GasketChosen& gasket) {
    f.state.gasket = gasket;
}
void apply(Folding& f, const SetUpRead& set_up) {
    if (f.deck_of(set_up.bank))
        f.state.set_ups[set_up_key(set_up.bank, set_up.surface == on_head)] = {f.entry->sequence, set_up};
}
void apply(Folding& f, const BalanceCard& balance) {
    f.state.balance = balance;
}

void apply(Folding& f, const EngineFigures& figures) {
    f.state.figures = figures;
}
void apply(Folding& f, const HeadWork& head) {
    if (!f.deck_of(head.bank))
        return;
    f.state.heads.push_back({f.entry->sequence, head});
    if (head.cut > 0) // elsewhere: it comes back as another face
        f.state.faces[head.bank].cuts.clear();
}

/// Crowns that waited for a height of their deck have one now; what came off in between stood over them then.
void settle_crowns(JobState& state, const std::string& bank) {
    const DeckState& deck = state.decks[bank];
    std::vector<CrownReading> still;
    for (CrownReading& crown : std::exchange(state.waiting_crowns, {})) {
        const HoleBlueprint* meant = state.blueprint->hole(crown.bore);
        const auto height = crown.bore.bank == bank && meant ? height_now(deck, {meant->u, meant->v}) : std::nullopt;
        if (height)
            crown.crown = *height + deck.depth_since(crown.sequence) - crown.clearance;
        (height ? state.crowns : still).push_back(std::move(crown));
    }
    state.waiting_crowns = std::move(still);
}

} // namespace

void fold_entry(Folding& f, DeckKinds kinds, const Payload& payload) {
    kinds.take(payload, [&f](const auto& entry) { apply(f, entry); });
}

void finish_heights(Folding& f) {
    for (const auto& [bank, sequence] : std::exchange(f.heights, {}))
        measure_by_heights(f, bank, sequence);
}

DeckState* Folding::deck_of(const std::string& bank) {
    const auto found = state.decks.find(bank);
    if (found != state.decks.end())
        return &found->second;
    trouble("speaks of bank \"" + bank + "\", which the blueprint does not have");
    return nullptr;
}

void Folding::take_measurement(const std::string& bank, DeckMeasurement measurement) {
    DeckState& deck = state.decks[bank];
    // After a cut of the tunnel the deck is found anew: what was planned from the old one is void.
    if (!deck.as_found || deck.cuts.empty() || deck.tunnel_cut > deck.as_found->sequence)
        deck.as_found = measurement;
    if (measurement.source == DeckSource::probe)
        deck.readings.clear();
    deck.latest = std::move(measurement);
    settle_crowns(state, bank);
}

double DeckState::depth_since(std::int64_t sequence) const {
    double depth = 0;
    for (const TakenCut& taken : cuts)
        if (taken.sequence > sequence)
            depth += taken.cut.depth;
    return depth;
}

bool DeckState::stale() const {
    return from_other_tunnel() || (latest && last_cut() > latest->sequence);
}

std::optional<double> height_now(const DeckState& deck, Vec2 place) {
    if (!deck.latest || deck.from_other_tunnel())
        return std::nullopt;
    const DeckResult& d = deck.latest->result;
    const double plane = d.height_mean + d.slope_u * (place.x - d.middle.x) + d.tilt_v * (place.y - d.middle.y);
    const double depth = deck.depth_since(deck.latest->sequence);
    return depth > 0 ? std::min(plane, d.height_max - depth) : plane;
}

std::vector<DeckPlace> deck_places(const BankBlueprint& bank) {
    constexpr double inset = 0.08; // of the deck's length and width
    double u0 = std::numeric_limits<double>::infinity(), u1 = -u0, v0 = u0, v1 = -u0;
    for (const Vec2 c : bank.deck_outline) {
        u0 = std::min(u0, c.x);
        u1 = std::max(u1, c.x);
        v0 = std::min(v0, c.y);
        v1 = std::max(v1, c.y);
    }
    std::vector<DeckPlace> places;
    for (const bool rear : {false, true})
        for (const bool positive : {true, false}) {
            const double du = inset * (u1 - u0), dv = inset * (v1 - v0);
            places.push_back({{rear ? u1 - du : u0 + du, positive ? v1 - dv : v0 + dv}, rear, positive});
        }
    return places;
}

} // namespace pallix::block
