// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <cstddef>
#include <string>

namespace pallix::wording {

/// The word for one of a list of choices, in the order they are declared in.
template <class Enum, std::size_t N>
[[nodiscard]] std::string pick(Enum value, const std::array<const char*, N>& names) {
    return names[static_cast<std::size_t>(value)];
}

} // namespace pallix::wording
