// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/entries/reading_entries.h"
#include "block/forward.h"
#include "metrology/gauge_study.h"
#include "planning/readings/measuring.h"

#include <optional>
#include <string>
#include <vector>

namespace pallix::planning {

/// What is to be read next for a gauge study.
struct StudyReading {
    block::MeasuredAt at;
    std::string person;
    std::size_t trial = 0;          ///< from 1
    std::size_t number = 0, of = 0; ///< from 1, of all readings of the study
};

/// How far a gauge study has come.
struct StudyStanding {
    block::GaugeStudyBegun study;
    std::int64_t begun = 0;           ///< entry
    std::optional<StudyReading> next; ///< of whoever's turn it is; nothing where all were read, or it is spoilt
    bool spoilt = false;              ///< what was read was cut since: its parts are others now
    metrology::GaugeStudy read;       ///< mm; whole where nothing is left and it is not spoilt
    [[nodiscard]] bool complete() const { return !next && !spoilt; }
};

/// Trial by trial, within a trial person by person, each in an order of their own that nobody knows beforehand (AIAG,
/// Measurement Systems Analysis, 4th edition, III B: "in random order"). Whoever is at the bench and has something left
/// of the trial goes first; the others' readings wait.
/// @param person at the bench
/// @return nothing where none was begun
[[nodiscard]] std::optional<StudyStanding> study_standing(const block::JobState& state, const std::string& person);

/// The places a study can be made of: those of a plan that are read as lengths from this gauge.
[[nodiscard]] std::vector<block::MeasuredAt> study_places(const block::JobState& state, Measuring what,
                                                          const std::string& bank);

} // namespace pallix::planning
