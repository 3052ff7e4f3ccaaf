// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/readings/gauge_study_plan.h"

#include "block/state/intake_state.h"
#include "block/state/readings_state.h"
#include "planning/readings/reading_plan.h"

#include <algorithm>
#include <numeric>
#include <random>

namespace pallix::planning {
namespace {

using block::MeasuredAt;
using block::TakenReading;

/// The places of a plan by its name in the ledger.
std::vector<MeasuredAt> places_named(const block::Blueprint& blueprint, const std::string& plan) {
    for (std::size_t k = 0; k < measurings; ++k) {
        const auto what = static_cast<Measuring>(k);
        for (const block::BankBlueprint& bank : blueprint.banks)
            if (plan_name(what, bank.id) == plan)
                return all_places(blueprint, what, bank.id);
    }
    return {};
}

/// One person's way through the parts in one trial.
std::vector<std::size_t> order_of(std::int64_t begun, std::size_t trial, std::size_t person, std::size_t parts) {
    std::vector<std::size_t> order(parts);
    std::iota(order.begin(), order.end(), std::size_t{0});
    std::mt19937 draw(static_cast<std::uint32_t>(begun * 1009 + static_cast<std::int64_t>(trial * 101 + person)));
    for (std::size_t i = parts; i > 1; --i) // as std::shuffle, but alike everywhere
        std::swap(order[i - 1], order[draw() % i]);
    return order;
}

} // namespace

std::vector<MeasuredAt> study_places(const block::JobState& state, Measuring what, const std::string& bank) {
    std::vector<MeasuredAt> places = chosen_places(state, what, bank);
    std::erase_if(places, [](const MeasuredAt& at) { return !is_length(at.quantity) || is_bracket(at.quantity); });
    return places;
}

std::optional<StudyStanding> study_standing(const block::JobState& state, const std::string& at_bench) {
    const auto& begun = readings_of(state).study;
    if (!begun || !intake_of(state).blueprint)
        return std::nullopt;
    StudyStanding s;
    s.study = begun->payload;
    s.begun = begun->sequence;
    const block::GaugeStudyBegun& study = s.study;
    const std::vector<std::string>& people = study.people;
    const std::size_t parts = study.places.size(), trials = static_cast<std::size_t>(study.trials);
    std::vector<MeasuredAt> places;
    for (const MeasuredAt& at : places_named(*intake_of(state).blueprint, study.plan))
        if (std::ranges::find(study.places, at.key()) != study.places.end())
            places.push_back(at);
    if (places.size() != parts) {
        s.spoilt = true; // the blueprint was amended
        return s;
    }
    std::vector<std::vector<std::vector<double>>> read(people.size(), std::vector<std::vector<double>>(parts));
    std::size_t done = 0;
    for (const TakenReading& r : readings_of(state).readings) {
        const auto who = std::ranges::find(people, r.person);
        const auto which =
            std::ranges::find_if(places, [&r](const MeasuredAt& at) { return is_same_place(at, r.reading.at); });
        if (r.sequence <= s.begun || r.reading.instrument.name != study.instrument || who == people.end() ||
            which == places.end())
            continue;
        auto& values =
            read[static_cast<std::size_t>(who - people.begin())][static_cast<std::size_t>(which - places.begin())];
        if (values.size() >= trials)
            continue;
        s.spoilt = s.spoilt || r.stale();
        values.push_back(r.reading.value);
        ++done;
    }
    const auto left_for = [&](std::size_t person, std::size_t trial) -> std::optional<StudyReading> {
        for (const std::size_t part : order_of(s.begun, trial, person, parts))
            if (read[person][part].size() < trial)
                return StudyReading{places[part], people[person], trial, done + 1, people.size() * parts * trials};
        return std::nullopt;
    };
    for (std::size_t trial = 1; trial <= trials && !s.next && !s.spoilt; ++trial) {
        const auto first = std::ranges::find(people, at_bench);
        if (first != people.end())
            s.next = left_for(static_cast<std::size_t>(first - people.begin()), trial);
        for (std::size_t person = 0; person < people.size() && !s.next; ++person)
            s.next = left_for(person, trial);
    }
    for (const auto& of_parts : read) {
        std::vector<std::vector<double>> by_trial(trials);
        for (std::size_t trial = 0; trial < trials; ++trial)
            for (const auto& values : of_parts)
                if (trial < values.size())
                    by_trial[trial].push_back(values[trial]);
        s.read.people.push_back(std::move(by_trial));
    }
    return s;
}

} // namespace pallix::planning
