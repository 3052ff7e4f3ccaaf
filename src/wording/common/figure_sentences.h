// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/common/assessment.h"
#include "planning/common/figures.h"
#include "wording/common/lengths.h"

#include <optional>
#include <string>
#include <vector>

namespace pallix::wording {

/// What a sentence of figures speaks of.
enum class FiguresOf {
    limits,
    tunnel,
    decks,
    head,
    cutter,
    mock_up,
    balance,
    cylinder_size,
    boring,
    honing,
    texture,
    sleeve,
    lifters
};

/// A stretch of a sentence: words, or a figure that can be edited where it stands.
struct SentencePart {
    std::string words;
    std::string figure{}; ///< its address; empty for plain words
    std::string name{};   ///< what the figure is, for whoever hears it
    bool gap = false;     ///< not stated
};
using FigureSentence = std::vector<SentencePart>;

/// What a plan stands on, in one sentence whose first clause says the most. Page, passport and work sheet say it alike.
/// @param marked the bore that is spoken of
[[nodiscard]] FigureSentence figure_sentence(FiguresOf what, const block::JobState& state,
                                             const planning::Assessment& a,
                                             const std::optional<block::FeatureId>& marked, const LengthText& l);
/// The sentence as plain words.
[[nodiscard]] std::string plain_words(const FigureSentence& sentence);

/// A figure as it is shown and typed: "0.055", "cast"; empty where it is not stated.
[[nodiscard]] std::string figure_text(const block::JobState& state, const planning::Figure& figure,
                                      const LengthText& l);
/// What a figure that is a choice or a flag can be, in the order of its places.
[[nodiscard]] std::vector<std::string> figure_choices(const planning::Figure& figure);

} // namespace pallix::wording
