// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "workshop/practice/exercise.h"
#include "workshop/practice/reckoning.h"

#include <string>
#include <vector>

namespace pallix::workshop {

/// A copy of a real job to practise on: a block that may be this one, by what is believed of it, with the job's own
/// plans. Metal has not come off it yet.
/// @param number which of the blocks that it may be
/// @return why there is none: it was cut already, or too little was measured
[[nodiscard]] block::Result<Exercise> copy_of(const std::vector<block::Entry>& entries, std::int64_t number);

/// What the copies of a job are called.
[[nodiscard]] std::string key_of_copy(const block::JobState& state);

/// What one go at a school came to, mm.
struct TriedOnce {
    double cap_cut = 0;  ///< the largest off a cap
    double deck_cut = 0; ///< the largest off a deck
    double size = 0;     ///< of the cylinders over their nominal, the largest
    std::size_t out = 0; ///< parts that are out of their limits in truth
    double minutes = 0;
    bool finished = false;
};
/// A school is tried by somebody who follows the calls.
/// @param plans in the place of the job's own; empty: as the job is planned
/// @param times how many of the blocks that it may be
[[nodiscard]] block::Result<std::vector<TriedOnce>>
try_school(const std::vector<block::Entry>& entries, const std::vector<block::Payload>& plans, std::size_t times);

/// The least, the middle and the most of some figure of them.
struct SchoolSpread {
    double least = 0, middle = 0, most = 0;
};
[[nodiscard]] SchoolSpread spread_of(const std::vector<TriedOnce>& tried, double TriedOnce::*figure);

} // namespace pallix::workshop
