// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/common/blueprint_check.h"
#include "wording/common/lengths.h"

namespace pallix::wording {

/// "cylinder 1 (bore 1) and cylinder 2 (bore 2) overlap by 1.200 mm."
[[nodiscard]] std::string doubt_words(const block::Blueprint& blueprint, const planning::BlueprintDoubt& doubt,
                                      const LengthText& l);

/// A blueprint in a few lines: what it has, what it leaves out, what looks wrong.
[[nodiscard]] std::vector<std::string> blueprint_sentences(const block::Blueprint& blueprint, const LengthText& l);

} // namespace pallix::wording
