// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/entries/kinds.h"

#include <cstdint>
#include <string>

namespace pallix::block {

// A job that is no job: a block that is not there, to learn or to try on.

/// The block is practice, from here on and for good. How it really is stands here sealed until somebody opens it.
struct PracticeBegun {
    std::string exercise;    ///< its key, "bowed_tunnel"; of a shop's own the name it was given
    std::int64_t number = 1; ///< the same number is the same block everywhere
    std::int64_t level = 1;  ///< from 1, the easiest, to 3
    std::string story;       ///< what the harbour tells of it
    std::string wanted;      ///< what is asked
    std::string sealed;      ///< the truth, as `sealed_text` writes it
    std::string sha256;      ///< of the truth's text, hexadecimal
    bool operator==(const PracticeBegun&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<PracticeBegun> = "practice";
inline void fields(Fields& f, PracticeBegun& p) {
    f.text("exercise", p.exercise);
    f.demand(!p.exercise.empty(), "exercise", "is empty", "its name");
    f.whole("number", p.number, {1, 1e9});
    f.whole("level", p.level, {1, 3});
    f.text_if("story", p.story, 10 * short_text);
    f.text_if("wanted", p.wanted, 10 * short_text);
    f.text("sealed", p.sealed, long_text);
    f.text("sha256", p.sha256);
    f.demand(p.sha256.size() == 64, "sha256", "is \"" + p.sha256 + "\"", "64 hexadecimal digits");
}

/// The truth was looked at: the exercise is over, and what follows does not count.
struct TruthOpened {
    double score = 0; ///< 0 to 100, of what was done until here
    bool operator==(const TruthOpened&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<TruthOpened> = "truth_opened";
inline void fields(Fields& f, TruthOpened& p) {
    f.number("score", p.score, {0, 100});
}

using PracticeKinds = Kinds<PracticeBegun, TruthOpened>;

} // namespace pallix::block
