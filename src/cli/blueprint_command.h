// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/units.h"

#include <string>

namespace pallix::cli {

struct BlueprintRequest {
    std::string file; ///< a recipe or a blueprint; "-" is standard input
    block::Unit unit = block::Unit::mm;
};

/// Draws a blueprint from a recipe and prints it. @return the exit status
int draw_blueprint(const BlueprintRequest& request);

/// Prints what a blueprint has, leaves out, and what looks wrong with it. @return the exit status
int check_blueprint(const BlueprintRequest& request);

} // namespace pallix::cli
