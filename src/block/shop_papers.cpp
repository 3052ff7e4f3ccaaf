// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/shop_papers.h"

#include "block/fields_json.h"
#include "block/number_text.h"
#include "block/units.h"
#include "block/words_of.h"

#include <algorithm>
#include <cctype>
#include <charconv>
#include <cmath>
#include <numbers>
#include <numeric>

namespace pallix::block {
namespace {

constexpr std::string_view axis_letters = "XYZ";
constexpr double degree = std::numbers::pi / 180;

Fault not_that(const std::string& where, const std::string& what, const std::string& expected) {
    return {where, 0, what, expected};
}

std::optional<double> number_in(std::string_view word) {
    double value = 0;
    const auto [end, error] = std::from_chars(word.data(), word.data() + word.size(), value);
    return error == std::errc() && end == word.data() + word.size() && std::isfinite(value) ? std::optional(value)
                                                                                            : std::nullopt;
}

/// Whether the axes taken together are a turn, not a mirror.
bool right_handed(const MachineAxes& axes) {
    int inversions = 0;
    for (std::size_t i = 0; i < 3; ++i)
        for (std::size_t j = i + 1; j < 3; ++j)
            inversions += axes.axis[i] > axes.axis[j] ? 1 : 0;
    return (inversions % 2 == 0 ? 1 : -1) * axes.sign[0] * axes.sign[1] * axes.sign[2] > 0;
}

void fields(Fields& f, MachineAxes& p) {
    f.text("machine", p.machine);
    std::string text = axes_text(p);
    f.text("axes", text);
    const auto read = read_axes(p.machine, text);
    f.demand(read.has_value(), "axes", "is \"" + text + "\"", "such as X -Y -Z turn 12.5, a turn and no mirror");
    if (read)
        p = *read;
}

void fields(Fields& f, ShopPapers& p) {
    f.text_if("shop", p.shop);
    f.text("serial_pattern", p.serial_pattern, 100);
    f.text("engraving", p.engraving, 100);
    f.group("engraver", [&] {
        auto most = static_cast<std::int64_t>(p.engraver.most);
        f.whole("most", most, {1, 200});
        p.engraver.most = static_cast<std::size_t>(std::max<std::int64_t>(most, 1));
        f.text("letters", p.engraver.letters);
    });
    f.group("label", [&] {
        f.number("width_mm", p.label.width, {10, 300});
        f.number("height_mm", p.label.height, {10, 300});
    });
    f.list("machines", p.machines, {0, 50}, [&f](MachineAxes& m) { fields(f, m); });
}

/// A pattern taken apart: words, year and number.
struct Part {
    enum { words, year, number } what = words;
    std::string text;      ///< of words
    std::size_t width = 0; ///< of year and number
};
std::vector<Part> parts_of(const std::string& pattern) {
    std::vector<Part> parts;
    for (std::size_t at = 0; at < pattern.size();) {
        const std::size_t end = pattern[at] == '{' ? pattern.find('}', at) : std::string::npos;
        if (end != std::string::npos) {
            const std::string inside = pattern.substr(at + 1, end - at - 1);
            const bool all = !inside.empty() && inside.find_first_not_of(inside[0]) == std::string::npos;
            if (all && ((inside[0] == 'y' && (inside.size() == 2 || inside.size() == 4)) ||
                        (inside[0] == 'n' && inside.size() <= 9))) {
                parts.push_back({inside[0] == 'y' ? Part::year : Part::number, "", inside.size()});
                at = end + 1;
                continue;
            }
        }
        parts.push_back({Part::words, std::string(1, pattern[at]), 0});
        ++at;
    }
    return parts;
}

/// The number of a serial that is of the pattern and of that year; nothing for others.
std::optional<long> number_of(const std::vector<Part>& parts, const std::string& year, std::string_view serial) {
    std::optional<long> number;
    for (const Part& part : parts) {
        std::string expected = part.text;
        if (part.what == Part::year)
            expected = year.substr(4 - part.width);
        if (part.what != Part::number) {
            if (!serial.starts_with(expected))
                return std::nullopt;
            serial.remove_prefix(expected.size());
            continue;
        }
        long value = 0;
        const auto [end, error] = std::from_chars(serial.data(), serial.data() + serial.size(), value);
        if (error != std::errc() || value < 0)
            return std::nullopt;
        serial.remove_prefix(static_cast<std::size_t>(end - serial.data()));
        number = value;
    }
    return serial.empty() ? number : std::nullopt;
}

} // namespace

metrology::Vec3 in_machine(const MachineAxes& axes, metrology::Vec3 place) {
    std::array<double, 3> at{};
    const std::array ways{place.x, place.y, place.z};
    for (std::size_t i = 0; i < 3; ++i)
        at[axes.axis[i]] = axes.sign[i] * ways[i];
    // Right-handed about that axis: from the next to the one after it.
    double& a = at[(axes.axis[2] + 1) % 3];
    double& b = at[(axes.axis[2] + 2) % 3];
    const double c = std::cos(axes.turn), s = std::sin(axes.turn), before = a;
    a = c * before - s * b;
    b = s * before + c * b;
    return {at[0], at[1], at[2]};
}

std::string axes_text(const MachineAxes& axes) {
    std::string text;
    for (std::size_t i = 0; i < 3; ++i)
        text += std::string(i == 0 ? "" : " ") + (axes.sign[i] < 0 ? "-" : "") + axis_letters[axes.axis[i]];
    if (axes.turn != 0)
        text += " turn " + short_number(std::round(axes.turn / degree * 1e6) / 1e6);
    return text;
}

Result<MachineAxes> read_axes(const std::string& machine, std::string_view text) {
    const auto refused = [&](const std::string& what) {
        return tl::unexpected(
            Faults{not_that(machine, what, "along, across and up, such as X -Y -Z, with turn and degrees after it")});
    };
    const auto words = words_of(text);
    if (words.size() != 3 && words.size() != 5)
        return refused("\"" + std::string(text) + "\" says no three axes");
    MachineAxes axes{machine, {}, {}, 0};
    std::array<bool, 3> taken{};
    for (std::size_t i = 0; i < 3; ++i) {
        std::string_view word = words[i];
        axes.sign[i] = word.starts_with('-') ? -1 : 1;
        if (word.starts_with('-') || word.starts_with('+'))
            word.remove_prefix(1);
        const auto axis =
            word.size() == 1
                ? axis_letters.find(static_cast<char>(std::toupper(static_cast<unsigned char>(word.front()))))
                : std::string_view::npos;
        if (axis == std::string_view::npos || taken[axis])
            return refused("\"" + std::string(words[i]) + "\" is no axis that is left");
        taken[axis] = true;
        axes.axis[i] = axis;
    }
    if (words.size() == 5) {
        const auto turn = number_in(words[4]);
        if (words[3] != "turn" || !turn || std::abs(*turn) > 360)
            return refused("\"" + std::string(words[3]) + " " + std::string(words[4]) + "\" is no turn");
        axes.turn = *turn * degree;
    }
    if (!right_handed(axes))
        return tl::unexpected(Faults{not_that(machine, "\"" + std::string(text) + "\" would mirror the block",
                                              "one sign turned round, or two axes changed over")});
    return axes;
}

Result<std::string> engraved(const Engraver& engraver, std::string_view line) {
    const auto has = [&engraver](char letter) { return engraver.letters.find(letter) != std::string::npos; };
    std::string out;
    for (const char c : line) {
        const auto capital = static_cast<char>(std::toupper(static_cast<unsigned char>(c)));
        const char letter = has(c) ? c : capital;
        if (!has(letter))
            return tl::unexpected(Faults{not_that("engraved line", "\"" + std::string(line) + "\" has \"" + c + "\"",
                                                  "letters that the engraver can do: " + engraver.letters)});
        out += letter;
    }
    if (out.empty() || out.size() > engraver.most)
        return tl::unexpected(
            Faults{not_that("engraved line", "\"" + out + "\" has " + std::to_string(out.size()) + " letters",
                            "1 to " + std::to_string(engraver.most))});
    return out;
}

const std::vector<LabelSize>& common_labels() {
    static const std::vector<LabelSize> all{{62, 29},  {57, 32},      {50, 25},  {54, 25}, {89, 36},
                                            {100, 50}, {101.6, 50.8}, {62, 100}, {25, 25}};
    return all;
}

std::string label_text(const LabelSize& label) {
    return short_number(label.width) + " x " + short_number(label.height);
}

Result<LabelSize> read_label(std::string_view text) {
    const auto words = words_of(text);
    const bool inches = words.size() == 4 && words[3] == "in";
    const auto width = words.size() >= 3 ? number_in(words[0]) : std::nullopt;
    const auto height = words.size() >= 3 ? number_in(words[2]) : std::nullopt;
    const double mm = inches ? mm_per(Unit::inch) : 1;
    const auto holds = [mm](const std::optional<double>& side) {
        return side && *side * mm >= 10 && *side * mm <= 300;
    };
    if ((words.size() != 3 && !inches) || (words[1] != "x" && words[1] != "×") || !holds(width) || !holds(height))
        return tl::unexpected(Faults{not_that("label", "\"" + std::string(text) + "\" is no size of a label",
                                              "width x height in mm from 10 to 300, such as 62 x 29, or 4 x 2 in")});
    return LabelSize{*width * mm, *height * mm};
}

const MachineAxes* ShopPapers::machine(std::string_view name) const {
    const auto found = std::ranges::find(machines, name, &MachineAxes::machine);
    return found == machines.end() ? nullptr : &*found;
}

std::string shop_papers_text(const ShopPapers& papers) {
    ShopPapers copy = papers;
    return fields_as_json([&copy](Fields& f) { fields(f, copy); });
}

Result<ShopPapers> read_shop_papers(std::string_view text, const std::string& file) {
    if (!is_json(text))
        return tl::unexpected(Faults{not_that(file, "it is no JSON", "a .pallix-shop.json")});
    ShopPapers papers;
    const auto faults = fields_from_json(text, [&papers](Fields& f) { fields(f, papers); });
    Faults all;
    for (const FieldFault& fault : faults)
        all.push_back(not_that(file, fault.field + " " + fault.what, fault.expected));
    if (all.empty())
        if (auto fault = fault_of(papers)) {
            fault->file = file + ", " + fault->file;
            all.push_back(*fault);
        }
    if (!all.empty())
        return tl::unexpected(all);
    return papers;
}

std::optional<Fault> fault_of(const ShopPapers& papers) {
    const auto parts = parts_of(papers.serial_pattern);
    const auto numbers = std::ranges::count(parts, Part::number, &Part::what);
    if (numbers != 1)
        return not_that("serial pattern", "\"" + papers.serial_pattern + "\" has no one number in it",
                        "{n} once, such as {yy}-{nnn}");
    const std::string shown = next_serial(papers.serial_pattern, "2026-01-01", {});
    if (const auto control = std::ranges::find_if(shown, [](unsigned char c) { return c <= ' ' || c >= 127; });
        control != shown.end())
        return not_that("serial pattern", "\"" + papers.serial_pattern + "\" has more than letters, digits and signs",
                        "what every scanner types: no blanks, no accents");
    Checker checker;
    ShopPapers copy = papers;
    fields(checker, copy);
    if (!checker.faults().empty())
        return not_that(checker.faults().front().field, checker.faults().front().what,
                        checker.faults().front().expected);
    for (std::size_t i = 0; i < papers.machines.size(); ++i)
        if (papers.machines[i].machine.empty() || papers.machine(papers.machines[i].machine) != &papers.machines[i])
            return not_that("machines", "\"" + papers.machines[i].machine + "\" stands there twice or has no name",
                            "a name of its own");
    return std::nullopt;
}

std::string next_serial(const std::string& pattern, const std::string& day, const std::vector<std::string>& given) {
    const auto parts = parts_of(pattern);
    const std::string year = day.substr(0, 4);
    long last = 0;
    for (const std::string& serial : given)
        last = std::max(last, number_of(parts, year, serial).value_or(0));
    std::string out;
    for (const Part& part : parts)
        if (part.what == Part::number) {
            const std::string number = std::to_string(last + 1);
            out += std::string(part.width > number.size() ? part.width - number.size() : 0, '0') + number;
        } else
            out += part.what == Part::year ? year.substr(4 - part.width) : part.text;
    return out;
}

std::string serial_in(std::string_view scanned) {
    const auto first = scanned.find_first_not_of(" \t\r\n");
    if (first == std::string_view::npos)
        return "";
    scanned.remove_prefix(first);
    if (scanned.starts_with(serial_mark))
        scanned.remove_prefix(serial_mark.size());
    return std::string(scanned.substr(0, scanned.find_first_of(" \t\r\n;")));
}

} // namespace pallix::block
