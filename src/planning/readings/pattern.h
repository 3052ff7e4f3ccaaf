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

/// Fits a shift, a shift with rotation, a shift with drift, and a shift without each one of the holes in turn, and
/// takes the simplest that leaves markedly less than the next simpler one: the variance left per degree of freedom must
/// halve.
/// @param scatter mm, errors smaller than this all over are no pattern
[[nodiscard]] Pattern read_pattern(const std::vector<PositionError>& errors, double scatter = 0.01);

/// Sizes that grow along a bank are wear.
struct SizeDrift {
    double per_m = 0;     ///< mm per m
    double explained = 0; ///< share of the scatter of the sizes
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
