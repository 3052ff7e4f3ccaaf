// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/entries/memory_entries.h"
#include "block/forward.h"

#include <optional>
#include <string>

namespace pallix::planning {

/// Whose readings a forecast rests on, and with what they were taken.
struct MeasuredBy {
    std::string gauge;  ///< "probe" of a log; empty where nothing tells
    std::string person; ///< of readings by hand
    bool operator==(const MeasuredBy&) const = default;
};

/// How blocks like this one are, as far as the shop's experience was copied into the job.
/// @param about "deck.R", "bore.R.2"; empty of the whole block
[[nodiscard]] std::optional<block::UsualTrait> usual_of(const block::JobState& state, block::Trait trait,
                                                        const std::string& about = "");

/// The record of such forecasts that has them stretched furthest: of all, of that gauge, of that person. The same
/// ledger gives the same, whatever the shop has seen since.
/// @return nothing where they held as often as they say, or nobody has counted
[[nodiscard]] std::optional<block::ForecastRecord> widened_by(const block::JobState& state, block::ForecastKind kind,
                                                              const MeasuredBy& by);
/// @return 1 where there is none
[[nodiscard]] inline double widening(const std::optional<block::ForecastRecord>& record) {
    return record ? record->widen : 1;
}

/// Of the heights of a bank as last measured.
[[nodiscard]] MeasuredBy deck_measured_by(const block::JobState& state, const std::string& bank);
/// Of the mains as last measured.
[[nodiscard]] MeasuredBy mains_measured_by(const block::JobState& state);

} // namespace pallix::planning
