// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <string_view>

namespace pallix::block {

/// Units lengths are shown and stored in. Inside the program every length is mm, every angle radians.
enum class Unit { mm, inch };

inline constexpr double mm_per_inch = 25.4;
inline constexpr double mm_per_thou = 0.0254;
inline constexpr double radians_per_degree = 3.14159265358979323846 / 180.0;

constexpr double mm_per(Unit unit) {
    return unit == Unit::inch ? mm_per_inch : 1.0;
}
constexpr std::string_view unit_name(Unit unit) {
    return unit == Unit::inch ? "in" : "mm";
}
constexpr std::optional<Unit> unit_from_name(std::string_view name) {
    if (name == "mm")
        return Unit::mm;
    if (name == "in")
        return Unit::inch;
    return std::nullopt;
}

} // namespace pallix::block
