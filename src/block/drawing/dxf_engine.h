// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/drawing/dxf_drawing.h"
#include "block/drawing/recipe.h"

namespace pallix::block {

/// What circles of one size are taken for.
enum class DxfRole { other, cylinders, dowels };

/// Circles of one size, as they are offered to whoever says what they are.
struct DxfGroup {
    double diameter = 0;              ///< in the file's unit
    std::vector<std::size_t> circles; ///< of the drawing
    DxfRole role = DxfRole::other;
};

/// How a drawing lies on the deck of an engine.
struct DxfPlacing {
    std::optional<Unit> unit{}; ///< stated by a person, over what the file says
    std::string distance{};     ///< pitch of the cylinders as typed: what the scale is held against; may be empty
    bool other_end = false;     ///< the front cylinder is at the drawing's other end
    bool mirrored = false;      ///< it is drawn from below, as a gasket may be
    bool gasket = false;        ///< its holes are the gasket's, not the bores
    std::string bank{};         ///< empty: the first
    std::optional<std::size_t> origin{}; ///< the circle of the dowel that places are counted from
};

/// What a person pointed at, as a placing says it: that this is the front cylinder.
/// @param circle of the row of cylinders
[[nodiscard]] bool front_at_other_end(const DxfDrawing& drawing, const std::vector<DxfGroup>& groups,
                                      std::size_t circle);
/// That this side is to the right, seen from the rear. @return whether it is drawn from below
[[nodiscard]] bool drawn_from_below(const DxfDrawing& drawing, const std::vector<DxfGroup>& groups, bool other_end,
                                    metrology::Vec2 right_side);

/// @param drawing with circles
/// @return by size, the largest first; a row of the largest that are alike are the cylinders, two alike near them
///         dowels where nothing else says so
[[nodiscard]] std::vector<DxfGroup> dxf_groups(const DxfDrawing& drawing);

/// What was made of a drawing.
struct DxfTaken {
    Recipe recipe;
    std::vector<std::string> understood; ///< a line each, also what was not
};

/// Figures of a deck from a drawing: cylinders, pitch, bore, dowels and outline, laid on the x that the recipe has.
/// @param base figures that stand already; what the drawing says goes over them
/// @return a fault where the unit cannot be told, or the distance contradicts it, or no row of cylinders is there
[[nodiscard]] Result<DxfTaken> recipe_from_dxf(const DxfDrawing& drawing, const std::vector<DxfGroup>& groups,
                                               const DxfPlacing& placing, const Recipe& base, const std::string& file);

} // namespace pallix::block
