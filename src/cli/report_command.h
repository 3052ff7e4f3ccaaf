// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/units.h"

#include <string>
#include <vector>

namespace pallix::cli {

/// Papers of one job or of many.
struct ReportRequest {
    std::vector<std::string> jobs; ///< .pallix.json; with a book titles, serials or numbers of its jobs
    std::string book;              ///< a shop book; empty: jobs are files
    bool all = false;              ///< every job of the book
    std::string kind = "passport";
    std::string out;     ///< file; "{job}" in it stands for the job's name where there are many
    std::string paper;   ///< "a4", "letter"; empty: as is usual where this runs
    std::string shop;    ///< .pallix-shop.json, instead of the book's; may be empty
    std::string machine; ///< of the shop, for coordinates; may be empty
    std::string label;   ///< "62 x 29"; empty: the shop's
    std::string at;      ///< UTC, ISO 8601; empty: now
    block::Unit unit = block::Unit::mm;
};

/// Writes papers without a window or a display. What cannot be written is told, the rest is written.
/// @return exit status
int report(const ReportRequest& request);

} // namespace pallix::cli
