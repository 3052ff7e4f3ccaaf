// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/steps/steps.h"
#include "wording/common/sentences.h"

#include <string>

namespace pallix::wording {

/// A step in a few words: "Read main 2, front, upright", "Bore cylinder 3 (right bank, bore 2)".
[[nodiscard]] std::string step_headline(const block::JobState& state, const planning::Step& step, const LengthText& l);
/// A step as it is called: what, the number, why, the caution of the trade. Of a step that is not the one its part of
/// the block is at, what it waits for stands for the reasons.
[[nodiscard]] CallText step_text(const block::JobState& state, const planning::Assessment& a,
                                 const planning::Step& step, const LengthText& l);
/// The one call; where nothing can be done, what the job waits for.
[[nodiscard]] CallText call_text(const block::JobState& state, const planning::Assessment& a, const LengthText& l);
/// "the main tunnel first: cut the caps"
[[nodiscard]] std::string wait_words(const block::JobState& state, const planning::Assessment& a,
                                     const planning::Wait& wait, const LengthText& l);
/// What the shop list says a job waits for.
[[nodiscard]] std::string waits_for(const block::JobState& state, const planning::Assessment& a, const LengthText& l);

[[nodiscard]] std::string rule_name(block::Rule rule);
[[nodiscard]] std::string route_name(block::RoutePreset preset);

/// What the decks, the tunnel are at, in words.
[[nodiscard]] CallText deck_call(const block::JobState& state, const planning::Assessment& a, const LengthText& l);

} // namespace pallix::wording
