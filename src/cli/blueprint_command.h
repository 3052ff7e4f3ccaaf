// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/units.h"
#include "cli/convert_command.h"

#include <string>
#include <vector>

namespace pallix::cli {

struct BlueprintRequest {
    std::string file; ///< a recipe or a blueprint; "-" is standard input
    block::Unit unit = block::Unit::mm;
};

/// Draws a blueprint from a recipe and prints it. @return the exit status
int draw_blueprint(const BlueprintRequest& request);

/// Prints what a blueprint has, leaves out, and what looks wrong with it. @return the exit status
int check_blueprint(const BlueprintRequest& request);

struct DxfRequest {
    std::string drawing; ///< "-" is standard input
    std::string base;    ///< an engine, recipe or blueprint whose figures stand already; may be empty
    std::string unit;    ///< "mm" or "in"; empty: as the drawing says
    std::string distance;
    bool other_end = false, mirrored = false, gasket = false;
    std::vector<std::string> without; ///< layers
};
/// Prints the recipe that a drawing of a deck makes; what was understood goes to standard error. @return the exit
/// status
int recipe_from_drawing(const DxfRequest& request);

/// Prints the recipe that a table of figures or holes makes. @param base as above @return the exit status
int recipe_from_sheet(const std::string& table, const std::string& base, block::Unit unit);

/// Prints the recipe that logs of good blocks teach, a block each. @param base as above @return the exit status
int recipe_from_blocks(const std::vector<std::string>& logs, const LogReading& reading, const std::string& base,
                       block::Unit unit);

/// Writes a blueprint's drawing into a file. @return the exit status
int write_drawing(const BlueprintRequest& request, const std::string& file);

} // namespace pallix::cli
