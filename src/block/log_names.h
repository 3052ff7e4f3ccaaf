// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

// Internal to the block library: the words that shops write into their logs.

#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace pallix::block {

/// A line that says something.
struct LogLine {
    int number; ///< from 1
    std::string text;
    bool after_gap; ///< an empty line, or a remark, stands before it
};

/// Lines but empty ones and remarks.
[[nodiscard]] std::vector<LogLine> lines_of(std::string_view text);

/// A number with a decimal point; nothing where it is none in that writing. @param comma is what parts its decimals
[[nodiscard]] std::optional<std::string> decimal_text(std::string text, bool comma);

/// Small letters and digits only: "X [mm]" and "x_pos" are told by "xmm", "xpos".
[[nodiscard]] std::string plain_word(std::string_view text);

/// What a heading says besides its unit: "X [mm]" is "X".
[[nodiscard]] std::string without_unit(const std::string& heading);

struct UsualHeading {
    const char* ours;
    std::vector<std::string> theirs; ///< as `plain_word` has them
};
[[nodiscard]] const std::vector<UsualHeading>& usual_headings();

/// "HL{n}" against "HL12": the 12; nothing where they do not agree.
[[nodiscard]] std::optional<std::string> number_in(const std::string& pattern, const std::string& name);

/// "HL12" as "HL{n}".
[[nodiscard]] std::string pattern_of(const std::string& name);

} // namespace pallix::block
