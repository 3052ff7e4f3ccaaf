// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/frame.h"

namespace pallix::block {

BankAxes::BankAxes(double angle)
    : u{1, 0, 0}, v{0, std::cos(angle), -std::sin(angle)}, w{0, std::sin(angle), std::cos(angle)} {}

metrology::Vec3 z_from_direction(metrology::Vec3 direction, double angle, metrology::Vec3 x) {
    const metrology::Vec3 m = cross(direction, x);
    return std::cos(angle) * direction - std::sin(angle) * m;
}

} // namespace pallix::block
