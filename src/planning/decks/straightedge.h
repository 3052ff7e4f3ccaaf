// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/forward.h"
#include "block/ledger.h"
#include "planning/decks/deck_map.h"
#include "planning/readings/reading_plan.h"

#include <optional>
#include <string>
#include <vector>

namespace pallix::planning {

/// One way a straightedge can lie: on two places of the profile.
struct EdgeRest {
    metrology::Vec2 from, to; ///< (distance along the line, height), mm
    double gap = 0;           ///< mm, the largest below its line, produced over the whole length
    double gap_at = 0;        ///< mm along the line
};

/// A straightedge laid on a profile. The first rest is the one under its middle; on a crown it rocks to the neighbours.
struct EdgeLaid {
    std::vector<EdgeRest> rests;
    [[nodiscard]] bool rocks() const { return rests.size() > 1; }
    [[nodiscard]] double gap() const { return rests.empty() ? 0 : rests.front().gap; }
};

/// Tips that lift the end of the edge by less than this are not felt (common practice, no source), mm.
inline constexpr double noticeable_rock = 0.0025;

/// The edge rests on an edge of the profile's upper hull.
/// @param profile (distance along, height), mm, ascending distance, at least 2 places
[[nodiscard]] EdgeLaid lay_straightedge(const std::vector<metrology::Vec2>& profile);

/// Heights of a map along a line, every few millimetres; places over bores and beyond the map are left out.
[[nodiscard]] std::vector<metrology::Vec2> profile_along(const DeckMap& map, metrology::Vec2 from, metrology::Vec2 to,
                                                         double step = 2.0);

/// A line of the trade, as the feelers read it and as the edge would lie on the measured map.
struct EdgeComparison {
    EdgeLine line;
    std::optional<double> goes_in, does_not; ///< mm, the bracket as read; nothing where it was not read or is stale
    std::vector<metrology::Vec2> profile;    ///< on the map
    EdgeLaid laid;                           ///< on that profile
    /// The simulated gap lies outside the bracket by more than `allowed`.
    [[nodiscard]] bool disagrees(double allowed) const;
};
/// @param map may be null: then nothing is simulated
/// @param quantity of the deck's feelers, or of its head's
[[nodiscard]] std::vector<EdgeComparison> compare_edges(const block::JobState& state, const std::string& bank,
                                                        const DeckMap* map,
                                                        block::Quantity quantity = block::Quantity::gap);

/// What feelers alone say of flatness.
struct FlatnessBounds {
    double at_least = 0; ///< mm: a gap under an edge is at most twice the flatness of its line
    std::optional<double>
        at_most; ///< mm, along the lines read, as sure as 95 %; nothing without both diagonals: a twist would be unseen
    std::optional<double> proven; ///< mm, what it cannot exceed; nothing where a line meets too few others to be held
    std::vector<std::string> not_read; ///< lines of the trade
};
/// Both diagonals lie within b1 + b2 of one plane, since they share the height where they cross; other lines leave that
/// zone by what their brackets and those of the lines they meet allow (docs/method.md).
[[nodiscard]] FlatnessBounds flatness_from_feelers(const std::vector<EdgeComparison>& lines);

} // namespace pallix::planning
