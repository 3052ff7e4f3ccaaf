// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/common/assessment.h"
#include "planning/steps/step.h"
#include "wording/common/lengths.h"

#include <string>

namespace pallix::wording {

/// What a button says that answers a step: named by what was done; empty for what is answered elsewhere: by a reading,
/// a file, on paper.
[[nodiscard]] std::string answer_name(const planning::Step& step);
/// What is asked for, in a word or two: "taken", "strokes", "tool set".
[[nodiscard]] std::string ask_name(const planning::Step& step, const planning::Ask& ask);
/// What is proposed, as it would be typed; empty where nothing is.
[[nodiscard]] std::string proposed_text(const planning::Ask& ask, const LengthText& l);
/// One of an ask's choices by its key: "stop and pin it".
[[nodiscard]] std::string choice_name(const planning::Step& step, const planning::Ask& ask, const std::string& key);
/// What would follow from it, so that choices can be held side by side; empty where nothing more is known.
[[nodiscard]] std::string choice_consequence(const block::JobState& state, const planning::Assessment& a,
                                             const planning::Step& step, const std::string& key, const LengthText& l);

} // namespace pallix::wording
