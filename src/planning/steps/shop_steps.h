// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/entries/shop_entries.h"
#include "planning/steps/answer.h"
#include "planning/steps/step.h"

#include <optional>
#include <string>
#include <vector>

namespace pallix::planning {

class Route;

/// Lines of the job card, parts, holds, clocks, what is looked over before anything is measured: each can be answered
/// at any time, and none is called for.
[[nodiscard]] std::vector<Step> shop_steps(const block::JobState& state);

/// What waits for a part, a person or a clock.
void hold_for_shop(Route& route);

/// With a learner at the bench: what a cut hangs on is read twice, and somebody else answers for the first of each kind
/// that cannot be undone, and for every decision.
void guard_learner(StepList& list, const block::JobState& state);
/// What has to be signed before a step; empty where nothing has.
[[nodiscard]] std::string to_be_signed(const Step& step);

/// The entries of a step of these; nothing where it is none.
[[nodiscard]] std::optional<std::vector<block::Payload>> shop_answer(const block::JobState& state, const Step& step,
                                                                     const Answers& answers, const std::string& at);

/// A day as people type it: "2026-12-04", "+14", "14 days", "2 weeks".
/// @param at UTC, ISO 8601: days from then on
/// @return nothing where it is none
[[nodiscard]] std::optional<std::string> day_typed(const std::string& typed, const std::string& at);

/// Stages that a job may do without.
inline constexpr std::array optional_stages{block::Stage::tunnel,  block::Stage::decks,   block::Stage::cylinders,
                                            block::Stage::lifters, block::Stage::mock_up, block::Stage::finish};

} // namespace pallix::planning
