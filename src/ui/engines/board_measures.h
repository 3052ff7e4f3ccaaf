// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/blueprint.h"

namespace pallix::ui {

/// Of a bore's radius, half the width of its bank as it is drawn: nobody states it.
inline constexpr double wall_share = 1.32;

[[nodiscard]] inline double bore_radius(const block::Blueprint& b) {
    return b.bores.empty() ? 40 : b.bores.front().diameter.nominal / 2;
}

} // namespace pallix::ui
