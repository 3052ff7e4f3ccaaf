// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "reporting/save.h"

#include <QByteArray>
#include <QString>
#include <optional>
#include <string>
#include <utility>
#include <vector>

namespace pallix::reporting {

/// Nothing, words or a number.
struct Cell {
    std::optional<std::string> words;
    std::optional<double> number;

    Cell() = default;
    Cell(std::string w) : words(std::move(w)) {}
    Cell(double n) : number(n) {}
    Cell(const std::optional<double>& n) : number(n) {}
};

/// A table for other programs: every column has one meaning and one unit, which its head names.
struct CellTable {
    std::string name; ///< of the sheet: at most 31 letters
    std::vector<std::string> heads;
    std::vector<std::vector<Cell>> rows;
};

/// As CSV (RFC 4180, UTF-8, CRLF): every cell in quotes but numbers. Words that a spreadsheet would take for a formula
/// stand behind an apostrophe; numbers have as many digits as they need to be read back as they are.
[[nodiscard]] QByteArray csv_of(const CellTable& table);

/// As a workbook, a sheet for each. Words are kept as words, whatever they begin with.
[[nodiscard]] Saved save_xlsx(const std::vector<CellTable>& tables, const QString& file);

} // namespace pallix::reporting
