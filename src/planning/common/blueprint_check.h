// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/blueprint.h"
#include "block/entries/deck_entries.h"

#include <array>

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
    stack,        ///< crank, rod and piston end `by` below the deck, above it where that is negative
    chain,        ///< the chain is `by` too long for the cam's distance, or too short
};
inline constexpr std::array blueprint_doubt_keys{"overlap",      "thin_wall",   "over_edge", "unlike", "uneven",
                                                 "not_mirrored", "wide_window", "stack",     "chain"};

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

/// What looks wrong once it is known what goes with the block: how far the crown comes, whether the chain fits.
[[nodiscard]] std::vector<BlueprintDoubt> doubts_of(const block::Blueprint& blueprint,
                                                    const block::EngineFigures& figures);
/// How far below the deck a crown usually stops at the most, and above it, mm. Common practice, no source.
inline constexpr double lowest_crown = 4, highest_crown = 1.5;

/// A doubt by what it is about, the same for as long as it stands: "thin_wall bore.R.1 bore.R.2".
[[nodiscard]] std::string doubt_id(const BlueprintDoubt& doubt);

/// What has no limits, and is measured without being judged by its size: one of each kind.
[[nodiscard]] std::vector<block::FeatureId> without_limits(const block::Blueprint& blueprint);

} // namespace pallix::planning
