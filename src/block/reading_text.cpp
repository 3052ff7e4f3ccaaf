// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/reading_text.h"

#include <array>
#include <charconv>
#include <cmath>
#include <regex>

namespace pallix::block {
namespace {

using Reads = tl::expected<Understood, std::string>;

/// A number and whatever stands behind it, white space left out, a real minus sign taken for a hyphen.
struct NumberAndWord {
    double number = 0;
    std::string word;
};

std::optional<NumberAndWord> number_and_word(std::string text) {
    for (const std::string_view minus : {"−", "–"})
        if (const auto at = text.find(minus); at != std::string::npos)
            text.replace(at, minus.size(), "-");
    std::erase_if(text, [](char c) { return c == ' ' || c == '\t'; });
    if (text.starts_with('+'))
        text.erase(0, 1);
    NumberAndWord n;
    const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), n.number);
    if (error != std::errc{} || !std::isfinite(n.number))
        return std::nullopt;
    n.word = text.substr(static_cast<std::size_t>(end - text.data()));
    for (char& c : n.word)
        if (c >= 'A' && c <= 'Z')
            c = static_cast<char>(c - 'A' + 'a');
    return n;
}

Reads in_plain_unit(std::string_view text, const Expected& e, const std::string& wanted,
                    double (*to_unit)(double, const std::string&)) {
    const auto n = number_and_word(std::string(text));
    if (!n)
        return tl::unexpected("“" + std::string(text) + "” is not a number");
    const double value = to_unit(n->number, n->word);
    if (std::isnan(value))
        return tl::unexpected("“" + n->word + "” is no unit for this: use " + wanted);
    Understood u;
    u.value = value;
    u.deviation = value - e.value;
    if (std::abs(u.deviation) > e.believable)
        u.suspicion = Suspicion::far;
    return u;
}

double celsius(double number, const std::string& word) {
    if (word.empty() || word == "c" || word == "°c" || word == "°")
        return number;
    return word == "f" || word == "°f" ? (number - 32) / 1.8 : std::nan("");
}

double mm_per_m(double number, const std::string& word) {
    if (word.empty() || word == "mm/m")
        return number;
    constexpr double per_foot = 1000.0 / 12; // in/ft to mm/m
    if (word == "in/ft")
        return number * per_foot;
    return word == "thou/ft" ? number * per_foot / 1000 : std::nan("");
}

/// One thickness of a bracket. Whole numbers at an inch bench are thou, as feelers are marked.
double thickness(const std::smatch& found, Unit bench) {
    const std::string digits = found[1], unit = found[2];
    const bool whole = digits.find('.') == std::string::npos;
    if (unit.empty() && bench == Unit::inch && whole)
        return std::stod(digits) * mm_per_thou;
    return read_length(digits + unit, bench).value_or(std::nan(""));
}

Reads read_bracket(std::string_view text, const Expected& e) {
    static const std::regex one(R"((\d*\.?\d+)\s*(mm|inch|in\b(?!\s*[,;])|thou|th|tenths|tenth|µm|um)?)");
    std::string t(text);
    t = std::regex_replace(t, std::regex("goes in"), "");
    std::vector<double> found;
    for (std::sregex_iterator i(t.begin(), t.end(), one), end; i != end; ++i)
        found.push_back(thickness(*i, e.bench));
    if (found.size() != 2)
        return tl::unexpected<std::string>(
            "two thicknesses are wanted, the one that goes in and the next that does not: 6 7, or 0.15 0.20");
    if (!(found[0] < found[1]))
        return tl::unexpected<std::string>("the first must be the thinner: what goes in, then what does not");
    Understood u;
    u.value = found[0];
    u.upper = found[1];
    u.deviation = found[0];
    if (found[1] > e.believable)
        u.suspicion = found[1] / 10 <= e.believable ? Suspicion::ten_times : Suspicion::far;
    return u;
}

} // namespace

Reads read_reading(std::string_view text, Quantity quantity, const Expected& expected) {
    switch (quantity) {
    case Quantity::temperature:
        return in_plain_unit(text, expected, "°C", celsius);
    case Quantity::slope:
        return in_plain_unit(text, expected, "mm/m", mm_per_m);
    case Quantity::gap:
        return read_bracket(text, expected);
    default:
        return read_shorthand(text, expected);
    }
}

} // namespace pallix::block
