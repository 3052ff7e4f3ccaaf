// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/state/fold.h"

#include "block/job_file.h"
#include "block/state/folding.h"

#include <algorithm>
#include <limits>

namespace pallix::block {
namespace {

/// What neither cuts a deck nor asks how high it stands.
bool leaves_decks_alone(const Payload& payload) {
    const auto* reading = std::get_if<Reading>(&payload);
    return (reading && reading->at.quantity != Quantity::piston) || std::holds_alternative<Note>(payload) ||
           std::holds_alternative<ConditionsStated>(payload) || std::holds_alternative<RingCheck>(payload) ||
           std::holds_alternative<StepDone>(payload) || ShopKinds::take(payload, [](const auto&) {}) ||
           PracticeKinds::take(payload, [](const auto&) {});
}

void fold_entry(Folding& f, Kinds<UnknownPayload>, const Payload& payload) {
    const auto* unknown = std::get_if<UnknownPayload>(&payload);
    if (!unknown)
        return;
    if (unknown->faults.empty())
        f.state.unknown.push_back(f.entry->sequence);
    else
        f.trouble("cannot be read: " + unknown->faults.front().text());
}

void take(Folding& f, const Entry& entry) {
    f.entry = &entry;
    if (!std::holds_alternative<ProbeLogTaken>(entry.payload))
        finish_logs(f);
    if (!leaves_decks_alone(entry.payload))
        finish_heights(f);
    if (!std::holds_alternative<Reading>(entry.payload)) // which end no round
        for (const RoundEnd& round : rounds_ended_by(entry.payload, f.state))
            f.end_round(round);
    std::apply([&](auto... kinds) { (fold_entry(f, kinds, entry.payload), ...); }, PartsOfTheLedger());
}

/// Settles which blueprint holds: the one amended last that can be read, else the job's own.
void find_blueprint(Folding& f, const std::vector<Entry>& entries, const std::vector<bool>& out) {
    for (std::size_t i = entries.size(); i-- > 0 && !f.blueprint;) {
        if (out[i])
            continue;
        const auto take = [&](const auto& p) {
            if (auto read = blueprint_of(p.blueprint, p.blueprint_file, f.read))
                f.blueprint = std::move(*read);
            else
                f.trouble(entries[i].sequence, read.error().front().text());
        };
        if (const auto* amended = std::get_if<BlueprintAmended>(&entries[i].payload)) {
            take(*amended);
            if (f.blueprint) // what logs say hangs on it
                f.logs.key = "b" + std::to_string(entries[i].sequence) + ";";
        } else if (const auto* opened = std::get_if<JobOpened>(&entries[i].payload)) {
            take(*opened);
        }
    }
}

/// The error of an instrument shows only at its next check, so readings are corrected before the fold begins.
std::vector<TakenReading> corrected_readings(const std::vector<Entry>& entries, const std::vector<bool>& out,
                                             const Blueprint* blueprint) {
    std::vector<TakenReading> readings;
    readings.reserve(static_cast<std::size_t>(
        std::ranges::count_if(entries, [](const Entry& e) { return std::holds_alternative<Reading>(e.payload); })));
    std::vector<TakenCheck> checks;
    for (std::size_t i = 0; i < entries.size(); ++i) {
        const Entry& e = entries[i];
        if (out[i])
            continue;
        if (const auto* r = std::get_if<Reading>(&e.payload))
            readings.push_back(
                {e.sequence, e.time, e.person, *r, r->value, 0, 0, fixed_uncertainty(r->instrument), ""});
        else if (const auto* check = std::get_if<RingCheck>(&e.payload))
            checks.push_back({e.sequence, check->instrument, check->reading - check->size});
    }
    spread_drift(readings, checks);
    bring_to_reference_temperature(readings, expansion_of(blueprint ? blueprint->material : Material::grey_iron));
    return readings;
}

} // namespace

JobState::JobState() = default;
JobState::~JobState() = default;
JobState::JobState(const JobState&) = default;
JobState::JobState(JobState&&) noexcept = default;
JobState& JobState::operator=(const JobState&) = default;
JobState& JobState::operator=(JobState&&) noexcept = default;

const IntakeState& intake_of(const JobState& state) {
    return state;
}
const CardState& card_of(const JobState& state) {
    return state;
}
CardState& card_of(JobState& state) {
    return state;
}
IntakeState& intake_of(JobState& state) {
    return state;
}
const ReadingsState& readings_of(const JobState& state) {
    return state;
}
ReadingsState& readings_of(JobState& state) {
    return state;
}
const TunnelState& tunnel_of(const JobState& state) {
    return state;
}
TunnelState& tunnel_of(JobState& state) {
    return state;
}
const DecksState& decks_of(const JobState& state) {
    return state;
}
DecksState& decks_of(JobState& state) {
    return state;
}
const BoresState& bores_of(const JobState& state) {
    return state;
}
BoresState& bores_of(JobState& state) {
    return state;
}

Folded::Folded() : state_(std::make_unique<JobState>()) {}
Folded::~Folded() = default;
Folded::Folded(const Folded& other) : state_(std::make_unique<JobState>(*other.state_)) {}
Folded::Folded(Folded&& other) noexcept : state_(std::exchange(other.state_, std::make_unique<JobState>())) {}
Folded& Folded::operator=(const Folded& other) {
    *state_ = *other.state_;
    return *this;
}
Folded& Folded::operator=(Folded&& other) noexcept {
    *state_ = std::move(*other.state_); // whoever looks at it goes on looking at the same place
    return *this;
}

void Folding::trouble(const std::string& words) {
    trouble(entry->sequence, entry_words(*entry) + " " + words);
}

Folded fold(const std::vector<Entry>& entries, ReadLogs* logs) {
    Folded folded;
    JobState& state = folded;
    const std::vector<bool> out = struck(entries);
    Folding folding{state, logs};
    find_blueprint(folding, entries, out);
    folding.corrected = corrected_readings(entries, out, folding.blueprint.get());
    state.readings.reserve(folding.corrected.size());
    folding.fresh.reserve(folding.corrected.size());
    for (std::size_t i = 0; i < entries.size(); ++i)
        if (!out[i])
            take(folding, entries[i]);
    finish_logs(folding);
    finish_heights(folding);
    state.places = measured_places(state.readings);
    return folded;
}

void fold_reading(JobState& state, const Entry& entry) {
    const auto& reading = std::get<Reading>(entry.payload);
    // Nothing that is known of its instrument came after it: only its temperature corrects it.
    std::vector<TakenReading> corrected{{entry.sequence, entry.time, entry.person, reading, reading.value, 0, 0,
                                         fixed_uncertainty(reading.instrument), ""}};
    bring_to_reference_temperature(corrected,
                                   expansion_of(state.blueprint ? state.blueprint->material : Material::grey_iron));
    const std::size_t before = state.readings.size();
    Folding folding{state};
    folding.corrected = std::move(corrected);
    take(folding, entry);
    finish_heights(folding);
    if (state.readings.size() == before)
        return; // it could not be used
    const auto is_there = [&](const MeasuredAt& at) { return is_same_place(at, reading.at); };
    std::vector<const TakenReading*> there;
    for (const TakenReading& r : state.readings)
        if (is_there(r.reading.at))
            there.push_back(&r);
    MeasuredPlace place = measured_place(there);
    const auto known = std::ranges::find_if(state.places, is_there, &MeasuredPlace::at);
    if (known == state.places.end())
        state.places.push_back(std::move(place));
    else
        *known = std::move(place);
}

Folded after(const JobState& state, const std::vector<Payload>& done) {
    Folded folded;
    JobState& changed = folded;
    changed = state;
    Folding folding{changed};
    for (std::size_t i = 0; i < changed.readings.size(); ++i)
        if (!changed.readings[i].stale())
            folding.fresh.push_back(i);
    std::int64_t sequence = std::numeric_limits<std::int64_t>::max() / 2; // after all that was done
    for (const Payload& payload : done)
        take(folding, {sequence++, "", "", payload});
    changed.places = measured_places(changed.readings);
    return folded;
}

} // namespace pallix::block
