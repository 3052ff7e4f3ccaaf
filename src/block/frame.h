// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "metrology/geometry.h"

namespace pallix::block {

/// The block's own right-handed frame: x along the main tunnel, front to rear; z from the crankshaft towards the
/// decks; y = z × x; origin on the tunnel axis level with the origin dowel (docs/method.md).
struct BlockFrame {
    metrology::Vec3 origin;  ///< machine frame, mm
    metrology::Vec3 x, y, z; ///< unit, machine frame

    [[nodiscard]] metrology::Vec3 to_block(metrology::Vec3 machine) const {
        const metrology::Vec3 p = machine - origin;
        return {dot(p, x), dot(p, y), dot(p, z)};
    }
    [[nodiscard]] metrology::Vec3 to_machine(metrology::Vec3 block) const {
        return origin + block.x * x + block.y * y + block.z * z;
    }
};

/// Directions of a bank in the block frame. u runs along the crankshaft, w out through the deck, v = w × u.
struct BankAxes {
    metrology::Vec3 u, v, w;

    /// @param angle rad, signed, from +z towards +y
    explicit BankAxes(double angle);

    /// @return (u, v, w) of a point in the block frame
    [[nodiscard]] metrology::Vec3 of(metrology::Vec3 p) const { return {dot(p, u), dot(p, v), dot(p, w)}; }
};

/// Turns a direction that stands at `angle` from z (towards y) back to z.
/// @param direction unit, at right angles to x
/// @param x unit
[[nodiscard]] metrology::Vec3 z_from_direction(metrology::Vec3 direction, double angle, metrology::Vec3 x);

} // namespace pallix::block
