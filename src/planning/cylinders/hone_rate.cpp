// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/cylinders/hone_rate.h"

#include "block/state/bore_state.h"
#include "block/state/readings_state.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <numbers>
#include <string_view>
#include <utility>

namespace pallix::planning {
namespace {

using block::BoreOperation;
using block::FeatureId;
using block::JobState;

using Sizes = std::vector<const block::TakenReading*>;

/// Sizes of the cylinders in the order they were read, sorted once: a job has many.
std::map<FeatureId, Sizes> sizes_of(const JobState& state) {
    std::map<FeatureId, Sizes> sizes;
    for (const block::TakenReading& r : readings_of(state).readings)
        if (r.reading.at.feature.kind == block::FeatureKind::bore && r.reading.at.quantity == block::Quantity::size)
            sizes[r.reading.at.feature].push_back(&r);
    return sizes;
}

/// By place, the newest of each in a stretch of the ledger.
std::map<std::pair<std::string_view, std::string_view>, const block::TakenReading*>
sizes_between(const Sizes& sizes, std::int64_t from, std::int64_t until) {
    std::map<std::pair<std::string_view, std::string_view>, const block::TakenReading*> newest;
    for (const block::TakenReading* r : sizes)
        if (r->sequence > from && r->sequence < until)
            newest[{r->reading.at.level, r->reading.at.direction}] = r;
    return newest;
}

/// Mean over the places that were measured before and after; nothing where that is no more than they may be off.
std::optional<double> opened(const Sizes& sizes, std::int64_t last, std::int64_t cut, std::int64_t next) {
    const auto before = sizes_between(sizes, last, cut), after = sizes_between(sizes, cut, next);
    double sum = 0, off = 0;
    std::size_t n = 0;
    for (const auto& [key, size] : after)
        if (const auto was = before.find(key); was != before.end()) {
            sum += size->value - was->second->value;
            off = std::max(off, 2 * std::numbers::sqrt2 * size->fixed.value_or(0.0025));
            ++n;
        }
    if (n == 0)
        return std::nullopt;
    const double mean = sum / static_cast<double>(n);
    return mean > off / std::sqrt(static_cast<double>(n)) ? std::optional(mean) : std::nullopt;
}

constexpr double one_bore = 0.8, past = 1.05;

} // namespace

std::map<std::string, HoneRate> hone_rates(const JobState& state) {
    struct Sum {
        HoneRate rate;
        double opened = 0, loads = 0, loaded = 0;
    };
    std::map<std::string, Sum> sums;
    const std::map<FeatureId, Sizes> sizes = sizes_of(state);
    for (const auto& [id, work] : bores_of(state).bores) {
        const auto read = sizes.find(id);
        if (read == sizes.end())
            continue;
        for (std::size_t i = 0; i < work.cuts.size(); ++i) {
            const block::BoreCut& cut = work.cuts[i].payload;
            if (cut.operation != BoreOperation::hone || cut.strokes <= 0 || cut.step.empty())
                continue;
            const auto by =
                opened(read->second, i > 0 ? work.cuts[i - 1].sequence : 0, work.cuts[i].sequence,
                       i + 1 < work.cuts.size() ? work.cuts[i + 1].sequence : std::numeric_limits<std::int64_t>::max());
            if (!by)
                continue;
            Sum& sum = sums[cut.step];
            sum.opened += *by;
            sum.rate.strokes += cut.strokes;
            if (std::ranges::find(sum.rate.from, id) == sum.rate.from.end())
                sum.rate.from.push_back(id);
            if (cut.load) {
                sum.loads += *cut.load * cut.strokes;
                sum.loaded += cut.strokes;
            }
        }
    }
    std::map<std::string, HoneRate> rates;
    for (auto& [grit, sum] : sums) {
        sum.rate.per_stroke = sum.opened / sum.rate.strokes;
        sum.rate.load = sum.loaded > 0 ? sum.loads / sum.loaded : 0;
        rates[grit] = std::move(sum.rate);
    }
    return rates;
}

std::optional<double> size_by_rate(const JobState& state, const FeatureId& bore,
                                   const std::map<std::string, HoneRate>& rates) {
    const auto& cuts = bores_of(state).bore(bore).cuts;
    const auto sizes = sizes_of(state);
    const auto read = sizes.find(bore);
    if (cuts.empty() || read == sizes.end())
        return std::nullopt;
    const auto rate = rates.find(cuts.back().payload.step);
    const auto before =
        sizes_between(read->second, cuts.size() > 1 ? cuts[cuts.size() - 2].sequence : 0, cuts.back().sequence);
    if (rate == rates.end() || before.empty())
        return std::nullopt;
    double sum = 0;
    for (const auto& [place, size] : before)
        sum += size->value;
    return sum / static_cast<double>(before.size()) + rate->second.per_stroke * cuts.back().payload.strokes;
}

std::optional<double> strokes_for(const HoneRate& rate, double stock, std::optional<double> load) {
    if (!(rate.per_stroke > 0) || !(stock > 0))
        return std::nullopt;
    const double faster = load && *load > 0 && rate.load > 0 ? *load / rate.load : 1;
    const double strokes = stock / (rate.per_stroke * faster);
    return std::max(1.0, rate.from.size() > 1 ? std::ceil(past * strokes) : std::floor(one_bore * strokes));
}

} // namespace pallix::planning
