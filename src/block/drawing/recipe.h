// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/blueprint.h"

#include <map>

namespace pallix::block {

/// A blueprint in some forty figures, as they stand on a maker's sheet and as somebody typed them.
///
/// By their keys (`recipe_figures`); and what is irregular, hole by hole: `bore.R.2/along`, `dowel.L.1/across`,
/// `lifter.L.3/size`, `bore.R.2/cylinder`, `main.3/along`, `main.3/size`, `deck.L/height`.
struct Recipe {
    Unit unit = Unit::mm;                       ///< of a number that names none
    std::map<std::string, std::string> figures; ///< as typed
    std::map<std::string, int> lines;           ///< where they stand in a file, for messages; may be empty
};

enum class RecipeKind { text, choice, count, length, angle, size, lengths };

struct RecipeFigure {
    const char* key;
    const char* words; ///< what a sheet calls it
    RecipeKind kind = RecipeKind::length;
    std::vector<std::string> choices{};
    double most = 0; ///< of a count
};

/// All of them, in the order of a maker's sheet.
[[nodiscard]] const std::vector<RecipeFigure>& recipe_figures();

/// Keys without which there is no blueprint yet, in that order.
[[nodiscard]] std::vector<std::string> lacking(const Recipe& recipe);

/// Draws the whole block. What no figure says is derived where the trade has a usual way (docs/formats.md), or left
/// out.
/// @param file the name used in messages
/// @return all faults where a figure cannot be read, or belongs to nothing
[[nodiscard]] Result<Blueprint> draw(const Recipe& recipe, const std::string& file);

/// A blueprint from a file of either kind: a blueprint as it stands, or one drawn from a recipe.
[[nodiscard]] Result<Blueprint> blueprint_from(std::string_view text, const std::string& file);

/// Reads a `.pallix-recipe.json`; figures are texts or numbers.
[[nodiscard]] Result<Recipe> read_recipe(std::string_view text, const std::string& file);
[[nodiscard]] std::string write_recipe(const Recipe& recipe);

} // namespace pallix::block
