// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/units.h"
#include "planning/steps/answer.h"
#include "planning/steps/step.h"

#include <string>
#include <tl/expected.hpp>
#include <vector>

namespace pallix::planning {

/// Whether two steps are done without moving the block: one machine, one way it lies, one bank.
[[nodiscard]] bool in_one_clamping(const Step& a, const Step& b);

/// Four letters by which a step is called on paper; they stay as long as its id does. Letters that are easily taken for
/// another, and vowels, are left out.
[[nodiscard]] std::string sheet_code(const std::string& step_id);

/// Steps that are done in one clamping, the one that is called among the first.
struct Batch {
    std::vector<const Step*> steps;
};
/// What a work sheet lists: what could be done at once, by clampings, and what waits for it last.
/// @param list outlives the batches
[[nodiscard]] std::vector<Batch> batches_of(const StepList& list);

/// What was ticked on paper: a step with its answers.
struct Tick {
    std::string step; ///< id
    Answers answers;
};
/// Reads one line of a work sheet that was filled by hand: the step's letters, then what it asks for, in the order of
/// its asks: "kfdm", "kfdm 0.0020 in", "kfdm 0.0020 in clean", "kfdm 30". What is not typed is as proposed; a tick is
/// set by its name, and the rest are words.
/// @return why it cannot be read
[[nodiscard]] tl::expected<Tick, std::string> read_tick(const StepList& list, const std::string& line,
                                                        block::Unit bench);

} // namespace pallix::planning
