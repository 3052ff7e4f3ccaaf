// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/gauge_protocol.h"

#include <algorithm>
#include <array>
#include <charconv>
#include <cmath>

namespace pallix::block {
namespace {

constexpr std::size_t longest_line = 400;
constexpr std::int64_t most_readings = 1'000'000'000; // of one gauge, counted from 1
constexpr std::array<std::string_view, 5> units{"mm", "in", "um", "thou", "C"};

std::string_view take_word(std::string_view& rest) {
    const std::size_t start = std::min(rest.find_first_not_of(' '), rest.size());
    rest.remove_prefix(start);
    const std::size_t end = std::min(rest.find(' '), rest.size());
    const std::string_view word = rest.substr(0, end);
    rest.remove_prefix(std::min(end + 1, rest.size()));
    return word;
}

template <class Number>
std::optional<Number> number_of(std::string_view word) {
    Number n{};
    const auto [end, error] = std::from_chars(word.data(), word.data() + word.size(), n);
    if (error != std::errc{} || end != word.data() + word.size())
        return std::nullopt;
    return n;
}

/// What is shown of a line that makes no sense: printable and short.
std::string shown(std::string_view line) {
    std::string out;
    for (const char c : line.substr(0, 40))
        out += c >= ' ' && c <= '~' ? c : '.';
    return "“" + out + (line.size() > 40 ? "…”" : "”");
}

tl::unexpected<std::string> wrong(std::string_view line, const std::string& expected) {
    return tl::unexpected("the gauge sent " + shown(line) + ", expected " + expected);
}

using Read = tl::expected<GaugeLine, std::string>;

Read read_hello(std::string_view line, std::string_view rest) {
    if (take_word(rest) != "1")
        return wrong(line, "gauge protocol version 1");
    return GaugeHello{std::string(rest)};
}

Read read_value(std::string_view line, std::string_view rest) {
    const auto number = number_of<std::int64_t>(take_word(rest));
    const std::string_view value = take_word(rest), unit = take_word(rest);
    if (!number || *number < 1 || *number > most_readings)
        return wrong(line, "reading NUMBER VALUE UNIT, counted from 1");
    if (const auto v = number_of<double>(value.starts_with('+') ? value.substr(1) : value); !v || !std::isfinite(*v))
        return wrong(line, "a finite number as its value");
    if (std::ranges::find(units, unit) == units.end())
        return wrong(line, "a unit of mm, in, um, thou or C");
    return GaugeReading{*number, std::string(value), std::string(unit)};
}

Read read_touch(std::string_view line, std::string_view rest) {
    const auto number = number_of<std::int64_t>(take_word(rest));
    if (!number || *number < 1 || *number > most_readings || rest.empty())
        return wrong(line, "touch NUMBER, counted from 1, and a row of the log");
    return ProbeTouch{*number, std::string(rest)};
}

} // namespace

Read read_gauge_line(std::string_view line) {
    std::string_view rest = line;
    const std::string_view word = take_word(rest);
    if (word == "pallix-gauge")
        return read_hello(line, rest);
    if (word == "reading")
        return read_value(line, rest);
    if (word == "touch")
        return read_touch(line, rest);
    if (word == "log")
        return ProbeLogLine{std::string(rest)};
    if (word == "end" && rest.empty())
        return ProbeLogEnd{};
    if (word == "bye" && rest.empty())
        return GaugeBye{};
    return wrong(line, "a line of the gauge protocol");
}

std::string write_gauge_line(const GaugeLine& line) {
    struct Write {
        std::string operator()(const GaugeHello& l) const { return "pallix-gauge 1 " + l.name; }
        std::string operator()(const GaugeReading& l) const {
            return "reading " + std::to_string(l.number) + " " + l.value + " " + l.unit;
        }
        std::string operator()(const ProbeLogLine& l) const { return "log " + l.line; }
        std::string operator()(const ProbeTouch& l) const { return "touch " + std::to_string(l.number) + " " + l.row; }
        std::string operator()(const ProbeLogEnd&) const { return "end"; }
        std::string operator()(const GaugeBye&) const { return "bye"; }
    };
    return std::visit(Write{}, line) + "\n";
}

void GaugeLineReader::take(std::string_view line, std::vector<Item>& items) const {
    while (!line.empty() && (line.back() == '\r' || line.back() == '\n'))
        line.remove_suffix(1);
    while (!line.empty() && (line.front() == '\r' || line.front() == '\n'))
        line.remove_prefix(1);
    if (line.empty())
        return;
    if (auto read = read_(line))
        items.push_back({std::move(*read), {}});
    else
        items.push_back({std::nullopt, std::move(read.error())});
}

std::vector<GaugeLineReader::Item> GaugeLineReader::feed(std::string_view bytes) {
    std::vector<Item> items;
    pending_ += bytes;
    std::size_t begin = 0;
    for (std::size_t end = end_ == 0 ? std::string::npos : pending_.find(end_); end != std::string::npos;
         end = pending_.find(end_, begin)) {
        take(std::string_view(pending_).substr(begin, end - begin), items);
        begin = end + 1;
    }
    pending_.erase(0, begin);
    if (pending_.size() > longest_line) {
        items.push_back({std::nullopt, "the gauge sent " + std::to_string(pending_.size()) +
                                           " bytes without the end of a line, expected lines of the gauge protocol"});
        pending_.clear();
    }
    return items;
}

std::vector<GaugeLineReader::Item> GaugeLineReader::pause() {
    std::vector<Item> items;
    if (end_ == 0)
        take(std::exchange(pending_, {}), items);
    return items;
}

} // namespace pallix::block
