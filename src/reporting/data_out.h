// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "reporting/cell_table.h"
#include "reporting/paper_source.h"

namespace pallix::reporting {

/// Everything of a job as tables for other programs: what papers tell, readings, touches, results with their
/// uncertainties, the ledger. Lengths in mm as they are kept, whatever the bench shows; every head names its unit.
[[nodiscard]] std::vector<CellTable> data_tables(const PaperSource& source);

} // namespace pallix::reporting
