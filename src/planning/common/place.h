// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/blueprint.h"
#include "metrology/geometry.h"

namespace pallix::planning {

enum class Along { front, middle, rear };
/// Across a deck, named by function: inboard faces the valley of a V block, left and right of an inline block are as
/// seen from the rear.
enum class Across { inboard, outboard, left, right, middle };

struct PlaceOnDeck {
    Along along = Along::middle;
    Across across = Across::middle;
};

/// Where a deck has metal between two of its bores.
struct BetweenBores {
    double u = 0;              ///< mm
    int first = 0, second = 0; ///< numbers of the bores in their bank
};
[[nodiscard]] std::vector<BetweenBores> between_bores(const block::Blueprint& blueprint, const std::string& bank);

/// @param place (u, v) mm
/// @return which third of the deck's length and which third of its width it lies in
[[nodiscard]] PlaceOnDeck place_on_deck(const block::BankBlueprint& bank, metrology::Vec2 place);

/// The side of a bank that lies towards +v.
[[nodiscard]] Across positive_side(const block::BankBlueprint& bank);
[[nodiscard]] Across negative_side(const block::BankBlueprint& bank);

/// The box round a deck's outline.
struct DeckExtent {
    metrology::Vec2 low, high; ///< (u, v) mm
    double length() const { return high.x - low.x; }
    double width() const { return high.y - low.y; }
};
[[nodiscard]] DeckExtent deck_extent(const block::BankBlueprint& bank);

/// Whether a place lies inside an outline, its corners in order.
[[nodiscard]] bool inside(const std::vector<metrology::Vec2>& outline, metrology::Vec2 place);

/// Whether a place of a deck is metal: within the outline, in no cylinder and no dowel hole.
/// @param place (u, v) mm
[[nodiscard]] bool on_metal(const block::Blueprint& blueprint, const block::BankBlueprint& bank, metrology::Vec2 place);

} // namespace pallix::planning
