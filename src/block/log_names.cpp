// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/log_names.h"

#include "block/log_dialect.h"
#include "block/number_text.h"

#include <algorithm>
#include <cctype>
#include <map>

namespace pallix::block {

std::vector<LogLine> lines_of(std::string_view text) {
    if (text.starts_with("\xEF\xBB\xBF"))
        text.remove_prefix(3);
    std::vector<LogLine> lines;
    int number = 0;
    bool gap = false;
    for (std::size_t from = 0; from < text.size();) {
        const auto end = std::min(text.find('\n', from), text.size());
        ++number;
        const auto line = trimmed(text.substr(from, end - from));
        const bool says_something = !line.empty() && !line.starts_with('#') && !line.starts_with("//");
        if (says_something)
            lines.push_back({number, std::string(text.substr(from, end - from)), gap});
        gap = !says_something;
        from = end + 1;
    }
    return lines;
}

std::optional<std::string> decimal_text(std::string text, bool comma) {
    if (comma) {
        if (text.find(',') != std::string::npos)
            std::erase(text, '.'); // thousands
        std::ranges::replace(text, ',', '.');
    }
    if (text.starts_with("\xE2\x88\x92")) // a real minus sign
        text.replace(0, 3, "-");
    if (!finite_number(text))
        return std::nullopt;
    return text.starts_with('+') ? text.substr(1) : text;
}

std::string plain_word(std::string_view text) {
    std::string out;
    for (const char c : text)
        if (std::isalnum(static_cast<unsigned char>(c)) != 0)
            out += static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    return out;
}

std::string without_unit(const std::string& heading) {
    const auto bracket = heading.find_first_of("[(");
    return std::string(trimmed(heading.substr(0, bracket)));
}

const std::vector<UsualHeading>& usual_headings() {
    static const std::vector<UsualHeading> all{
        {"x", {"x", "xpos", "xmeas", "xmeasured", "xactual", "xact", "posx", "xvalue", "xcoord"}},
        {"y", {"y", "ypos", "ymeas", "ymeasured", "yactual", "yact", "posy", "yvalue", "ycoord"}},
        {"z", {"z", "zpos", "zmeas", "zmeasured", "zactual", "zact", "posz", "zvalue", "zcoord"}},
        {"feature", {"feature", "element", "name", "item", "id", "label", "featureid", "featurename", "elementname"}},
        {"level", {"level", "section", "plane", "depth", "position", "height"}},
        {"setup", {"setup", "fixture", "clamping", "operation", "op"}},
        {"rotation", {"rotation", "rot", "tilt", "aaxis", "rotary", "turned"}}};
    return all;
}

std::optional<std::string> number_in(const std::string& pattern, const std::string& name) {
    const auto hole = pattern.find("{n}");
    if (hole == std::string::npos)
        return pattern == name ? std::optional(std::string()) : std::nullopt;
    const std::string head = pattern.substr(0, hole), tail = pattern.substr(hole + 3);
    if (name.size() <= head.size() + tail.size() || !name.starts_with(head) || !name.ends_with(tail))
        return std::nullopt;
    const std::string number = name.substr(head.size(), name.size() - head.size() - tail.size());
    return std::ranges::all_of(number, [](char c) { return std::isdigit(static_cast<unsigned char>(c)) != 0; })
               ? std::optional(number)
               : std::nullopt;
}

std::string pattern_of(const std::string& name) {
    const auto last = name.find_last_of("0123456789");
    if (last == std::string::npos)
        return name;
    auto first = last;
    while (first > 0 && std::isdigit(static_cast<unsigned char>(name[first - 1])) != 0)
        --first;
    return name.substr(0, first) + "{n}" + name.substr(last + 1);
}

std::optional<FeatureId> feature_by_usual_name(const std::string& name) {
    if (auto id = FeatureId::parse(name))
        return id;
    std::string letters, digits, word;
    std::vector<std::string> words;
    const auto end_word = [&] {
        if (!word.empty())
            words.push_back(std::exchange(word, {}));
    };
    for (const char c : name) {
        if (std::isdigit(static_cast<unsigned char>(c)) != 0) {
            end_word();
            digits += c;
        } else if (std::isalpha(static_cast<unsigned char>(c)) != 0) {
            word += static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
        } else {
            end_word();
        }
    }
    end_word();
    static const std::map<std::string, FeatureKind> kinds{
        {"main", FeatureKind::main},     {"mains", FeatureKind::main},     {"cam", FeatureKind::cam},
        {"dowel", FeatureKind::dowel},   {"deck", FeatureKind::deck},      {"bore", FeatureKind::bore},
        {"cyl", FeatureKind::bore},      {"cylinder", FeatureKind::bore},  {"lifter", FeatureKind::lifter},
        {"tappet", FeatureKind::lifter}, {"panrail", FeatureKind::panrail}};
    static const std::map<std::string, std::string> banks{{"r", "R"},    {"right", "R"}, {"rh", "R"}, {"l", "L"},
                                                          {"left", "L"}, {"lh", "L"},    {"c", "C"}};
    std::optional<FeatureKind> kind;
    std::string bank;
    for (const std::string& w : words) {
        if (const auto k = kinds.find(w); k != kinds.end())
            kind = k->second;
        else if (const auto b = banks.find(w); b != banks.end())
            bank = b->second;
        else if (w != "bearing" && w != "hole")
            return std::nullopt;
    }
    if (!kind)
        return std::nullopt;
    const bool on_bank = *kind == FeatureKind::dowel || *kind == FeatureKind::deck || *kind == FeatureKind::bore ||
                         *kind == FeatureKind::lifter;
    const auto number = finite_number(digits);
    const bool numbered = *kind != FeatureKind::deck && *kind != FeatureKind::panrail;
    if (numbered != number.has_value() || digits.size() > 3 || (numbered && *number < 1))
        return std::nullopt; // counted from 1
    return FeatureId{*kind, on_bank ? (bank.empty() ? "C" : bank) : "", numbered ? static_cast<int>(*number) : 0};
}

} // namespace pallix::block
