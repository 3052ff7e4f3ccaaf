// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/blueprint.h"
#include "block/fault.h"
#include "block/fields.h"
#include "workshop/practice_block.h"

#include <cstdint>
#include <map>
#include <optional>
#include <string>
#include <vector>

namespace pallix::workshop {

/// How a main really is. Lengths mm.
struct MainTruth {
    double over = 0; ///< on diameter, the mean of upright and across, over the middle of its window
    double oval = 0; ///< on diameter, upright over that mean, and as much less across: a cap that pinches
    double up = 0;   ///< of its middle, towards the cam
    double side = 0; ///< of its middle, towards +y
};

/// How a cylinder or lifter bore really is. Lengths mm.
struct BoreTruth {
    double size = 0, taper = 0, oval = 0; ///< least diameter; its top larger by; across larger by
    metrology::Vec2 off;                  ///< its axis off the blueprint
    /// At "top", "middle" or "bottom", along the crankshaft; across it `oval` more.
    [[nodiscard]] double along(const std::string& level) const {
        return size + (level == "top" ? taper : level == "middle" ? 0.4 * taper : 0);
    }
};

/// How a block really is, before anybody works on it.
struct BlockTruth {
    std::vector<MainTruth> mains;                ///< in the blueprint's order
    std::vector<double> sharpness;               ///< of the line hone's stones at both ends of each main; 1 the mean
    std::map<std::string, DeckTruth> decks;      ///< by bank
    std::map<block::FeatureId, BoreTruth> bores; ///< cylinders and lifters
    std::map<block::FeatureId, double> crowns;   ///< of the pistons, from the tunnel
};

/// Worn as blocks are: mains too large and out of line by hundredths, decks that lean, cylinders worn at the top. The
/// same seed gives the same block on every machine.
[[nodiscard]] BlockTruth worn(const block::Blueprint& blueprint, std::uint64_t seed);
/// As the blueprint has it, to the last digit.
[[nodiscard]] BlockTruth as_drawn(const block::Blueprint& blueprint);

void fields(block::Fields& f, BlockTruth& truth);
/// @return what of it does not belong to this block; nothing where it fits
[[nodiscard]] std::optional<block::Fault> fault_of(const BlockTruth& truth, const block::Blueprint& blueprint);

} // namespace pallix::workshop
