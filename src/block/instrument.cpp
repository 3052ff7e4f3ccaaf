// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/instrument.h"

#include "block/ledger_json.h"
#include "metrology/uncertainty.h"

#include <cmath>
#include <numbers>

namespace pallix::block {

const std::array<const char*, instrument_kinds> instrument_kind_names{
    "bore_gauge",      "inside_micrometer", "outside_micrometer", "deck_bridge", "straightedge",
    "lever_indicator", "dial_indicator",    "precision_level",    "wall_gauge",  "thermometer"};

std::optional<std::string> fault_of(const Instrument& i) {
    if (i.name.empty())
        return "the instrument has no name; expected what the shop calls it";
    if (!(i.resolution >= 0))
        return "the resolution cannot be negative; expected one step of its dial, 0 where it has none";
    if (i.standard_uncertainty && !(*i.standard_uncertainty > 0))
        return "the standard uncertainty must be greater than 0, or left empty where nobody knows";
    if (!(i.turn >= 0))
        return "the turn cannot be negative; expected what one turn of its dial is, 0 without a dial";
    if (!(std::abs(i.contact_angle) < std::numbers::pi / 3))
        return "the lever's angle is too steep; expected less than 60 degrees";
    return std::nullopt;
}

Json instrument_to_json(const Instrument& i) {
    Json j{{"name", i.name},
           {"kind", instrument_kind_names[static_cast<std::size_t>(i.kind)]},
           {"resolution", i.resolution}};
    set_optional(j, "standard_uncertainty", i.standard_uncertainty);
    if (i.turn > 0)
        j["turn_mm"] = i.turn;
    if (!i.last_check.empty())
        j["last_check"] = i.last_check;
    set_optional(j, "zero_mm", i.zero);
    if (!i.zero_set_on.empty())
        j["zero_set_on"] = i.zero_set_on;
    if (i.contact_angle != 0)
        j["contact_angle_rad"] = i.contact_angle;
    set_optional(j, "repeatability", i.repeatability);
    if (i.repeatability_readings > 0)
        j["repeatability_readings"] = i.repeatability_readings;
    return j;
}

Instrument instrument_from_json(const Json& j) {
    Instrument i;
    i.name = j.at("name");
    i.kind = enum_from<InstrumentKind>(j.at("kind"), instrument_kind_names);
    i.resolution = j.at("resolution");
    i.standard_uncertainty = optional_from(j, "standard_uncertainty");
    i.turn = j.value("turn_mm", 0.0);
    i.last_check = j.value("last_check", "");
    i.zero = optional_from(j, "zero_mm");
    i.zero_set_on = j.value("zero_set_on", "");
    i.contact_angle = j.value("contact_angle_rad", 0.0);
    i.repeatability = optional_from(j, "repeatability");
    i.repeatability_readings = j.value("repeatability_readings", std::size_t{0});
    return i;
}

std::string instrument_json(const Instrument& instrument) {
    return instrument_to_json(instrument).dump();
}

tl::expected<Instrument, std::string> read_instrument(std::string_view json) {
    try {
        return instrument_from_json(Json::parse(json));
    } catch (const Json::exception& error) {
        return tl::unexpected(std::string("an instrument cannot be read: ") + error.what());
    }
}

std::optional<double> fixed_uncertainty(const Instrument& i) {
    if (!i.standard_uncertainty)
        return std::nullopt;
    return std::hypot(*i.standard_uncertainty, metrology::of_resolution(i.resolution));
}

std::array<Instrument, instrument_kinds> usual_instruments() {
    const auto one = [](const char* name, InstrumentKind kind, double resolution, double turn = 0) {
        Instrument i;
        i.name = name;
        i.kind = kind;
        i.resolution = resolution;
        i.turn = turn;
        return i;
    };
    constexpr double tenth = 0.00254, thou = 0.0254; // mm
    return {one("bore gauge", InstrumentKind::bore_gauge, tenth, 10 * thou),
            one("inside micrometer", InstrumentKind::inside_micrometer, tenth, 25 * thou),
            one("outside micrometer", InstrumentKind::outside_micrometer, tenth, 25 * thou),
            one("deck bridge", InstrumentKind::deck_bridge, thou / 2, 100 * thou),
            one("straightedge and feelers", InstrumentKind::straightedge, 0),
            one("lever indicator", InstrumentKind::lever_indicator, tenth, 8 * thou),
            one("dial indicator", InstrumentKind::dial_indicator, thou / 2, 100 * thou),
            one("precision level", InstrumentKind::precision_level, 0.02),
            one("wall gauge", InstrumentKind::wall_gauge, 0.01),
            one("thermometer", InstrumentKind::thermometer, 0.1)};
}

} // namespace pallix::block
