// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/shop/forecasts.h"

#include "block/state/deck_state.h"
#include "block/state/tunnel_state.h"
#include "planning/tunnel/cap_sizes.h"
#include "planning/tunnel/stroke_forecast.h"

#include <algorithm>
#include <boost/math/distributions/binomial.hpp>
#include <cmath>
#include <limits>
#include <map>

namespace pallix::planning {
namespace {

using namespace block;

constexpr double ninety_five = 1.96; // standard deviations that hold 95 of 100

/// Intervals are told stretched by what was known of them then.
double stretched(const JobState& state, ForecastKind kind, const MeasuredBy& by) {
    return widening(widened_by(state, kind, by));
}

/// @param off mm, what came from the middle; @param told mm, half of the interval as it was told
ForecastCame held_against(const JobState& state, ForecastKind kind, MeasuredBy by, double off, double told) {
    constexpr double needle = 1e-6; // mm: nothing is told closer
    const double miss = std::abs(off) * stretched(state, kind, by) / std::max(told, needle);
    return {kind, std::move(by), miss, std::abs(off) <= told};
}

/// A pass takes more than is left of the dark: it became clean somewhere in the last one.
void add_removal(std::vector<ForecastCame>& all, const JobState& state) {
    for (const Taken<DeckForecastKept>& kept : decks_of(state).forecasts) {
        double before = 0, taken = 0;
        bool clean = false;
        for (const TakenCut& cut : decks_of(state).deck(kept.payload.bank).cuts) {
            if (cut.sequence < kept.sequence)
                continue;
            before = taken;
            taken += cut.cut.depth;
            clean = cut.cut.clean;
            if (clean)
                break;
        }
        const double middle = (kept.payload.low + kept.payload.high) / 2;
        if (clean)
            all.push_back(held_against(state, ForecastKind::removal, deck_measured_by(state, kept.payload.bank),
                                       std::clamp(middle, before, taken) - middle,
                                       (kept.payload.high - kept.payload.low) / 2));
    }
}

void add_caps(std::vector<ForecastCame>& all, const JobState& state) {
    for (const TakenCaps& caps : tunnel_of(state).caps_cut)
        for (const CapCame& came : cap_sizes_that_came(state, caps)) {
            const double told = came.allowed * stretched(state, ForecastKind::cap_size, came.by);
            all.push_back(held_against(state, ForecastKind::cap_size, came.by, came.after - came.predicted, told));
        }
}

void add_rise(std::vector<ForecastCame>& all, const JobState& state) {
    const TunnelState& tunnel = tunnel_of(state);
    if (tunnel.rise_forecasts.empty() || !tunnel.mains_as_probed() || !tunnel.latest->evaluation.cam)
        return;
    const TakenForecast& kept = tunnel.rise_forecasts.back();
    const bool honed_since = !tunnel.tunnel_passes.empty() && tunnel.tunnel_passes.back().sequence > kept.sequence &&
                             tunnel.latest->sequence > tunnel.tunnel_passes.back().sequence;
    if (!kept.cam || !honed_since)
        return;
    double rise = 0, u = 0;
    for (const TunnelForecastKept::Rise& main : kept.forecast.rises) {
        if (!main.uncertainty)
            return;
        rise += main.rise / static_cast<double>(kept.forecast.rises.size());
        u += *main.uncertainty / static_cast<double>(kept.forecast.rises.size());
    }
    // The camshaft stays where it is: seen from a line that has come up, it stands lower.
    const double came = kept.cam->z - tunnel.latest->evaluation.cam->z;
    all.push_back(
        held_against(state, ForecastKind::rise, {"probe", ""}, came - rise,
                     ninety_five * std::hypot(u, kept.touch, tunnel.latest->standard_uncertainty.value_or(0))));
}

void add_strokes(std::vector<ForecastCame>& all, const JobState& state) {
    for (const StrokesCame& came : strokes_that_came(state)) {
        // Slower than thought spoils nothing: only the most that it may take is claimed.
        const double told = came.fastest * stretched(state, ForecastKind::strokes, came.by);
        all.push_back(held_against(state, ForecastKind::strokes, came.by, came.rate, told));
    }
}

struct Group {
    std::int64_t made = 0, held = 0;
    std::vector<double> misses;
};

double widen_by(Group& group) {
    const auto n = static_cast<double>(group.made);
    if (group.misses.size() < enough_blocks)
        return 1;
    const auto inside = static_cast<double>(std::ranges::count_if(group.misses, [](double m) { return m <= 1; }));
    constexpr double by_chance = 0.05;
    if (boost::math::cdf(boost::math::binomial(n, forecast_claim), inside) >= by_chance)
        return 1;
    std::ranges::sort(group.misses);
    const auto rank = static_cast<std::size_t>(std::ceil(forecast_claim * (n + 1)));
    return std::clamp(group.misses[std::min(rank, group.misses.size()) - 1], 1.0, ForecastRecord::widest);
}

} // namespace

std::vector<ForecastCame> forecasts_that_came(const JobState& state) {
    std::vector<ForecastCame> all;
    add_removal(all, state);
    add_caps(all, state);
    add_rise(all, state);
    add_strokes(all, state);
    return all;
}

std::vector<ForecastRecord> count_forecasts(const std::vector<ForecastCame>& came) {
    std::map<std::tuple<ForecastKind, std::string, std::string>, Group> groups;
    for (const ForecastCame& one : came) {
        const auto count = [&](const std::string& gauge, const std::string& person) {
            Group& group = groups[{one.kind, gauge, person}];
            ++group.made;
            group.held += one.held ? 1 : 0;
            group.misses.push_back(one.miss);
        };
        count("", "");
        if (!one.by.gauge.empty())
            count(one.by.gauge, "");
        if (!one.by.person.empty())
            count("", one.by.person);
    }
    std::vector<ForecastRecord> records;
    records.reserve(groups.size());
    for (auto& [key, group] : groups) {
        const auto& [kind, gauge, person] = key;
        records.push_back({kind, gauge, person, group.made, group.held, widen_by(group)});
    }
    return records;
}

Experience experience_from(const std::vector<BlockTraits>& of_kind, const std::vector<ForecastCame>& of_shop) {
    Experience taught;
    for (const TraitMemory& memory : remember_kind({}, of_kind))
        if (memory.mean)
            taught.traits.push_back({memory.what.trait, memory.what.about, *memory.mean, *memory.spread,
                                     static_cast<std::int64_t>(memory.others.size())});
    for (ForecastRecord& record : count_forecasts(of_shop))
        if (record.made >= static_cast<std::int64_t>(enough_blocks))
            taught.forecasts.push_back(std::move(record));
    return taught;
}

bool keeps_deck_forecast(const JobState& state, const DeckCut& cut) {
    const DeckState& deck = decks_of(state).deck(cut.bank);
    const bool kept = std::ranges::any_of(decks_of(state).forecasts, [&](const auto& f) {
        return f.payload.bank == cut.bank && deck.latest && f.sequence > deck.latest->sequence;
    });
    const bool of_the_deck = !cut.head && cut.kind != PassKind::flush;
    return of_the_deck && cut.depth > 0 && deck.latest && !kept && deck.depth_since(deck.latest->sequence) <= 0;
}

DeckForecastKept kept_forecast(const DeckBelief& belief) {
    const auto &removal = belief.surface.removal, &lowest = belief.surface.lowest;
    return {belief.bank, removal.low, removal.high, lowest.low, lowest.high, belief.decides};
}

bool keeps_rise_forecast(const JobState& state, const TunnelPass& pass) {
    const TunnelState& tunnel = tunnel_of(state);
    const std::int64_t begun =
        std::max(tunnel.tunnel_done, tunnel.caps_cut.empty() ? 0 : tunnel.caps_cut.back().sequence);
    return pass.kind == TunnelPassKind::strokes &&
           (tunnel.tunnel_passes.empty() || tunnel.tunnel_passes.back().sequence < begun);
}

std::optional<TunnelForecastKept> kept_forecast(const TunnelStudy& study) {
    TunnelForecastKept kept;
    for (const HoneForecast& f : study.forecast)
        kept.rises.push_back({f.main, f.rise, f.uncertainty});
    return kept.rises.empty() ? std::nullopt : std::optional(std::move(kept));
}

} // namespace pallix::planning
