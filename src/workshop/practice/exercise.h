// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "workshop/practice/practice_bench.h"

#include <array>
#include <cstdint>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace pallix::workshop {

/// What an exercise is about.
enum class Theme {
    straightedge,    ///< a deck by feel alone
    bowed_tunnel,    ///< the inner mains are out of line
    tight_caps,      ///< the caps pinch in their registers
    low_corner,      ///< between the places that are usually read
    sets_size,       ///< one cylinder decides for all
    core_shift,      ///< the cylinders lie beside where they are drawn
    slipped_zero,    ///< the gauge was knocked, and says nothing of it
    chipped_edge,    ///< the boring tool loses its corner
    hot_block,       ///< of aluminium, straight from the washer
    growing_lifters, ///< a row of lifter bores that grew
    whole_block,
};
inline constexpr std::array theme_keys{"straightedge", "bowed_tunnel",    "tight_caps",   "low_corner",
                                       "sets_size",    "core_shift",      "slipped_zero", "chipped_edge",
                                       "hot_block",    "growing_lifters", "whole_block"};
inline constexpr int levels = 3; ///< from the easiest

/// What is told of a theme before it is begun.
struct ThemeTold {
    std::string title, story, wanted;
    int easiest = 1; ///< the level that a beginner takes it at
};
[[nodiscard]] const ThemeTold& told_of(Theme theme);
[[nodiscard]] std::optional<Theme> theme_of(std::string_view key);

/// A block to practise on, with what is asked of it.
struct Exercise {
    std::string key; ///< of its theme, or the name that a shop gave it
    std::int64_t number = 1;
    int level = 1;
    ThemeTold told;
    block::Blueprint blueprint;
    HiddenTruth truth;
    std::vector<block::Payload> plans; ///< what its job begins with: scope, pistons, sizes on offer
};

/// Made by rules: the same theme, level and number give the same exercise on every machine.
/// @param level 1 to `levels`: the gauges get worse, slips more frequent, and what is wrong smaller
[[nodiscard]] Exercise exercise_of(Theme theme, int level, std::int64_t number);

/// What a job of it begins with; the truth stands sealed in it.
[[nodiscard]] std::vector<block::Payload> opening_of(const Exercise& exercise);

} // namespace pallix::workshop
