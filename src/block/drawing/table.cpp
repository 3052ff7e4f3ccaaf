// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/drawing/table.h"

#include "block/drawing/size_text.h"
#include "block/log_dialect.h"
#include "block/number_text.h"
#include "block/reading_text.h"
#include "block/shorthand.h"

#include <algorithm>
#include <array>
#include <cctype>
#include <cmath>

namespace pallix::block {
namespace {

/// Small letters and digits only, without what stands in brackets: "Bore Ø [mm]" and "bore_dia" are told alike.
std::string bare(std::string_view text) {
    std::string out;
    int depth = 0;
    for (const char c : text) {
        depth += c == '[' || c == '(' ? 1 : 0;
        if (depth == 0 && std::isalnum(static_cast<unsigned char>(c)) != 0)
            out += static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
        depth -= c == ']' || c == ')' ? 1 : 0;
    }
    return out;
}

std::optional<std::string> unit_in(std::string_view heading) {
    const auto open = heading.find_first_of("[("), close = heading.find_first_of("])");
    if (open == std::string_view::npos || close == std::string_view::npos || close < open)
        return std::nullopt;
    const std::string unit = bare(heading.substr(open + 1, close - open - 1));
    return unit == "mm"                                         ? std::optional<std::string>("mm")
           : unit == "in" || unit == "inch" || unit == "inches" ? std::optional<std::string>("in")
                                                                : std::nullopt;
}

enum class Column { name, along, across, size, number };

std::optional<Column> column_of(const std::string& heading) {
    static const std::map<std::string, Column> known{
        {"name", Column::name},        {"hole", Column::name},       {"feature", Column::name},
        {"id", Column::name},          {"item", Column::name},       {"along", Column::along},
        {"u", Column::along},          {"x", Column::along},         {"fromfront", Column::along},
        {"position", Column::along},   {"across", Column::across},   {"v", Column::across},
        {"y", Column::across},         {"size", Column::size},       {"diameter", Column::size},
        {"dia", Column::size},         {"d", Column::size},          {"number", Column::number},
        {"no", Column::number},        {"cylinder", Column::number}, {"cyl", Column::number},
        {"cylinderno", Column::number}};
    const auto found = known.find(bare(heading));
    return found == known.end() ? std::nullopt : std::optional(found->second);
}

/// A unit behind the first number, for what names none itself.
std::string with_unit(const std::string& typed, const std::optional<std::string>& unit) {
    if (!unit || typed.find_first_of("abcdefghijklmnopqrstuvwxyz\"µ") != std::string::npos)
        return typed;
    const auto end = typed.find(' ');
    return end == std::string::npos ? typed + " " + *unit : typed.substr(0, end) + " " + *unit + typed.substr(end);
}

class TableReader {
  public:
    TableReader(const Table& table, const Recipe& base, std::string file)
        : table_(table), out_{base, {}, {}}, file_(std::move(file)) {}

    Result<TableTaken> run() {
        for (std::size_t i = 0; i < table_.size(); ++i) {
            row_ = static_cast<int>(i) + 1;
            const auto& cells = table_[i];
            if (std::ranges::all_of(cells, [](const std::string& c) { return c.empty(); })) {
                columns_.clear(); // a list ends with an empty row
                continue;
            }
            if (take_headings(cells) || take_hole(cells) || take_figure(cells))
                continue;
            std::string words;
            for (const std::string& cell : cells)
                words += (words.empty() ? "" : " | ") + cell;
            out_.passed_over.push_back("row " + std::to_string(row_) + ": " + words.substr(0, 200));
        }
        if (faults_.empty() && figures_ == 0 && holes_.empty())
            fault("nothing of it is known", "rows of a figure and its value, or holes under headings");
        if (faults_.empty())
            lay_holes();
        if (!faults_.empty())
            return tl::unexpected(std::move(faults_));
        if (figures_ > 0)
            out_.understood.insert(out_.understood.begin(), std::to_string(figures_) + " figures by name");
        out_.recipe.lines.clear();
        return std::move(out_);
    }

  private:
    void fault(std::string what, std::string expected) {
        faults_.push_back({file_, row_, std::move(what), std::move(expected)});
    }
    void set(const std::string& key, std::string typed) {
        out_.recipe.figures[key] = std::move(typed);
        out_.recipe.origins[key] = {FigureSource::sheet, 0, {}};
    }

    bool take_headings(const std::vector<std::string>& cells) {
        std::map<Column, std::size_t> found;
        std::map<Column, std::string> units;
        for (std::size_t i = 0; i < cells.size(); ++i)
            if (const auto column = column_of(cells[i]); column && !found.contains(*column)) {
                found[*column] = i;
                if (const auto unit = unit_in(cells[i]))
                    units[*column] = *unit;
            }
        if (!found.contains(Column::name) || found.size() < 2)
            return false;
        columns_ = std::move(found);
        units_ = std::move(units);
        std::string words;
        for (const auto& [column, i] : columns_)
            words += (words.empty() ? "" : ", ") + cells[i];
        out_.understood.push_back("holes by " + words);
        return true;
    }

    struct Hole {
        int row = 0;
        std::optional<double> along, across; // mm
        std::optional<Tolerance> size;
        std::optional<int> number;
    };

    bool take_hole(const std::vector<std::string>& cells) {
        if (columns_.empty() || columns_.at(Column::name) >= cells.size())
            return false;
        const auto id = feature_by_usual_name(cells[columns_.at(Column::name)]);
        if (!id || id->kind == FeatureKind::deck || id->kind == FeatureKind::panrail)
            return false;
        Hole hole;
        hole.row = row_;
        const auto cell = [&](Column column) -> std::optional<std::string> {
            const auto at = columns_.find(column);
            if (at == columns_.end() || at->second >= cells.size() || cells[at->second].empty())
                return std::nullopt;
            const auto unit = units_.find(column);
            return with_unit(cells[at->second], unit == units_.end() ? std::nullopt : std::optional(unit->second));
        };
        const auto length = [&](Column column, std::optional<double>& into) {
            if (const auto text = cell(column)) {
                const auto mm = read_length(*text, out_.recipe.unit);
                if (mm)
                    into = *mm;
                else
                    fault(id->text() + ": " + mm.error(), "a length");
            }
        };
        length(Column::along, hole.along);
        length(Column::across, hole.across);
        if (const auto text = cell(Column::size)) {
            if (const auto size = read_size(*text, out_.recipe.unit))
                hole.size = *size;
            else
                fault(id->text() + ": " + size.error(), "a size");
        }
        if (const auto at = columns_.find(Column::number); at != columns_.end() && at->second < cells.size())
            if (const auto number = read_number(cells[at->second]); number && *number >= 1 && *number <= 1000)
                hole.number = static_cast<int>(*number);
        if (!holes_.emplace(*id, hole).second)
            fault(id->text() + " stands twice", "each hole once");
        return true;
    }

    bool take_figure(const std::vector<std::string>& cells) {
        const auto label = std::ranges::find_if(cells, [](const std::string& c) { return !c.empty(); });
        const std::string name = bare(*label);
        const auto& all = recipe_figures();
        const auto figure = std::ranges::find_if(
            all, [&](const RecipeFigure& f) { return name == bare(f.key) || name == bare(f.brief); });
        const auto value = std::find_if(label + 1, cells.end(), [](const std::string& c) { return !c.empty(); });
        if (figure == all.end() || value == cells.end())
            return false;
        std::string typed = *value;
        std::optional<std::string> unit = unit_in(*label);
        if (!unit && value + 1 != cells.end())
            unit = unit_in("[" + *(value + 1) + "]"); // a column of its own
        if (figure->kind == RecipeKind::length || figure->kind == RecipeKind::size)
            typed = with_unit(typed, unit);
        if (!figure->choices.empty()) {
            const auto choice =
                std::ranges::find_if(figure->choices, [&](const std::string& c) { return bare(c) == bare(typed); });
            if (choice == figure->choices.end()) {
                fault(std::string(figure->key) + ": “" + typed + "” is none of its choices", figure->words);
                return true;
            }
            typed = *choice;
        }
        set(figure->key, typed);
        ++figures_;
        return true;
    }

    /// What the holes say goes into figures where they are regular, and hole by hole where not.
    void lay_holes() {
        if (holes_.empty())
            return;
        Recipe sized = out_.recipe;
        std::map<FeatureKind, int> most;
        for (const auto& [id, hole] : holes_)
            most[id.kind] = std::max(most[id.kind], id.number);
        const std::array<std::pair<FeatureKind, const char*>, 3> counts{
            {{FeatureKind::main, "mains"}, {FeatureKind::bore, "cylinders"}, {FeatureKind::dowel, "dowels"}}};
        for (const auto& [kind, key] : counts)
            if (most[kind] > 0)
                sized.figures[key] = std::to_string(most[kind]);
        if (most[FeatureKind::lifter] > 0 && !sized.figures.contains("lifters"))
            sized.figures["lifters"] = "2";
        Blueprint b = sketch(sized).blueprint;
        for (const auto& [id, hole] : holes_)
            if (!lay(b, id, hole))
                faults_.push_back({file_, hole.row, id.text() + " is no hole of such a block",
                                   "its layout first: a V has banks R and L"});
        if (!faults_.empty())
            return;
        b.source.clear();
        b.unit = out_.recipe.unit;
        const auto regular = recipe_of(b);
        if (!regular) {
            faults_ = regular.error();
            return;
        }
        const auto any_size = [this](FeatureKind kind) {
            return std::ranges::any_of(holes_, [kind](const auto& h) { return h.first.kind == kind && h.second.size; });
        };
        for (const auto& [key, typed] : regular->figures)
            if (const auto kind = kind_of_key(key); kind && most[*kind] > 0)
                if ((key != "bore" && !key.ends_with("size")) || any_size(*kind)) // what was typed of a size stands
                    set(key, typed);
        out_.understood.push_back(std::to_string(holes_.size()) + " holes laid out");
    }

    static bool lay(Blueprint& b, const FeatureId& id, const Hole& hole) {
        if (id.kind == FeatureKind::main || id.kind == FeatureKind::cam) {
            if (id.kind == FeatureKind::cam && !b.cam)
                return false;
            auto& row = id.kind == FeatureKind::main ? b.mains : b.cam->bearings;
            const auto bearing = std::ranges::find(row, id, &MainBlueprint::id);
            if (bearing == row.end())
                return false;
            bearing->x = hole.along.value_or(bearing->x);
            bearing->diameter = hole.size.value_or(bearing->diameter);
            return true;
        }
        auto& list = id.kind == FeatureKind::dowel ? b.dowels : id.kind == FeatureKind::bore ? b.bores : b.lifters;
        const auto found = std::ranges::find(list, id, &HoleBlueprint::id);
        if (found == list.end())
            return false;
        found->u = hole.along.value_or(found->u);
        found->v = hole.across.value_or(found->v);
        found->diameter = hole.size.value_or(found->diameter);
        if (hole.number)
            found->cylinder = hole.number;
        return true;
    }

    /// Which kind of hole a figure lays out.
    static std::optional<FeatureKind> kind_of_key(const std::string& key) {
        static const std::map<std::string, FeatureKind> keys{
            {"cylinders", FeatureKind::bore},    {"pitch", FeatureKind::bore},
            {"first_bore", FeatureKind::bore},   {"stagger", FeatureKind::bore},
            {"bore", FeatureKind::bore},         {"numbering", FeatureKind::bore},
            {"number_one", FeatureKind::bore},   {"mains", FeatureKind::main},
            {"first_main", FeatureKind::main},   {"main_pitch", FeatureKind::main},
            {"main_size", FeatureKind::main},    {"dowels", FeatureKind::dowel},
            {"dowel_size", FeatureKind::dowel},  {"dowel_first", FeatureKind::dowel},
            {"dowel_apart", FeatureKind::dowel}, {"dowel_across", FeatureKind::dowel},
            {"cam_size", FeatureKind::cam},      {"cam_at", FeatureKind::cam}};
        if (const auto found = keys.find(key); found != keys.end())
            return found->second;
        if (key.starts_with("lifter"))
            return FeatureKind::lifter;
        const auto slash = key.find('/');
        const auto id = slash == std::string::npos ? std::nullopt : FeatureId::parse(key.substr(0, slash));
        return id ? std::optional(id->kind) : std::nullopt;
    }

    const Table& table_;
    TableTaken out_;
    std::string file_;
    int row_ = 0, figures_ = 0;
    std::map<Column, std::size_t> columns_;
    std::map<Column, std::string> units_;
    std::map<FeatureId, Hole> holes_;
    Faults faults_;
};

} // namespace

Result<TableTaken> recipe_from_table(const Table& table, const Recipe& base, const std::string& file) {
    return TableReader(table, base, file).run();
}

} // namespace pallix::block
