// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/log_dialect.h"

#include "block/delimited.h"
#include "block/feature.h"
#include "block/number_text.h"

#include <algorithm>
#include <array>
#include <cctype>
#include <memory>
#include <set>

namespace pallix::block {
namespace {

using Row = std::vector<std::string>;

struct Line {
    int number; ///< from 1
    std::string text;
};

std::vector<Line> lines_of(std::string_view text) {
    if (text.starts_with("\xEF\xBB\xBF"))
        text.remove_prefix(3);
    std::vector<Line> lines;
    int number = 0;
    for (std::size_t from = 0; from < text.size();) {
        const auto end = std::min(text.find('\n', from), text.size());
        ++number;
        const auto line = trimmed(text.substr(from, end - from));
        if (!line.empty() && !line.starts_with('#') && !line.starts_with("//"))
            lines.push_back({number, std::string(text.substr(from, end - from))});
        from = end + 1;
    }
    return lines;
}

/// With a decimal point; nothing where it is no number in that writing.
std::optional<std::string> number_text(std::string text, bool comma) {
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

bool like_number(const std::string& text) {
    return number_text(text, false) || number_text(text, true);
}

/// Small letters and digits only: "X [mm]" and "x_pos" are told by "xmm", "xpos".
std::string plain(std::string_view text) {
    std::string out;
    for (const char c : text)
        if (std::isalnum(static_cast<unsigned char>(c)) != 0)
            out += static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    return out;
}

/// What a heading says besides its unit: "X [mm]" is "X".
std::string without_unit(const std::string& heading) {
    const auto bracket = heading.find_first_of("[(");
    return std::string(trimmed(heading.substr(0, bracket)));
}

struct Known {
    const char* ours;
    std::vector<std::string> theirs;
};

const std::vector<Known>& usual_headings() {
    static const std::vector<Known> all{
        {"x", {"x", "xpos", "xmeas", "xmeasured", "xactual", "xact", "posx", "xvalue", "xcoord"}},
        {"y", {"y", "ypos", "ymeas", "ymeasured", "yactual", "yact", "posy", "yvalue", "ycoord"}},
        {"z", {"z", "zpos", "zmeas", "zmeasured", "zactual", "zact", "posz", "zvalue", "zcoord"}},
        {"feature", {"feature", "element", "name", "item", "id", "label", "featureid", "featurename", "elementname"}},
        {"level", {"level", "section", "plane", "depth", "position", "height"}},
        {"setup", {"setup", "fixture", "clamping", "operation", "op"}}};
    return all;
}

/// "HL{n}" against "HL12": the 12; nothing where they do not agree.
std::optional<std::string> match(const std::string& pattern, const std::string& name) {
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

class Converter {
  public:
    Converter(std::string_view text, const std::string& file, const LogMapping& mapping)
        : file_(file), m_(mapping), lines_(lines_of(text)) {}

    Result<ConvertedLog> run() {
        if (lines_.empty())
            return tl::unexpected(Faults{{file_, 0, "the log is empty", "a heading and a row for each touch"}});
        find_delimiter();
        for (const Line& line : lines_)
            rows_.push_back(cells_of(line.text, delimiter_));
        find_decimal();
        find_columns();
        if (faults_.empty())
            write();
        if (!faults_.empty())
            return tl::unexpected(std::move(faults_));
        return std::move(out_);
    }

    [[nodiscard]] std::vector<Row> first_rows() const {
        constexpr std::size_t most = 12;
        const std::size_t from = headings_ ? static_cast<std::size_t>(headings_ - rows_.data()) : 0;
        std::vector<Row> first;
        for (std::size_t i = from; i < std::min(rows_.size(), from + most); ++i)
            first.push_back(rows_[i]);
        return first;
    }
    [[nodiscard]] std::vector<std::string> headings() const {
        std::vector<std::string> all;
        const std::size_t width = first_ < rows_.size() ? rows_[first_].size() : 0;
        for (std::size_t i = 0; i < width; ++i)
            all.push_back(headings_ && i < headings_->size() && !(*headings_)[i].empty() ? (*headings_)[i]
                                                                                         : "#" + std::to_string(i + 1));
        return all;
    }
    [[nodiscard]] const std::vector<std::string>& strangers() const { return patterns_; }
    [[nodiscard]] const std::set<FeatureId>& features() const { return features_; }

  private:
    void fault(int line, std::string what, std::string expected) {
        constexpr std::size_t most = 100;
        if (faults_.size() < most)
            faults_.push_back({file_, line, std::move(what), std::move(expected)});
    }

    /// The one by which most lines have the same number of fields, four at least; a comma last, as it may be a decimal.
    void find_delimiter() {
        if (!m_.delimiter.empty()) {
            delimiter_ = m_.delimiter == "space" ? ' ' : m_.delimiter == "tab" ? '\t' : m_.delimiter[0];
        } else {
            constexpr std::size_t enough = 200, fewest = 4; // lines to judge by; a name and three places
            std::vector<std::string> first;
            for (std::size_t i = 0; i < std::min(lines_.size(), enough); ++i)
                first.push_back(lines_[i].text);
            delimiter_ = delimiter_of(first, ";\t|, ", fewest);
        }
        out_.understood.push_back("columns separated by " + (delimiter_ == '\t'  ? std::string("tabs")
                                                             : delimiter_ == ' ' ? std::string("blanks")
                                                                                 : std::string(1, delimiter_)));
    }

    void find_decimal() {
        if (m_.decimal.empty()) {
            std::size_t commas = 0, points = 0;
            for (const Row& row : rows_)
                for (const std::string& field : row) {
                    commas += !number_text(field, false) && number_text(field, true) ? 1 : 0;
                    points += field.find('.') != std::string::npos && number_text(field, false) ? 1 : 0;
                }
            comma_ = commas > points;
        } else {
            comma_ = m_.decimal == ",";
        }
        out_.understood.emplace_back(comma_ ? "decimal comma" : "decimal point");
    }

    /// The headings: the last line before the first row of numbers that names at least three columns.
    void find_columns() {
        const auto numbers = [&](const Row& row) {
            return std::ranges::count_if(row, [&](const std::string& f) { return number_text(f, comma_).has_value(); });
        };
        first_ = static_cast<std::size_t>(
            std::ranges::find_if(rows_, [&](const Row& row) { return numbers(row) >= 3; }) - rows_.begin());
        if (first_ == rows_.size())
            return fault(0, "no line has three numbers", "x, y and z of each touch");
        for (std::size_t i = 0; i < first_; ++i)
            if (rows_[i].size() >= 4 && std::ranges::none_of(rows_[i], like_number))
                headings_ = &rows_[i];
        const Row* headings = headings_;
        for (const char* ours : {"setup", "feature", "level", "x", "y", "z"})
            find_column(ours, headings);
        for (const char* needed : {"feature", "x", "y", "z"})
            if (!columns_.contains(needed))
                fault(headings ? lines_[static_cast<std::size_t>(headings - rows_.data())].number : 0,
                      std::string("no column is known as ") + needed,
                      "a heading of that name, or a mapping that names it");
        if (!m_.unit && headings)
            for (const char* axis : {"x", "y", "z"})
                if (columns_.contains(axis)) {
                    const std::string heading = plain((*headings)[columns_.at(axis).index]);
                    if (heading.ends_with("inch") || heading.ends_with("in"))
                        unit_ = Unit::inch;
                }
        if (m_.unit)
            unit_ = *m_.unit;
        out_.understood.push_back("unit " + std::string(unit_name(unit_)) +
                                  (m_.unit || unit_ == Unit::inch ? "" : ", as none is named"));
    }

    struct Column {
        std::size_t index;
        bool turned;
    };

    void find_column(const std::string& ours, const Row* headings) {
        const std::size_t width = rows_[first_].size();
        const auto stated = m_.columns.find(ours);
        if (stated != m_.columns.end()) {
            std::string heading = stated->second;
            const bool turned = heading.starts_with('-');
            if (turned)
                heading.erase(0, 1);
            if (heading.starts_with('#')) {
                const auto n = finite_number(heading.substr(1));
                if (n && *n >= 1 && *n <= static_cast<double>(width))
                    return take(ours, static_cast<std::size_t>(*n) - 1, turned, heading);
            } else if (headings) {
                const auto found = std::ranges::find_if(
                    *headings, [&](const std::string& h) { return h == heading || without_unit(h) == heading; });
                if (found != headings->end())
                    return take(ours, static_cast<std::size_t>(found - headings->begin()), turned, *found);
            }
            return fault(0, "there is no column " + heading, "a heading of the log, or # and a number from 1");
        }
        if (!headings)
            return;
        const auto& theirs =
            std::ranges::find(usual_headings(), ours, [](const Known& k) { return std::string(k.ours); })->theirs;
        for (std::size_t i = 0; i < headings->size(); ++i)
            if (std::ranges::find(theirs, plain(without_unit((*headings)[i]))) != theirs.end())
                return take(ours, i, false, (*headings)[i]);
    }

    void take(const std::string& ours, std::size_t index, bool turned, const std::string& heading) {
        columns_[ours] = {index, turned};
        out_.understood.push_back(ours + " from " + (turned ? "−" : "") + "“" + heading + "”");
    }

    std::optional<std::string> feature_of(const std::string& name) {
        for (const auto& [pattern, ours] : m_.features)
            if (const auto number = match(pattern, name)) {
                std::string id = ours;
                if (const auto hole = id.find("{n}"); hole != std::string::npos)
                    id.replace(hole, 3,
                               std::to_string(std::stoi(number->substr(0, 6).empty() ? "0" : number->substr(0, 6))));
                return FeatureId::parse(id) ? std::optional(id) : std::nullopt;
            }
        const auto usual = feature_by_usual_name(name);
        return usual ? std::optional(usual->text()) : std::nullopt;
    }

    std::string coordinate(const std::string& axis, const Row& row, int line) {
        const Column& c = columns_.at(axis);
        const auto number = number_text(row[c.index], comma_);
        if (!number) {
            fault(line, axis + " is “" + row[c.index] + "”", "a number");
            return {};
        }
        if (!c.turned)
            return *number;
        return number->starts_with('-') ? number->substr(1) : "-" + *number;
    }

    static std::string quoted(const std::string& field) {
        if (field.find_first_of(",\"\r\n") == std::string::npos)
            return field;
        std::string out = "\"";
        for (const char c : field)
            out += c == '"' ? std::string("\"\"") : std::string(1, c);
        return out + "\"";
    }

    void write() {
        std::string& log = out_.log;
        log = "# pallix-probe-log: 1\n# unit: " + std::string(unit_name(unit_)) + "\n";
        if (!m_.kind.empty())
            log += "# kind: " + m_.kind + "\n";
        if (!m_.tip_diameter.empty())
            log += "# tip_diameter: " + m_.tip_diameter + "\n";
        log += std::string(columns_.contains("setup") ? "setup," : "") + "feature," +
               (columns_.contains("level") ? "level," : "") + "x,y,z\n";
        std::size_t widest = 0;
        for (const auto& [ours, column] : columns_)
            widest = std::max(widest, column.index);
        std::set<std::string> strangers;
        for (std::size_t i = first_; i < rows_.size(); ++i) {
            const Row& row = rows_[i];
            const int line = lines_[i].number;
            if (row.size() <= widest) {
                fault(line, "the row has " + std::to_string(row.size()) + " fields",
                      "at least " + std::to_string(widest + 1));
                continue;
            }
            const std::string& name = row[columns_.at("feature").index];
            const auto feature = feature_of(name);
            if (!feature)
                remember_stranger(name);
            else if (features_.empty() || *feature != last_feature_)
                features_.insert(*FeatureId::parse(last_feature_ = *feature));
            if (!feature && strangers.insert(name).second)
                fault(line, "“" + name + "” is no feature that is known",
                      "main 1, deck right, bore L 2 …, or a mapping that names it");
            std::string text;
            if (columns_.contains("setup"))
                text += quoted(row[columns_.at("setup").index]) + ",";
            text += feature.value_or("") + ",";
            if (columns_.contains("level")) {
                const std::string& level = row[columns_.at("level").index];
                const auto ours = m_.levels.find(level);
                text += quoted(ours == m_.levels.end() ? level : ours->second) + ",";
            }
            log += text + coordinate("x", row, line) + "," + coordinate("y", row, line) + "," +
                   coordinate("z", row, line) + "\n";
            ++out_.touches;
        }
    }

    /// "HL12" as "HL{n}".
    void remember_stranger(const std::string& name) {
        const auto last = name.find_last_of("0123456789");
        std::string pattern = name;
        if (last != std::string::npos) {
            auto first = last;
            while (first > 0 && std::isdigit(static_cast<unsigned char>(name[first - 1])) != 0)
                --first;
            pattern = name.substr(0, first) + "{n}" + name.substr(last + 1);
        }
        constexpr std::size_t most = 50;
        if (patterns_.size() < most && std::ranges::find(patterns_, pattern) == patterns_.end())
            patterns_.push_back(pattern);
    }

    std::string file_;
    const LogMapping& m_;
    std::vector<Line> lines_;
    std::vector<Row> rows_;
    char delimiter_ = ',';
    bool comma_ = false;
    Unit unit_ = Unit::mm;
    std::size_t first_ = 0; ///< row of the first touch
    const Row* headings_ = nullptr;
    std::vector<std::string> patterns_;
    std::set<FeatureId> features_;
    std::string last_feature_;
    std::map<std::string, Column> columns_;
    ConvertedLog out_;
    Faults faults_;
};

} // namespace

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
    if (numbered != number.has_value() || digits.size() > 3)
        return std::nullopt;
    return FeatureId{*kind, on_bank ? (bank.empty() ? "C" : bank) : "", numbered ? static_cast<int>(*number) : 0};
}

LogLook look_at_log(std::string_view text, const std::string& file, const LogMapping& mapping) {
    constexpr std::size_t largest = 64u << 20; // it is held field by field
    if (text.size() > largest)
        return {tl::unexpected(Faults{{file, 0, "the log is larger than 64 MB", "a log in parts"}}), {}, {}, {}, {}};
    Converter converter(text, file, mapping);
    auto converted = converter.run();
    return {std::move(converted), converter.first_rows(), converter.headings(), converter.features(),
            converter.strangers()};
}

Result<ConvertedLog> convert_log(std::string_view text, const std::string& file, const LogMapping& mapping) {
    return look_at_log(text, file, mapping).converted;
}

bool is_probe_log(std::string_view text) {
    const auto lines = lines_of(text.substr(0, std::min<std::size_t>(text.size(), 20'000)));
    if (text.substr(0, std::min<std::size_t>(text.size(), 4096)).find("pallix-probe-log") != std::string_view::npos)
        return true;
    if (lines.empty())
        return true; // nothing to convert
    const Row head = cells_of(lines.front().text, ',');
    return std::ranges::all_of(std::array{"feature", "x", "y", "z"},
                               [&](const char* key) { return std::ranges::find(head, key) != head.end(); });
}

} // namespace pallix::block
