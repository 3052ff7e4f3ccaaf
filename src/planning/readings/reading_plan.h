// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/entries/memory_entries.h"
#include "block/forward.h"
#include "block/ledger.h"
#include "block/shorthand.h"
#include "block/state/measured.h"
#include "planning/readings/measuring.h"
#include "planning/steps/step.h"

#include <optional>
#include <string>
#include <vector>

namespace pallix::planning {

/// A line a straightedge is laid along.
struct EdgeLine {
    std::string name;         ///< "inboard", "diagonal from front, outboard", "between 1 and 2"
    metrology::Vec2 from, to; ///< (u, v) mm
};
[[nodiscard]] std::vector<EdgeLine> edge_lines(const block::Blueprint& blueprint, const std::string& bank);

/// Every place the trade reads, in its order (common practice, no source).
[[nodiscard]] std::vector<block::MeasuredAt> usual_places(const block::Blueprint& blueprint, Measuring what,
                                                          const std::string& bank);
/// All that can be read, the usual ones among them: every cylinder's piston, not only those at the corners; a deck on
/// both sides and in the middle between all bores.
[[nodiscard]] std::vector<block::MeasuredAt> all_places(const block::Blueprint& blueprint, Measuring what,
                                                        const std::string& bank);
/// The places as the shop has chosen them for this job; the usual ones where nothing was chosen.
[[nodiscard]] std::vector<block::MeasuredAt> chosen_places(const block::JobState& state, Measuring what,
                                                           const std::string& bank);

/// The next reading: where, and what it should be.
struct AskedReading {
    block::MeasuredAt at;
    double expected = 0;    ///< mm (mm per m, °C)
    double believable = 0;  ///< the same unit: a deviation beyond it is asked about
    std::size_t number = 0; ///< from 1, of the place in its plan
    std::size_t of = 0;
    std::size_t reading = 1; ///< 1, or 2 where it is read a second time
    /// What the shop's other blocks of the kind make one expect, where that was copied into the job, and how much of
    /// `expected` that is.
    std::optional<block::UsualTrait> usual{};
    double usual_share = 0;                                                ///< mm
    [[nodiscard]] double target() const { return expected - usual_share; } ///< what the blueprint means, or a cut left
};

struct ReadingWish {
    Measuring what = Measuring::deck_heights;
    std::string bank;
    bool every_place_twice = false;            ///< for a learner, where a cut depends on it
    std::vector<std::string> skipped;          ///< keys left for later
    std::optional<std::string> once_more;      ///< key asked for again
    std::optional<block::FeatureId> feature{}; ///< only this one, where its turn has come
    std::int64_t since = 0;                    ///< entry that readings must be newer than to count as read
};

/// @return nothing once every place was read since it was last cut
[[nodiscard]] std::optional<AskedReading> next_reading(const block::JobState& state, const ReadingWish& wish);

/// The reading of this kind that the list of steps asks for first; nothing where it asks for none.
[[nodiscard]] std::optional<AskedReading> next_called(const block::JobState& state, const StepList& steps,
                                                      const ReadingWish& wish);

/// What the reading is held against before it counts: what is expected, the zero of the gauge, the same place before,
/// the places beside it.
[[nodiscard]] block::Expected expectation(const block::JobState& state, const AskedReading& asked,
                                          const block::Instrument& instrument, block::Unit bench);

/// Whether a cut depends on what is measured, so that a learner reads it twice.
[[nodiscard]] bool decides_a_cut(Measuring what);

} // namespace pallix::planning
