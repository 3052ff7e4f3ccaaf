// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "metrology/geometry.h"

#include <cstdint>
#include <optional>
#include <vector>

namespace pallix::metrology {

/// A height that was measured, mm.
struct HeightSeen {
    Vec2 place;
    double height = 0;
    std::optional<double> uncertainty; ///< standard; nothing: told from the scatter of the heights themselves
};

/// Whether a place of the surface was touched by a cut.
enum class Touch { unknown, bright, dark };

/// A cut parallel to the reference, and what it left.
struct CutSeen {
    double depth = 0;           ///< mm below the highest place of the surface
    double setting = 0.002;     ///< mm, standard uncertainty of that depth
    std::vector<Touch> touched; ///< for each node
};

/// What is asked about a surface: known at a few places, wanted at all nodes.
struct SurfaceQuestion {
    std::vector<Vec2> nodes; ///< mm, at least one
    std::vector<HeightSeen> seen;
    std::vector<CutSeen> cuts;
};

struct Interval {
    double low = 0, middle = 0, high = 0; ///< 2.5 %, 50 % and 97.5 % of the draws, mm
};

/// What is believed of a surface, node by node and as a whole.
struct SurfaceBelief {
    std::vector<double> mean, deviation; ///< mm, of each node's height
    std::vector<double> lowest_share;    ///< share of the draws in which this node is the lowest
    Interval lowest;                     ///< height of the lowest place
    std::vector<double> lowest_draws;    ///< the same, draw by draw, ascending
    Interval highest;                    ///< of the highest
    Interval removal;                    ///< highest less lowest: what comes off until it is clean
    std::vector<double> cut_heights;     ///< where each cut is believed to have run, mm
    double cut_height_deviation = 0;     ///< mm, of those heights together
};

/// Heights as a Gaussian process: a plane with twist and bow, of which little is known beforehand, and a wavy rest
/// (Matérn 5/2) whose size and length are not chosen but averaged over, weighted by how well each explains the heights.
/// A dark place after a cut lies below it, a bright one above: such bounds are taken in by expectation propagation
/// (Rasmussen and Williams, Gaussian Processes for Machine Learning, 2006, sections 2.7, 3.6 and 5.4). Cuts run at a
/// depth below the highest place of the surface, wherever that turns out to be.
/// @param draws of whole surfaces, from which intervals are read
/// @return nothing without a measured height
[[nodiscard]] std::optional<SurfaceBelief> believe(const SurfaceQuestion& question, std::size_t draws = 400,
                                                   std::uint64_t seed = 1);

} // namespace pallix::metrology
