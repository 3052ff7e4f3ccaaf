// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "workshop/simulated_block.h"

#include <map>
#include <optional>
#include <string>
#include <utility>
#include <vector>

namespace pallix::workshop {

/// What of a block is drawn larger than life, each along the crankshaft. Lengths mm.
enum class ShapeOf {
    line_upright, ///< middles of the mains, + towards the cam
    line_sideways,
    mains,     ///< over the middle of their window, on diameter
    deck,      ///< over nominal height from the tunnel
    cylinders, ///< over nominal, on diameter
    lifters
};

/// One place of a shape, as it was found and as it is.
struct ShapePart {
    std::string about; ///< "main.3", "deck.R"
    double x = 0;      ///< along the crankshaft
    double was_low = 0, was_high = 0, is_low = 0, is_high = 0;
    std::optional<double> least{}, most{}; ///< what it may be
};
struct Shape {
    ShapeOf what{};
    std::string bank; ///< of decks, cylinders and lifters
    std::vector<ShapePart> parts;
};

/// What sizes and line are to be, where that is known.
struct ShapeLimits {
    std::optional<double> straightness;                            ///< width of the mains' common zone
    std::map<block::FeatureId, std::pair<double, double>> sizes{}; ///< least and most
};

/// As the blueprint has them: what becomes of holes hangs on the job.
[[nodiscard]] ShapeLimits drawn_limits(const block::Blueprint& blueprint);

/// Both of one blueprint.
[[nodiscard]] std::vector<Shape> shapes_of(const SimulatedBlock& found, const SimulatedBlock& now,
                                           const ShapeLimits& limits);

} // namespace pallix::workshop
