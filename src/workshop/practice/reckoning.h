// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/ledger.h"
#include "planning/common/outcomes.h"
#include "planning/practice/coach.h"
#include "workshop/practice/practice_bench.h"
#include "workshop/practice/shape.h"

#include <array>
#include <map>
#include <optional>
#include <string>
#include <vector>

namespace pallix::workshop {

/// What a score is made of.
enum class ScorePart {
    block,     ///< what was asked for is good in truth
    metal,     ///< no more came off than had to
    judgement, ///< nothing was gone on against, and nothing cut that was not called for
    readings,  ///< none that was wrong went in, few that changed nothing
    honesty,   ///< what is said of the block is true of it
};
inline constexpr std::array score_part_keys{"block", "metal", "judgement", "readings", "honesty"};
inline constexpr std::array score_part_most{35.0, 20.0, 20.0, 10.0, 15.0};

/// Something that was asked for, as it truly is now.
struct PartLeft {
    std::string about; ///< "main.3", "tunnel", "deck.R", "bore.C.2"
    double out = 0;    ///< mm out of its window or limit; 0 and less is good
    bool good = false;
    std::optional<double> least{}, most{}; ///< mm, between which its size is to be
};
/// Metal that came off, mm; what had to, by all that can be read, and by who knew the truth.
struct MetalOff {
    std::string about;
    double taken = 0;
    double knowable = 0;
    double needed = 0;
};
/// What the program said of the block at the end, and whether it is so.
struct Claim {
    planning::Told what{};
    std::string bank;
    metrology::Verdict said{};
    bool good = false; ///< in truth
    [[nodiscard]] bool honest() const;
};
struct RemarkAt {
    std::int64_t sequence = 0;
    planning::Remark remark;
};
/// What it takes off the judgement, points; those for readings alone take nothing of it.
[[nodiscard]] double cost_of(const planning::Remark& remark);
/// A reading that was wrong by more than its gauge can explain, and was believed.
struct SlipTaken {
    std::int64_t sequence = 0;
    std::string about;
    double by = 0; ///< mm, read less true
};

/// What came of an exercise, held against the truth.
struct Reckoning {
    std::vector<PartLeft> left;
    std::vector<Shape> shapes; ///< of what was asked for
    std::vector<MetalOff> metal;
    std::vector<RemarkAt> remarks;
    std::vector<SlipTaken> slips;
    std::vector<Claim> claims;
    std::size_t readings = 0, needless = 0;
    bool finished = false;                              ///< nothing is open that the exercise asks for
    double minutes = 0;                                 ///< by the ledger
    std::array<double, score_part_keys.size()> parts{}; ///< of the most in `score_part_most`
    [[nodiscard]] double score() const;
};

/// How an exercise stands, by its whole ledger up to where the truth was opened.
/// @return why it cannot be told: it is no practice, or its seal is broken
[[nodiscard]] block::Result<Reckoning> reckon(const std::vector<block::Entry>& entries);

/// The truth that a practice job keeps sealed.
[[nodiscard]] block::Result<HiddenTruth> hidden_truth(const block::JobState& state);

} // namespace pallix::workshop
