// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>

namespace pallix::cli {

struct CheckRequest {
    std::string job;    ///< a .pallix.json
    std::string digest; ///< as it stands on a paper; empty: the ledger's own is printed
};

/// Tells whether a paper belongs to an unaltered ledger.
/// @return exit status: input is wrong also where it does not
int check(const CheckRequest& request);

} // namespace pallix::cli
