// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

namespace pallix::test {

struct Touched {
    std::string feature, x, y, z;
};

/// Of the small block, as the contract's log has them.
[[nodiscard]] std::vector<Touched> touches();

/// How a shop's machine writes.
struct Dialect {
    const char* name;
    std::string head;              ///< before the touches
    std::string order = "f;x;y;z"; ///< of the columns, with their delimiter
    bool comma = false;            ///< decimal
    const char* names = "";        ///< of features: "", "plain", "short", "own"
    std::string mapping = "";
    std::string end = "\n";
    bool quoted = false;
    const char* turned = ""; ///< axes that run the other way
    double per_mm = 1;
};

/// Probe logs of twenty invented shops, each of the same touches.
[[nodiscard]] const std::vector<Dialect>& twenty_dialects();

[[nodiscard]] std::string written(const Dialect& d);

} // namespace pallix::test
