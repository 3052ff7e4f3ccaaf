// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/ledger.h"
#include "block/shorthand.h"
#include "planning/common/assessment.h"
#include "wording/common/lengths.h"

#include <cstdint>
#include <string>
#include <vector>

namespace pallix::wording {

[[nodiscard]] std::string verdict_word(metrology::Verdict verdict);
[[nodiscard]] std::string stage_name(planning::Stage stage);
[[nodiscard]] std::string stage_word(planning::StageMark mark);
[[nodiscard]] std::string along_word(planning::Along along);
[[nodiscard]] std::string across_word(planning::Across across);
/// "0.0012 outboard"
[[nodiscard]] std::string across_text(const block::BankBlueprint& bank, double mm, const LengthText& l);
/// "rear, outboard"; "middle" where neither end nor side is meant
[[nodiscard]] std::string place_words(planning::PlaceOnDeck place);
/// "right bank", "left bank", "deck" of an inline block
[[nodiscard]] std::string bank_name(const block::BankBlueprint& bank);
[[nodiscard]] std::string pass_name(block::PassKind kind);
[[nodiscard]] std::string school_name(block::TargetSchool school);
/// What fixes z and the origin: "cam, dowel.R.1".
[[nodiscard]] std::string datum_name(const block::Blueprint& blueprint);
/// "front, outboard"
[[nodiscard]] std::string corner_words(const block::BankBlueprint& bank, bool rear, bool positive_v);

/// The call: what to do now, the number to dial in (may be empty), and why.
struct CallText {
    std::string headline;
    std::string number;
    std::vector<std::string> reasons;
    std::string caution; ///< empty where the step cannot hurt anyone
};
/// Slope, tilt and twist of a deck in words.
[[nodiscard]] std::vector<std::string> lie_sentences(const block::BankBlueprint& bank, const planning::DeckLie& lie,
                                                     const LengthText& lengths);

/// One line of a verdict: "flatness 0.0006 in, at most 0.0020 — meets".
/// A value as it was judged; where that is without the touches' noise, as it was touched beside it: " (0.019 with the
/// touches' noise)", else nothing.
[[nodiscard]] std::string touched_beside(double judged, double touched, const LengthText& l);
[[nodiscard]] std::string check_sentence(const planning::DeckCheck& check, const LengthText& lengths);
[[nodiscard]] std::string pair_sentence(const planning::PairVerdict& pair, const block::BankBlueprint& first,
                                        const LengthText& lengths);

/// What an entry says, without its bank or bore.
[[nodiscard]] std::string entry_words(const block::Payload& entry, const LengthText& l);
/// An entry of the ledger in one line.
[[nodiscard]] std::string entry_sentence(const block::Entry& entry, const block::JobState& state,
                                         const LengthText& lengths);

/// "The paper belongs to this ledger, unaltered up to entry 57 of 60 (2026-03-02).": what a digest tells.
[[nodiscard]] std::string digest_sentence(const std::vector<block::Entry>& entries, std::int64_t of);
inline constexpr const char* no_such_digest = "that is the digest of no entry of this ledger: the paper is of another "
                                              "ledger, or one of the two was altered";

} // namespace pallix::wording
