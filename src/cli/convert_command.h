// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>

namespace pallix::cli {

struct ConvertRequest {
    std::string log;     ///< "-" is standard input
    std::string mapping; ///< empty: everything is found in the log
};

/// Prints a shop's own log as one of the contract's form, and on standard error how it was understood.
/// @return the exit status
int convert(const ConvertRequest& request);

} // namespace pallix::cli
