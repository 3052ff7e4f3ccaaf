// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "metrology/geometry.h"

#include <cmath>

namespace pallix::block {

/// How a block was turned over in a set-up: p' = a + Rx(−rotation)(p − a), a = (0, axis_y, axis_z).
struct SetupTurn {
    double rotation = 0; ///< rad
    double axis_y = 0;   ///< mm
    double axis_z = 0;
    bool operator==(const SetupTurn&) const = default;

    [[nodiscard]] metrology::Vec3 turned_back(metrology::Vec3 p) const {
        if (rotation == 0)
            return p;
        const double c = std::cos(rotation), s = std::sin(rotation);
        const double y = p.y - axis_y, z = p.z - axis_z;
        return {p.x, axis_y + c * y + s * z, axis_z - s * y + c * z};
    }
};

} // namespace pallix::block
