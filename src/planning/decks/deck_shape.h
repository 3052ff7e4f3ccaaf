// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/evaluation.h"
#include "block/forward.h"
#include "block/ledger.h"

#include <optional>
#include <vector>

namespace pallix::planning {

/// Side of the moving window local flatness is told in (common practice, no source), mm.
inline constexpr double usual_window = 75;

/// The worst window of a deck.
struct LocalFlatness {
    double worst = 0;          ///< mm, minimum zone
    metrology::Vec2 low, high; ///< (u, v) corners of that window
    std::size_t windows = 0;   ///< that held at least 4 points
};
/// Minimum-zone flatness of every square window, moved by a quarter of its side (half for more than 50,000 points).
/// @param points (u, v, w) mm
/// @return nothing where no window holds 4 points
[[nodiscard]] std::optional<LocalFlatness> local_flatness(const std::vector<metrology::Vec3>& points,
                                                          double side = usual_window);

/// How two decks stand to each other.
struct BanksLie {
    double angle = 0;             ///< rad between the banks, as measured
    double angle_error = 0;       ///< rad, less the blueprint's
    double height_difference = 0; ///< mm, mean height of the first less the second, each less its nominal
};
/// @return nothing for a block without two measured banks
[[nodiscard]] std::optional<BanksLie> banks_lie(const block::Blueprint& blueprint, const block::DeckResult& first,
                                                const block::DeckResult& second);

/// How near to its edges a deck was measured: what lies beyond is not known.
struct DeckCoverage {
    double front = 0, rear = 0, positive = 0, negative = 0; ///< mm from the edge to the nearest measured place
    [[nodiscard]] double most() const;
};
[[nodiscard]] DeckCoverage deck_coverage(const block::BankBlueprint& bank, const std::vector<metrology::Vec2>& places);
/// Nearer than this to an edge counts as measured to the end (common practice, no source), mm.
inline constexpr double near_enough_to_edge = 12;

} // namespace pallix::planning
