// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/forward.h"
#include "planning/common/outcomes.h"
#include "wording/common/lengths.h"

#include <string>
#include <vector>

namespace pallix::wording {

/// "main tunnel, straightness"; "right bank, deck height"
[[nodiscard]] std::string told_name(const block::JobState& state, const planning::Outcome& outcome);
/// "73.990 to 73.998"; one number where both ends read alike; signed where its sense matters.
[[nodiscard]] std::string span_text(const planning::Outcome& outcome, const std::optional<planning::Span>& span,
                                    const LengthText& l);
/// "at most 0.050", "214.950 to 215.050"; empty without one
[[nodiscard]] std::string limits_text(const metrology::Limits& limits, const LengthText& l);
/// The verdict; "not measured since it was cut", "no limit".
[[nodiscard]] std::string standing_words(const planning::Outcome& outcome);

/// All of them in one look: "All 7 that have a limit meet it.", "1 of 7 fails: right bank, deck flatness. 2 were cut
/// and not measured since: …"
[[nodiscard]] std::string overall_sentence(const block::JobState& state, const std::vector<planning::Outcome>& all);

/// "The work is not finished: decks and cylinders ask for something yet."; empty where nothing is open.
[[nodiscard]] std::string still_open_sentence(const planning::Assessment& assessment);

/// The sizes somebody would look for years later, as the block is now: "main 73.990 to 73.998", "bore R 84.520".
[[nodiscard]] std::vector<std::string> key_sizes(const block::JobState& state, const planning::Assessment& assessment,
                                                 const LengthText& l);
/// What is to be engraved, by the shop's line: {serial}, {bore}, {main}, {deck} are filled in as the block is now.
[[nodiscard]] std::string engraving_line(const std::string& pattern, const block::JobState& state,
                                         const planning::Assessment& assessment, const LengthText& l);

} // namespace pallix::wording
