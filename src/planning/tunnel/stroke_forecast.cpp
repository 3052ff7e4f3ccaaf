// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/tunnel/stroke_forecast.h"

#include "block/state/readings_state.h"
#include "block/state/tunnel_state.h"
#include "planning/common/fit_spread.h"

#include <algorithm>
#include <cmath>
#include <iterator>
#include <limits>
#include <map>
#include <numbers>

namespace pallix::planning {
namespace {

using block::JobState;

constexpr std::int64_t now = std::numeric_limits<std::int64_t>::max();

/// What one place opened by between two times that it was measured.
struct Opened {
    std::int64_t from = 0, until = 0; ///< entries that say so
    double by = 0, unsure = 0;        ///< mm
    int strokes = 0;                  ///< between them
    [[nodiscard]] bool told() const { return strokes > 0 && by > unsure; }
    [[nodiscard]] double rate() const { return by / strokes; }
};

/// Sizes of a section between touches that stand opposite each other, by the angle of the first.
std::vector<std::pair<double, double>> sizes_of(const block::MainResult& section) {
    constexpr double opposite = 3 * block::radians_per_degree;
    const auto angle = [&section](metrology::Vec3 p) {
        return std::atan2(p.z - section.centre.z, p.y - section.centre.y);
    };
    std::vector<std::pair<double, double>> sizes;
    for (std::size_t i = 0; i < section.surface.size(); ++i)
        for (std::size_t k = i + 1; k < section.surface.size(); ++k) {
            const metrology::Vec3 p = section.surface[i], q = section.surface[k];
            if (std::abs(std::remainder(angle(p) - angle(q) - std::numbers::pi, 2 * std::numbers::pi)) < opposite)
                sizes.emplace_back(angle(p), std::hypot(p.y - q.y, p.z - q.z));
        }
    return sizes;
}

/// Of the place of a section that opened most: a circle through all its touches opens later than where stones cut.
double opened_most(const block::MainResult& was, const block::MainResult& is) {
    constexpr double same_place = 3 * block::radians_per_degree;
    double most = is.diameter - was.diameter;
    const auto before = sizes_of(was);
    for (const auto& [angle, size] : sizes_of(is))
        for (const auto& [old_angle, old] : before)
            if (std::abs(std::remainder(angle - old_angle, std::numbers::pi)) < same_place)
                most = std::max(most, size - old);
    return most;
}

/// The mains as a log had them.
struct Probed {
    std::int64_t sequence = 0; ///< of the go after it, or of the log itself
    const std::vector<block::MainResult>* mains = nullptr;
};

/// Every two of the last times that a place was measured in this campaign, between which it opened tellably.
class Openings {
  public:
    /// @param before only what was known when that entry was made
    Openings(const JobState& state, std::int64_t since, std::int64_t before = now)
        : state_(state), since_(since), before_(before) {
        of_gauges();
        of_probe();
    }
    std::vector<Opened> all;

  private:
    static constexpr std::size_t last_times = 6;

    void add(std::int64_t from, std::int64_t until, double by, double unsure) {
        Opened o{from, until, by, 2 * std::numbers::sqrt2 * unsure, 0};
        for (const block::TakenPass& pass : tunnel_of(state_).tunnel_passes)
            if (pass.sequence > std::max(from, since_) && pass.sequence < until)
                o.strokes += pass.pass.strokes;
        if (o.told())
            all.push_back(o);
    }
    void of_gauges() {
        std::map<std::string, std::vector<const block::TakenReading*>> places;
        for (const block::TakenReading& r : readings_of(state_).readings)
            if (r.sequence > since_ && r.sequence < before_ && r.reading.at.feature.kind == block::FeatureKind::main &&
                r.reading.at.quantity == block::Quantity::size)
                places[r.reading.at.key()].push_back(&r);
        for (const auto& [key, sizes] : places)
            for (std::size_t i = sizes.size() - std::min(sizes.size(), last_times); i < sizes.size(); ++i)
                for (std::size_t k = i + 1; k < sizes.size(); ++k)
                    add(sizes[i]->sequence, sizes[k]->sequence, sizes[k]->value - sizes[i]->value,
                        sizes[k]->fixed.value_or(0.0025));
    }
    void of_probe() {
        std::vector<Probed> times;
        for (const block::TakenPass& pass : tunnel_of(state_).tunnel_passes)
            if (pass.sequence > since_ && pass.sequence <= before_ && !pass.before.empty())
                times.push_back({pass.sequence - 1, &pass.before});
        if (before_ == now && tunnel_of(state_).mains_as_probed())
            times.push_back({tunnel_of(state_).latest->mains_sequence(), &tunnel_of(state_).latest->evaluation.mains});
        constexpr double of_many = 2; // the largest of dozens of differences is that much further off than one of them
        for (std::size_t i = times.size() - std::min(times.size(), last_times); i < times.size(); ++i)
            for (std::size_t k = i + 1; k < times.size(); ++k)
                for (const block::MainResult& is : *times[k].mains)
                    for (const block::MainResult& was : *times[i].mains)
                        if (is.id == was.id && is.level == was.level)
                            add(times[i].sequence, times[k].sequence, opened_most(was, is),
                                of_many * tunnel_of(state_).latest->mains_uncertainty().value_or(0.0025) *
                                    std::max(std::numbers::sqrt2, fit_spread(is).diameter));
    }

    const JobState& state_;
    std::int64_t since_, before_;
};

/// The fastest of those that ended in that span and are told well; else of those that are told at all.
const Opened* fastest_of(const std::vector<Opened>& all, std::int64_t after, std::int64_t until) {
    const Opened* best = nullptr;
    const auto well = [](const Opened& o) { return o.by > 2 * o.unsure; };
    for (const Opened& o : all)
        if (o.until > after && o.until <= until &&
            (!best || std::pair(well(o), o.rate()) > std::pair(well(*best), best->rate())))
            best = &o;
    return best;
}

} // namespace

std::vector<StockLeft> read_last(const std::vector<StockLeft>& board) {
    std::vector<StockLeft> fresh;
    std::ranges::copy_if(board, std::back_inserter(fresh), [](const StockLeft& s) { return !s.stale; });
    return fresh.empty() ? board : fresh;
}

namespace {

/// What a stroke takes as far as openings tell, and what it may take at the most.
struct Rate {
    double per_stroke = 0, fastest = 0; ///< mm
    double measured = 0, unsure = 0;    ///< mm for a stroke, of the last opening
};
std::optional<Rate> rate_of(const std::vector<Opened>& openings, std::int64_t pass, std::int64_t since) {
    const Opened* last = fastest_of(openings, pass, now);
    if (!last)
        return std::nullopt;
    Rate r{last->rate(), (last->by + last->unsure) / last->strokes, last->rate(), last->unsure / last->strokes};
    const Opened* earlier = fastest_of(openings, since, pass);
    constexpr double alike = 0.7, late_start = 8;
    const bool borne_out = earlier && earlier->rate() > alike * r.per_stroke;
    r.fastest = borne_out ? std::max(r.fastest, earlier->rate()) : late_start * r.fastest;
    return r;
}

} // namespace

std::optional<StrokeForecast> forecast_strokes(const JobState& state, const block::TakenPass& pass, std::int64_t since,
                                               const std::vector<StockLeft>& board) {
    if (board.empty() || pass.pass.strokes <= 0)
        return std::nullopt;
    const auto rate = rate_of(Openings(state, since).all, pass.sequence, since);
    if (!rate)
        return std::nullopt;
    StrokeForecast f;
    f.strokes = pass.pass.strokes;
    f.per_stroke = rate->per_stroke;
    f.widened = widened_by(state, block::ForecastKind::strokes, mains_measured_by(state));
    const double fastest = widening(f.widened) * rate->fastest;
    for (const StockLeft& s : read_last(board))
        f.stock_left = std::max(f.stock_left, s.left);
    f.strokes_left = f.stock_left / f.per_stroke;
    f.at_once = std::clamp(std::floor(f.stock_left / fastest), 1.0, 2.0 * f.strokes);
    return f;
}

std::vector<StrokesCame> strokes_that_came(const JobState& state) {
    std::vector<StrokesCame> all;
    const auto& passes = tunnel_of(state).tunnel_passes;
    for (std::size_t k = 1; k < passes.size(); ++k) {
        if (passes[k].pass.strokes <= 0 || passes[k - 1].pass.strokes <= 0)
            continue;
        const std::int64_t after = k + 1 < passes.size() ? passes[k + 1].sequence : now;
        // Caps that were cut in between began it anew.
        std::int64_t since = 0;
        for (const block::TakenCaps& caps : tunnel_of(state).caps_cut)
            if (caps.sequence < passes[k].sequence)
                since = std::max(since, caps.sequence);
        if (since > passes[k - 1].sequence)
            continue;
        const auto told = rate_of(Openings(state, since, passes[k].sequence).all, passes[k - 1].sequence, since);
        const Openings known(state, passes[k - 1].sequence, after);
        const Opened* came = fastest_of(known.all, passes[k].sequence, after);
        if (!told || !came || came->from < passes[k - 1].sequence)
            continue;
        // Only this go's strokes lie between what was read before it and after it.
        StrokesCame one{told->fastest, std::max(0.0, (came->by - came->unsure) / came->strokes), {}};
        one.by = mains_measured_by(state);
        all.push_back(std::move(one));
    }
    return all;
}

} // namespace pallix::planning
