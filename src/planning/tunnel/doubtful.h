// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/forward.h"
#include "block/state/measured.h"
#include "planning/readings/gauge_findings.h"

#include <cstddef>

namespace pallix::planning {

/// So many readings of a place with the same gauge, and one more tells no more than they do (common practice, no
/// source).
inline constexpr std::size_t enough_readings = 4;

/// Of the places that a doubt about the tunnel hangs on the one that was read seldomest: where probe and gauge
/// disagree, else the sizes that cannot be told, else the saddles.
/// @return null where none was read
[[nodiscard]] const block::MeasuredPlace* seldomest_doubtful(const block::JobState& state, const GaugeFindings& gauge);

} // namespace pallix::planning
