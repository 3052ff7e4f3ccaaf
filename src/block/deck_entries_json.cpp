// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/deck_entries_json.h"

#include <array>

namespace pallix::block {
namespace {

using metrology::Vec2;

constexpr std::array<const char*, 3> flaw_kinds{"crack", "pit", "mark"};
constexpr std::array<const char*, 5> neighbours{"open_deck", "bore", "valve_seat", "coolant_hole", "bolt"};
constexpr std::array<const char*, 4> flaw_choices{"watch", "stop_and_pin", "sleeve", "scrap"};
constexpr std::array<const char*, 3> cutter_states{"sharp", "dull", "chatter"};
constexpr std::array<const char*, 3> gasket_kinds{"composition", "multilayer_steel", "soft_copper"};

template <class Enum, std::size_t N>
const char* name_of(Enum value, const std::array<const char*, N>& names) {
    return names[static_cast<std::size_t>(value)];
}

} // namespace

double FlawMarked::length() const {
    double sum = 0;
    for (std::size_t i = 1; i < path.size(); ++i)
        sum += norm(path[i] - path[i - 1]);
    return sum;
}

Json to_json(const FlawMarked& p) {
    Json j{{"bank", p.bank}, {"flaw", name_of(p.kind, flaw_kinds)}, {"near", name_of(p.near, neighbours)}};
    j["path_mm"] = Json::array();
    for (const Vec2 at : p.path)
        j["path_mm"].push_back(place_json(at));
    set_optional(j, "depth_mm", p.depth);
    j["note"] = p.note;
    return j;
}
FlawMarked flaw_from(const Json& j) {
    FlawMarked p{j.at("bank"),
                 enum_from<FlawKind>(j.at("flaw"), flaw_kinds),
                 {},
                 enum_from<FlawNear>(j.at("near"), neighbours),
                 optional_from(j, "depth_mm"),
                 j.at("note")};
    for (const Json& at : j.at("path_mm"))
        p.path.push_back(place_from(at));
    return p;
}

Json to_json(const FlawDecided& p) {
    return {{"flaw", p.flaw}, {"choice", name_of(p.choice, flaw_choices)}, {"note", p.note}};
}
FlawDecided flaw_decision_from(const Json& j) {
    return {j.at("flaw"), enum_from<FlawChoice>(j.at("choice"), flaw_choices), j.at("note")};
}

Json to_json(const PressureTested& p) {
    return {{"tight", p.tight}, {"note", p.note}};
}
PressureTested pressure_test_from(const Json& j) {
    return {j.at("tight"), j.at("note")};
}

Json to_json(const DeckForecastKept& p) {
    return {{"bank", p.bank},
            {"low_mm", p.low},
            {"high_mm", p.high},
            {"lowest_low_mm", p.lowest_low},
            {"lowest_high_mm", p.lowest_high},
            {"decides_mm", place_json(p.decides)}};
}
DeckForecastKept forecast_from(const Json& j) {
    return {j.at("bank"),          j.at("low_mm"),         j.at("high_mm"),
            j.at("lowest_low_mm"), j.at("lowest_high_mm"), place_from(j.at("decides_mm"))};
}

Json to_json(const CutterFitted& p) {
    return {{"diameter_mm", p.diameter},
            {"teeth", p.teeth},
            {"nose_radius_mm", p.nose_radius},
            {"speed_m_min", p.speed},
            {"feed_mm", p.feed},
            {"finish_speed_m_min", p.finish_speed},
            {"finish_feed_mm", p.finish_feed},
            {"new_inserts", p.new_inserts}};
}
CutterFitted cutter_from(const Json& j) {
    return {j.at("diameter_mm"),    j.at("teeth"),      j.at("nose_radius_mm"),
            j.at("speed_m_min"),    j.at("feed_mm"),    j.at("finish_speed_m_min"),
            j.at("finish_feed_mm"), j.at("new_inserts")};
}

Json to_json(const FinishNoted& p) {
    Json j{{"bank", p.bank}, {"cutter", name_of(p.cutter, cutter_states)}, {"note", p.note}};
    set_optional(j, "ra_mm", p.ra);
    return j;
}
FinishNoted finish_from(const Json& j) {
    return {j.at("bank"), enum_from<CutterState>(j.at("cutter"), cutter_states), optional_from(j, "ra_mm"),
            j.at("note")};
}

Json to_json(const GasketChosen& p) {
    return {{"gasket", name_of(p.kind, gasket_kinds)}, {"ra_at_most_mm", p.ra_at_most}};
}
GasketChosen gasket_from(const Json& j) {
    return {enum_from<GasketKind>(j.at("gasket"), gasket_kinds), j.at("ra_at_most_mm")};
}

Json to_json(const SetUpRead& p) {
    Json j{{"bank", p.bank}, {"surface", p.surface}, {"readings", Json::array()}, {"feet", Json::array()}};
    for (const SetUpRead::Reading& r : p.readings)
        j["readings"].push_back({{"at_mm", place_json(r.place)}, {"height_mm", r.height}});
    for (const SetUpRead::Foot& f : p.feet)
        j["feet"].push_back({{"name", f.name}, {"at_mm", place_json(f.place)}});
    return j;
}
SetUpRead set_up_from(const Json& j) {
    SetUpRead p{j.at("bank"), j.at("surface"), {}, {}};
    for (const Json& r : j.at("readings"))
        p.readings.push_back({place_from(r.at("at_mm")), r.at("height_mm")});
    for (const Json& f : j.at("feet"))
        p.feet.push_back({f.at("name"), place_from(f.at("at_mm"))});
    return p;
}

Json to_json(const EngineFigures& p) {
    Json j = Json::object();
    set_optional(j, "stroke_mm", p.stroke);
    set_optional(j, "rod_mm", p.rod);
    set_optional(j, "pin_height_mm", p.pin_height);
    set_optional(j, "chamber_mm3", p.chamber);
    j["chambers_mm3"] = Json::object();
    for (const auto& [cylinder, volume] : p.chambers)
        j["chambers_mm3"][std::to_string(cylinder)] = volume;
    set_optional(j, "gasket_bore_mm", p.gasket_bore);
    set_optional(j, "gasket_thickness_mm", p.gasket_thickness);
    j["dish_mm3"] = p.dish;
    j["crevice_mm3"] = p.crevice;
    j["steel_rods"] = p.steel_rods;
    set_optional(j, "valve_intake_mm", p.valve_intake);
    set_optional(j, "valve_exhaust_mm", p.valve_exhaust);
    set_optional(j, "manifold_face_rad", p.manifold_face);
    if (p.overhead_chain)
        j["overhead_chain"] = {{"teeth_crank", p.overhead_chain->teeth_crank},
                               {"teeth_cam", p.overhead_chain->teeth_cam},
                               {"pitch_mm", p.overhead_chain->pitch},
                               {"distance_mm", p.overhead_chain->distance}};
    return j;
}
EngineFigures figures_from(const Json& j) {
    EngineFigures p;
    p.stroke = optional_from(j, "stroke_mm");
    p.rod = optional_from(j, "rod_mm");
    p.pin_height = optional_from(j, "pin_height_mm");
    p.chamber = optional_from(j, "chamber_mm3");
    for (const auto& [cylinder, volume] : j.at("chambers_mm3").items())
        p.chambers[std::atoi(cylinder.c_str())] = volume;
    p.gasket_bore = optional_from(j, "gasket_bore_mm");
    p.gasket_thickness = optional_from(j, "gasket_thickness_mm");
    p.dish = j.at("dish_mm3");
    p.crevice = j.at("crevice_mm3");
    p.steel_rods = j.at("steel_rods");
    p.valve_intake = optional_from(j, "valve_intake_mm");
    p.valve_exhaust = optional_from(j, "valve_exhaust_mm");
    p.manifold_face = optional_from(j, "manifold_face_rad");
    if (j.contains("overhead_chain")) {
        const Json& c = j.at("overhead_chain");
        p.overhead_chain = {c.at("teeth_crank"), c.at("teeth_cam"), c.at("pitch_mm"), c.at("distance_mm")};
    }
    return p;
}

Json to_json(const HeadWork& p) {
    Json j{{"bank", p.bank}, {"cut_mm", p.cut}};
    set_optional(j, "gap_low_mm", p.gap_low);
    set_optional(j, "gap_high_mm", p.gap_high);
    set_optional(j, "chamber_mm3", p.chamber);
    return j;
}
HeadWork head_from(const Json& j) {
    return {j.at("bank"), optional_from(j, "gap_low_mm"), optional_from(j, "gap_high_mm"), j.at("cut_mm"),
            optional_from(j, "chamber_mm3")};
}

} // namespace pallix::block
