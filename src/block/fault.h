// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <tl/expected.hpp>
#include <vector>

namespace pallix::block {

/// One thing wrong with an input, or worth a warning: where, what is wrong, what was expected instead.
struct Fault {
    std::string file;
    int line = 0; ///< from 1; 0 where no line is to blame
    std::string what;
    std::string expected; ///< empty for a warning that expects nothing else

    /// `FILE:LINE: what is wrong, expected …`
    [[nodiscard]] std::string text() const {
        std::string t = file;
        if (line > 0)
            t += ":" + std::to_string(line);
        t += ": " + what;
        if (!expected.empty())
            t += ", expected " + expected;
        return t;
    }
};

/// Of one file: nobody reads more.
inline constexpr std::size_t most_faults = 100;

/// All faults of an input, in the order of its lines. An input with faults is not taken at all.
using Faults = std::vector<Fault>;

template <class T>
using Result = tl::expected<T, Faults>;

} // namespace pallix::block
