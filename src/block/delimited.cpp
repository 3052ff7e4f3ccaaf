// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/delimited.h"

#include "block/number_text.h"

#include <algorithm>
#include <csv.h>
#include <map>
#include <memory>

namespace pallix::block {

std::vector<std::string> cells_of(std::string_view line, char delimiter) {
    if (line.ends_with('\r'))
        line.remove_suffix(1);
    std::vector<std::string> row;
    if (delimiter == ' ') { // any run of blanks
        std::size_t at = 0;
        while ((at = line.find_first_not_of(" \t", at)) != std::string_view::npos) {
            const auto end = std::min(line.find_first_of(" \t", at), line.size());
            row.emplace_back(line.substr(at, end - at));
            at = end;
        }
        return row;
    }
    csv_parser parser;
    csv_init(&parser, 0);
    const std::unique_ptr<csv_parser, decltype(&csv_free)> guard(&parser, &csv_free);
    csv_set_delim(&parser, static_cast<unsigned char>(delimiter));
    const auto field = [](void* bytes, std::size_t size, void* into) {
        static_cast<std::vector<std::string>*>(into)->emplace_back(
            trimmed(std::string_view(static_cast<const char*>(bytes), bytes != nullptr ? size : 0)));
    };
    csv_parse(&parser, line.data(), line.size(), field, nullptr, &row);
    csv_fini(&parser, field, nullptr, &row);
    return row;
}

char delimiter_of(const std::vector<std::string>& lines, std::string_view candidates, std::size_t fewest) {
    char best = ',';
    std::size_t most = 0;
    for (const char c : candidates) {
        std::map<std::size_t, std::size_t> counts;
        for (const std::string& line : lines)
            if (const auto n = cells_of(line, c).size(); n >= fewest)
                ++counts[n];
        for (const auto& [columns, n] : counts)
            if (n > most) {
                most = n;
                best = c;
            }
    }
    return best;
}

} // namespace pallix::block
