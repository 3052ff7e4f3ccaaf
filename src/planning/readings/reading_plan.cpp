// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/readings/reading_plan.h"

#include "block/state/bore_state.h"
#include "block/state/deck_state.h"
#include "block/state/intake_state.h"
#include "block/state/readings_state.h"
#include "block/state/tunnel_state.h"
#include "metrology/uncertainty.h"
#include "planning/common/experience.h"
#include "planning/common/place.h"
#include "planning/readings/second_look.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace pallix::planning {
namespace {

using block::Blueprint;
using block::FeatureId;
using block::FeatureKind;
using block::MeasuredAt;
using block::Quantity;
using metrology::Vec2;

constexpr std::array<const char*, measurings> names{
    "main_sizes",     "saddle_heights", "bar_sweep",       "deck_heights", "feelers",      "deck_level",
    "cylinder_sizes", "cylinder_walls", "piston_heights",  "lifter_sizes", "temperatures", "set_up",
    "sleeve_sizes",   "head_feelers",   "chamber_volumes", "valve_drops",  "head_heights"};

FeatureId deck_id(const std::string& bank) {
    return {FeatureKind::deck, bank, 0};
}

/// Sizes and walls of a row of bores.
std::vector<MeasuredAt> bore_places(const std::vector<block::HoleBlueprint>& bores, const std::string& bank,
                                    Quantity quantity, std::initializer_list<const char*> levels,
                                    std::initializer_list<const char*> directions) {
    std::vector<MeasuredAt> places;
    for (const block::HoleBlueprint& bore : bores)
        if (bore.id.bank == bank)
            for (const char* level : levels)
                for (const char* direction : directions)
                    places.push_back({bore.id, quantity, level, direction, {}});
    return places;
}

std::vector<MeasuredAt> main_places(const Blueprint& b) {
    std::vector<MeasuredAt> places;
    for (const auto& main : b.mains)
        for (const char* end : {"front", "rear"})
            for (const char* way : {"upright", "60 left", "60 right"})
                places.push_back({main.id, Quantity::size, end, way, {}});
    return places;
}

std::vector<MeasuredAt> piston_places(const Blueprint& b, const std::string& bank, bool corners_only) {
    std::vector<FeatureId> row;
    for (const auto& bore : b.bores)
        if (bore.id.bank == bank)
            row.push_back(bore.id);
    std::vector<MeasuredAt> places;
    for (const FeatureId& id : row)
        if (!corners_only || id == row.front() || id == row.back())
            for (const char* side : {"one side of the pin", "the other side of the pin"})
                places.push_back({id, Quantity::piston, "", side, {}});
    return places;
}

/// Of a deck, or of the head on it.
Quantity height_of(Measuring what) {
    return what == Measuring::head_heights ? Quantity::head_height : Quantity::height;
}

/// The corners, then both sides and the middle between all bores.
std::vector<MeasuredAt> deck_grid(const Blueprint& b, Measuring what, const std::string& bank) {
    std::vector<MeasuredAt> places = usual_places(b, what, bank);
    const double front = places.front().place.x, rear = places.back().place.x, plus = places[0].place.y,
                 minus = places[1].place.y;
    for (const BetweenBores& between : between_bores(b, bank))
        if (between.u > front && between.u < rear)
            for (const double v : {plus, (plus + minus) / 2, minus})
                places.push_back({deck_id(bank), height_of(what), "", "", {between.u, v}});
    return places;
}

/// What the blueprint means the size of a feature to be; null where it has none.
const block::Tolerance* meant_size(const Blueprint& b, const FeatureId& id) {
    if (id.kind == FeatureKind::main) {
        const auto main = std::ranges::find(b.mains, id, &block::MainBlueprint::id);
        return main == b.mains.end() ? nullptr : &main->diameter;
    }
    const auto* hole = b.hole(id);
    return hole ? &hole->diameter : nullptr;
}
double nominal_of(const Blueprint& b, const FeatureId& id) {
    const block::Tolerance* meant = meant_size(b, id);
    return meant ? meant->middle() : 0;
}

/// What a cylinder or lifter bore was cut to, or what the sleeve in it came with; nothing where neither was.
std::optional<double> size_to_expect(const block::JobState& state, const FeatureId& id) {
    const block::BoreWork& work = bores_of(state).bore(id);
    if (const auto cuts = work.cuts_now(); !cuts.empty())
        return cuts.back().payload.target;
    return work.fitted && work.insert ? std::optional(work.insert->payload.inside) : std::nullopt;
}

struct Meant {
    double value = 0;
    double believable = 0;
    std::optional<block::UsualTrait> usual{};
    double usual_share = 0; // of the value
};

// What a reading may differ before it is asked about (common practice, no source), mm unless the quantity says else.
Meant what_is_meant(const block::JobState& state, const MeasuredAt& at) {
    const Blueprint& b = *intake_of(state).blueprint;
    switch (at.quantity) {
    case Quantity::size:
        if (const auto cut_to = size_to_expect(state, at.feature))
            return {*cut_to, 0.3};
        return {nominal_of(b, at.feature), at.feature.kind == FeatureKind::bore ? 1.5 : 0.3};
    case Quantity::height: {
        const auto& deck = decks_of(state).deck(at.feature.bank);
        double expected = b.bank(at.feature.bank)->deck_height.nominal;
        if (deck.latest && !deck.from_other_tunnel()) {
            // Once it is cut, a height is where the cutter was set to: infeed counts from the first touch.
            const double depth = deck.depth_since(deck.latest->sequence);
            expected = depth > 0 ? deck.latest->result.height_max - depth : deck.latest->result.height_mean;
        }
        return {expected, deck.cuts.empty() ? 0.6 : 0.127};
    }
    case Quantity::saddle:
    case Quantity::sweep:
        return {0, 0.13};
    case Quantity::indicator:
    case Quantity::head_height:
        return {0, 1};
    case Quantity::outside:
        return {nominal_of(b, at.feature) + 4, 8}; // a wall of two or more: the makers differ
    case Quantity::gap:
    case Quantity::head_gap:
        return {0, 0.3};
    case Quantity::volume:
        return {60, 55};
    case Quantity::valve:
        return {3, 3};
    case Quantity::piston:
        return {0, 1.3};
    case Quantity::slope:
        return {0, 1};
    case Quantity::wall:
        return {6, 5};
    case Quantity::temperature:
        break;
    }
    return {20, 20};
}

/// Places that should read nearly alike.
bool side_by_side(const MeasuredAt& a, const MeasuredAt& b) {
    if (a.quantity != b.quantity || a.feature.bank != b.feature.bank)
        return false;
    switch (a.quantity) {
    case Quantity::outside:
    case Quantity::size:
        return a.feature == b.feature; // mains and bores of a worn block differ more among each other
    case Quantity::height:
    case Quantity::saddle:
    case Quantity::piston:
        return true;
    default:
        return false;
    }
}

bool is_untouched(const block::JobState& state, const FeatureId& id) {
    return bores_of(state).bore(id).cuts.empty() && !size_to_expect(state, id);
}

/// How blocks of the kind come, of what is still as it came; added to what the blueprint means.
Meant as_it_usually_is(const block::JobState& state, const MeasuredAt& at, Meant meant) {
    const auto add = [&](block::Trait trait, const std::string& about, double share = 1) {
        const auto usual = usual_of(state, trait, about);
        if (!usual || std::abs(share * usual->mean) > meant.believable)
            return;
        meant.value += share * usual->mean;
        meant.usual_share += share * usual->mean;
        if (!meant.usual)
            meant.usual = usual;
    };
    const block::TunnelState& tunnel = tunnel_of(state);
    const Blueprint& b = *intake_of(state).blueprint;
    if (at.quantity == Quantity::size && at.feature.kind == FeatureKind::bore && is_untouched(state, at.feature))
        add(block::Trait::wear, at.feature.text());
    else if (at.quantity == Quantity::size && at.feature.kind == FeatureKind::lifter && is_untouched(state, at.feature))
        add(block::Trait::lifter_growth, "");
    else if (at.quantity == Quantity::saddle && tunnel.last_work_on_mains() == 0 && at.feature != b.mains.front().id &&
             at.feature != b.mains.back().id)
        add(block::Trait::saddle_crown, "");
    else if (const block::DeckState* deck =
                 at.quantity == Quantity::height ? &decks_of(state).deck(at.feature.bank) : nullptr;
             deck && deck->last_cut() == 0 && !deck->latest) {
        const DeckExtent e = deck_extent(*b.bank(at.feature.bank));
        if (!(e.length() > 0 && e.width() > 0))
            return meant;
        add(block::Trait::deck_slope, "deck." + at.feature.bank, (at.place.x - (e.low.x + e.high.x) / 2) / e.length());
        add(block::Trait::bank_turn, "deck." + at.feature.bank, (at.place.y - (e.low.y + e.high.y) / 2) / e.width());
    }
    return meant;
}

std::optional<double> middle_of(std::vector<double> values) {
    if (values.empty())
        return std::nullopt;
    std::ranges::sort(values);
    const std::size_t half = values.size() / 2;
    return values.size() % 2 == 1 ? values[half] : (values[half - 1] + values[half]) / 2;
}

/// @param since entry that a reading must be newer than
std::size_t readings_at(const block::JobState& state, const MeasuredAt& at, std::int64_t since) {
    const block::MeasuredPlace* place = readings_of(state).place(at);
    if (!place || place->stale())
        return 0;
    return static_cast<std::size_t>(
        std::ranges::count_if(place->sequences, [since](std::int64_t sequence) { return sequence > since; }));
}

} // namespace

bool goes_by_bank(Measuring what) {
    return what != Measuring::main_sizes && what != Measuring::saddle_heights && what != Measuring::bar_sweep &&
           what != Measuring::temperatures;
}

block::InstrumentKind usual_instrument(Measuring what) {
    using enum block::InstrumentKind;
    constexpr std::array<block::InstrumentKind, measurings> kinds{
        bore_gauge,         lever_indicator, lever_indicator, deck_bridge,    straightedge,  precision_level,
        bore_gauge,         wall_gauge,      dial_indicator,  bore_gauge,     thermometer,   dial_indicator,
        outside_micrometer, straightedge,    burette,         dial_indicator, dial_indicator};
    return kinds[static_cast<std::size_t>(what)];
}

std::string plan_name(Measuring what, const std::string& bank) {
    const std::string name = names[static_cast<std::size_t>(what)];
    return goes_by_bank(what) ? name + " " + bank : name;
}

std::vector<EdgeLine> edge_lines(const Blueprint& blueprint, const std::string& bank_id) {
    const block::BankBlueprint& bank = *blueprint.bank(bank_id);
    const DeckExtent e = deck_extent(bank);
    constexpr double inset = 0.05; // of the deck: an edge is blind at its very ends
    const double u0 = e.low.x + inset * e.length(), u1 = e.high.x - inset * e.length();
    const double v0 = e.low.y + inset * e.width(), v1 = e.high.y - inset * e.width();
    const bool single = bank.angle == 0;
    const std::string plus = single ? "right side" : bank.angle > 0 ? "outboard" : "inboard";
    const std::string minus = single ? "left side" : bank.angle > 0 ? "inboard" : "outboard";
    std::vector<EdgeLine> lines{{plus, {u0, v1}, {u1, v1}},
                                {"middle", {u0, (v0 + v1) / 2}, {u1, (v0 + v1) / 2}},
                                {minus, {u0, v0}, {u1, v0}},
                                {"diagonal from front, " + plus, {u0, v1}, {u1, v0}},
                                {"diagonal from front, " + minus, {u0, v0}, {u1, v1}}};
    for (const BetweenBores& b : between_bores(blueprint, bank_id))
        lines.push_back(
            {"between bores " + std::to_string(b.first) + " and " + std::to_string(b.second), {b.u, v0}, {b.u, v1}});
    return lines;
}

std::vector<MeasuredAt> usual_places(const Blueprint& b, Measuring what, const std::string& bank) {
    std::vector<MeasuredAt> places;
    switch (what) {
    case Measuring::main_sizes:
        return main_places(b);
    case Measuring::saddle_heights:
        for (const auto& main : b.mains)
            places.push_back({main.id, Quantity::saddle, "", "", {}});
        return places;
    case Measuring::bar_sweep:
        for (const FeatureId& end : {b.mains.front().id, b.mains.back().id})
            for (const char* clock : {"12", "3", "6", "9"})
                places.push_back({end, Quantity::sweep, "", clock, {}});
        return places;
    case Measuring::deck_heights:
    case Measuring::head_heights:
        for (const block::DeckPlace& p : block::deck_places(*b.bank(bank)))
            places.push_back({deck_id(bank), height_of(what), "", "", p.place});
        return places;
    case Measuring::feelers:
        for (const EdgeLine& line : edge_lines(b, bank))
            places.push_back({deck_id(bank), Quantity::gap, "", line.name, {}});
        return places;
    case Measuring::deck_level:
        for (const char* way : {"along", "across"})
            places.push_back({deck_id(bank), Quantity::slope, "", way, {}});
        return places;
    case Measuring::cylinder_sizes:
        return bore_places(b.bores, bank, Quantity::size, {"top", "middle", "bottom"}, {"across", "along"});
    case Measuring::cylinder_walls:
        return bore_places(b.bores, bank, Quantity::wall, {"top", "bottom"}, {"right", "rear", "left", "front"});
    case Measuring::piston_heights:
        return piston_places(b, bank, true);
    case Measuring::lifter_sizes:
        return bore_places(b.lifters, bank, Quantity::size, {"top", "bottom"}, {"across", "along"});
    case Measuring::set_up:
        for (const char* end : {"front", "rear"})
            for (const char* side : {"+v", "-v"})
                places.push_back({deck_id(bank), Quantity::indicator, end, side, {}});
        return places;
    case Measuring::sleeve_sizes:
        return bore_places(b.bores, bank, Quantity::outside, {"top", "middle", "bottom"}, {"one way", "the other way"});
    case Measuring::head_feelers:
        for (const EdgeLine& line : edge_lines(b, bank))
            places.push_back({deck_id(bank), Quantity::head_gap, "", line.name, {}});
        return places;
    case Measuring::chamber_volumes:
        return bore_places(b.bores, bank, Quantity::volume, {""}, {""});
    case Measuring::valve_drops:
        places = bore_places(b.bores, bank, Quantity::valve, {"intake", "exhaust"}, {""});
        places.resize(std::min<std::size_t>(places.size(), 2));
        return places;
    case Measuring::temperatures:
        break;
    }
    const FeatureId whole{FeatureKind::panrail, "", 0};
    return {{whole, Quantity::temperature, "", "block", {}}, {whole, Quantity::temperature, "", "gauge", {}}};
}

std::vector<MeasuredAt> all_places(const Blueprint& b, Measuring what, const std::string& bank) {
    if (what == Measuring::valve_drops)
        return bore_places(b.bores, bank, Quantity::valve, {"intake", "exhaust"}, {""});
    if (what == Measuring::deck_heights || what == Measuring::head_heights)
        return deck_grid(b, what, bank);
    return what == Measuring::piston_heights ? piston_places(b, bank, false) : usual_places(b, what, bank);
}

std::vector<MeasuredAt> chosen_places(const block::JobState& state, Measuring what, const std::string& bank) {
    const auto chosen = readings_of(state).reading_plans.find(plan_name(what, bank));
    if (chosen == readings_of(state).reading_plans.end())
        return usual_places(*intake_of(state).blueprint, what, bank);
    const std::vector<MeasuredAt> all = all_places(*intake_of(state).blueprint, what, bank);
    std::vector<MeasuredAt> places;
    for (const std::string& key : chosen->second.places) {
        const auto found = std::ranges::find_if(all, [&key](const MeasuredAt& at) { return at.key() == key; });
        if (found != all.end())
            places.push_back(*found);
    }
    return places;
}

std::optional<AskedReading> next_reading(const block::JobState& state, const ReadingWish& wish) {
    if (!intake_of(state).blueprint || (goes_by_bank(wish.what) && !intake_of(state).blueprint->bank(wish.bank)))
        return std::nullopt;
    std::vector<MeasuredAt> places = chosen_places(state, wish.what, wish.bank);
    if (wish.what == Measuring::sleeve_sizes) // of those that are to be sleeved
        std::erase_if(places, [&](const MeasuredAt& at) {
            const auto& decided = bores_of(state).bore(at.feature).decided;
            return !decided || decided->payload.choice != block::BoreChoice::sleeve;
        });
    if (wish.feature && std::ranges::find(places, *wish.feature, &MeasuredAt::feature) != places.end())
        std::erase_if(places, [&](const MeasuredAt& at) { return at.feature != *wish.feature; });
    const auto ask = [&](std::size_t i, std::size_t reading) {
        const Meant m = as_it_usually_is(state, places[i], what_is_meant(state, places[i]));
        return AskedReading{places[i], m.value, m.believable, i + 1, places.size(), reading, m.usual, m.usual_share};
    };
    for (std::size_t i = 0; wish.once_more && i < places.size(); ++i)
        if (places[i].key() == *wish.once_more)
            return ask(i, readings_at(state, places[i], 0) + 1);
    const std::size_t wanted = wish.every_place_twice && decides_a_cut(wish.what) ? 2 : 1;
    for (std::size_t i = 0; i < places.size(); ++i) {
        const std::size_t have = readings_at(state, places[i], wish.since);
        if (have < wanted && std::ranges::find(wish.skipped, places[i].key()) == wish.skipped.end())
            return ask(i, have + 1);
    }
    return std::nullopt;
}

std::optional<AskedReading> next_called(const block::JobState& state, const StepList& steps, const ReadingWish& wish) {
    if (!intake_of(state).blueprint || wish.once_more || (wish.every_place_twice && decides_a_cut(wish.what)) ||
        (goes_by_bank(wish.what) && !intake_of(state).blueprint->bank(wish.bank)))
        return std::nullopt;
    const std::vector<MeasuredAt> places = chosen_places(state, wish.what, wish.bank);
    for (const Step& step : steps.steps) {
        const bool open = step.state == StepState::now || (step.state == StepState::ready && !step.aside);
        if (!open || !step.place || (step.task != Task::read && step.task != Task::settle))
            continue;
        const auto found =
            std::ranges::find_if(places, [&](const MeasuredAt& at) { return is_same_place(at, *step.place); });
        const bool skipped = std::ranges::find(wish.skipped, step.place->key()) != wish.skipped.end();
        if (found == places.end() || skipped || (wish.feature && *wish.feature != found->feature))
            continue;
        const Meant m = as_it_usually_is(state, *found, what_is_meant(state, *found));
        const block::MeasuredPlace* known = readings_of(state).place(*found);
        const std::size_t have = known && !known->stale() ? known->count : 0;
        return AskedReading{*found,        m.value,  m.believable, static_cast<std::size_t>(found - places.begin()) + 1,
                            places.size(), have + 1, m.usual,      m.usual_share};
    }
    return std::nullopt;
}

namespace {

/// What the gauge shows there while block and gauge are as warm as they were last stated to be: a place is known as it
/// is at 20 °C, and a reading is held against what is read.
double shown_now(const block::JobState& state, const block::MeasuredPlace& place) {
    const block::Conditions& now = readings_of(state).conditions;
    const Quantity q = place.at.quantity;
    if (!now.part_c || !now.gauge_c || (q != Quantity::size && q != Quantity::height && q != Quantity::wall))
        return place.value;
    return place.value -
           metrology::thermal_correction(place.value, {*now.part_c, *now.gauge_c,
                                                       block::expansion_of(intake_of(state).blueprint->material),
                                                       block::steel_expansion});
}

} // namespace

block::Expected expectation(const block::JobState& state, const AskedReading& asked,
                            const block::Instrument& instrument, block::Unit bench) {
    block::Expected e;
    e.value = asked.expected;
    e.believable = asked.believable;
    e.bench = bench;
    const Quantity q = asked.at.quantity;
    e.direct = q == Quantity::saddle || q == Quantity::sweep || q == Quantity::piston || q == Quantity::indicator ||
               q == Quantity::head_height || q == Quantity::valve;
    if (instrument.kind == block::InstrumentKind::depth_micrometer) {
        e.plate = instrument.zero;
        e.needs_plate = !instrument.zero;
    } else if (block::reads_from_zero(instrument.kind)) {
        if (instrument.zero && std::abs(*instrument.zero - asked.expected) <= asked.believable)
            e.zero = instrument.zero;
        e.needs_zero = !e.zero;
    }
    e.clockwise = instrument.clockwise;
    if (const block::Tolerance* meant = meant_size(*intake_of(state).blueprint, asked.at.feature);
        meant && q == Quantity::size)
        e.nominal = meant->nominal;
    e.turn = instrument.turn;
    std::vector<double> beside;
    for (const block::MeasuredPlace& p : readings_of(state).places) {
        if (p.stale())
            continue;
        if (is_same_place(p.at, asked.at))
            e.repeat = shown_now(state, p);
        else if (side_by_side(p.at, asked.at))
            beside.push_back(shown_now(state, p));
    }
    if (beside.size() > 1 || q == Quantity::piston) // its other side alone says where a crown stands
        e.neighbours = middle_of(std::move(beside));
    constexpr double one_sleeve_within = 0.05; // mm, as it is ground (common practice, no source)
    e.repeat_limit = q == Quantity::outside ? one_sleeve_within / 2 : asked.believable / 12;
    e.neighbour_limit = q == Quantity::outside                                              ? one_sleeve_within
                        : asked.at.feature.kind == FeatureKind::main && q == Quantity::size ? one_main_within
                                                                                            : asked.believable / 3;
    return e;
}

bool decides_a_cut(Measuring what) {
    return what != Measuring::temperatures && what != Measuring::bar_sweep && what != Measuring::deck_level &&
           what != Measuring::set_up && what != Measuring::head_feelers && what != Measuring::head_heights;
}

} // namespace pallix::planning
