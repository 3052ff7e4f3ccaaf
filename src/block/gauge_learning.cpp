// SPDX-License-Identifier: GPL-3.0-or-later
// What a gauge means by what it sends, found out from a few lines of it.
#include "block/gauge_profile.h"

#include <algorithm>
#include <boost/algorithm/string.hpp>
#include <cstdlib>
#include <limits>
#include <re2/re2.h>

namespace pallix::block {
namespace {

/// A line taken apart: text and numbers in turn, a text (it may be empty) before each number and after the last.
struct TakenApart {
    std::vector<std::string> texts, numbers;
};

bool is_digit(char c) {
    return c >= '0' && c <= '9';
}

TakenApart take_apart(const std::string& line) {
    TakenApart parts;
    std::string text;
    for (std::size_t at = 0; at < line.size();) {
        const bool point = (line[at] == '.' || line[at] == ',') && at + 1 < line.size() && is_digit(line[at + 1]);
        if (!is_digit(line[at]) && !point) {
            text += line[at++];
            continue;
        }
        std::size_t end = at;
        bool broken = false; // one point within
        while (end < line.size() && (is_digit(line[end]) || (!broken && (line[end] == '.' || line[end] == ',') &&
                                                             end + 1 < line.size() && is_digit(line[end + 1])))) {
            broken = broken || !is_digit(line[end]);
            ++end;
        }
        parts.texts.push_back(std::exchange(text, {}));
        parts.numbers.push_back(line.substr(at, end - at));
        at = end;
    }
    parts.texts.push_back(text);
    return parts;
}

bool is_sign(char c) {
    return c == '+' || c == '-';
}

/// The sign that ends a text, blanks after it or not.
bool ends_with_sign(const std::string& text) {
    const std::string trimmed = boost::trim_right_copy(text);
    return !trimmed.empty() && is_sign(trimmed.back());
}
bool begins_with_sign(const std::string& text) {
    return !text.empty() && is_sign(text.front());
}

/// Units as gauges write them, the longer ones first.
constexpr std::array<std::string_view, 10> unit_words{"inch",      "thou",  "mil", "mm", "um",
                                                      "\xC2\xB5m", "\xB5m", "in",  "\"", "C"};

/// Where the first unit stands by itself in a text.
std::optional<std::pair<std::size_t, std::size_t>> unit_in(const std::string& text) {
    const std::string lowered = boost::to_lower_copy(text);
    const auto is_word = [](char c) { return std::isalnum(static_cast<unsigned char>(c)) != 0; };
    for (const std::string_view word : unit_words) {
        const std::size_t at = word == "C" ? text.find(word) : lowered.find(word);
        if (at == std::string::npos)
            continue;
        const std::size_t end = at + word.size();
        if ((at == 0 || !is_word(text[at - 1])) && (end == text.size() || !is_word(text[end])))
            return std::pair(at, word.size());
    }
    return std::nullopt;
}

/// How much speaks for a number being the reading.
int speaks_for(const std::vector<TakenApart>& lines, std::size_t number) {
    int points = 0;
    bool counts = true, changes = false;
    for (std::size_t i = 0; i < lines.size(); ++i) {
        const TakenApart& line = lines[i];
        const std::string& before = line.texts[number];
        const std::string& after = line.texts[number + 1];
        const std::string& digits = line.numbers[number];
        if (digits.find_first_of(".,") != std::string::npos)
            points += 4;
        if (ends_with_sign(before) || begins_with_sign(after))
            points += 2;
        if (unit_in(after))
            points += 3;
        if (!before.empty() && std::isalpha(static_cast<unsigned char>(before.back())) != 0)
            points -= 3; // "D1"
        if (i > 0) {
            const std::string& last = lines[i - 1].numbers[number];
            changes = changes || digits != last;
            const long long before_this = std::strtoll(last.c_str(), nullptr, 10);
            counts = counts && before_this < std::numeric_limits<long long>::max() &&
                     std::strtoll(digits.c_str(), nullptr, 10) == before_this + 1;
        }
    }
    return points + (counts ? -12 : changes ? 6 : 0);
}

/// A text that is the same in every line, blanks as many as there are; what differs may be anything.
std::string text_pattern(const std::vector<std::string>& texts) {
    if (std::ranges::any_of(texts, [&](const std::string& t) { return t != texts.front(); }))
        return ".*?";
    std::string pattern;
    for (const char c : texts.front())
        if (c == ' ' || c == '\t') {
            if (!pattern.ends_with("\\s*"))
                pattern += "\\s*";
        } else {
            pattern += re2::RE2::QuoteMeta(std::string(1, c));
        }
    return pattern;
}

std::vector<std::string> texts_at(const std::vector<TakenApart>& lines, std::size_t place) {
    std::vector<std::string> texts;
    texts.reserve(lines.size());
    for (const TakenApart& line : lines)
        texts.push_back(line.texts[place]);
    return texts;
}

/// The pattern of lines whose n-th number is the reading.
GaugeLearnt pattern_of(const std::vector<TakenApart>& lines, std::size_t reading) {
    GaugeLearnt learnt;
    const std::size_t count = lines.front().numbers.size();
    auto before = texts_at(lines, reading), after = texts_at(lines, reading + 1);
    const bool behind = std::ranges::any_of(after, begins_with_sign) && !std::ranges::any_of(before, ends_with_sign);
    for (std::string& text : before)
        if (!behind) {
            boost::trim_right(text);
            if (ends_with_sign(text))
                text.pop_back();
            boost::trim_right(text);
        }
    for (std::string& text : after)
        if (behind && begins_with_sign(text))
            text.erase(0, 1);
    std::string& pattern = learnt.pattern;
    for (std::size_t i = 0; i <= count; ++i) {
        if (i == reading) {
            pattern += text_pattern(before) + (behind ? R"((?P<number>\d*[.,]?\d+)\s*(?P<sign>[-+]?))"
                                                      : R"(\s*(?P<sign>[-+]?)\s*(?P<number>\d*[.,]?\d+))");
            continue;
        }
        std::vector<std::string> texts = i == reading + 1 ? after : texts_at(lines, i);
        const auto unit = i == reading + 1 ? unit_in(texts.front()) : std::nullopt;
        const bool everywhere =
            unit && std::ranges::all_of(texts, [&unit](const std::string& t) { return unit_in(t) == unit; });
        if (everywhere) {
            std::vector<std::string> rest;
            std::vector<std::string> first;
            for (const std::string& text : texts) {
                first.push_back(text.substr(0, unit->first));
                rest.push_back(text.substr(unit->first + unit->second));
            }
            learnt.unit = texts.front().substr(unit->first, unit->second);
            pattern +=
                text_pattern(first) + R"((?P<unit>(?i:inch|thou|mil|mm|um|\xC2?\xB5m|in|"|C)))" + text_pattern(rest);
        } else {
            pattern += text_pattern(texts);
        }
        if (i < count)
            pattern += R"(\d+(?:[.,]\d+)?)";
    }
    pattern = R"(\s*)" + pattern + R"(\s*)";
    for (std::size_t at = pattern.find(R"(\s*\s*)"); at != std::string::npos; at = pattern.find(R"(\s*\s*)"))
        pattern.erase(at, 3);
    return learnt;
}

} // namespace

tl::expected<GaugeLearnt, std::string> learn_gauge(const std::vector<std::string>& sent) {
    constexpr std::size_t needed = 3;
    if (sent.size() < needed)
        return tl::unexpected("it was heard " + std::to_string(sent.size()) + " times, three are needed");
    const auto all_end = [&sent](std::string_view end) {
        return std::ranges::all_of(sent, [end](const std::string& s) { return s.ends_with(end); });
    };
    const LineEnd end = all_end("\n") ? LineEnd::newline : all_end("\r") ? LineEnd::carriage_return : LineEnd::pause;
    std::vector<TakenApart> lines; // what was sent last of each
    for (const std::string& burst : sent) {
        std::vector<std::string> parts;
        boost::split(parts, burst, boost::is_any_of("\r\n"));
        const auto last = std::find_if(parts.rbegin(), parts.rend(), [](const std::string& p) { return !p.empty(); });
        if (last == parts.rend())
            return tl::unexpected(std::string("a line of it is empty"));
        lines.push_back(take_apart(boost::trim_copy(*last)));
    }
    const std::size_t count = lines.front().numbers.size();
    if (count == 0 || std::ranges::any_of(lines, [](const TakenApart& l) { return l.numbers.empty(); }))
        return tl::unexpected(std::string("there is no number in it; is the speed right?"));
    if (std::ranges::any_of(lines, [count](const TakenApart& l) { return l.numbers.size() != count; }))
        return tl::unexpected(std::string("its lines are not alike; send the same thing three times"));
    std::size_t best = 0;
    int most = speaks_for(lines, 0);
    for (std::size_t i = 1; i < count; ++i)
        if (const int points = speaks_for(lines, i); points > most) {
            most = points;
            best = i;
        }
    GaugeLearnt learnt = pattern_of(lines, best);
    learnt.end = end;
    return learnt;
}

} // namespace pallix::block
