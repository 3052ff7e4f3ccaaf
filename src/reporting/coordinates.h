// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/fault.h"
#include "reporting/cell_table.h"
#include "reporting/paper_source.h"

namespace pallix::reporting {

// Where holes are and where they are to be, for whoever feeds a machine: bank by bank and set-up by set-up, from the
// origin dowel, and in a machine's own axes where the shop has said how a block stands in it.

/// One table for each set-up; its unit stands in every head.
/// @param machine may be null: then only along and across
[[nodiscard]] std::vector<CellTable> coordinate_tables(const PaperSource& source, const block::MachineAxes* machine);

[[nodiscard]] QString coordinates_html(const PaperSource& source, const block::MachineAxes* machine);

/// One table under another (CSV), a sheet for each (XLSX), or drawn (DXF): circles where holes are found, meant and to
/// be, on a layer each, in the machine's plane where one is given.
/// @param file .csv, .xlsx or .dxf
[[nodiscard]] Saved save_coordinates(const PaperSource& source, const block::MachineAxes* machine, const QString& file);

} // namespace pallix::reporting
