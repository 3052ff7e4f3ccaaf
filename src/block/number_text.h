// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

// Internal to the block library: numbers as files hold them.

#include <charconv>
#include <cmath>
#include <optional>
#include <string_view>

namespace pallix::block {

/// Without blanks, tabs and line ends around it.
[[nodiscard]] inline std::string_view trimmed(std::string_view text) {
    const auto first = text.find_first_not_of(" \t\r\n");
    return first == std::string_view::npos ? std::string_view()
                                           : text.substr(first, text.find_last_not_of(" \t\r\n") - first + 1);
}

/// @return nothing where the text is not one finite number with a decimal point
[[nodiscard]] inline std::optional<double> finite_number(std::string_view text) {
    if (text.starts_with('+'))
        text.remove_prefix(1);
    double value = 0;
    const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), value);
    if (error != std::errc{} || end != text.data() + text.size() || !std::isfinite(value))
        return std::nullopt;
    return value;
}

} // namespace pallix::block
