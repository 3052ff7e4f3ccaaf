// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/blueprint.h"

#include <cstdint>
#include <map>
#include <optional>
#include <string>

namespace pallix::workshop {

/// How a deck really lies, against its blueprint. Lengths mm.
struct DeckTruth {
    double offset = 0; ///< height over nominal in the middle
    double rear_over_front = 0;
    double positive_over_negative = 0; ///< +v edge over −v edge
    double twist = 0;                  ///< of a corner against its neighbours
    double crown = 0;                  ///< middle over the ends along the crankshaft
    metrology::Vec2 dip;               ///< (u, v) of a local low place
    double dip_depth = 0;
    double dip_radius = 30;
    std::optional<double> cut_to; ///< height a cutter has taken it down to, over nominal

    /// @return height over nominal at (u, v)
    [[nodiscard]] double height(const block::BankBlueprint& bank, metrology::Vec2 place) const;
};

/// How a cylinder or lifter bore really is, against its blueprint. Lengths mm.
struct HoleTruth {
    metrology::Vec2 offset; ///< (u, v) at the top
    metrology::Vec2 lean;   ///< du/dw, dv/dw
    double oversize = 0;    ///< on diameter, over nominal
    double wear = 0;        ///< on diameter, more in the middle than at top and bottom
    double oval = 0;        ///< on diameter, across over along
};

/// A simulated block with a hidden truth, for practice and for the demo.
struct PracticeBlock {
    block::Blueprint blueprint;
    std::map<std::string, DeckTruth> decks;
    double tunnel_sag = 0;                         ///< mm, centre mains over the end mains (+ towards the cam)
    double tunnel_side = 0;                        ///< mm, centre mains sideways
    double main_oversize = 0;                      ///< mm on diameter over the middle of the window
    std::map<block::FeatureId, HoleTruth> holes{}; ///< cylinders and lifters that differ from the blueprint
};

/// How the stand-in probe works.
struct ProbeJob {
    std::uint64_t seed = 1;
    double noise = 0.0008; ///< mm, standard deviation of a touch
    double tip_radius = 0; ///< mm; 0 reports surface points
    block::Unit unit = block::Unit::mm;
    double temperature_c = 20;
    bool rolled = false;  ///< each bank in its own set-up about the rotary axis
    int points_along = 7; ///< deck touches along and across
    int points_across = 4;
    bool holes = false;            ///< cylinders and lifters too
    double stated_uncertainty = 0; ///< mm, written into the log's head; 0 leaves it out
};

/// Probes the whole block and writes the log (docs/formats.md). The same job gives the same text, to the byte.
[[nodiscard]] std::string probe(const PracticeBlock& block, const ProbeJob& job);

} // namespace pallix::workshop
