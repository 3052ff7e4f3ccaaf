// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/log_dialect.h"

#include "block/delimited.h"
#include "block/feature.h"
#include "block/log_form.h"
#include "block/number_text.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <set>

namespace pallix::block {
namespace {

class Converter {
  public:
    Converter(std::string_view text, const std::string& file, const LogMapping& mapping)
        : file_(file), m_(mapping), form_(form_of(text, file, mapping)) {}

    Result<ConvertedLog> run() {
        if (form_.faults.empty()) {
            collect();
            name();
            std::ranges::stable_sort(form_.faults, {}, &Fault::line);
        }
        if (!form_.faults.empty())
            return tl::unexpected(form_.faults);
        write();
        out_.understood.insert(out_.understood.begin(), form_.understood.begin(), form_.understood.end());
        return std::move(out_);
    }

    /// What was found on the way, whether or not it could be converted.
    [[nodiscard]] LogLook look(Result<ConvertedLog> converted) {
        lacks_.columns = form_.guess;
        return {std::move(converted),
                form_.first_rows(),
                form_.heading_words(),
                std::move(features_),
                std::move(patterns_),
                std::move(lacks_),
                loose(),
                form_.column_names()};
    }

  private:
    std::optional<std::string> feature_of(const std::string& name) {
        for (const auto& [pattern, ours] : m_.features)
            if (const auto number = number_in(pattern, name)) {
                std::string id = ours;
                if (const auto hole = id.find("{n}"); hole != std::string::npos)
                    id.replace(hole, 3,
                               std::to_string(std::stoi(number->substr(0, 6).empty() ? "0" : number->substr(0, 6))));
                return FeatureId::parse(id) ? std::optional(id) : std::nullopt;
            }
        const auto usual = feature_by_usual_name(name);
        return usual ? std::optional(usual->text()) : std::nullopt;
    }

    static std::string quoted(const std::string& field) {
        if (field.find_first_of(",\"\r\n") == std::string::npos)
            return field;
        std::string out = "\"";
        for (const char c : field)
            out += c == '"' ? std::string("\"\"") : std::string(1, c);
        return out + "\"";
    }

    /// A touch as its row has it.
    struct Row3 {
        int line;
        std::string label, level, setup;
        std::array<std::string, 3> xyz;
        bool after_gap;
        std::optional<std::string> feature{}; ///< ours, once it is known; empty: left out
    };

    /// A number as the contract writes it; nothing, and a fault, where it is none.
    std::string coordinate(const char* axis, const LogRow& row, int line) {
        const auto number = decimal_text(form_.cell(row, axis), form_.comma);
        if (!number) {
            form_.fault(file_, line, std::string(axis) + " is “" + form_.cell(row, axis) + "”", "a number");
            return {};
        }
        if (!form_.columns.at(axis).turned)
            return *number;
        return number->starts_with('-') ? number->substr(1) : "-" + *number;
    }

    /// Rows of touches. Where no column names them, a line without a number stands over those that follow it.
    void collect() {
        std::size_t widest = 0;
        for (const auto& [ours, column] : form_.columns)
            widest = std::max(widest, column.index);
        const bool named = form_.has("feature");
        std::string over;
        if (!named && form_.first > 0 && form_.headings != form_.first - 1)
            over = std::string(trimmed(form_.lines[form_.first - 1].text));
        for (std::size_t i = form_.first; i < form_.rows.size(); ++i) {
            const LogRow& row = form_.rows[i];
            const int line = form_.lines[i].number;
            if (!named && std::ranges::none_of(
                              row, [this](const std::string& f) { return decimal_text(f, form_.comma).has_value(); })) {
                over = std::string(trimmed(form_.lines[i].text));
                labelled_ = true;
                continue;
            }
            if (row.size() <= widest) {
                form_.fault(file_, line, "the row has " + std::to_string(row.size()) + " fields",
                            "at least " + std::to_string(widest + 1));
                continue;
            }
            const std::string setup = setup_of(row, touches_.size(), line);
            const bool gap = !touches_.empty() && (form_.lines[i].after_gap || touches_.back().setup != setup);
            touches_.push_back({line,
                                named ? form_.cell(row, "feature") : over,
                                form_.cell(row, "level"),
                                setup,
                                {coordinate("x", row, line), coordinate("y", row, line), coordinate("z", row, line)},
                                gap});
        }
        if (!named && !labelled_)
            for (Row3& touch : touches_)
                touch.label.clear();
        check_turns();
    }

    /// By its column; by how far the block was turned; or by where in the log a mapping says that it was turned.
    std::string setup_of(const LogRow& row, std::size_t touch, int line) {
        if (form_.has("rotation")) {
            const auto text = decimal_text(form_.cell(row, "rotation"), form_.comma);
            const auto degrees = text ? finite_number(*text) : std::nullopt;
            if (!degrees) {
                form_.fault(file_, line, "rotation is “" + form_.cell(row, "rotation") + "”",
                            "degrees, 0 where it lay straight");
                return {};
            }
            const double way = form_.columns.at("rotation").turned ? -*degrees : *degrees;
            std::string name = "at " + short_number(way);
            turns_.try_emplace(name, SetupTurn{way * radians_per_degree, 0, 0});
            return name;
        }
        if (form_.has("setup"))
            return form_.cell(row, "setup");
        std::string name;
        std::size_t latest = 0;
        for (const auto& [key, turn] : m_.setups)
            if (key.starts_with('#'))
                if (const auto from = finite_number(key.substr(1)); from && *from >= 1)
                    if (const auto at = static_cast<std::size_t>(*from); at <= touch + 1 && at >= latest) {
                        latest = at;
                        name = "from " + std::to_string(at);
                        turns_[name] = turn;
                    }
        return name;
    }

    /// Several set-ups, and nobody says how the block lay in them: two banks would be laid into one another.
    void check_turns() {
        std::vector<std::string> names;
        for (const Row3& touch : touches_)
            if (std::ranges::find(names, touch.setup) == names.end())
                names.push_back(touch.setup);
        for (const auto& [name, turn] : m_.setups)
            if (!name.starts_with('#') && name != "*")
                turns_[name] = turn;
        if (const auto all = m_.setups.find("*"); all != m_.setups.end())
            for (const std::string& name : names)
                turns_.try_emplace(name, all->second);
        if (form_.has("rotation") && std::ranges::any_of(turns_, [](const auto& t) {
                return t.second.rotation != 0 && t.second.axis_y == 0 && t.second.axis_z == 0;
            }))
            out_.understood.emplace_back("turned about y 0 and z 0 of the log, as no axis is stated");
        if (names.size() < 2 || form_.has("rotation"))
            return;
        for (const std::string& name : names)
            if (form_.has("setup") && !turns_.contains(name)) {
                lacks_.turns.push_back(name);
                form_.fault(file_, 0, "it is not said how far the block was turned in set-up “" + name + "”",
                            "its rotation about the crankshaft in degrees, 0 where it lay straight");
            }
        if (lacks_.turns.empty())
            out_.understood.push_back(std::to_string(names.size()) + " set-ups");
    }

    void name() {
        if (!m_.program.empty())
            return name_by_program();
        if (!form_.has("feature") && !labelled_) {
            lacks_.names = true;
            return form_.fault(file_, form_.heading_line(), "no column is known as feature",
                               "a heading of that name, or a mapping that names it");
        }
        std::set<std::string> strangers;
        for (Row3& touch : touches_) {
            touch.feature = feature_of(touch.label);
            if (touch.feature) {
                features_.insert(*FeatureId::parse(*touch.feature));
                continue;
            }
            constexpr std::size_t most = 50;
            const std::string pattern = pattern_of(touch.label);
            if (patterns_.size() < most && std::ranges::find(patterns_, pattern) == patterns_.end())
                patterns_.push_back(pattern);
            if (strangers.insert(touch.label).second)
                form_.fault(file_, touch.line, "“" + touch.label + "” is no feature that is known",
                            "main 1, deck right, bore L 2 …, or a mapping that names it");
        }
    }

    /// By the order of the machine's program, which has to be the one that the mapping knows.
    void name_by_program() {
        std::size_t wanted = 0, left_out = 0;
        for (const ProgramStep& step : m_.program)
            wanted += step.touches;
        if (wanted != touches_.size()) {
            lacks_.names = true;
            return form_.fault(file_, 0, "it holds " + std::to_string(touches_.size()) + " touches",
                               std::to_string(wanted) + ", as the program has that its mapping was made for");
        }
        std::size_t at = 0;
        for (const ProgramStep& step : m_.program) {
            const auto id = FeatureId::parse(step.feature);
            if (id)
                features_.insert(*id);
            else if (!step.feature.empty())
                return form_.fault(file_, 0, "its mapping names “" + step.feature + "”",
                                   "a feature such as main.1, deck.R or bore.L.2");
            for (std::size_t i = 0; i < step.touches; ++i, ++at) {
                touches_[at].feature = step.feature;
                touches_[at].level = step.level;
                left_out += step.feature.empty() ? 1 : 0;
            }
        }
        out_.understood.push_back(std::to_string(m_.program.size()) + " runs of touches by the order of the program");
        if (left_out > 0)
            out_.understood.push_back(std::to_string(left_out) + " touches left out");
    }

    void write() {
        std::string& log = out_.log;
        log = "# pallix-probe-log: 1\n# unit: " + std::string(unit_name(form_.unit)) + "\n";
        if (!m_.kind.empty())
            log += "# kind: " + m_.kind + "\n";
        if (!m_.tip_diameter.empty())
            log += "# tip_diameter: " + m_.tip_diameter + "\n";
        for (const auto& [name, turn] : turns_) {
            const std::string key = "# setup." + setup_name(name) + ".";
            log += key + "rotation_deg: " + short_number(std::round(turn.rotation / radians_per_degree * 1e9) / 1e9) +
                   "\n";
            log += key + "axis_y: " + short_number(turn.axis_y / mm_per(form_.unit)) + "\n";
            log += key + "axis_z: " + short_number(turn.axis_z / mm_per(form_.unit)) + "\n";
        }
        const bool setups = form_.has("setup") || !turns_.empty();
        const bool levels = form_.has("level") ||
                            std::ranges::any_of(m_.program, [](const ProgramStep& s) { return !s.level.empty(); });
        log += std::string(setups ? "setup," : "") + "feature," + (levels ? "level," : "") + "x,y,z\n";
        for (const Row3& touch : touches_) {
            if (touch.feature->empty())
                continue;
            if (setups)
                log += quoted(setup_name(touch.setup)) + ",";
            log += *touch.feature + ",";
            if (levels) {
                const auto ours = m_.levels.find(touch.level);
                log += quoted(ours == m_.levels.end() ? touch.level : ours->second) + ",";
            }
            log += touch.xyz[0] + "," + touch.xyz[1] + "," + touch.xyz[2] + "\n";
            ++out_.touches;
        }
    }

    /// A name that may stand in a key of the log's head.
    [[nodiscard]] std::string setup_name(std::string name) const {
        if (!turns_.empty())
            std::ranges::replace_if(
                name, [](char c) { return c == ':' || c == '.' || c == '\n' || c == '\r'; }, '_');
        return name;
    }

    /// The touches by where they are, for whoever looks for names.
    [[nodiscard]] std::vector<LooseTouch> loose() const {
        std::vector<LooseTouch> all;
        if (touches_.size() > most_loose_touches)
            return all;
        all.reserve(touches_.size());
        const double mm = mm_per(form_.unit);
        for (const Row3& touch : touches_) {
            const auto at = [&](std::size_t i) { return finite_number(touch.xyz[i]).value_or(0) * mm; };
            const auto turn = turns_.find(touch.setup);
            const metrology::Vec3 seen{at(0), at(1), at(2)};
            all.push_back({turn == turns_.end() ? seen : turn->second.turned_back(seen), touch.label, touch.line,
                           touch.after_gap});
        }
        return all;
    }
    std::string file_;
    const LogMapping& m_;
    LogForm form_;
    std::vector<Row3> touches_;
    bool labelled_ = false; ///< lines between the touches say what they are
    std::map<std::string, SetupTurn> turns_;
    LogLacks lacks_;
    std::vector<std::string> patterns_;
    std::set<FeatureId> features_;
    ConvertedLog out_;
};

} // namespace

LogLook look_at_log(std::string_view text, const std::string& file, const LogMapping& mapping) {
    constexpr std::size_t largest = 64u << 20; // it is held field by field
    if (text.size() > largest)
        return {tl::unexpected(Faults{{file, 0, "the log is larger than 64 MB", "a log in parts"}}),
                {},
                {},
                {},
                {},
                {},
                {},
                {}};
    Converter converter(text, file, mapping);
    auto converted = converter.run();
    return converter.look(std::move(converted));
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
    const LogRow head = cells_of(lines.front().text, ',');
    return std::ranges::all_of(std::array{"feature", "x", "y", "z"},
                               [&](const char* key) { return std::ranges::find(head, key) != head.end(); });
}

} // namespace pallix::block
