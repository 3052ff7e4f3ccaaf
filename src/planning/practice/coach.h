// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/entries/route_entries.h"
#include "block/forward.h"
#include "block/ledger.h"

#include <array>
#include <optional>
#include <string>
#include <vector>

namespace pallix::planning {

struct Assessment;

/// How much somebody who has done it often says to whoever practises.
enum class CoachDepth {
    silent,
    remarks, ///< what such a person would remark, when it matters
    explains ///< that, and what each reading means
};
inline constexpr std::array coach_depth_keys{"silent", "remarks", "explains"};

/// What is worth remarking on, by the rules of the list of steps alone: nobody looks into the truth for it.
enum class RemarkKind {
    against_rule, ///< a gate was passed
    left_out,     ///< a step was skipped
    too_deep,     ///< more metal than was called for
    not_called,   ///< metal came off that nothing called for
    asked_about,  ///< a reading was asked about, and taken all the same
    not_needed,   ///< a reading that nothing waited for
};
inline constexpr std::array remark_keys{"against_rule", "left_out",    "too_deep",
                                        "not_called",   "asked_about", "not_needed"};

struct Remark {
    RemarkKind kind{};
    std::optional<block::Rule> rule{}; ///< that was gone on against
    std::string about;                 ///< a feature, stage or step
    std::optional<double> by{};        ///< mm more than called for, where that can be told
};

/// What is to be remarked on an entry, from what was known before it.
[[nodiscard]] std::vector<Remark> remarks_on(const Assessment& before, const block::Payload& entry);

} // namespace pallix::planning
