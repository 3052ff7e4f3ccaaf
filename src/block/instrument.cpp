// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/instrument.h"

#include "block/entries/reading_entries.h"
#include "block/fields_json.h"
#include "metrology/uncertainty.h"

#include <cmath>
#include <numbers>

namespace pallix::block {

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

bool differ_by_use_alone(Instrument a, const Instrument& b) {
    a.zero = b.zero;
    a.zero_c = b.zero_c;
    a.zero_set_on = b.zero_set_on;
    a.zero_time = b.zero_time;
    a.last_check = b.last_check;
    a.repeatability = b.repeatability;
    a.repeatability_readings = b.repeatability_readings;
    return a == b;
}

std::string instrument_json(const Instrument& instrument) {
    return fields_as_json([known = instrument](Fields& f) mutable { fields(f, known); });
}

tl::expected<Instrument, std::string> read_instrument(std::string_view json) {
    Instrument instrument;
    const auto faults = fields_from_json(json, [&](Fields& f) { fields(f, instrument); });
    if (!faults.empty())
        return tl::unexpected("an instrument cannot be read: " + faults.front().text());
    return instrument;
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
            one("thermometer", InstrumentKind::thermometer, 0.1),
            one("burette", InstrumentKind::burette, 0.1),
            one("plate and depth micrometer", InstrumentKind::depth_micrometer, thou / 10)};
}

} // namespace pallix::block
