// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/forward.h"
#include "planning/shop/kind_memory.h"
#include "wording/common/lengths.h"

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

} // namespace pallix::wording
