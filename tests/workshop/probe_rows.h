// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/delimited.h"

#include <sstream>
#include <string>
#include <vector>

namespace pallix::test {

/// Rows of touches of a log that the stand-in probe wrote: set-up, feature, level, x, y, z.
inline std::vector<std::vector<std::string>> probe_rows(const std::string& log) {
    std::vector<std::vector<std::string>> rows;
    std::istringstream in(log);
    for (std::string line; std::getline(in, line);)
        if (auto cells = block::cells_of(line, ','); cells.size() == 6 && cells[1] != "feature")
            rows.push_back(std::move(cells));
    return rows;
}

} // namespace pallix::test
