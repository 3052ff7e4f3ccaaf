// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/job_state.h"
#include "planning/assessment.h"

#include <QString>
#include <vector>

namespace pallix::session {

/// The next deck height to read by hand: where, and what it should be.
struct ReadingAsked {
    std::string bank;
    block::DeckPlace place;
    std::string place_name; ///< "front, outboard"
    double expected = 0;    ///< w, mm
    std::size_t number = 0; ///< from 1
    std::size_t of = 0;
    bool needed = false; ///< nothing true is known of this deck without it
};

/// The places of one deck in order; those already read since the last cut come out as read.
/// @param bank which deck
/// @param skipped places (by index) the person has skipped
[[nodiscard]] std::optional<ReadingAsked> next_reading(const block::JobState& state,
                                                       const planning::Assessment& assessment, const std::string& bank,
                                                       const std::vector<std::size_t>& skipped);

} // namespace pallix::session
