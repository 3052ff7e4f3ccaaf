// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/shorthand.h"

#include <algorithm>
#include <array>
#include <charconv>
#include <cmath>

namespace pallix::block {
namespace {

struct UnitWord {
    std::string_view word;
    double mm;
    bool shop; ///< used for deviations only
};

constexpr std::array<UnitWord, 18> unit_words{{
    {"mm", 1.0, false},
    {"in", mm_per_inch, false},
    {"inch", mm_per_inch, false},
    {"\"", mm_per_inch, false},
    {"thou", mm_per_thou, true},
    {"thous", mm_per_thou, true},
    {"th", mm_per_thou, true},
    {"over", mm_per_thou, true},
    {"t", mm_per_thou / 10, true},
    {"tenth", mm_per_thou / 10, true},
    {"tenths", mm_per_thou / 10, true},
    {"µm", 1e-3, true}, // micro sign
    {"μm", 1e-3, true}, // Greek mu
    {"um", 1e-3, true},
    {"micron", 1e-3, true},
    {"microns", 1e-3, true},
    {"µ", 1e-3, true},
    {"my", 1e-3, true},
}};

struct Written {
    double number = 0;
    bool has_sign = false;
    bool has_point = false;
    std::optional<UnitWord> unit;
};

std::string normalised(std::string_view text) {
    std::string out;
    for (std::size_t i = 0; i < text.size(); ++i) {
        if (text.substr(i).starts_with("−")) { // minus sign U+2212
            out += '-';
            i += std::string_view("−").size() - 1;
        } else if (text[i] == ',' && text.find('.') == std::string_view::npos) {
            out += '.';
        } else if (text[i] != ' ' && text[i] != '\t') {
            out += text[i] >= 'A' && text[i] <= 'Z' ? static_cast<char>(text[i] - 'A' + 'a') : text[i];
        }
    }
    return out;
}

tl::expected<Written, std::string> read_written(std::string_view original) {
    const std::string text = normalised(original);
    if (text.empty())
        return tl::unexpected<std::string>("nothing was typed");
    Written w;
    std::string_view rest = text;
    double sign = 1;
    if (rest.front() == '+' || rest.front() == '-') {
        w.has_sign = true;
        sign = rest.front() == '-' ? -1 : 1;
        rest.remove_prefix(1);
    }
    const std::size_t end = std::min(rest.find_first_not_of("0123456789."), rest.size());
    const std::string_view digits = rest.substr(0, end);
    const auto [stop, error] = std::from_chars(digits.data(), digits.data() + digits.size(), w.number);
    if (error != std::errc{} || stop != digits.data() + digits.size() || !std::isfinite(w.number))
        return tl::unexpected("“" + std::string(original) + "” is not a number");
    w.number *= sign;
    w.has_point = digits.find('.') != std::string_view::npos;
    rest.remove_prefix(end);
    if (!rest.empty()) {
        const auto unit = std::ranges::find(unit_words, rest, &UnitWord::word);
        if (unit == unit_words.end())
            return tl::unexpected("“" + std::string(rest) + "” is no unit known here: use in, mm, thou, tenths or µm");
        w.unit = *unit;
    }
    return w;
}

/// `3755` where 3.75 is expected: the point goes where it comes nearest.
std::optional<double> with_point_supplied(double number, double expected) {
    double best = number;
    for (int k = 1; k <= 6; ++k) {
        const double scaled = number / std::pow(10.0, k);
        if (std::abs(scaled - expected) < std::abs(best - expected))
            best = scaled;
    }
    if (best == number || std::abs(best - expected) > 0.05 * std::abs(expected))
        return std::nullopt;
    return best;
}

/// @param value mm, as it was typed: the whole value, or the deviation
void find_suspicion(Understood& u, double value, const Expected& e) {
    const auto believable = [&e](double whole) { return std::abs(whole - e.value) <= e.believable; };
    if (!believable(u.value)) {
        u.suspicion = Suspicion::far;
        if (const double less = u.value - 0.9 * value; (u.relative || e.direct) && believable(less)) {
            u.suspicion = Suspicion::ten_times;
            u.instead = less;
        }
    }
    // A slipped zero leaves a dial exactly one turn off; that is told apart from ten times off by the remainder.
    if (u.suspicion != Suspicion::none && e.turn > 0)
        for (const double turned : {u.value - e.turn, u.value + e.turn})
            if (std::abs(turned - e.repeat.value_or(e.value)) <= e.believable / 4) {
                u.suspicion = Suspicion::one_turn;
                u.instead = turned;
            }
    if (u.suspicion != Suspicion::none)
        return;
    if (e.repeat && e.repeat_limit > 0 && std::abs(u.value - *e.repeat) > e.repeat_limit)
        u.suspicion = Suspicion::unlike_repeat;
    else if (e.neighbours && e.neighbour_limit > 0 && std::abs(u.value - *e.neighbours) > e.neighbour_limit)
        u.suspicion = Suspicion::unlike_neighbours;
}

} // namespace

namespace {

/// `clockwise 0.4` → `-0.4` at a dial on which clockwise is smaller.
/// @return nothing where no turn is spoken of; why it cannot be told
tl::expected<std::optional<std::string>, std::string> turned(std::string_view text, DialSense clockwise) {
    constexpr std::array<std::pair<std::string_view, bool>, 5> words{
        {{"clockwise", true}, {"anticlockwise", false}, {"counterclockwise", false}, {"ccw", false}, {"cw", true}}};
    const std::string plain = normalised(text);
    for (const auto& [word, with_the_clock] : words) {
        if (!plain.starts_with(word))
            continue;
        if (clockwise == DialSense::not_stated)
            return tl::unexpected<std::string>("which way its dial turns for smaller nobody has said: it stands in its "
                                               "card, clockwise is smaller or larger");
        const bool larger = (clockwise == DialSense::larger) == with_the_clock;
        return (larger ? "+" : "-") + plain.substr(word.size());
    }
    return std::nullopt;
}

} // namespace

tl::expected<Understood, std::string> read_shorthand(std::string_view text, const Expected& expected) {
    const auto by_dial = turned(text, expected.clockwise);
    if (!by_dial)
        return tl::unexpected(by_dial.error());
    const auto written = read_written(*by_dial ? std::string_view(**by_dial) : text);
    if (!written)
        return tl::unexpected(written.error());
    const double mm = written->unit ? written->unit->mm : mm_per(expected.bench);
    double value = written->number * mm;
    Understood u;
    const bool shop_unit = written->unit && written->unit->shop;
    if (!shop_unit && !written->has_sign && !written->has_point && written->number >= 100) {
        if (const auto pointed = with_point_supplied(written->number, expected.value / mm)) {
            value = *pointed * mm;
            u.shorthand = true;
        }
    }
    u.relative =
        !expected.direct && (written->has_sign || shop_unit || std::abs(value) < 0.05 * std::abs(expected.value));
    const bool over = written->unit && written->unit->word == "over";
    if (u.relative && !over && expected.needs_zero)
        return tl::unexpected<std::string>(
            "a deviation, and this gauge has no zero near that: type the whole value, or say what it stands zeroed at");
    u.by_dial = by_dial->has_value();
    const double from = over ? expected.nominal.value_or(expected.value) : expected.zero.value_or(expected.value);
    u.value = u.relative ? from + value : value;
    u.deviation = u.value - expected.value;
    find_suspicion(u, value, expected);
    if (u.suspicion != Suspicion::none && !written->unit && !written->has_sign && !expected.direct) {
        const double other = written->number * mm_per(expected.bench == Unit::mm ? Unit::inch : Unit::mm);
        if (std::abs(other - expected.value) <= expected.believable) {
            u.suspicion = Suspicion::other_unit;
            u.instead = other;
        }
    }
    return u;
}

tl::expected<double, std::string> read_length(std::string_view text, Unit bench) {
    return read_written(text).map(
        [bench](const Written& w) { return w.number * (w.unit ? w.unit->mm : mm_per(bench)); });
}

} // namespace pallix::block
