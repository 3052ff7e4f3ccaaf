// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/forward.h"
#include "block/state/tunnel_state.h"
#include "planning/common/experience.h"
#include "planning/tunnel/tunnel_work.h"

#include <cstdint>
#include <optional>
#include <vector>

namespace pallix::planning {

/// What was read since the strokes is what is left; all of it, where nothing was.
[[nodiscard]] std::vector<StockLeft> read_last(const std::vector<StockLeft>& board);

/// Stones cut where the bore is tightest first: the place that opened fastest says what they take, and the others take
/// as much once they are met. They may have met it only towards the end of a go: until a second one bears it out, what
/// they take may be eight times as much. Nothing as long as no place opened by more than its readings may be off.
/// @param pass the last
/// @param since entry from which on passes are of this campaign
[[nodiscard]] std::optional<StrokeForecast> forecast_strokes(const block::JobState& state, const block::TakenPass& pass,
                                                             std::int64_t since, const std::vector<StockLeft>& board);

/// What a stroke of a go was foretold to take by the goes before it, and what it took where the bore opened fastest.
struct StrokesCame {
    double fastest = 0; ///< mm on diameter, the most that was foretold
    double rate = 0;    ///< mm, as it came, as far as readings tell
    MeasuredBy by;
};
/// Go by go of all campaigns, those with a go and sizes before and sizes after them.
[[nodiscard]] std::vector<StrokesCame> strokes_that_came(const block::JobState& state);

} // namespace pallix::planning
