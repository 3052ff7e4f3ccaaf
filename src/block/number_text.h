// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

// Numbers as files hold them: the same under every locale.

#include <array>
#include <charconv>
#include <cmath>
#include <optional>
#include <string>
#include <string_view>

namespace pallix::block {

/// Without blanks, tabs and line ends around it.
[[nodiscard]] inline std::string_view trimmed(std::string_view text) {
    const auto first = text.find_first_not_of(" \t\r\n");
    return first == std::string_view::npos ? std::string_view()
                                           : text.substr(first, text.find_last_not_of(" \t\r\n") - first + 1);
}

/// The shortest text that reads back as the same number: "12", "0.005", "1e+30".
[[nodiscard]] inline std::string short_number(double value) {
    std::array<char, 32> text{};
    const auto [end, error] = std::to_chars(text.data(), text.data() + text.size(), value);
    return {text.data(), end};
}

/// A number with so many decimals and a point, whatever the locale; "nan" and "inf" as they are.
[[nodiscard]] inline std::string fixed_number(double value, int decimals) {
    std::array<char, 400> text{}; // the largest double has 309 digits before the point
    const auto [end, error] =
        std::to_chars(text.data(), text.data() + text.size(), value, std::chars_format::fixed, decimals);
    return {text.data(), end};
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
