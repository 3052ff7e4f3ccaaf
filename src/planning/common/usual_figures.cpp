// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/common/usual_figures.h"

#include "block/number_text.h"
#include "block/state/fold.h"
#include "block/state/intake_state.h"
#include "planning/common/figures.h"
#include "planning/cylinders/texture.h"

#include <algorithm>
#include <set>

namespace pallix::planning {

using namespace block;

namespace {

constexpr std::string_view route_address = "route/preset";
constexpr std::string_view rings_address = "texture_limits/rings";

Folded job_with(const std::string& blueprint, const std::vector<Payload>& more) {
    std::vector<Entry> entries{{1, "", "", JobOpened{"", "", "", blueprint}}};
    for (const Payload& payload : more)
        entries.push_back({static_cast<std::int64_t>(entries.size()) + 1, "", "", payload});
    return fold(entries);
}

Result<Payload> entry_with(const JobState& state, const std::string& address, const std::string& typed, Unit unit) {
    const std::vector<std::string> choices = usual_choices(address);
    if (choices.empty())
        return set_figure(state, address, {}, typed, unit, true);
    const auto chosen = std::ranges::find(choices, typed);
    if (chosen == choices.end()) {
        std::string all;
        for (const std::string& c : choices)
            all += (all.empty() ? "" : ", ") + c;
        return tl::unexpected(Faults{{address, 0, "“" + typed + "” is none of them", all}});
    }
    const auto place = static_cast<std::size_t>(chosen - choices.begin());
    if (address == route_address)
        return Payload(RouteChosen{static_cast<RoutePreset>(place), {}});
    return choose_figure(state, address, {}, place);
}

/// As it would be typed, with all its digits; empty where nothing is stated.
std::string typed_text(const Figure& figure, Unit unit) {
    const bool length = figure.unit == FigureUnit::length || figure.unit == FigureUnit::lengths;
    const auto number = [&](double value) {
        return short_number(std::round((length ? value / mm_per(unit) : outside(figure.unit, value)) * 1e12) / 1e12);
    };
    if (figure.unit == FigureUnit::lengths) {
        std::string all;
        for (const double n : figure.value.numbers)
            all += (all.empty() ? "" : unit == Unit::mm ? "; " : ", ") + number(n);
        return all;
    }
    if (figure.value.kind == FieldKind::choice || figure.value.kind == FieldKind::flag) {
        const auto choices = usual_choices(figure.address);
        const auto place = static_cast<std::size_t>(figure.value.number.value_or(0));
        return place < choices.size() ? choices[place] : std::string();
    }
    if (figure.value.kind == FieldKind::text)
        return figure.value.text;
    return figure.value.number ? number(*figure.value.number) : std::string();
}

} // namespace

const std::vector<UsualFigure>& usual_figures() {
    static const std::vector<UsualFigure> all{
        {"engine_figures/stroke_mm", "stroke", "stroke"},
        {"engine_figures/rod_mm", "rod", "rod, eye to eye"},
        {"engine_figures/pin_height_mm", "pin height", "pin's centre to the piston's crown"},
        {"engine_figures/dish_mm3", "dish", "dish of the piston, cm³; a dome takes some"},
        {"engine_figures/crevice_mm3", "above the ring", "above the top ring, cm³"},
        {"engine_figures/chamber_mm3", "chamber", "chamber in the head, cm³"},
        {"engine_figures/gasket_bore_mm", "gasket hole", "hole in the gasket"},
        {"engine_figures/gasket_thickness_mm", "gasket", "gasket, pressed"},
        {"engine_figures/steel_rods", "steel rods", "rods of steel"},
        {"engine_figures/overhead_chain", "overhead chain", "chain to a cam in the head: 20 40 9.525 180"},
        {"engine_figures/valve_intake_mm", "intake valve", "intake valve to piston, at their nearest"},
        {"engine_figures/valve_exhaust_mm", "exhaust valve", "exhaust valve to piston, at their nearest"},
        {"engine_figures/manifold_face_rad", "intake face", "intake face of the head from the vertical, degrees"},
        {"gasket/gasket", "gasket is", "kind of gasket"},
        {"pistons/alloy", "pistons", "what the pistons are made of"},
        {"pistons/clearance_mm", "clearance", "clearance of a piston"},
        {"pistons/size_mm", "piston size", "pistons on hand, size"},
        {"pistons/hone_stock_mm", "for the hone", "left for the hone"},
        {"cylinder_plan/oversizes_mm", "oversizes", "oversizes on offer"},
        {"cylinder_plan/wall_thrust_mm", "wall, thrust side", "least wall, thrust side"},
        {"cylinder_plan/wall_mm", "wall elsewhere", "least wall elsewhere"},
        {"cylinder_plan/thrust", "thrust side", "side that takes the thrust, from the rear"},
        {"texture_limits/rings", "ring pack", "ring pack that the texture suits"},
        {"tunnel_plan/method", "mains by", "how the mains are cut"},
        {"tunnel_plan/max_cap_cut_mm", "most off a cap", "most that comes off a cap"},
        {"route/preset", "order of work", "order of the work"},
    };
    return all;
}

std::vector<std::string> usual_choices(std::string_view address) {
    if (address == route_address)
        return {route_preset_keys.begin(), route_preset_keys.end()};
    std::vector<std::string> choices;
    if (address == rings_address) {
        for (const TextureLimits& limits : usual_texture_limits())
            choices.push_back(limits.rings);
        return choices;
    }
    const Folded nothing;
    const auto figure = figure_at(nothing, address);
    if (figure && figure->unit == FigureUnit::flag)
        return {"no", "yes"};
    if (figure && figure->unit == FigureUnit::choice)
        for (const char* name : figure->value.names)
            choices.emplace_back(name);
    return choices;
}

Result<std::vector<Payload>> usual_entries(const Engine& engine, const Blueprint& blueprint) {
    std::vector<Payload> entries;
    Faults faults;
    for (const auto& stated : engine.usual)
        if (const std::string& address = stated.first;
            std::ranges::none_of(usual_figures(), [&](const UsualFigure& f) { return f.address == address; }))
            faults.push_back(
                {address, 0, "“" + address + "” is no figure that goes with an engine", "docs/formats.md"});
    for (const UsualFigure& figure : usual_figures()) {
        const auto typed = engine.usual.find(figure.address);
        if (typed == engine.usual.end() || trimmed(typed->second).empty())
            continue;
        const Folded state = job_with(blueprint.source, entries);
        auto made = entry_with(state, figure.address, std::string(trimmed(typed->second)), engine.recipe.unit);
        const std::vector<FieldFault> wrong = made ? faults_in(*made) : std::vector<FieldFault>{};
        if (!made)
            faults.push_back({figure.address, 0, std::string(figure.words) + ": " + made.error().front().what,
                              made.error().front().expected});
        for (const FieldFault& fault : wrong)
            faults.push_back({figure.address, 0, std::string(figure.words) + ": " + fault.what, fault.expected});
        if (!made || !wrong.empty())
            continue;
        const auto same_kind =
            std::ranges::find_if(entries, [&](const Payload& p) { return p.index() == made->index(); });
        if (same_kind == entries.end())
            entries.push_back(std::move(*made));
        else
            *same_kind = std::move(*made);
    }
    if (!faults.empty())
        return tl::unexpected(std::move(faults));
    return entries;
}

Result<Engine> engine_of(const std::vector<Entry>& entries) {
    const Folded state = fold(entries);
    if (!intake_of(state).blueprint)
        return tl::unexpected(Faults{{"job", 0, "its blueprint cannot be read", "a job with a block"}});
    auto recipe = recipe_of(*intake_of(state).blueprint);
    if (!recipe)
        return tl::unexpected(recipe.error());
    Engine engine{std::move(*recipe)};
    std::set<std::string> stated;
    const std::vector<bool> gone = struck(entries);
    for (std::size_t i = 0; i < entries.size(); ++i)
        if (!gone[i])
            stated.insert(kind_of(entries[i].payload));
    for (const UsualFigure& usual : usual_figures()) {
        if (!stated.contains(kind_in(usual.address)))
            continue;
        std::string typed;
        if (usual.address == route_address)
            typed = route_preset_keys[static_cast<std::size_t>(intake_of(state).route->payload.preset)];
        else if (const auto figure = figure_at(state, usual.address); figure && figure->unit != FigureUnit::chain)
            typed = typed_text(*figure, engine.recipe.unit);
        if (!typed.empty())
            engine.usual[usual.address] = typed;
    }
    return engine;
}

} // namespace pallix::planning
