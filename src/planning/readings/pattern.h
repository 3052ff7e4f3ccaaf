// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/evaluation.h"

#include <optional>
#include <string>
#include <vector>

namespace pallix::planning {

/// A row of position errors of one bank.
struct PositionError {
    block::FeatureId id;
    metrology::Vec2 meant; ///< (u, v) mm, the blueprint's
    metrology::Vec2 error; ///< (du, dv) mm
};

enum class PatternKind {
    none,     ///< no common cause: tooling, or nothing to speak of
    shift,    ///< all one way: the datum, a core shift, a fixture
    rotation, ///< growing sideways along the bank: the block was turned, or the datum pair is off
    drift,    ///< growing along the bank: a pitch error, heat
    outlier,  ///< one odd hole: damage, a repair or a bad touch
    too_few,  ///< there may be one, but so many holes that merely scatter would look like it too often
};

/// What a bank's errors have in common.
struct Pattern {
    PatternKind kind = PatternKind::none;
    double explained = 0;   ///< share of the sum of squared errors it accounts for, 0 to 1
    metrology::Vec2 shift;  ///< mm, common to all (with an outlier: to the others)
    double rotation = 0;    ///< rad, seen out of the deck, + from u towards v
    double drift = 0;       ///< mm per m along the bank
    block::FeatureId odd;   ///< the one that stands out
    metrology::Vec2 odd_by; ///< mm, from where the others would put it
};

/// Fits a shift, a shift with rotation, a shift with drift, and one hole off with or without a shift of the others. A
/// pattern is named where holes that merely scatter would show it (any of the five, whichever hole is the odd one) in
/// at most 5 %: each is held against no pattern at all by its F ratio at 5 %/5, the odd hole at a further n-th of that;
/// and against the shift alone at 2 %, so that the simpler one is named unless the other is plainly better.
/// @param scatter mm, errors smaller than this all over are no pattern
[[nodiscard]] Pattern read_pattern(const std::vector<PositionError>& errors, double scatter = 0.01);

/// Sizes that grow along a bank are wear.
struct SizeDrift {
    double per_m = 0;     ///< mm per m
    double explained = 0; ///< share of the scatter of the sizes
    bool told = false;    ///< mere scatter would grow so evenly in 5 % at most, and from end to end it is worth a word
};
/// @param sizes (place along the bank mm, diameter mm), at least 3
[[nodiscard]] SizeDrift read_size_drift(const std::vector<metrology::Vec2>& sizes);

[[nodiscard]] std::vector<PositionError> position_errors(const block::Blueprint& blueprint,
                                                         const std::vector<block::HoleResult>& holes,
                                                         const std::string& bank);

/// The dowel pair of a bank as the check that the block lies square.
struct DowelPair {
    double rotation = 0;       ///< rad, of the measured pair against the blueprint's, + from u towards v
    double distance_error = 0; ///< mm
    block::FeatureId first, second;
};
[[nodiscard]] std::optional<DowelPair>
dowel_pair(const block::Blueprint& blueprint, const std::vector<block::DowelResult>& dowels, const std::string& bank);

} // namespace pallix::planning
