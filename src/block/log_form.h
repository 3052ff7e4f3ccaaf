// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

// Internal to the block library: how a log of another form is written.

#include "block/log_dialect.h"
#include "block/log_names.h"

#include <map>
#include <string>
#include <string_view>
#include <vector>

namespace pallix::block {

using LogRow = std::vector<std::string>;

struct LogColumn {
    std::size_t index;
    bool turned;
    std::string heading;
};

/// Rows and columns of a log, and what the columns hold.
struct LogForm {
    std::vector<LogLine> lines;
    std::vector<LogRow> rows; ///< of the lines
    bool comma = false;       ///< parts decimals
    Unit unit = Unit::mm;
    std::size_t first = 0;                    ///< row of the first touch
    std::optional<std::size_t> headings;      ///< their row
    std::map<std::string, LogColumn> columns; ///< by what they hold: setup, rotation, feature, level, x, y, z
    std::map<std::string, std::string> guess; ///< of columns that are not known, where there is but one way
    std::vector<std::string> understood;
    Faults faults;

    [[nodiscard]] bool has(const char* column) const { return columns.contains(column); }
    [[nodiscard]] std::string cell(const LogRow& row, const char* column) const;
    [[nodiscard]] std::map<std::string, std::string> column_names() const; ///< headings, a minus before turned ones
    [[nodiscard]] int heading_line() const { return headings ? lines[*headings].number : 0; }
    [[nodiscard]] std::vector<std::string> heading_words() const; ///< "#3" where a column has none
    [[nodiscard]] std::vector<LogRow> first_rows() const;         ///< from the headings on
    void fault(const std::string& file, int line, std::string what, std::string expected);
};

[[nodiscard]] LogForm form_of(std::string_view text, const std::string& file, const LogMapping& mapping);

} // namespace pallix::block
