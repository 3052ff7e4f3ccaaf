// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/evaluation.h"

namespace pallix::planning {

/// How sure a fitted circle is, for touches that are sure to 1: by where they stand round it. A full ring of n gives
/// 2/√n for its diameter and √(2/n) for its centre; a quarter of one eight times as much.
struct FitSpread {
    double diameter = 0;
    double centre = 0; ///< in the direction in which it is known least
};

/// @return of evenly spread touches where the points do not tell where they stand
[[nodiscard]] FitSpread fit_spread(const block::MainResult& main);
[[nodiscard]] FitSpread fit_spread(const block::HoleLevel& level);

} // namespace pallix::planning
