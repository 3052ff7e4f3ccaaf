// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/forward.h"
#include "planning/common/assessment.h"
#include "planning/common/blueprint_check.h"
#include "wording/common/lengths.h"

namespace pallix::wording {

/// "cylinder 1 (bore 1) and cylinder 2 (bore 2) overlap by 1.200 mm."
[[nodiscard]] std::string doubt_words(const block::Blueprint& blueprint, const planning::BlueprintDoubt& doubt,
                                      const LengthText& l);

/// A blueprint in a few lines: what it has, what it leaves out, what looks wrong.
[[nodiscard]] std::vector<std::string> blueprint_sentences(const block::Blueprint& blueprint, const LengthText& l);

/// What differs between two blueprints, figure by figure: "main 2: 58 +0.013 0 becomes 58.01 +0.013 0".
[[nodiscard]] std::vector<std::string> blueprint_changes(const block::Blueprint& before, const block::Blueprint& after,
                                                         const LengthText& l);

/// What follows for a job from amending its blueprint: verdicts, positions, what comes next.
[[nodiscard]] std::vector<std::string> amendment_changes(const block::JobState& before, const planning::Assessment& was,
                                                         const block::JobState& after, const planning::Assessment& is,
                                                         const LengthText& l);

} // namespace pallix::wording
