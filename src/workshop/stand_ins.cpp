// SPDX-License-Identifier: GPL-3.0-or-later
#include "workshop/stand_ins.h"

#include "block/gauge_protocol.h"
#include "metrology/monte_carlo.h"

#include <algorithm>
#include <array>
#include <charconv>
#include <cmath>
#include <cstdio>

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

namespace {

using block::GaugeProfile;

/// A number as printf writes it: gauges do.
template <class... Values>
std::string printed(const char* format, Values... values) {
    std::array<char, 100> text{};
    const int size = std::snprintf(text.data(), text.size(), format, values...);
    return {text.data(), static_cast<std::size_t>(std::clamp(size, 0, static_cast<int>(text.size()) - 1))};
}

std::string with_point(std::string text, char point) { // whatever the locale has for it
    std::ranges::replace_if(
        text, [](char c) { return c == ',' || c == '.'; }, point);
    return text;
}

std::string sends_plain(double value, int) {
    return with_point(printed("%+.4f", value), '.') + "\r\n";
}
std::string sends_named(double value, int) {
    return "Q bore = " + with_point(printed("%.4f", value), '.') + " mm\r";
}
std::string sends_comma(double value, int) {
    return with_point(printed("%.4f", std::abs(value)), ',') + (value < 0 ? "-" : "+") + "\n";
}
std::string sends_when_asked(double value, int) {
    return "[" + with_point(printed("%9.5f", value), '.') + " in ]\r\n";
}
std::string sends_counted(double value, int number) {
    return printed("#%04d;%c%07ld;UM;", number, value < 0 ? '-' : '+', std::lround(std::abs(value))) +
           static_cast<char>('A' + (number * 7) % 26);
}

GaugeProfile profile_of(const char* name, const char* pattern, const char* unit = "mm") {
    GaugeProfile profile;
    profile.name = name;
    profile.pattern = pattern;
    profile.unit = unit;
    return profile;
}

std::vector<TaughtStandIn> made_stand_ins() {
    GaugeProfile plain = profile_of("plain", R"(\s*(?P<sign>[-+]?)(?P<number>\d+\.\d+))");
    GaugeProfile named = profile_of("named", R"(Q bore = (?P<sign>[-+]?)(?P<number>\d+\.\d+) (?P<unit>mm|in))");
    named.end = block::LineEnd::carriage_return;
    named.baud = 4800;
    GaugeProfile comma = profile_of("comma", R"((?P<number>\d+,\d+)(?P<sign>[-+]))");
    GaugeProfile asked = profile_of("asked", R"(\[\s*(?P<sign>[-+]?)(?P<number>\d+\.\d+) (?P<unit>in) \])", "in");
    asked.baud = 19200;
    asked.data_bits = 7;
    asked.parity = block::Parity::even;
    asked.request = "?\\r";
    GaugeProfile counted = profile_of("counted", R"(#\d+;(?P<sign>[-+])(?P<number>\d+);(?P<unit>UM|MM);[A-Z])", "um");
    counted.end = block::LineEnd::pause;
    return {{"plain", plain, sends_plain},
            {"named", named, sends_named},
            {"comma", comma, sends_comma},
            {"asked", asked, sends_when_asked},
            {"counted", counted, sends_counted}};
}

} // namespace

const std::vector<TaughtStandIn>& taught_stand_ins() {
    static const std::vector<TaughtStandIn> all = made_stand_ins();
    return all;
}

} // namespace pallix::workshop
