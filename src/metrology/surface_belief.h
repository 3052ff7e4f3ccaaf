// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "metrology/geometry.h"

#include <cstddef>
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
    double depth = 0;                            ///< mm below the highest place of the surface
    double setting = 0.002;                      ///< mm, standard uncertainty of that depth
    std::vector<Touch> touched;                  ///< for each node: bright, or nothing is known
    std::vector<std::vector<std::size_t>> marks; ///< painted marks: the nodes of each; somewhere in it it stayed dark
};

/// A round opening in the surface, mm.
struct Opening {
    Vec2 centre;
    double radius = 0;
};

/// What is asked about a surface: known at a few places, wanted at all nodes. A node stands for the lowest place of the
/// patch about it.
struct SurfaceQuestion {
    std::vector<Vec2> nodes; ///< mm, at least one
    std::vector<HeightSeen> seen;
    std::vector<CutSeen> cuts;
    std::optional<double> usual_flatness{}; ///< mm, of surfaces of its kind over all, where that is known
    std::vector<Opening> openings{};        ///< cylinders: gaskets leave rings round them, webs between them sink
};

/// What a surface may have beside its waves.
enum class SurfaceFeature { hollows, corner, edge, rings, webs, wear, step };
inline constexpr std::size_t surface_features = 7;

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
    std::vector<double> cut_heights;     ///< where each cut should have run by the heights alone, mm
    double cut_height_deviation = 0;     ///< mm, of those heights together
    /// mm, across the widest circle in which there is neither a touch nor a place that a cut made bright: a hollow
    /// narrower than that may lie there and not show how deep it is, and the lowest place has no lower end. Nothing
    /// where every place is known of.
    std::optional<double> unseen;
};

/// Heights as a Gaussian process: a plane with twist and bow, of which little is known beforehand, and a wavy rest
/// (Matérn 5/2) whose size and length are not chosen but averaged over (Rasmussen and Williams, Gaussian Processes for
/// Machine Learning, 2006, sections 2.7 and 5.4); beside it what decks really have and no stationary process allows
/// for: hollows, low corners, rolled edges, rings worn by the gasket, sunk webs, wear round the bores, the step of a
/// repair, drawn as patterns whose heights are normal about 0 and follow from the heights that were seen. What cuts
/// left dark or bright is held against whole surfaces: they are drawn given the heights, and led to agree with the
/// marks by sequential Monte Carlo (Del Moral, Doucet and Jasra, 2006), moved by elliptical slice sampling (Murray,
/// Adams and MacKay, 2010). A cut runs at a depth below the highest place of each surface.
/// @param draws of whole surfaces, from which intervals are read
/// @param only that feature, for those who know what it is; nothing: any may be there
/// @return nothing without a measured height
[[nodiscard]] std::optional<SurfaceBelief> believe(const SurfaceQuestion& question, std::size_t draws = 300,
                                                   std::uint64_t seed = 1,
                                                   std::optional<SurfaceFeature> only = std::nullopt);

} // namespace pallix::metrology
