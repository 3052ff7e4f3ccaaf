// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/blueprint.h"

namespace pallix::block {

/// Writes a blueprint as a drawing other programs read (ASCII DXF of 2000, the blueprint's unit): each deck with its
/// outline, cylinders, dowels and dimensions as text, one under the other, then the mains from the side; a layer for
/// each kind of thing.
/// @return the fault where the file cannot be written
[[nodiscard]] tl::expected<void, Faults> write_dxf(const Blueprint& blueprint, const std::string& file);

/// Holes with their names, mm.
struct DrawnHoles {
    struct Circle {
        metrology::Vec2 at;
        double diameter = 0;
        std::string layer; ///< letters, digits and underscores
    };
    struct Words {
        metrology::Vec2 at;
        std::string text;
        std::string layer;
    };
    std::vector<Circle> circles;
    std::vector<Words> words;
};
/// Writes holes as a drawing, in that unit ($INSUNITS says which). @return the fault where the file cannot be written
[[nodiscard]] tl::expected<void, Faults> write_dxf(const DrawnHoles& drawn, Unit unit, const std::string& file);

} // namespace pallix::block
