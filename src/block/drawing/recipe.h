// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/blueprint.h"

#include <map>
#include <set>

namespace pallix::block {

/// Where a figure comes from. What is only assumed, for the drawing's sake, is judged by nobody.
enum class FigureSource { unstated, sheet, drawing, measured, shop, assumed };

struct FigureOrigin {
    FigureSource source = FigureSource::unstated;
    int blocks = 0;                 ///< measured on so many
    std::optional<double> spread{}; ///< mm, of a measured one: to either side, 95 %
    bool operator==(const FigureOrigin&) const = default;
};

/// A blueprint in some forty figures, as they stand on a maker's sheet and as somebody typed them.
///
/// By their keys (`recipe_figures`); and what is irregular, hole by hole: `bore.R.2/along`, `dowel.L.1/across`,
/// `lifter.L.3/size`, `lifter.L.3/angle`, `bore.R.2/cylinder`, `main.3/along`, `main.3/size`, `deck.L/height`,
/// `deck.L/flatness`, `deck.L/angle`, `deck.L/outline`; `dowel.L.2/absent` leaves a hole out.
struct Recipe {
    Unit unit = Unit::mm;                        ///< of a number that names none
    std::map<std::string, std::string> figures;  ///< as typed
    std::map<std::string, FigureOrigin> origins; ///< of those whose origin somebody stated
    std::map<std::string, std::string> accepted; ///< what looked wrong, and why it is right all the same
    std::map<std::string, int> lines{};          ///< where they stand in a file, for messages; may be empty
    bool operator==(const Recipe& other) const {
        return unit == other.unit && figures == other.figures && origins == other.origins && accepted == other.accepted;
    }
    [[nodiscard]] bool assumed(const std::string& key) const {
        const auto found = origins.find(key);
        return found != origins.end() && found->second.source == FigureSource::assumed;
    }
};

enum class RecipeKind { text, choice, count, length, angle, size, lengths };

struct RecipeFigure {
    const char* key;
    const char* brief; ///< beside its number on a drawing
    const char* words; ///< what a sheet calls it
    RecipeKind kind = RecipeKind::length;
    std::vector<std::string> choices{};
    double most = 0; ///< of a count
};

/// All of them, in the order of a maker's sheet.
[[nodiscard]] const std::vector<RecipeFigure>& recipe_figures();

/// Keys without which there is no blueprint yet, in that order.
[[nodiscard]] std::vector<std::string> lacking(const Recipe& recipe);

/// Draws the whole block; the recipe goes along in the blueprint's text. What no figure says is derived where the trade
/// has a usual way (docs/formats.md), or left out.
/// @param file the name used in messages
/// @return all faults where a figure cannot be read, or belongs to nothing
[[nodiscard]] Result<Blueprint> draw(const Recipe& recipe, const std::string& file);

/// What is wrong with a figure; of the block as a whole where the key is empty.
struct FigureFault {
    std::string key;
    Fault fault;
};
[[nodiscard]] tl::expected<Blueprint, std::vector<FigureFault>> draw_figures(const Recipe& recipe,
                                                                             const std::string& file);

/// What can be drawn before everything is stated.
struct Sketch {
    Blueprint blueprint;
    std::set<std::string> stand_ins;          ///< figures that nobody stated, and that were needed
    std::map<std::string, std::string> wrong; ///< figures that were left out, and why; the block's under an empty key
    [[nodiscard]] bool whole() const { return stand_ins.empty() && wrong.empty(); }
};
/// Draws what is stated, with something in the usual proportion for what there must be.
[[nodiscard]] Sketch sketch(const Recipe& recipe);

/// A blueprint from a file of either kind: a blueprint as it stands, or one drawn from a recipe.
[[nodiscard]] Result<Blueprint> blueprint_from(std::string_view text, const std::string& file);

/// Reads a `.pallix-recipe.json`; figures are texts or numbers.
[[nodiscard]] Result<Recipe> read_recipe(std::string_view text, const std::string& file);
[[nodiscard]] std::string write_recipe(const Recipe& recipe);

/// The recipe that a blueprint was drawn from, or one that draws it: regular figures, and the rest hole by hole.
/// @return faults where no recipe does: more than two banks, mains numbered otherwise than from 1
[[nodiscard]] Result<Recipe> recipe_of(const Blueprint& blueprint);

} // namespace pallix::block
