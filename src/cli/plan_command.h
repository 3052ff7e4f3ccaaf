// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "cli/inputs.h"

namespace pallix::cli {

struct PlanRequest {
    BlockFiles files;
    std::string policy; ///< file; empty: the usual policy
    bool as_text = false;
};

/// Prints what to cut on standard output, faults and warnings on standard error.
/// @return the exit status: 0 done (a plan that finds no way is an answer too), 1 the input is wrong
int plan(const PlanRequest& request);

} // namespace pallix::cli
