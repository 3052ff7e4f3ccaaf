// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/cylinders/cylinder_work.h"
#include "planning/lifters/lifter_plan.h"
#include "wording/common/lengths.h"
#include "wording/common/sentences.h"

#include <string>
#include <vector>

namespace pallix::wording {

[[nodiscard]] std::string lifter_choice_name(block::LifterChoice choice);
[[nodiscard]] std::string lifter_school_name(block::LifterSchool school);
[[nodiscard]] std::string lifter_reason_words(planning::LifterReason reason);
/// Cam degrees and the same at the crankshaft: "0.93° late, 1.85° at the crankshaft".
[[nodiscard]] std::string timing_words(double cam_angle);

/// One lifter: what becomes of it and why, clearance, timing, its bush.
[[nodiscard]] std::vector<std::string> lifter_sentences(const block::JobState& state, const planning::LifterWork& work,
                                                        const block::FeatureId& lifter, const LengthText& l);
/// Spread of timing before, as planned, as probed since.
[[nodiscard]] std::string spread_sentence(const planning::LifterWork& work);
/// What to do with the lifters now.
[[nodiscard]] CallText lifter_call(const block::JobState& state, const planning::LifterWork* work, const LengthText& l);

/// Where presses and bars work: said at the step.
inline constexpr const char* bore_caution =
    "Guards shut, eyes covered, no gloves or sleeves near the bar. Stop it and see it stopped before clearing chips or "
    "reaching into the bore.";
inline constexpr const char* press_caution =
    "Stand aside of the press and keep hands clear; a sleeve can burst or jump. Hot metal does not look hot.";

/// What an entry of these kinds says, without its bank or bore; empty where it is of another.
[[nodiscard]] std::string entry_words(block::LifterKinds kinds, const block::Payload& entry, const LengthText& l);

} // namespace pallix::wording
