// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/forward.h"
#include "block/ledger.h"
#include "planning/practice/coach.h"
#include "wording/common/lengths.h"
#include "workshop/practice/reckoning.h"
#include "workshop/practice/school.h"

#include <string>
#include <vector>

namespace pallix::wording {

/// What stands wherever a block that is not there could be taken for one that is.
inline constexpr const char* practice_mark = "practice, no block";

/// "main 3", "right bank deck", "main tunnel"; what it is not known by is said as it is.
[[nodiscard]] std::string about_words(const block::JobState& state, const std::string& about);
/// What somebody with experience says of it.
[[nodiscard]] std::string remark_words(const block::JobState& state, const planning::Remark& remark,
                                       const LengthText& l);
/// What a reading means: how it lies to its window, and what is called for now.
/// @param state with the reading in it
[[nodiscard]] std::string reading_meaning(const block::JobState& state, const planning::Assessment& a,
                                          const block::Reading& reading, const LengthText& l);

[[nodiscard]] std::string score_part_name(workshop::ScorePart part);
/// "as planned", "tunnel: hone, caps equal", "cylinders: on the unworn top".
[[nodiscard]] std::string school_words(const workshop::School& school);
[[nodiscard]] std::string tried_figure_name(workshop::TriedFigure figure);
/// "9 of 10 good"; what was not finished is said as well.
[[nodiscard]] std::string tried_words(const std::vector<workshop::TriedOnce>& tried);
/// What is drawn, as it is headed.
[[nodiscard]] std::string shape_name(const block::Blueprint& blueprint, const workshop::Shape& shape);
/// What it came to, in one sentence.
[[nodiscard]] std::string score_sentence(const workshop::Reckoning& r);
/// What went wrong, the worst first, a sentence each; empty where nothing did.
[[nodiscard]] std::vector<std::string> reckoning_sentences(const block::JobState& state, const workshop::Reckoning& r,
                                                           const LengthText& l);

} // namespace pallix::wording
