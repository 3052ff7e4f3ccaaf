// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/probe_log.h"

#include "block/fields.h"
#include "block/number_text.h"
#include "block/setup_turn.h"
#include "block/utf8.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <csv.h>
#include <map>
#include <memory>

namespace pallix::block {
namespace {

using metrology::Vec3;

std::string in_quotes(std::string_view text) {
    return "\"" + std::string(text.substr(0, 60)) + (text.size() > 60 ? "…\"" : "\"");
}

/// What several logs build up together.
class Collector {
  public:
    Collector(const Blueprint& blueprint, ProbeSet& set, Faults& faults)
        : blueprint_(blueprint), set_(set), faults_(faults) {}

    struct Row {
        std::string_view setup, feature, level;
        std::array<std::string_view, 3> xyz;
        int line;
    };

    /// @param touch nothing when one of its numbers was wrong: the row still counts for its section
    void add(const Row& row, std::size_t log, bool is_tip, std::optional<Touch> touch) {
        const std::size_t index = section_index(row, log, is_tip);
        if (index == none)
            return;
        ++counts_[index];
        if (touch)
            set_.sections[index].touches.push_back(*touch);
    }

    void check_sections(ProbeScope scope) {
        for (std::size_t i = 0; i < set_.sections.size(); ++i) {
            const Section& s = set_.sections[i];
            if (counts_[i] < 3) {
                const std::string where = s.feature.text() + (s.level.empty() ? "" : " " + s.level);
                faults_.push_back(
                    set_.fault(s, where + " has " + std::to_string(counts_[i]) + " points",
                               is_round(s.feature.kind) ? "at least 3 in a circle" : "at least 3 in a plane"));
            }
        }
        if (scope == ProbeScope::part)
            return;
        std::vector<FeatureId> mains;
        for (const Section* s : set_.of(FeatureKind::main))
            if (std::ranges::find(mains, s->feature) == mains.end())
                mains.push_back(s->feature);
        if (mains.size() < 2 && !set_.logs.empty())
            faults_.push_back({set_.logs.back().file, set_.logs.back().header_line,
                               std::to_string(mains.size()) + " mains were probed", "at least two"});
    }

  private:
    static constexpr std::size_t none = static_cast<std::size_t>(-1);

    std::size_t section_index(const Row& row, std::size_t log, bool is_tip) {
        // Logs hold long runs of one section: ask the map only when the run ends.
        if (last_ != none && log == last_log_ && row.feature == last_feature_ && row.level == last_level_)
            return last_;
        const auto feature = FeatureId::parse(row.feature);
        if (!feature) {
            faults_.push_back({set_.logs[log].file, row.line, "feature " + in_quotes(row.feature) + " is not known",
                               "main.N, cam.N, dowel.B.N, deck.B, bore.B.N, lifter.B.N or panrail"});
            return none;
        }
        if (!blueprint_.lists(*feature)) {
            faults_.push_back({set_.logs[log].file, row.line, feature->text() + " is not in the blueprint",
                               "a feature that the blueprint lists"});
            return none;
        }
        const bool has_levels = is_round(feature->kind) && feature->kind != FeatureKind::dowel;
        const std::string level(has_levels ? row.level : std::string_view());
        const auto [found, is_new] = index_.try_emplace({*feature, level}, set_.sections.size());
        if (is_new) {
            set_.sections.push_back({*feature, level, log, row.line, {}});
            counts_.push_back(0);
            tips_.push_back(is_tip);
        } else if (tips_[found->second] != is_tip) {
            const Section& s = set_.sections[found->second];
            faults_.push_back({set_.logs[log].file, row.line,
                               row_name(s) +
                                   (is_tip ? " is given as tip centres here" : " is given as surface points here") +
                                   " and otherwise in " + set_.logs[s.log].file,
                               "one kind for one feature and level"});
            tips_[found->second] = is_tip; // told once
        }
        last_ = found->second;
        last_log_ = log;
        last_feature_ = row.feature;
        last_level_ = row.level;
        return last_;
    }

    static std::string row_name(const Section& s) { return s.feature.text() + (s.level.empty() ? "" : " " + s.level); }

    const Blueprint& blueprint_;
    ProbeSet& set_;
    Faults& faults_;
    std::map<std::pair<FeatureId, std::string>, std::size_t> index_;
    std::vector<std::size_t> counts_;
    std::vector<bool> tips_;
    std::size_t last_ = none;
    std::size_t last_log_ = 0;
    std::string last_feature_, last_level_;
};

/// Reads one log: the `# key: value` lines, the header row, the rows.
class LogReader {
  public:
    LogReader(const NamedText& log, std::size_t index, Collector& collector, ProbeSet& set, Faults& faults,
              const ReadWatch* watch)
        : log_(log), index_(index), watch_(watch), collector_(collector), set_(set), faults_(faults) {
        set_.logs.push_back({});
        header().file = log.file;
    }

    void read() {
        if (Faults faults = faults_of_text(log_); !faults.empty()) {
            faults_.insert(faults_.end(), faults.begin(), faults.end());
            return;
        }
        std::string_view rest = log_.text;
        if (rest.starts_with("\xEF\xBB\xBF"))
            rest.remove_prefix(3);
        read_head(rest);
        if (rest.empty()) {
            fault(line_, "there is no header row", "a row such as setup,feature,level,x,y,z");
            return;
        }
        check_head();
        header().header_line = line_ + 1;
        read_rows(rest);
    }

  private:
    LogHeader& header() { return set_.logs[index_]; }

    void fault(int line, std::string what, std::string expected) {
        faults_.push_back({log_.file, line, std::move(what), std::move(expected)});
    }
    void warn(int line, std::string what, std::string expected) {
        set_.warnings.push_back({log_.file, line, std::move(what), std::move(expected)});
    }

    static std::string_view take_line(std::string_view& rest) {
        const std::size_t end = rest.find('\n');
        const std::string_view line = rest.substr(0, end == std::string_view::npos ? rest.size() : end + 1);
        rest.remove_prefix(line.size());
        return line;
    }

    // ---- lines before the header row --------------------------------------------------------------------------

    void read_head(std::string_view& rest) {
        while (!rest.empty() && (rest.front() == '#' || trimmed(rest.substr(0, rest.find('\n'))).empty())) {
            ++line_;
            std::string_view line = trimmed(take_line(rest).substr(0));
            if (line.ends_with('\n'))
                line = trimmed(line.substr(0, line.size() - 1));
            if (line.empty())
                continue;
            line.remove_prefix(1);
            const std::size_t colon = line.find(':');
            if (colon == std::string_view::npos)
                continue; // a remark
            take_key(trimmed(line.substr(0, colon)), trimmed(line.substr(colon + 1)));
        }
    }

    void take_key(std::string_view key, std::string_view value) {
        if (key == "pallix-probe-log") {
            if (value != "1")
                fault(line_, "probe log version " + in_quotes(value), "version 1");
        } else if (key == "unit") {
            const auto unit = unit_from_name(value);
            if (!unit)
                fault(line_, "unit " + in_quotes(value), "mm or in");
            header().unit = unit.value_or(Unit::mm);
        } else if (key == "kind") {
            if (value != "surface" && value != "tip")
                fault(line_, "kind " + in_quotes(value), "surface or tip");
            header().is_tip = value == "tip";
            kind_line_ = line_;
        } else if (key == "tip_diameter") {
            tip_diameter_ = number(key, value);
            tip_line_ = line_;
            if (tip_diameter_ && *tip_diameter_ <= 0)
                fault(line_, "tip_diameter " + in_quotes(value), "a length greater than 0");
        } else if (key == "touch_uncertainty") {
            touch_uncertainty_ = number(key, value);
            if (touch_uncertainty_ && *touch_uncertainty_ <= 0)
                fault(line_, "touch_uncertainty " + in_quotes(value), "a length greater than 0");
        } else if (key == "temperature_c") {
            header().temperature_c = number(key, value);
        } else if (key.starts_with("setup.")) {
            take_setup(key, value);
        } else {
            warn(line_, "the key " + in_quotes(key) + " is not known and is left out", "");
        }
    }

    std::optional<double> number(std::string_view key, std::string_view value) {
        const auto n = finite_number(value);
        if (!n)
            fault(line_, std::string(key) + " is " + in_quotes(value), "a finite number");
        return n;
    }

    void take_setup(std::string_view key, std::string_view value) {
        const std::size_t dot = key.rfind('.');
        const std::string_view what = key.substr(dot + 1);
        if (dot <= 6 || (what != "rotation_deg" && what != "axis_y" && what != "axis_z")) {
            fault(line_, "set-up key " + in_quotes(key),
                  "setup.NAME.rotation_deg, setup.NAME.axis_y or setup.NAME.axis_z");
            return;
        }
        SetupTurn& named = setups_[std::string(key.substr(6, dot - 6))];
        const double n = number(key, value).value_or(0);
        if (what == "rotation_deg")
            named.rotation = n * radians_per_degree;
        else
            (what == "axis_y" ? named.axis_y : named.axis_z) = n;
    }

    void check_head() {
        const double mm = mm_per(header().unit);
        for (auto& [name, turned] : setups_) {
            turned.axis_y *= mm;
            turned.axis_z *= mm;
        }
        if (header().is_tip && !tip_diameter_ && tip_line_ == 0)
            fault(kind_line_, "kind is tip and no tip_diameter is given", "# tip_diameter: the ball's diameter");
        if (header().is_tip && tip_diameter_)
            header().tip_radius = *tip_diameter_ * mm / 2;
        for (const auto& [name, turned] : setups_)
            header().rolled = header().rolled || turned.rotation != setups_.begin()->second.rotation;
        if (touch_uncertainty_)
            header().touch_uncertainty = *touch_uncertainty_ * mm;
    }

    // ---- rows ---------------------------------------------------------------------------------------------------

    void read_rows(std::string_view rest) {
        csv_parser parser;
        csv_init(&parser, CSV_STRICT | CSV_STRICT_FINI);
        const std::unique_ptr<csv_parser, decltype(&csv_free)> guard(&parser, &csv_free);
        const auto whole = static_cast<double>(log_.text.size());
        while (!rest.empty()) {
            ++line_;
            if (watch_ && line_ % 16384 == 0) {
                if (watch_->cancelled && *watch_->cancelled) {
                    fault(line_, "the read was ended", "");
                    return;
                }
                if (watch_->progress)
                    watch_->progress(1 - static_cast<double>(rest.size()) / whole);
            }
            const std::string_view line = take_line(rest);
            if (csv_parse(&parser, line.data(), line.size(), &LogReader::on_field, &LogReader::on_row, this) !=
                line.size()) {
                fault(line_, "a quotation mark stands where none may", "fields as RFC 4180 quotes them");
                return;
            }
        }
        if (csv_fini(&parser, &LogReader::on_field, &LogReader::on_row, this) != 0)
            fault(row_line_, "a quoted field is not closed", "a closing quotation mark");
    }

    static void on_field(void* text, std::size_t length, void* self) {
        auto& reader = *static_cast<LogReader*>(self);
        if (reader.used_ == 0)
            reader.row_line_ = reader.line_;
        if (reader.used_ == reader.fields_.size())
            reader.fields_.emplace_back();
        reader.fields_[reader.used_++].assign(static_cast<const char*>(text), length);
    }

    static void on_row(int, void* self) {
        auto& reader = *static_cast<LogReader*>(self);
        if (reader.columns_.empty())
            reader.take_header_row();
        else if (reader.column_count_ > 0)
            reader.take_row();
        reader.used_ = 0;
    }

    enum Column { setup, feature, level, x, y, z, column_kinds };
    static constexpr std::array<std::string_view, column_kinds> column_names{"setup", "feature", "level",
                                                                             "x",     "y",       "z"};

    void take_header_row() {
        columns_.assign(column_kinds, -1);
        bool sound = true;
        for (std::size_t i = 0; i < used_; ++i) {
            const auto known = std::ranges::find(column_names, fields_[i]);
            if (known == column_names.end()) {
                warn(row_line_, "the column " + in_quotes(fields_[i]) + " is not known and is left out", "");
                continue;
            }
            int& column = columns_[static_cast<std::size_t>(known - column_names.begin())];
            if (column >= 0) {
                fault(row_line_, "the column " + in_quotes(fields_[i]) + " stands twice", "each column once");
                sound = false;
            }
            column = static_cast<int>(i);
        }
        for (const Column needed : {feature, x, y, z})
            if (columns_[needed] < 0) {
                fault(row_line_, "the header row has no column " + in_quotes(column_names[needed]),
                      "a row such as setup,feature,level,x,y,z");
                sound = false;
            }
        column_count_ = sound ? used_ : 0;
    }

    std::string_view field(Column c) const {
        return columns_[c] < 0 ? std::string_view() : std::string_view(fields_[static_cast<std::size_t>(columns_[c])]);
    }

    void take_row() {
        if (used_ != column_count_) {
            fault(row_line_, "this row has " + std::to_string(used_) + " fields",
                  std::to_string(column_count_) + " as in the header row");
            return;
        }
        const Collector::Row row{field(setup), field(feature), field(level), {field(x), field(y), field(z)}, row_line_};
        std::array<double, 3> p{};
        bool sound = true;
        for (std::size_t i = 0; i < 3; ++i) {
            const auto n = finite_number(row.xyz[i]);
            if (!n) {
                const std::string name(column_names[x + i]);
                fault(row_line_, row.xyz[i].empty() ? name + " is missing" : name + " is " + in_quotes(row.xyz[i]),
                      "a finite number");
                sound = false;
            }
            p[i] = n.value_or(0);
            if (sound && std::abs(p[i]) * mm_per(header().unit) > longest) {
                fault(row_line_,
                      std::string(column_names[x + i]) + " is " + in_quotes(row.xyz[i]) + " " +
                          std::string(unit_name(header().unit)),
                      "a place within " + std::to_string(std::lround(longest)) + " mm");
                sound = false;
            }
        }
        std::optional<Touch> touch;
        if (sound) {
            const double mm = mm_per(header().unit);
            touch = Touch{setup_of(row.setup).turned_back({p[0] * mm, p[1] * mm, p[2] * mm}), header().tip_radius};
            ++header().touches;
        }
        collector_.add(row, index_, header().is_tip, touch);
    }

    /// A set-up that the head says nothing of lies as the machine sees it.
    const SetupTurn& setup_of(std::string_view name) {
        static const SetupTurn as_it_lies;
        if (setups_.empty())
            return as_it_lies;
        const auto found = setups_.find(name);
        return found == setups_.end() ? as_it_lies : found->second;
    }

    const NamedText& log_;
    std::size_t index_;
    const ReadWatch* watch_;
    Collector& collector_;
    ProbeSet& set_;
    Faults& faults_;
    int line_ = 0;
    int kind_line_ = 0;
    int tip_line_ = 0;
    std::optional<double> tip_diameter_;
    std::optional<double> touch_uncertainty_;
    std::map<std::string, SetupTurn, std::less<>> setups_;
    std::vector<int> columns_; ///< where each Column stands in a row; empty before the header row
    std::size_t column_count_ = 0;
    std::vector<std::string> fields_;
    std::size_t used_ = 0;
    int row_line_ = 0;
};

} // namespace

std::vector<const Section*> ProbeSet::of(FeatureKind kind) const {
    std::vector<const Section*> found;
    for (const Section& s : sections)
        if (s.feature.kind == kind)
            found.push_back(&s);
    return found;
}

Fault ProbeSet::fault(const Section& section, std::string what, std::string expected) const {
    return {logs[section.log].file, section.line, std::move(what), std::move(expected)};
}

ProbeSet laid_over(const ProbeSet& earlier, const ProbeSet& newest) {
    ProbeSet set = newest;
    const std::size_t shift = newest.logs.size();
    for (const Section& s : earlier.sections) {
        if (std::ranges::find(newest.sections, s.feature, &Section::feature) != newest.sections.end())
            continue;
        set.sections.push_back(s);
        set.sections.back().log += shift;
    }
    set.logs.insert(set.logs.end(), earlier.logs.begin(), earlier.logs.end());
    return set;
}

Result<ProbeSet> read_probe_logs(std::span<const NamedText> logs, const Blueprint& blueprint, ProbeScope scope,
                                 const ReadWatch* watch) {
    ProbeSet set;
    Faults faults;
    Collector collector(blueprint, set, faults);
    for (std::size_t i = 0; i < logs.size(); ++i)
        LogReader(logs[i], i, collector, set, faults, watch).read();
    collector.check_sections(scope);
    if (faults.empty())
        return set;
    const auto order = [&logs](const Fault& f) {
        const auto log = std::ranges::find(logs, f.file, &NamedText::file);
        return std::pair(log - logs.begin(), f.line);
    };
    std::ranges::stable_sort(faults, {}, order);
    return tl::unexpected(std::move(faults));
}

} // namespace pallix::block
