// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "workshop/practice/exercise.h"
#include "workshop/practice/reckoning.h"

#include <array>
#include <string>
#include <utility>
#include <vector>

namespace pallix::workshop {

/// A copy of a real job to practise on: a block that may be this one, by what is believed of it, with the job's own
/// plans. Metal has not come off it yet.
/// @param number which of the blocks that it may be
/// @return why there is none: it was cut already, or too little was measured
[[nodiscard]] block::Result<Exercise> copy_of(const std::vector<block::Entry>& entries, std::int64_t number);

/// What the copies of a job are called.
[[nodiscard]] std::string key_of_copy(const block::JobState& state);

/// One way of planning a job: in one point other than it is planned, or in none.
struct School {
    std::vector<block::Payload> plans; ///< a tunnel policy, a deck target or a plan of the cylinders; none: as it is
};
/// The job as it is planned, and every other way that asks for no number nobody gave.
[[nodiscard]] std::vector<School> schools_of(const block::JobState& state);

/// What one go at a school came to, mm.
struct TriedOnce {
    double cap_cut = 0;  ///< the largest off a cap
    double deck_cut = 0; ///< the largest off a deck
    double size = 0;     ///< of the cylinders over their nominal, the largest
    double minutes = 0;
    std::size_t out = 0; ///< parts that are out of their limits in truth
    bool finished = false;
    [[nodiscard]] bool good() const { return finished && out == 0; }
};
using TriedFigure = double TriedOnce::*;
inline constexpr std::array<std::pair<const char*, TriedFigure>, 4> tried_figures{{{"cap_cut", &TriedOnce::cap_cut},
                                                                                   {"deck_cut", &TriedOnce::deck_cut},
                                                                                   {"size", &TriedOnce::size},
                                                                                   {"minutes", &TriedOnce::minutes}}};

/// A school is tried by somebody who follows the calls.
/// @param plans in the place of the job's own; empty: as the job is planned
/// @param number which of the blocks that it may be
[[nodiscard]] block::Result<TriedOnce> try_once(const std::vector<block::Entry>& entries,
                                                const std::vector<block::Payload>& plans, std::int64_t number);
/// @param times how many of the blocks that it may be, from the first
[[nodiscard]] block::Result<std::vector<TriedOnce>>
try_school(const std::vector<block::Entry>& entries, const std::vector<block::Payload>& plans, std::size_t times);

/// The least, the middle and the most of some figure of them.
struct SchoolSpread {
    double least = 0, middle = 0, most = 0;
};
[[nodiscard]] SchoolSpread spread_of(const std::vector<TriedOnce>& tried, TriedFigure figure);

} // namespace pallix::workshop
