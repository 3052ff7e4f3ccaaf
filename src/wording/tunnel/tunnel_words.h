// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/tunnel/tunnel_consequences.h"
#include "planning/tunnel/tunnel_work.h"
#include "wording/common/lengths.h"
#include "wording/common/sentences.h"

#include <string>
#include <vector>

namespace pallix::wording {

inline constexpr const char* cap_caution =
    "Caps under load: brace the block, long even pulls. Guards and eyes covered at the cap grinder, no gloves.";

/// "cut all round"
[[nodiscard]] std::string bar_mark_name(block::BarMark mark);

/// "1 o'clock", as seen from the rear; 12 towards the cam.
[[nodiscard]] std::string clock_words(double clock);
/// "main 3's saddle at 1 o'clock"
[[nodiscard]] std::string binding_words(const planning::BindingPoint& point);
[[nodiscard]] std::string limit_name(planning::TunnelLimit limit);

/// What to cut, what it does to the line, and why: which places set it.
[[nodiscard]] std::vector<std::string> tunnel_plan_sentences(const planning::TunnelPlan& plan,
                                                             const LengthText& lengths);
/// What the next pass of a bar is to touch: "Cap and saddle all round: mains 1, 5. Saddle alone: main 3."
[[nodiscard]] std::vector<std::string> contact_sentences(const std::vector<planning::BarContact>& contacts);
/// What a bar asks for besides its passes.
[[nodiscard]] CallText bar_call(const planning::TunnelWork& work);
/// What to do with the tunnel now.
[[nodiscard]] CallText tunnel_call(const block::JobState& state, const planning::TunnelWork& work,
                                   const LengthText& lengths);
/// What loosening each limit buys, what one more reading saves, what the sure plan cuts.
[[nodiscard]] std::vector<std::string> study_sentences(const planning::TunnelStudy& study, const LengthText& lengths);
[[nodiscard]] std::vector<std::string> consequence_sentences(const block::Blueprint& blueprint,
                                                             const planning::TunnelConsequences& consequences,
                                                             const LengthText& lengths);
/// "At 0 in: raise by …, push … towards 3 o'clock", or that it is enough.
[[nodiscard]] std::vector<std::string> jack_sentences(const std::vector<planning::JackMove>& moves,
                                                      const LengthText& lengths);
/// Predicted against found, where they disagree.
[[nodiscard]] std::vector<std::string> prediction_sentences(const block::Blueprint& blueprint,
                                                            const std::vector<planning::CapPrediction>& predictions,
                                                            const LengthText& lengths);
/// That a later measurement will read turned.
[[nodiscard]] std::string roll_sentence(double roll);

/// What an entry of these kinds says, without its bank or bore; empty where it is of another.
[[nodiscard]] std::string entry_words(block::TunnelKinds kinds, const block::Payload& entry, const LengthText& l);

} // namespace pallix::wording
