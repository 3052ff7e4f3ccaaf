// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/evaluation_uncertainty.h"

#include <cstdint>

namespace pallix::planning {

/// Standard uncertainties that were drawn for one evaluation, where they are better known than by rule.
struct Certainty {
    std::int64_t sequence = 0; ///< of the entry the evaluation came from: they hold for no other
    block::Uncertainties values;
};

} // namespace pallix::planning
