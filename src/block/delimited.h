// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

// Text in columns as anybody writes it: for logs and tables of other forms. Our own logs are read strictly (probe_log).

#include <cstddef>
#include <string>
#include <string_view>
#include <vector>

namespace pallix::block {

/// One line into its cells, quotes and blanks round them taken off.
/// @param delimiter a blank stands for any run of blanks and tabs
[[nodiscard]] std::vector<std::string> cells_of(std::string_view line, char delimiter);

/// The delimiter by which most lines fall into the same number of columns.
/// @param candidates in the order in which they are believed
/// @param fewest columns; what falls into fewer does not count
/// @return a comma where no line has so many
[[nodiscard]] char delimiter_of(const std::vector<std::string>& lines, std::string_view candidates, std::size_t fewest);

} // namespace pallix::block
