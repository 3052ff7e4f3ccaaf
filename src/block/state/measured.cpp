// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/state/measured.h"

#include "metrology/uncertainty.h"

#include <algorithm>
#include <cmath>
#include <functional>
#include <string>
#include <unordered_map>

namespace pallix::block {
namespace {

void widen(TakenReading& r, double standard_uncertainty) {
    if (r.fixed)
        r.fixed = std::hypot(*r.fixed, standard_uncertainty);
}

/// Same caps, same plate: what must agree before two readings may be compared.
bool comparable(const Conditions& a, const Conditions& b) {
    return a.caps_torqued == b.caps_torqued && a.plate_on == b.plate_on;
}

MeasuredPlace place_of(const std::vector<const TakenReading*>& readings) {
    const TakenReading& last = *readings.back();
    MeasuredPlace p;
    p.at = last.reading.at;
    p.words = last.reading.words;
    p.count = readings.size();
    p.instrument = last.reading.instrument.name;
    p.conditions = last.reading.conditions;
    p.stale_because = last.stale_because;
    std::vector<double> values;
    metrology::Sureness sureness;
    sureness.taken = readings.size();
    bool stated = true;
    for (const TakenReading* r : readings) {
        values.push_back(r->value);
        p.sequences.push_back(r->sequence);
        stated = stated && r->fixed;
        sureness.fixed = std::max(sureness.fixed, r->fixed.value_or(0));
        sureness.of_one = std::max(sureness.of_one, r->reading.instrument.repeatability.value_or(0));
    }
    const auto repeat = metrology::repeatability(values);
    p.spread = std::ranges::max(values) - std::ranges::min(values);
    // Two or three readings say little about their own spread: it can only widen what the instrument's test found.
    sureness.of_one = std::max(sureness.of_one, repeat.standard_deviation);
    p.value = repeat.mean;
    if (last.reading.upper) {
        p.value = std::ranges::max(values);
        double upper = *last.reading.upper;
        for (const TakenReading* r : readings)
            upper = std::min(upper, r->reading.upper.value_or(upper));
        p.upper = upper;
    }
    if (stated)
        p.sureness = sureness;
    return p;
}

/// Of places that are the same the same, without writing out the key of each.
struct PlaceHash {
    std::size_t operator()(const MeasuredAt* at) const {
        if (is_at_a_place(at->quantity))
            return std::hash<std::string>{}(at->key());
        std::size_t hash = static_cast<std::size_t>(at->quantity) * 31U + static_cast<std::size_t>(at->feature.kind);
        hash = hash * 31U + static_cast<std::size_t>(at->feature.number);
        for (const std::string* part : {&at->feature.bank, &at->level, &at->direction})
            hash = hash * 31U + std::hash<std::string>{}(*part);
        return hash;
    }
};
struct SamePlace {
    bool operator()(const MeasuredAt* a, const MeasuredAt* b) const { return is_same_place(*a, *b); }
};

} // namespace

void spread_drift(std::vector<TakenReading>& readings, const std::vector<TakenCheck>& checks) {
    for (std::size_t i = 0; i < checks.size(); ++i) {
        const auto next = std::find_if(checks.begin() + static_cast<std::ptrdiff_t>(i) + 1, checks.end(),
                                       [&](const TakenCheck& c) { return c.instrument == checks[i].instrument; });
        if (next == checks.end())
            continue;
        std::vector<TakenReading*> between;
        for (TakenReading& r : readings)
            if (r.reading.instrument.name == checks[i].instrument && r.sequence > checks[i].sequence &&
                r.sequence < next->sequence && is_length(r.reading.at.quantity))
                between.push_back(&r);
        // Each check is where the zero was put right, so the error at the next one grew from nothing.
        for (std::size_t k = 0; k < between.size(); ++k) {
            const double share = static_cast<double>(k + 1) / static_cast<double>(between.size() + 1);
            between[k]->drift_correction = -share * next->error;
            between[k]->value += between[k]->drift_correction;
            widen(*between[k], metrology::of_spread_drift(next->error, share));
        }
    }
}

void bring_to_reference_temperature(std::vector<TakenReading>& readings, double part_expansion) {
    for (TakenReading& r : readings) {
        const Conditions& c = r.reading.conditions;
        const Quantity q = r.reading.at.quantity;
        if (!c.part_c || !c.gauge_c || (q != Quantity::size && q != Quantity::height && q != Quantity::wall))
            continue;
        const metrology::Thermal t{*c.part_c, *c.gauge_c, part_expansion, steel_expansion};
        r.thermal_correction = metrology::thermal_correction(r.reading.value, t);
        r.value += r.thermal_correction;
        widen(r, metrology::thermal_uncertainty(r.reading.value, t));
    }
}

MeasuredPlace measured_place(const std::vector<const TakenReading*>& all) {
    std::vector<const TakenReading*> good;
    std::ranges::copy_if(all, std::back_inserter(good), [](const TakenReading* r) { return !r->stale(); });
    if (good.empty())
        return place_of(all);
    // Caps or plate on or off in between: another round, of which only the newest counts.
    const Conditions newest = good.back()->reading.conditions;
    std::erase_if(good, [&newest](const TakenReading* r) { return !comparable(r->reading.conditions, newest); });
    return place_of(good);
}

std::vector<MeasuredPlace> measured_places(const std::vector<TakenReading>& readings) {
    std::vector<std::vector<const TakenReading*>> in_order;
    std::unordered_map<const MeasuredAt*, std::size_t, PlaceHash, SamePlace> of;
    for (const TakenReading& r : readings) {
        const auto [place, is_new] = of.try_emplace(&r.reading.at, in_order.size());
        if (is_new)
            in_order.emplace_back();
        in_order[place->second].push_back(&r);
    }
    std::vector<MeasuredPlace> places(in_order.size());
    std::ranges::transform(in_order, places.begin(), measured_place);
    return places;
}

} // namespace pallix::block
