// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/common/board.h"

#include "block/drawing/size_text.h"
#include "block/number_text.h"
#include "planning/common/usual_figures.h"

#include <algorithm>
#include <cmath>

namespace pallix::planning {

using namespace block;

namespace {

const RecipeFigure* figure_of(const std::string& key) {
    const auto& all = recipe_figures();
    const auto found = std::ranges::find(all, key, [](const RecipeFigure& f) { return std::string(f.key); });
    return found == all.end() ? nullptr : &*found;
}

const UsualFigure* usual_of(const std::string& key) {
    const auto& all = usual_figures();
    const auto found = std::ranges::find(all, key, [](const UsualFigure& f) { return std::string(f.address); });
    return found == all.end() ? nullptr : &*found;
}

/// Of "bore.R.2/along" what it is about and which of its figures.
std::optional<std::pair<FeatureId, std::string>> own_figure(const std::string& key) {
    const auto slash = key.find('/');
    const auto id = slash == std::string::npos ? std::nullopt : FeatureId::parse(key.substr(0, slash));
    return id ? std::optional(std::pair(*id, key.substr(slash + 1))) : std::nullopt;
}

/// Whether what a doubt speaks of was stated, not filled in for the drawing's sake.
bool stands_on_figures(const BlueprintDoubt& doubt, const Sketch& sketch) {
    const auto stated = [&](std::initializer_list<const char*> keys) {
        return std::ranges::none_of(keys, [&](const char* key) { return sketch.stand_ins.contains(key); });
    };
    switch (doubt.about.kind) {
    case FeatureKind::bore:
        return stated({"bore", "pitch", "cylinders"});
    case FeatureKind::dowel:
        return stated({"dowel_size", "bore", "pitch"});
    case FeatureKind::lifter:
        return stated({"lifter_size", "pitch"});
    case FeatureKind::main:
        return stated({"main_size"});
    case FeatureKind::cam:
        return stated({"cam", "cam_size"});
    default:
        return stated({"deck_height"});
    }
}

} // namespace

Board::Board(Engine engine) : engine_(std::move(engine)) {
    redraw();
}

void Board::redraw() {
    sketch_ = block::sketch(engine_.recipe);
    usual_wrong_.clear();
    EngineFigures figures;
    if (const auto usual = usual_entries(engine_, sketch_.blueprint)) {
        for (const Payload& payload : *usual)
            if (const auto* stated = std::get_if<EngineFigures>(&payload))
                figures = *stated;
    } else {
        for (const Fault& fault : usual.error())
            usual_wrong_.emplace(fault.file,
                                 fault.what + (fault.expected.empty() ? "" : "; expected: " + fault.expected));
    }
    questions_.clear();
    for (const BlueprintDoubt& doubt : doubts_of(sketch_.blueprint, figures)) {
        if (!stands_on_figures(doubt, sketch_))
            continue;
        BoardQuestion question{doubt, doubt_id(doubt), {}};
        if (const auto why = engine_.recipe.accepted.find(question.id); why != engine_.recipe.accepted.end())
            question.why = why->second;
        questions_.push_back(std::move(question));
    }
}

std::size_t Board::open_questions() const {
    return static_cast<std::size_t>(
        std::ranges::count_if(questions_, [](const BoardQuestion& q) { return q.why.empty(); }));
}

std::string Board::typed(const std::string& key) const {
    const auto& from = is_usual(key) ? engine_.usual : engine_.recipe.figures;
    const auto found = from.find(key);
    return found == from.end() ? std::string() : found->second;
}

FigureOrigin Board::origin(const std::string& key) const {
    const auto found = engine_.recipe.origins.find(key);
    return found == engine_.recipe.origins.end() ? FigureOrigin{} : found->second;
}

std::string Board::wrong(const std::string& key) const {
    const auto& from = is_usual(key) ? usual_wrong_ : sketch_.wrong;
    const auto found = from.find(key);
    return found == from.end() ? std::string() : found->second;
}

bool Board::needed(const std::string& key) const {
    return sketch_.stand_ins.contains(key) && typed(key).empty();
}

void Board::remember() {
    constexpr std::size_t most = 200;
    before_.push_back(engine_);
    if (before_.size() > most)
        before_.erase(before_.begin());
    after_.clear();
}

void Board::type(const std::string& key, const std::string& text, FigureSource from) {
    const std::string clean(trimmed(text));
    if (clean == typed(key))
        return;
    remember();
    auto& into = is_usual(key) ? engine_.usual : engine_.recipe.figures;
    if (clean.empty()) {
        into.erase(key);
        engine_.recipe.origins.erase(key);
    } else {
        into[key] = clean;
        if (from == FigureSource::unstated)
            engine_.recipe.origins.erase(key);
        else
            engine_.recipe.origins[key] = {from, 0, {}};
    }
    redraw();
}

void Board::set_origin(const std::string& key, const FigureOrigin& origin) {
    if (typed(key).empty() || origin == this->origin(key))
        return;
    remember();
    if (origin.source == FigureSource::unstated)
        engine_.recipe.origins.erase(key);
    else
        engine_.recipe.origins[key] = origin;
    redraw();
}

void Board::set_unit(Unit unit) {
    if (unit == engine_.recipe.unit)
        return;
    remember();
    engine_.recipe.unit = unit;
    redraw();
}

void Board::answer(const std::string& question, const std::string& why) {
    remember();
    if (const std::string clean(trimmed(why)); clean.empty())
        engine_.recipe.accepted.erase(question);
    else
        engine_.recipe.accepted[question] = clean;
    redraw();
}

void Board::replace(Engine engine) {
    remember();
    engine_ = std::move(engine);
    redraw();
}

bool Board::undo() {
    if (before_.empty())
        return false;
    after_.push_back(std::move(engine_));
    engine_ = std::move(before_.back());
    before_.pop_back();
    redraw();
    return true;
}

bool Board::redo() {
    if (after_.empty())
        return false;
    before_.push_back(std::move(engine_));
    engine_ = std::move(after_.back());
    after_.pop_back();
    redraw();
    return true;
}

const std::vector<std::string>& Board::keys() {
    static const std::vector<std::string> all = [] {
        std::vector<std::string> keys;
        for (const RecipeFigure& figure : recipe_figures())
            keys.emplace_back(figure.key);
        for (const UsualFigure& figure : usual_figures())
            keys.emplace_back(figure.address);
        return keys;
    }();
    return all;
}

std::vector<std::string> Board::keys_of(const FeatureId& id) {
    std::vector<std::string> keys;
    const auto add = [&](std::initializer_list<const char*> own) {
        for (const char* key : own)
            keys.push_back(id.text() + "/" + key);
    };
    switch (id.kind) {
    case FeatureKind::bore:
        add({"along", "across", "size", "cylinder", "absent"});
        break;
    case FeatureKind::lifter:
        add({"along", "across", "size", "angle", "absent"});
        break;
    case FeatureKind::dowel:
        add({"along", "across", "size", "absent"});
        break;
    case FeatureKind::main:
    case FeatureKind::cam:
        add({"along", "size"});
        break;
    case FeatureKind::deck:
        add({"height", "flatness", "angle"});
        break;
    default:
        break;
    }
    return keys;
}

bool Board::is_usual(const std::string& key) {
    return usual_of(key) != nullptr;
}

std::string Board::brief_of(const std::string& key) {
    if (const RecipeFigure* figure = figure_of(key))
        return figure->brief;
    if (const UsualFigure* usual = usual_of(key))
        return usual->brief;
    const auto own = own_figure(key);
    return own ? own->second : key;
}

std::string Board::words_of(const std::string& key) {
    if (const RecipeFigure* figure = figure_of(key))
        return figure->words;
    if (const UsualFigure* usual = usual_of(key))
        return usual->words;
    const auto own = own_figure(key);
    return own ? own->first.text() + ", " + own->second : key;
}

std::vector<std::string> Board::choices_of(const std::string& key) {
    if (const RecipeFigure* figure = figure_of(key))
        return figure->choices;
    if (is_usual(key))
        return usual_choices(key);
    const auto own = own_figure(key);
    return own && own->second == "absent" ? std::vector<std::string>{"", "yes"} : std::vector<std::string>{};
}

bool Board::relevant(const std::string& key) const {
    const auto some = [this](const char* of) { return !typed(of).empty() && typed(of) != "0"; };
    if (!typed(key).empty() || needed(key))
        return true;
    if (key == "angle" || key == "stagger" || key == "numbering")
        return sketch_.blueprint.banks.size() > 1;
    if (key == "banks" || key == "main_at" || key == "cam_at")
        return false; // for what is irregular: typed in a file, or hole by hole
    if (key.starts_with("lifter_"))
        return some("lifters");
    if (key.starts_with("dowel_") || key == "origin")
        return some("dowels");
    if (key.starts_with("chain_") || key == "cam_teeth")
        return some("crank_teeth");
    if (key == "crank_teeth" || key == "pressure_angle" || key == "cam_side")
        return some("cam");
    return true;
}

namespace {

/// Round the sheet from a key to the next that will do; the key itself where none does.
template <class Will>
std::string round_the_sheet(const std::string& key, bool forward, Will will) {
    const auto& all = Board::keys();
    const auto n = static_cast<std::ptrdiff_t>(all.size());
    const auto here = std::ranges::find(all, key) - all.begin();
    const std::ptrdiff_t way = forward ? 1 : -1, from = here < n ? here : forward ? -1 : n;
    for (std::ptrdiff_t i = 1; i <= n; ++i)
        if (const std::string& next = all[static_cast<std::size_t>(((from + way * i) % n + n) % n)]; will(next))
            return next;
    return key;
}

} // namespace

std::string Board::next_missing(const std::string& key, bool forward) const {
    const std::string next = round_the_sheet(
        key, forward, [this](const std::string& k) { return needed(k) || (relevant(k) && !wrong(k).empty()); });
    return needed(next) || !wrong(next).empty() ? next : this->next(key, forward);
}

std::string Board::next(const std::string& key, bool forward) const {
    if (const auto own = is_usual(key) ? std::nullopt : own_figure(key)) { // round those of one hole
        const auto keys = keys_of(own->first);
        const auto at = static_cast<std::size_t>(std::ranges::find(keys, key) - keys.begin());
        return keys[(at + (forward ? 1 : keys.size() - 1)) % keys.size()];
    }
    return round_the_sheet(key, forward, [this](const std::string& k) { return relevant(k); });
}

std::string Board::drawn(const std::string& key) const {
    const auto own = own_figure(key);
    if (!own)
        return {};
    const auto& [id, what] = *own;
    const Blueprint& b = sketch_.blueprint;
    const Unit unit = engine_.recipe.unit;
    const auto length = [unit](double mm) { return short_number(std::round(mm / mm_per(unit) * 1e4) / 1e4); };
    const auto degrees = [](double rad) { return short_number(std::round(rad / radians_per_degree * 1e4) / 1e4); };
    if (id.kind == FeatureKind::deck) {
        const BankBlueprint* bank = b.bank(id.bank);
        return !bank                 ? std::string()
               : what == "height"    ? size_text(bank->deck_height, unit)
               : what == "angle"     ? degrees(bank->angle)
               : bank->deck_flatness ? length(*bank->deck_flatness)
                                     : std::string();
    }
    if (id.kind == FeatureKind::main || id.kind == FeatureKind::cam) {
        if (id.kind == FeatureKind::cam && !b.cam)
            return {};
        const auto& row = id.kind == FeatureKind::main ? b.mains : b.cam->bearings;
        const auto bearing = std::ranges::find(row, id, &MainBlueprint::id);
        return bearing == row.end() ? std::string()
               : what == "along"    ? length(bearing->x)
                                    : size_text(bearing->diameter, unit);
    }
    const HoleBlueprint* hole = b.hole(id);
    return !hole                                  ? std::string()
           : what == "along"                      ? length(hole->u)
           : what == "across"                     ? length(hole->v)
           : what == "size"                       ? size_text(hole->diameter, unit)
           : what == "angle"                      ? degrees(hole->angle.value_or(0))
           : what == "cylinder" && hole->cylinder ? std::to_string(*hole->cylinder)
                                                  : std::string();
}

} // namespace pallix::planning
