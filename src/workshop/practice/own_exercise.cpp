// SPDX-License-Identifier: GPL-3.0-or-later
#include "workshop/practice/own_exercise.h"

#include "block/entries/cylinder_entries.h"
#include "block/fields_json.h"
#include "block/number_text.h"
#include "block/reading_text.h"
#include "block/words_of.h"
#include "planning/decks/deck_map.h"

#include <algorithm>
#include <cmath>
#include <map>

namespace pallix::workshop {
namespace {

using block::FeatureId;
using block::FeatureKind;
using block::Fields;

/// Puts the errors into a truth, line by line.
class Errors {
  public:
    Errors(HiddenTruth& truth, const block::Blueprint& blueprint) : truth_(truth), b_(blueprint) {}

    block::Faults take(const std::vector<std::string>& lines) {
        for (std::size_t i = 0; i < lines.size(); ++i) {
            line_ = static_cast<int>(i) + 1;
            const auto found = block::words_of(lines[i]);
            if (!found.empty())
                take_line({found.begin(), found.end()});
        }
        return std::move(faults_);
    }

  private:
    /// Numbers that a kind of error is told by, and where each goes.
    using Kinds = std::map<std::string, std::vector<double*>>;

    void take_line(const std::vector<std::string>& words) {
        const auto kinds = kinds_of(words[0]);
        if (!kinds)
            return fault("\"" + words[0] + "\" is not on this block",
                         "main.3, deck.R, bore.R.2, lifter.R.1, gauge or bar");
        const auto kind = words.size() > 1 ? kinds->find(words[1]) : kinds->end();
        if (kind == kinds->end()) {
            std::string known;
            for (const auto& [name, into] : *kinds)
                known += (known.empty() ? "" : ", ") + name;
            return fault(words.size() > 1 ? "\"" + words[1] + "\" is no error of " + words[0]
                                          : "nothing is said of " + words[0],
                         "one of " + known);
        }
        const std::vector<double*>& into = kind->second;
        if (words.size() != into.size() + 2)
            return fault(words[0] + " " + words[1] + " has " + std::to_string(words.size() - 2) + " numbers",
                         std::to_string(into.size()));
        for (std::size_t i = 0; i < into.size(); ++i) {
            const auto number = block::read_number(words[i + 2]);
            if (!number)
                return fault("\"" + words[i + 2] + "\" is no number", "a number");
            *into[i] = *number;
        }
        settle();
    }
    std::optional<Kinds> kinds_of(const std::string& name) {
        GaugeHabits& g = truth_.gauges;
        if (name == "gauge")
            return Kinds{{"scatter", {&g.scatter}}, {"stated", {&g.stated}},
                         {"slips", {&g.slips}},     {"mishaps", {&g.mishaps}},
                         {"drift", {&g.drift}},     {"block_c", {&g.part_c}},
                         {"gauge_c", {&g.gauge_c}}, {"knocked", {&knocked_after_, &g.zero_slip}}};
        if (name == "bar")
            return Kinds{{"error", {&truth_.machines.boring_bar.error}},
                         {"chip", {&chips_at_, &truth_.machines.boring_bar.chip}}};
        const auto id = FeatureId::parse(name);
        if (!id || !b_.lists(*id))
            return std::nullopt;
        if (id->kind == FeatureKind::main)
            for (std::size_t m = 0; m < b_.mains.size(); ++m)
                if (b_.mains[m].id == *id) {
                    MainTruth& t = truth_.block.mains[m];
                    return Kinds{{"over", {&t.over}}, {"oval", {&t.oval}}, {"up", {&t.up}}, {"side", {&t.side}}};
                }
        if (id->kind == FeatureKind::deck) {
            DeckTruth& t = truth_.block.decks.at(id->bank);
            return Kinds{{"offset", {&t.offset}},
                         {"slope", {&t.rear_over_front}},
                         {"tilt", {&t.positive_over_negative}},
                         {"twist", {&t.twist}},
                         {"crown", {&t.crown}},
                         {"dip", {&t.dip.x, &t.dip.y, &t.dip_depth, &t.dip_radius}}};
        }
        const auto bore = truth_.block.bores.find(*id);
        if (bore == truth_.block.bores.end())
            return std::nullopt;
        BoreTruth& t = bore->second;
        oversize_of_ = *id;
        oversize_ = 0;
        return Kinds{
            {"oversize", {&oversize_}}, {"taper", {&t.taper}}, {"oval", {&t.oval}}, {"off", {&t.off.x, &t.off.y}}};
    }
    /// What is no plain number of the truth.
    void settle() {
        if (knocked_after_ > 0)
            truth_.gauges.zero_slips_after = static_cast<int>(knocked_after_);
        if (chips_at_ > 0)
            truth_.machines.boring_bar.chips_at = static_cast<int>(chips_at_);
        if (oversize_of_)
            truth_.block.bores.at(*oversize_of_).size += oversize_;
        oversize_of_.reset();
    }
    void fault(std::string what, std::string expected) {
        faults_.push_back({"errors", line_, std::move(what), std::move(expected)});
    }

    HiddenTruth& truth_;
    const block::Blueprint& b_;
    block::Faults faults_;
    int line_ = 0;
    double knocked_after_ = 0, chips_at_ = 0, oversize_ = 0;
    std::optional<FeatureId> oversize_of_;
};

void fields(Fields& f, OwnExercise& p) {
    std::string format = "pallix-exercise";
    f.text("format", format);
    f.demand(format == "pallix-exercise", "format", "is \"" + format + "\"", "pallix-exercise");
    std::int64_t version = 1;
    f.whole("version", version, {1, 1});
    f.text("title", p.title);
    f.demand(!p.title.empty(), "title", "is empty", "what it is called");
    f.text_if("story", p.story, 10 * block::short_text);
    f.text_if("wanted", p.wanted, 10 * block::short_text);
    f.whole("number", p.number, {1, 1e9});
    f.whole("level", p.level, {1, levels});
    block::stages_field(f, "scope", p.scope, {1, block::stage_keys.size()});
    f.text("blueprint", p.blueprint, block::long_text);
    f.list("errors", p.errors, {0, 1000}, [&f](std::string& line) { f.text("", line); });
}

} // namespace

block::Result<Exercise> exercise_of(const OwnExercise& own) {
    auto blueprint = block::read_blueprint(own.blueprint, "blueprint");
    if (!blueprint)
        return tl::unexpected(blueprint.error());
    Exercise e;
    e.key = own.title;
    e.number = own.number;
    e.level = own.level;
    e.told = {own.title, own.story, own.wanted, own.level};
    e.blueprint = std::move(*blueprint);
    if (e.blueprint.mains.size() < 2 || e.blueprint.banks.empty() || e.blueprint.bores.empty())
        return tl::unexpected(block::Faults{
            {"blueprint", 0, "it has too little to practise on", "two mains, a bank and a cylinder at least"}});
    e.truth.seed = static_cast<std::uint64_t>(own.number);
    e.truth.block = as_drawn(e.blueprint);
    if (block::Faults faults = Errors(e.truth, e.blueprint).take(own.errors); !faults.empty())
        return tl::unexpected(std::move(faults));
    if (const auto sound = read_hidden(hidden_json(e.truth), e.blueprint); !sound) // within what can be
        return tl::unexpected(sound.error());
    e.plans.emplace_back(block::ScopeChosen{own.scope, "what the exercise asks for"});
    if (std::ranges::find(own.scope, block::Stage::cylinders) != own.scope.end()) {
        block::PistonsStated pistons;
        pistons.clearance = 0.05; // common practice, no source
        e.plans.emplace_back(pistons);
    }
    return e;
}

ErrorLine pulled(const block::Blueprint& b, const std::vector<Shape>& sound, std::size_t s, std::size_t p,
                 double length) {
    constexpr double step = 0.005; // mm, finer than anybody pulls
    const Shape& shape = sound.at(s);
    const ShapePart& part = shape.parts.at(p);
    const double by = std::round((length - part.is_low) / step) * step;
    const auto line = [](const std::string& about, double value, const std::string& before = {},
                         const std::string& after = {}) {
        return ErrorLine{about, std::abs(value) < step / 2
                                    ? std::string()
                                    : about + before + " " + block::fixed_number(value, 3) + after};
    };
    switch (shape.what) {
    case ShapeOf::line_upright:
        return line(part.about + " up", by);
    case ShapeOf::line_sideways:
        return line(part.about + " side", by);
    case ShapeOf::mains:
        return line(part.about + " over", by);
    case ShapeOf::cylinders:
    case ShapeOf::lifters:
        return line(part.about + " oversize", by);
    case ShapeOf::deck:
        break;
    }
    constexpr std::size_t ends = 8; // an eighth of it at either end leans it
    const std::size_t all = shape.parts.size();
    if (p < all / ends || p >= all - all / ends) // the middle stays where it is
        return line(part.about + " slope", p < all / ends ? -2 * by : 2 * by);
    constexpr double from_edge = 8, radius = 30; // mm
    const planning::DeckExtent e = planning::deck_extent(*b.bank(shape.bank));
    return line(part.about + " dip", std::max(0.0, -by),
                " " + block::fixed_number(part.x, 0) + " " + block::fixed_number(e.high.y - from_edge, 0),
                " " + block::fixed_number(radius, 0));
}

std::vector<std::string> with_error(std::vector<std::string> lines, const ErrorLine& line) {
    const auto of_it = [&line](const std::string& other) {
        const auto words = block::words_of(other);
        return words.size() > 1 && std::string(words[0]) + " " + std::string(words[1]) == line.about;
    };
    const auto had = std::ranges::find_if(lines, of_it);
    if (had != lines.end() && !line.text.empty())
        *had = line.text;
    else if (had != lines.end())
        lines.erase(had);
    else if (!line.text.empty())
        lines.push_back(line.text);
    return lines;
}

std::vector<block::Stage> stages_of(const std::vector<std::string>& errors) {
    using block::Stage;
    std::vector<Stage> wrong, all;
    for (const auto& [prefix, stage] : {std::pair("main.", Stage::tunnel),
                                        {"deck.", Stage::decks},
                                        {"bore.", Stage::cylinders},
                                        {"lifter.", Stage::lifters}}) {
        all.push_back(stage);
        if (std::ranges::any_of(errors, [p = prefix](const std::string& line) { return line.starts_with(p); }))
            wrong.push_back(stage);
    }
    return wrong.empty() ? all : wrong;
}

std::string own_exercise_json(OwnExercise own) {
    return block::fields_as_json([&own](Fields& f) { fields(f, own); }) + "\n";
}

block::Result<OwnExercise> read_own_exercise(std::string_view json, const std::string& file) {
    if (!block::is_json(json))
        return tl::unexpected(block::Faults{{file, 0, "it is no JSON", "a .pallix-exercise.json"}});
    OwnExercise own;
    block::Faults faults;
    for (const block::FieldFault& fault : block::fields_from_json(json, [&own](Fields& f) { fields(f, own); }))
        faults.push_back({file, 0, fault.field + " " + fault.what, fault.expected});
    return faults.empty() ? block::Result<OwnExercise>(std::move(own)) : tl::unexpected(std::move(faults));
}

} // namespace pallix::workshop
