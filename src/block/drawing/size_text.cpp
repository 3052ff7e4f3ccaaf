// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/drawing/size_text.h"

#include "block/number_text.h"
#include "block/reading_text.h"
#include "block/shorthand.h"

#include <algorithm>
#include <array>
#include <cctype>
#include <cmath>

namespace pallix::block {
namespace {

constexpr int first_grade = 4;
/// Upper end of each step of nominal sizes, mm.
constexpr std::array<double, 13> steps{3, 6, 10, 18, 30, 50, 80, 120, 180, 250, 315, 400, 500};
/// µm, grades 4 to 11 by steps.
constexpr std::array<std::array<int, 13>, 8> grades{{
    {3, 4, 4, 5, 6, 7, 8, 10, 12, 14, 16, 18, 20},
    {4, 5, 6, 8, 9, 11, 13, 15, 18, 20, 23, 25, 27},
    {6, 8, 9, 11, 13, 16, 19, 22, 25, 29, 32, 36, 40},
    {10, 12, 15, 18, 21, 25, 30, 35, 40, 46, 52, 57, 63},
    {14, 18, 22, 27, 33, 39, 46, 54, 63, 72, 81, 89, 97},
    {25, 30, 36, 43, 52, 62, 74, 87, 100, 115, 130, 140, 155},
    {40, 48, 58, 70, 84, 100, 120, 140, 160, 185, 210, 230, 250},
    {60, 75, 90, 110, 130, 160, 190, 220, 250, 290, 320, 360, 400},
}};

using Read = tl::expected<Tolerance, std::string>;

tl::unexpected<std::string> refused(std::string_view text, const std::string& why) {
    return tl::unexpected("“" + std::string(text) + "” " + why);
}

void replace_all(std::string& text, std::string_view what, std::string_view by) {
    for (auto at = text.find(what); at != std::string::npos; at = text.find(what, at + by.size()))
        text.replace(at, what.size(), by);
}

/// One way to write each sign.
std::string tidy(std::string_view raw) {
    std::string text(trimmed(raw));
    replace_all(text, "−", "-");
    for (const std::string_view dash : {"–", "—", " to ", " … ", "…", "..."})
        replace_all(text, dash, " ~ ");
    for (const std::string_view both : {"+/-", "+-", "± "})
        replace_all(text, both, "±");
    replace_all(text, " - ", " ~ "); // a minus stands at its number
    return text;
}

/// A piece of a size: a number with its sign and unit, or one of ~ / and letters.
std::vector<std::string> pieces(const std::string& text) {
    std::vector<std::string> out;
    const auto is_number = [&](std::size_t i) {
        return std::isdigit(static_cast<unsigned char>(text[i])) != 0 || text[i] == '.' ||
               (text[i] == ',' && i + 1 < text.size() && std::isdigit(static_cast<unsigned char>(text[i + 1])) != 0);
    };
    for (std::size_t i = 0; i < text.size();) {
        const bool both = text.compare(i, 2, "±") == 0;
        const std::size_t sign = both ? 2 : text[i] == '+' || text[i] == '-' ? 1 : 0;
        if (text[i] == ' ' || text[i] == '/') {
            ++i;
        } else if (text[i] == '~') {
            out.emplace_back("~");
            ++i;
        } else if (i + sign < text.size() && is_number(i + sign)) {
            std::size_t end = i + sign;
            while (end < text.size() && is_number(end))
                ++end;
            out.push_back(text.substr(i, end - i));
            if (sign == 1 && text[i] == '-' && i > 0 && is_number(i - 1)) { // 2.9370-2.9380
                out.back().erase(0, 1);
                out.insert(out.end() - 1, "~");
            }
            i = end;
        } else { // letters: a unit of the number before them, or a tolerance class
            std::size_t end = i;
            while (end < text.size() && text[end] != ' ' && text[end] != '~' && text[end] != '/' &&
                   (end == i || (!is_number(end) && text[end] != '+' && text[end] != '-')))
                ++end;
            out.push_back(text.substr(i, end - i));
            i = std::max(end, i + 1);
        }
    }
    return out;
}

bool starts_number(const std::string& piece) {
    const std::size_t sign = piece.starts_with("±") ? 2 : piece[0] == '+' || piece[0] == '-' ? 1 : 0;
    return sign < piece.size() && (std::isdigit(static_cast<unsigned char>(piece[sign])) != 0 || piece[sign] == '.');
}

struct Amount {
    double mm;
    bool is_signed, either; ///< ±
};

class SizeReader {
  public:
    SizeReader(std::string_view text, Unit bench) : whole_(text), pieces_(pieces(tidy(text))), unit_(bench) {}

    Read read() {
        const auto nominal = amount();
        if (!nominal || nominal->is_signed || nominal->mm <= 0)
            return refused(whole_, "is no size: 58, 58 +0.018 0, 57.99-58.01, 215 ±0.05 or 58 H6 is expected");
        if (done())
            return Tolerance{nominal->mm};
        if (pieces_[at_] == "~")
            return window(nominal->mm);
        if (!starts_number(pieces_[at_]))
            return by_class(nominal->mm);
        return deviations(nominal->mm);
    }

  private:
    bool done() const { return at_ == pieces_.size(); }

    std::optional<Amount> amount() {
        if (done() || !starts_number(pieces_[at_]))
            return std::nullopt;
        std::string number = pieces_[at_++];
        const bool either = number.starts_with("±");
        if (either)
            number.erase(0, 2);
        const bool is_signed = either || number[0] == '+' || number[0] == '-';
        std::replace(number.begin(), number.end(), ',', '.');
        std::string unit;
        if (!done() && !starts_number(pieces_[at_]) && pieces_[at_] != "~" && read_length("1 " + pieces_[at_], unit_))
            unit = pieces_[at_++];
        if (first_ && (unit == "mm" || unit == "in" || unit == "\""))
            unit_ = unit == "mm" ? Unit::mm : Unit::inch;
        first_ = false;
        const auto mm = read_length(number + " " + unit, unit_);
        return mm ? std::optional(Amount{*mm, is_signed, either}) : std::nullopt;
    }

    Read window(double one) {
        ++at_;
        const auto other = amount();
        if (!other || !done() || other->is_signed)
            return refused(whole_, "is no window: two limits such as 57.99-58.01 are expected");
        const double low = std::min(one, other->mm);
        return believable(Tolerance{low, 0, std::max(one, other->mm) - low});
    }

    Read deviations(double nominal) {
        std::vector<double> found;
        while (!done()) {
            const auto next = amount();
            if (!next || (!next->is_signed && next->mm != 0))
                return refused(whole_, "has a deviation without a sign: +0.018 0 or ±0.05 is expected");
            found.push_back(next->mm);
            if (next->either)
                found.push_back(-next->mm);
        }
        if (found.size() == 1)
            found.push_back(0);
        if (found.size() != 2)
            return refused(whole_, "has more than two deviations");
        const auto [lower, upper] = std::minmax(found[0], found[1]);
        return believable(Tolerance{nominal, lower, upper});
    }

    Read by_class(double nominal) {
        const std::string& word = pieces_[at_++];
        std::string letters, digits = done() ? std::string() : pieces_[at_];
        for (const char c : word)
            (std::isdigit(static_cast<unsigned char>(c)) != 0 ? digits : letters) += c;
        if (!done() && digits == pieces_[at_])
            ++at_;
        const auto grade = finite_number(digits);
        if (!done() || (letters != "H" && letters != "JS") || !grade)
            return refused(whole_, "is of no class that is known here: H or JS and a grade from 4 to 11, such as H6");
        constexpr double most = 99; // there are none like it: whoever reads the table counts in whole numbers
        const bool whole = *grade == std::floor(*grade) && *grade <= most;
        const auto width = whole ? standard_tolerance(static_cast<int>(*grade), nominal) : std::nullopt;
        if (!width)
            return refused(whole_, "is outside the table: grades 4 to 11, sizes up to 500 mm");
        return letters == "H" ? Tolerance{nominal, 0, *width} : Tolerance{nominal, -*width / 2, *width / 2};
    }

    Read believable(const Tolerance& size) const {
        constexpr double most = 0.01; // of the size: common practice, no source
        if (std::max(std::abs(*size.lower), std::abs(*size.upper)) > most * size.nominal)
            return refused(whole_, "allows more than a hundredth of the size: is a point in its place?");
        return size;
    }

    std::string_view whole_;
    std::vector<std::string> pieces_;
    std::size_t at_ = 0;
    Unit unit_;
    bool first_ = true;
};

} // namespace

Read read_size(std::string_view text, Unit bench) {
    return SizeReader(text, bench).read();
}

std::string size_text(const Tolerance& size, Unit unit, int decimals) {
    const auto number = [unit, one = std::pow(10.0, decimals)](double mm) {
        return short_number(std::round(mm / mm_per(unit) * one) / one);
    };
    std::string text = number(size.nominal);
    const auto deviation = [&](const std::optional<double>& mm) {
        if (mm)
            text += *mm == 0 ? " 0" : " " + (*mm > 0 ? "+" + number(*mm) : number(*mm));
    };
    if (size.whole() && *size.upper > 0 && *size.lower == -*size.upper)
        return text + " ±" + number(*size.upper);
    deviation(size.upper);
    deviation(size.lower);
    return text;
}

std::optional<double> standard_tolerance(int grade, double nominal) {
    const auto* step = std::ranges::lower_bound(steps, nominal);
    if (nominal <= 0 || step == steps.end() || grade < first_grade ||
        grade >= first_grade + static_cast<int>(grades.size()))
        return std::nullopt;
    return grades[static_cast<std::size_t>(grade - first_grade)][static_cast<std::size_t>(step - steps.begin())] /
           1000.0;
}

} // namespace pallix::block
