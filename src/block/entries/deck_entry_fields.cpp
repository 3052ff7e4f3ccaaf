// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/entries/entry_fields.h"

#include <charconv>
#include <numbers>

namespace pallix::block {
namespace {

using metrology::Vec2;

constexpr std::array flaw_kinds{"crack", "pit", "mark"};
constexpr std::array neighbours{"open_deck", "bore", "valve_seat", "coolant_hole", "bolt"};
constexpr std::array flaw_choices{"watch", "stop_and_pin", "sleeve", "scrap"};
constexpr std::array cutter_states{"sharp", "dull", "chatter"};
constexpr std::array gasket_kinds{"composition", "multilayer_steel", "soft_copper"};

constexpr Range volume_range{0, 1e9, true}; // mm³: a litre of chamber
constexpr Range signed_volume{-1e9, 1e9};
constexpr Range roughness{0, 1, true};         // mm
constexpr Range cutting_speed{0, 10000, true}; // m/min

/// A cylinder's number as the key of a map.
int cylinder_of(const std::string& key) {
    int number = 0;
    const auto [end, error] = std::from_chars(key.data(), key.data() + key.size(), number);
    return error == std::errc{} && end == key.data() + key.size() ? number : 0;
}

} // namespace

double FlawMarked::length() const {
    double sum = 0;
    for (std::size_t i = 1; i < path.size(); ++i)
        sum += norm(path[i] - path[i - 1]);
    return sum;
}

void fields(Fields& f, FlawMarked& p) {
    f.text("bank", p.bank);
    f.choice("flaw", p.kind, flaw_kinds);
    f.choice("near", p.near, neighbours);
    f.list("path_mm", p.path, {1, 1000}, [&](Vec2& at) { f.place("", at); });
    f.number("depth_mm", p.depth, length_range);
    f.text("note", p.note, 10 * short_text);
}

void fields(Fields& f, FlawDecided& p) {
    f.whole("flaw", p.flaw, {1, 1e15});
    f.choice("choice", p.choice, flaw_choices);
    f.text("note", p.note, 10 * short_text);
}

void fields(Fields& f, PressureTested& p) {
    f.flag("tight", p.tight);
    f.text("note", p.note, 10 * short_text);
}

void fields(Fields& f, DeckForecastKept& p) {
    f.text("bank", p.bank);
    f.number("low_mm", p.low, any_length);
    f.number("high_mm", p.high, any_length);
    f.number("lowest_low_mm", p.lowest_low, any_length);
    f.number("lowest_high_mm", p.lowest_high, any_length);
    f.place("decides_mm", p.decides);
}

void fields(Fields& f, CutterFitted& p) {
    f.number("diameter_mm", p.diameter, size_range);
    f.whole("teeth", p.teeth, {1, 60});
    f.number("nose_radius_mm", p.nose_radius, {0, 100});
    f.number("speed_m_min", p.speed, cutting_speed);
    f.number("feed_mm", p.feed, {0, 10, true});
    f.number("finish_speed_m_min", p.finish_speed, cutting_speed);
    f.number("finish_feed_mm", p.finish_feed, {0, 10, true});
    f.flag("new_inserts", p.new_inserts);
}

void fields(Fields& f, FinishNoted& p) {
    f.text("bank", p.bank);
    f.choice("cutter", p.cutter, cutter_states);
    f.text("note", p.note, 10 * short_text);
    f.number("ra_mm", p.ra, roughness);
}

void fields(Fields& f, GasketChosen& p) {
    f.choice("gasket", p.kind, gasket_kinds);
    f.number("ra_at_most_mm", p.ra_at_most, roughness);
}

void fields(Fields& f, SetUpRead& p) {
    f.text("bank", p.bank);
    f.text("surface", p.surface);
    f.list("readings", p.readings, {3, 1000}, [&](SetUpRead::Reading& r) {
        f.group("", [&] {
            f.place("at_mm", r.place);
            f.number("height_mm", r.height, any_length);
        });
    });
    f.list("feet", p.feet, {2, 100}, [&](SetUpRead::Foot& foot) {
        f.group("", [&] {
            f.text("name", foot.name);
            f.place("at_mm", foot.place);
        });
    });
}

void fields(Fields& f, EngineFigures& p) {
    f.number("stroke_mm", p.stroke, size_range);
    f.number("rod_mm", p.rod, size_range);
    f.number("pin_height_mm", p.pin_height, size_range);
    f.number("chamber_mm3", p.chamber, volume_range);
    std::vector<std::string> cylinders;
    for (const auto& [cylinder, volume] : p.chambers)
        cylinders.push_back(std::to_string(cylinder));
    std::map<int, double> chambers;
    for (const std::string& key : f.begin_map("chambers_mm3", std::move(cylinders), {0, 100})) {
        const int cylinder = cylinder_of(key);
        f.demand(cylinder > 0, key, "is no cylinder", "a number from 1");
        double volume = p.chambers.contains(cylinder) ? p.chambers[cylinder] : 0;
        f.number(key, volume, volume_range);
        chambers[cylinder] = volume;
    }
    f.end();
    p.chambers = std::move(chambers);
    f.number("gasket_bore_mm", p.gasket_bore, size_range);
    f.number("gasket_thickness_mm", p.gasket_thickness, size_range);
    f.number("dish_mm3", p.dish, signed_volume);
    f.number("crevice_mm3", p.crevice, {0, 1e9});
    f.flag("steel_rods", p.steel_rods);
    f.number("valve_intake_mm", p.valve_intake, any_length);
    f.number("valve_exhaust_mm", p.valve_exhaust, any_length);
    f.number("manifold_face_rad", p.manifold_face, {-std::numbers::pi, std::numbers::pi});
    if (f.left_out("overhead_chain", !p.overhead_chain)) {
        p.overhead_chain.reset();
        return;
    }
    if (!p.overhead_chain)
        p.overhead_chain = EngineFigures::CamChain{};
    f.group("overhead_chain", [&] {
        f.whole("teeth_crank", p.overhead_chain->teeth_crank, {6, 1000});
        f.whole("teeth_cam", p.overhead_chain->teeth_cam, {6, 1000});
        f.number("pitch_mm", p.overhead_chain->pitch, size_range);
        f.number("distance_mm", p.overhead_chain->distance, size_range);
    });
}

void fields(Fields& f, HeadWork& p) {
    f.text("bank", p.bank);
    f.number("cut_mm", p.cut, {0, 5});
    f.number("gap_low_mm", p.gap_low, length_range);
    f.number("gap_high_mm", p.gap_high, length_range);
    f.number("chamber_mm3", p.chamber, volume_range);
    f.demand(!p.gap_low || !p.gap_high || *p.gap_high > *p.gap_low, "gap_high_mm", "is not thicker than what goes in",
             "the thinner one first");
}

} // namespace pallix::block
