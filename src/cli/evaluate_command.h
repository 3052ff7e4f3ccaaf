// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/units.h"
#include "cli/inputs.h"

#include <cstddef>
#include <optional>

namespace pallix::cli {

struct EvaluateRequest {
    BlockFiles files;
    block::Unit unit = block::Unit::mm;
    bool as_text = false;
    bool with_uncertainty = true;
    std::optional<double> touch_uncertainty; ///< mm, standard, of one touch; nothing: what the logs say
    std::size_t trials = 300;                ///< draws behind the uncertainty of zones and extremes
};

/// Prints the evaluation on standard output, faults and warnings on standard error.
/// @return the exit status: 0 done, 1 the input is wrong
int evaluate(const EvaluateRequest& request);

} // namespace pallix::cli
