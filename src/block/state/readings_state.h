// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/entries/reading_entries.h"
#include "block/forward.h"
#include "block/state/measured.h"
#include "block/state/taken.h"

#include <map>
#include <string>
#include <vector>

namespace pallix::block {

/// What was measured by hand.
struct ReadingsState {
    std::vector<TakenReading> readings; ///< all that are not struck, in order
    std::vector<MeasuredPlace> places;  ///< what they say, place by place
    Conditions conditions;              ///< as last stated
    /// The torque plate came off that was on before, and nobody has said since that the work goes on without.
    bool plate_came_off = false;
    std::vector<TakenCheck> checks;                         ///< of instruments against something known
    std::vector<RepeatabilityTest> repeats;                 ///< tests of instruments
    std::map<std::string, ReadingPlanChosen> reading_plans; ///< by their name
    std::optional<Taken<GaugeStudyBegun>> study;            ///< the last

    [[nodiscard]] const MeasuredPlace* place(const MeasuredAt& at) const;
};

[[nodiscard]] const ReadingsState& readings_of(const JobState& state);
[[nodiscard]] ReadingsState& readings_of(JobState& state);

/// Why a size counts for nothing that was read before the block had rested.
inline constexpr const char* still_warm = "read before the block had rested";

} // namespace pallix::block
