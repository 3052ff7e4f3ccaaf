// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/reading_text.h"

#include <algorithm>
#include <array>
#include <charconv>
#include <cmath>
#include <vector>

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
    if (text.find('.') == std::string::npos)
        if (const auto comma = text.find(','); comma != std::string::npos)
            text[comma] = '.';
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

double cubic_centimetres(double number, const std::string& word) {
    if (number > 0 && (word.empty() || word == "cm³" || word == "cm3" || word == "cc" || word == "ml"))
        return number;
    return std::nan("");
}

/// Goes through the thicknesses of a bracket, with the words between them left out.
class Thicknesses {
  public:
    /// @param decimal_comma whether a comma between two digits belongs to a number; else it stands between two
    Thicknesses(std::string_view text, Unit bench, bool decimal_comma)
        : text_(text), bench_(bench), comma_(decimal_comma) {}

    std::vector<double> all() {
        std::vector<double> found;
        while (at_ < text_.size())
            if (is_digit(at_) || (text_[at_] == '.' && is_digit(at_ + 1)))
                found.push_back(one());
            else
                ++at_;
        return found;
    }

  private:
    [[nodiscard]] bool is_digit(std::size_t i) const { return i < text_.size() && text_[i] >= '0' && text_[i] <= '9'; }
    [[nodiscard]] bool is_point(std::size_t i) const {
        return i < text_.size() && (text_[i] == '.' || (comma_ && text_[i] == ',')) && is_digit(i + 1);
    }

    double one() {
        std::string number;
        for (; is_digit(at_); ++at_)
            number += text_[at_];
        const bool whole = !is_point(at_);
        if (!whole) {
            number += '.';
            for (++at_; is_digit(at_); ++at_)
                number += text_[at_];
        }
        const std::string_view unit = take_unit(whole);
        // Whole numbers at an inch bench are thou, as feelers are marked.
        if (unit.empty() && bench_ == Unit::inch && whole)
            return read_length(number + "thou", bench_).value_or(std::nan(""));
        return read_length(number + std::string(unit), bench_).value_or(std::nan(""));
    }

    std::string_view take_unit(bool whole) {
        constexpr std::array<std::string_view, 9> units{"mm",     "inch",  "in", "thou", "th",
                                                        "tenths", "tenth", "µm", "um"};
        const std::size_t from = std::min(text_.find_first_not_of(' ', at_), text_.size());
        std::string_view best;
        for (const std::string_view unit : units)
            if (text_.substr(from).starts_with(unit) && unit.size() > best.size())
                best = unit;
        const std::size_t after = std::min(text_.find_first_not_of(' ', from + best.size()), text_.size());
        const bool goes_in =
            best == "in" && whole && after < text_.size() && (text_[after] == ',' || text_[after] == ';');
        if (best.empty() || goes_in) // "6 in, 7 not"
            return {};
        at_ = from + best.size();
        return best;
    }

    std::string_view text_;
    Unit bench_;
    bool comma_;
    std::size_t at_ = 0;
};

Reads read_bracket(std::string_view text, const Expected& e) {
    std::string t(text.substr(0, 200)); // nobody types more
    for (auto at = t.find("goes in"); at != std::string::npos; at = t.find("goes in"))
        t.erase(at, 7);
    std::vector<double> found = Thicknesses(t, e.bench, true).all();
    if (found.size() != 2) // "6,7": the comma stands between two whole numbers
        found = Thicknesses(t, e.bench, false).all();
    if (found.size() != 2)
        return tl::unexpected<std::string>(
            "two thicknesses are wanted, the one that goes in and the next that does not: 6 7, or 0.15 0.20");
    if (!(found[0] < found[1])) // nor where one cannot be read
        return tl::unexpected<std::string>("the first must be the thinner: what goes in, then what does not");
    Understood u;
    u.value = found[0];
    u.upper = found[1];
    u.deviation = found[0];
    if (found[1] > e.believable)
        u.suspicion = found[1] / 10 <= e.believable ? Suspicion::ten_times : Suspicion::far;
    return u;
}

struct SideWord {
    Quantity quantity;
    std::string_view word;
    char sign;
};
constexpr std::array<SideWord, 8> side_words{{{Quantity::saddle, "proud", '-'},
                                              {Quantity::saddle, "back", '+'},
                                              {Quantity::piston, "proud", '-'},
                                              {Quantity::piston, "below", '+'},
                                              {Quantity::indicator, "high", '+'},
                                              {Quantity::indicator, "low", '-'},
                                              {Quantity::head_height, "high", '+'},
                                              {Quantity::head_height, "low", '-'}}};

/// `0.4 thou proud` → `-0.4 thou`, in the words of what is read.
std::string signed_by_side(std::string_view text, Quantity quantity) {
    std::string plain(text.substr(0, text.find_last_not_of(' ') + 1));
    for (const SideWord& s : side_words)
        if (s.quantity == quantity && plain.ends_with(s.word)) {
            plain.erase(plain.size() - s.word.size());
            const auto first = plain.find_first_not_of(' ');
            return first == std::string::npos ? plain : s.sign + plain.substr(first);
        }
    return plain;
}

} // namespace

namespace {

/// A depth that is read down from a plate, as the height it stands for.
Reads down_from(double plate, std::string_view text, Quantity quantity, Expected e) {
    const auto turned = [plate](const std::optional<double>& height) {
        return height ? std::optional(plate - *height) : height;
    };
    e.plate.reset();
    e.value = plate - e.value;
    e.repeat = turned(e.repeat);
    e.neighbours = turned(e.neighbours);
    e.zero.reset();
    e.needs_zero = false;
    e.direct = true;
    Reads read = read_reading(text, quantity, e);
    if (read) {
        read->value = plate - read->value;
        read->deviation = -read->deviation;
        read->instead = turned(read->instead);
    }
    return read;
}

} // namespace

Reads read_reading(std::string_view text, Quantity quantity, const Expected& expected) {
    if (expected.needs_plate)
        return tl::unexpected(
            std::string("Say first how high the plate stands that the depth is read from: it is the zero of this "
                        "micrometer"));
    if (expected.plate)
        return down_from(*expected.plate, text, quantity, expected);
    switch (quantity) {
    case Quantity::temperature:
        return in_plain_unit(text, expected, "°C", celsius);
    case Quantity::slope:
        return in_plain_unit(text, expected, "mm/m", mm_per_m);
    case Quantity::volume:
        return in_plain_unit(text, expected, "cm³", cubic_centimetres);
    case Quantity::gap:
    case Quantity::head_gap:
        return read_bracket(text, expected);
    default:
        return read_shorthand(signed_by_side(text, quantity), expected);
    }
}

tl::expected<double, std::string> read_number(std::string_view text, std::initializer_list<std::string_view> words) {
    const auto n = number_and_word(std::string(text));
    if (!n || (!n->word.empty() && std::ranges::find(words, n->word) == words.end()))
        return tl::unexpected("“" + std::string(text) + "” is no number");
    return n->number;
}

} // namespace pallix::block
