// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/drawing/recipe.h"
#include "block/ledger.h"
#include "block/named_text.h"

#include <optional>
#include <string>
#include <vector>

namespace pallix::planning {

/// What good blocks say of an engine.
struct Taught {
    block::Recipe recipe;                  ///< figures as measured, each with the number of blocks and its spread
    std::vector<std::string> understood{}; ///< a line each
};

/// A block that was probed, by one log or several that are read together.
struct GoodBlock {
    std::string name; ///< in messages
    std::vector<block::NamedText> logs;
};

/// How a job's block was found: its first logs that stand. @return nothing where it was never probed
[[nodiscard]] std::optional<GoodBlock> as_found(const std::vector<block::Entry>& entries);

/// Figures of an engine from probe logs of good blocks: which features there are by their names, where they lie and how
/// large they are by the touches. Each figure is the mean of what the blocks say; its spread holds the truth in 95 %
/// (Student's t over the blocks). Of one block only what repeats within it (pitches, sizes) has a spread; of the rest
/// none is stated. What the logs do not say stands as it is in `base`.
/// @param blocks at least one; of a kind of feature all that hold it hold the same places, and what some do not hold at
///        all is passed over
/// @return faults, by log, where one cannot be read or evaluated, or holds other places
[[nodiscard]] block::Result<Taught> taught_by(const std::vector<GoodBlock>& blocks, const block::Recipe& base);

} // namespace pallix::planning
