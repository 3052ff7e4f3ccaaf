// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/forward.h"
#include "planning/shop/kind_memory.h"
#include "wording/common/lengths.h"

#include <optional>
#include <string>

namespace pallix::wording {

/// "core shift along": a trait, and of what: "right bank: core shift along".
[[nodiscard]] std::string trait_name(const block::JobState& state, const planning::TraitOf& what);
/// What a length of it means: "proud", "back"; empty where a sign says nothing.
[[nodiscard]] std::string trait_length(const block::JobState& state, const planning::TraitOf& what, double value,
                                       const LengthText& l);
/// What is usual and how this block stands to it: "usually 0.004 mm proud, by 0.002 mm more or less: 7 of 9; this block
/// 0.005 mm proud". Of too few blocks what each has.
[[nodiscard]] std::string memory_sentence(const block::JobState& state, const planning::TraitMemory& memory,
                                          const LengthText& l);

/// "usually 0.031 mm over, by 9 blocks of this kind": what the shop's experience makes one expect.
[[nodiscard]] std::string usual_words(const block::JobState& state, const block::UsualTrait& usual,
                                      const LengthText& l);

/// "what comes off a deck"
[[nodiscard]] std::string forecast_name(block::ForecastKind kind);
/// Why an interval is wider than its readings alone make it: ", 1.6 times as wide as the readings have it: of 14 such
/// forecasts here 9 held"; empty where it is not.
[[nodiscard]] std::string widened_words(const std::optional<block::ForecastRecord>& record);
/// "9 of 14 held, 14 should; new jobs have 1.6 times the readings' own width".
[[nodiscard]] std::string record_words(const block::ForecastRecord& record);

} // namespace pallix::wording
