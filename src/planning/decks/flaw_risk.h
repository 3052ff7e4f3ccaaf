// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/entries/deck_entries.h"
#include "block/forward.h"

#include <optional>

namespace pallix::planning {

enum class FlawDanger {
    little, ///< watched, it does no harm
    some,   ///< it may leak or grow
    great,  ///< it runs where it is loaded or sealed
};

/// How bad a flaw is by what lies beside it.
struct FlawRisk {
    FlawDanger danger = FlawDanger::little;
    std::optional<block::FeatureId> cylinder; ///< the nearest; of a flaw in a wall its own
    double to_edge = 0;                       ///< mm from that cylinder's edge, as drawn on the deck
};
/// A gasket's ring seals that far round a bore (common practice, no source).
inline constexpr double sealed_ring = 3; // mm
/// A sleeve takes in what lies that near its cylinder (common practice, no source).
inline constexpr double within_a_sleeve = 8; // mm
[[nodiscard]] FlawRisk flaw_risk(const block::Blueprint& blueprint, const block::FlawMarked& flaw);

} // namespace pallix::planning
