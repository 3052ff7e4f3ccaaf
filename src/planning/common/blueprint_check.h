// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/blueprint.h"

namespace pallix::planning {

/// What looks wrong with a blueprint. None of it stops anybody who knows better.
enum class BlueprintDoubtKind {
    overlap,      ///< two holes run into one another, by `by`
    thin_wall,    ///< `by` of metal is left between two holes of a deck
    over_edge,    ///< a hole reaches `by` beyond the deck's outline
    unlike,       ///< a size differs by `by` from that of its like
    uneven,       ///< from one to the next it is `by` more than between the others
    not_mirrored, ///< it lies `by` from where its like on the other bank would have it
    wide_window,  ///< its limits lie `by` apart, more than any such hole's
};

struct BlueprintDoubt {
    BlueprintDoubtKind kind{};
    block::FeatureId about;
    std::optional<block::FeatureId> other;
    double by = 0; ///< mm
};

/// Metal that is usually left between two holes of a deck at least, mm. Common practice, no source.
inline constexpr double usual_deck_wall = 3;

/// Everything that looks wrong, in the order of the block.
[[nodiscard]] std::vector<BlueprintDoubt> doubts_of(const block::Blueprint& blueprint);

/// What has no limits, and is measured without being judged by its size: one of each kind.
[[nodiscard]] std::vector<block::FeatureId> without_limits(const block::Blueprint& blueprint);

} // namespace pallix::planning
