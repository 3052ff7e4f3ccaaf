// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

// Internal to the block library: what goes into the ledger must come out of it again, and JSON is UTF-8.

#include "block/fault.h"
#include "block/named_text.h"

#include <algorithm>
#include <boost/locale/utf.hpp>
#include <string_view>

namespace pallix::block {

/// @return where the first byte stands that begins no UTF-8 character; npos where there is none
[[nodiscard]] inline std::size_t first_not_utf8(std::string_view text) {
    using Traits = boost::locale::utf::utf_traits<char>;
    for (const char* at = text.data(); at != text.data() + text.size();) {
        if (static_cast<unsigned char>(*at) < 0x80) { // nearly all of any file
            ++at;
            continue;
        }
        const char* start = at;
        const auto c = Traits::decode(at, text.data() + text.size());
        if (c == boost::locale::utf::illegal || c == boost::locale::utf::incomplete)
            return static_cast<std::size_t>(start - text.data());
    }
    return std::string_view::npos;
}

/// @return a fault for each line that is no UTF-8 text, the first twenty
[[nodiscard]] inline Faults faults_of_text(const NamedText& file) {
    constexpr std::size_t most = 20; // a file of another kind has one a line
    Faults faults;
    if (first_not_utf8(file.text) == std::string_view::npos)
        return faults;
    int number = 0;
    for (std::string_view rest = file.text; !rest.empty() && faults.size() < most;) {
        const std::size_t end = std::min(rest.find('\n'), rest.size() - 1) + 1;
        ++number;
        if (first_not_utf8(rest.substr(0, end)) != std::string_view::npos)
            faults.push_back({file.file, number, "this line is no UTF-8 text", "UTF-8, in remarks and names too"});
        rest.remove_prefix(end);
    }
    return faults;
}

} // namespace pallix::block
