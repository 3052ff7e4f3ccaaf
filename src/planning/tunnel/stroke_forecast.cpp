// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/tunnel/stroke_forecast.h"

#include "block/state/tunnel_state.h"
#include "planning/tunnel/tunnel_sizes.h"

#include <algorithm>
#include <cmath>
#include <iterator>
#include <limits>
#include <numbers>

namespace pallix::planning {
namespace {

using block::JobState;

/// By how much the place opened fastest that was read before and after a go, and by how much both readings may be off.
struct Opened {
    double by = 0, unsure = 0; ///< mm
    [[nodiscard]] bool told() const { return by > unsure; }
};
/// @param until entry before which what was read counts as after it
Opened opened_by(const JobState& state, std::int64_t pass, std::int64_t until) {
    const auto before = last_sizes(state, pass), after = last_sizes(state, until);
    Opened most;
    for (const auto& [key, size] : after)
        if (const auto old = before.find(key); old != before.end() && size->sequence > pass)
            if (const double by = size->value - old->second->value; by > most.by)
                most = {by, 2 * std::numbers::sqrt2 * size->fixed.value_or(0.0025)};
    return most;
}

} // namespace

std::vector<StockLeft> read_last(const std::vector<StockLeft>& board) {
    std::vector<StockLeft> fresh;
    std::ranges::copy_if(board, std::back_inserter(fresh), [](const StockLeft& s) { return !s.stale; });
    return fresh.empty() ? board : fresh;
}

std::optional<StrokeForecast> forecast_strokes(const JobState& state, const block::TakenPass& pass, std::int64_t since,
                                               const std::vector<StockLeft>& board) {
    if (board.empty() || pass.pass.strokes <= 0)
        return std::nullopt;
    const Opened last = opened_by(state, pass.sequence, std::numeric_limits<std::int64_t>::max());
    if (!last.told())
        return std::nullopt;
    StrokeForecast f;
    f.strokes = pass.pass.strokes;
    f.per_stroke = last.by / f.strokes;
    double fastest = (last.by + last.unsure) / f.strokes;
    const auto& passes = tunnel_of(state).tunnel_passes;
    const block::TakenPass* before = passes.size() > 1 ? &passes[passes.size() - 2] : nullptr;
    const Opened earlier =
        before && before->sequence > since ? opened_by(state, before->sequence, pass.sequence) : Opened{};
    constexpr double alike = 0.7, late_start = 8;
    const bool borne_out = earlier.told() && earlier.by / std::max(1, before->pass.strokes) > alike * f.per_stroke;
    fastest = borne_out ? std::max(fastest, earlier.by / before->pass.strokes) : late_start * fastest;
    for (const StockLeft& s : read_last(board))
        f.stock_left = std::max(f.stock_left, s.left);
    f.strokes_left = f.stock_left / f.per_stroke;
    f.at_once = std::clamp(std::floor(f.stock_left / fastest), 1.0, 2.0 * f.strokes);
    return f;
}

} // namespace pallix::planning
