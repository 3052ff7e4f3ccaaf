// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/forward.h"
#include "planning/common/outcomes.h"
#include "wording/common/lengths.h"

#include <string>
#include <vector>

namespace pallix::wording {

/// What the block's owner is told, sentence by sentence, in plain words with the trade's own in brackets. Each follows
/// from something that was measured, cut or decided; nothing else is said.
struct CustomerReport {
    std::vector<std::string> found;     ///< as the block came
    std::vector<std::string> done;      ///< what was done to it
    std::vector<std::string> otherwise; ///< why, and what would have come of leaving it
    std::vector<std::string> now;       ///< how good it is
    std::vector<std::string> watch;     ///< what to look after, and what nobody vouches for
};
[[nodiscard]] CustomerReport customer_report(const block::JobState& state, const planning::Assessment& assessment,
                                             const LengthText& l);

/// All of it in one look: what is right, and how much is not, or not known.
[[nodiscard]] std::string owner_sentence(const std::vector<planning::Outcome>& all);

// ---- its sentences, one by one ------------------------------------------------------------------------------------

/// "The face that the cylinder head sits on, right bank (deck), was uneven by 0.082 mm; at most 0.050 mm is right."
[[nodiscard]] std::string found_sentence(const block::JobState& state, const planning::Outcome& outcome,
                                         const LengthText& l);
/// Empty where nobody has measured it as it is.
[[nodiscard]] std::string now_sentence(const block::JobState& state, const planning::Outcome& outcome,
                                       const LengthText& l);
/// What would have come of leaving it; empty where it was not worked on, or was in its limits when the block came.
[[nodiscard]] std::string otherwise_sentence(const planning::Outcome& outcome);
/// What is wrong, in doubt or unproven of it; empty where nothing is.
[[nodiscard]] std::string watch_sentence(const block::JobState& state, const planning::Outcome& outcome);

} // namespace pallix::wording
