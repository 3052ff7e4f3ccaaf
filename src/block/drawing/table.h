// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/drawing/recipe.h"

namespace pallix::block {

/// Rows of cells as somebody typed them; numbers of a spreadsheet with all their digits.
using Table = std::vector<std::vector<std::string>>;

/// Reads XLSX, ODS, or a text with commas, semicolons, tabs or bars between its columns; only a spreadsheet's first
/// sheet.
/// @return a fault where it is none of these
[[nodiscard]] Result<Table> read_table(std::string_view bytes, const std::string& file);

/// What was made of a table.
struct TableTaken {
    Recipe recipe;
    std::vector<std::string> understood;  ///< a line each
    std::vector<std::string> passed_over; ///< rows that say nothing known
};

/// Figures from a table: rows of a figure's name and what it is ("bore | 95 +0.02 0"), and lists of holes under
/// headings in any order (name, along, across, size, number; units in the headings).
/// @param base figures that stand already; what the table says goes over them
/// @return a fault, with its row, where something cannot be read, or where nothing was known
[[nodiscard]] Result<TableTaken> recipe_from_table(const Table& table, const Recipe& base, const std::string& file);

} // namespace pallix::block
