// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/drawing/recipe.h"
#include "block/named_text.h"

namespace pallix::planning {

/// What good blocks say of an engine.
struct Taught {
    block::Recipe recipe;                  ///< figures as measured, each with the number of blocks and its spread
    std::vector<std::string> understood{}; ///< a line each
};

/// Figures of an engine from probe logs of good blocks: which features there are by their names, where they lie and how
/// large they are by the touches. Each figure is the mean of what the blocks say; its spread holds the truth in 95 %
/// (Student's t over the blocks). Of one block only what repeats within it (pitches, sizes) has a spread; of the rest
/// none is stated. Lifters need their angle in `base`; what the logs do not say stands as it is there.
/// @param blocks a log for each, at least one; all with the same features
/// @return faults, by log, where one cannot be read or evaluated, or holds other features than the first
[[nodiscard]] block::Result<Taught> taught_by(const std::vector<block::NamedText>& blocks, const block::Recipe& base);

} // namespace pallix::planning
