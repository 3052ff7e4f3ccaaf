// SPDX-License-Identifier: GPL-3.0-or-later
#include "workshop/stand_ins.h"

#include "block/gauge_protocol.h"
#include "metrology/monte_carlo.h"

#include <array>
#include <charconv>

namespace pallix::workshop {

using block::write_gauge_line;

std::vector<std::string> lines_of(const GaugeStandIn& gauge) {
    std::vector<std::string> lines{write_gauge_line(block::GaugeHello{gauge.name})};
    metrology::Deviates draw(gauge.seed, 0);
    std::int64_t number = 0;
    for (const double value : gauge.values) {
        const double shown = value + (gauge.noise > 0 ? gauge.noise * draw.normal() : 0);
        std::array<char, 40> text{};
        const auto [end, error] =
            std::to_chars(text.data(), text.data() + text.size(), shown, std::chars_format::general, 6);
        lines.push_back(write_gauge_line(block::GaugeReading{++number, {text.data(), end}, gauge.unit}));
    }
    lines.push_back(write_gauge_line(block::GaugeBye{}));
    return lines;
}

std::vector<std::string> lines_of_probe(const std::string& name, std::string_view log) {
    std::vector<std::string> lines{write_gauge_line(block::GaugeHello{name})};
    std::int64_t number = 0;
    bool rows = false;
    while (!log.empty()) {
        const std::size_t end = std::min(log.find('\n'), log.size());
        std::string line(log.substr(0, end));
        log.remove_prefix(std::min(end + 1, log.size()));
        if (line.ends_with('\r'))
            line.pop_back();
        if (line.empty())
            continue;
        lines.push_back(rows ? write_gauge_line(block::ProbeTouch{++number, line})
                             : write_gauge_line(block::ProbeLogLine{line}));
        rows = rows || !line.starts_with('#'); // the header row is the last line that is no touch
    }
    lines.push_back(write_gauge_line(block::ProbeLogEnd{}));
    lines.push_back(write_gauge_line(block::GaugeBye{}));
    return lines;
}

} // namespace pallix::workshop
