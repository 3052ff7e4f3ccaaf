// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/entries/reading_entries.h"

#include <algorithm>
#include <numbers>

namespace pallix::block {
namespace {

constexpr std::array instrument_kind_names{
    "bore_gauge",     "inside_micrometer", "outside_micrometer", "deck_bridge", "straightedge", "lever_indicator",
    "dial_indicator", "precision_level",   "wall_gauge",         "thermometer", "burette",      "depth_micrometer"};
static_assert(instrument_kind_names.size() == instrument_kinds && quantity_names.size() == quantities);

constexpr Range celsius_range{-60, 200};
constexpr Range burette_range{0, 10000, true}; // cm³

/// Which features a quantity is read of.
std::initializer_list<FeatureKind> kinds_of(Quantity quantity) {
    using enum FeatureKind;
    static constexpr std::initializer_list<FeatureKind> round{main, cam, dowel, bore, lifter}, decks{deck}, mains{main},
        bores{bore}, holes{bore, lifter}, anything{};
    switch (quantity) {
    case Quantity::size:
        return round;
    case Quantity::height:
    case Quantity::gap:
    case Quantity::head_gap:
    case Quantity::slope:
    case Quantity::indicator:
    case Quantity::head_height:
        return decks;
    case Quantity::saddle:
    case Quantity::sweep:
        return mains;
    case Quantity::piston:
    case Quantity::outside:
    case Quantity::volume:
    case Quantity::valve:
        return bores;
    case Quantity::wall:
        return holes;
    case Quantity::temperature:
        break;
    }
    return anything;
}

Range range_of(Quantity quantity) {
    switch (quantity) {
    case Quantity::size:
    case Quantity::height:
    case Quantity::wall:
    case Quantity::outside:
        return size_range;
    case Quantity::gap:
    case Quantity::head_gap:
        return length_range;
    case Quantity::volume:
        return burette_range;
    case Quantity::temperature:
        return celsius_range;
    default:
        return any_length;
    }
}

bool is_clock(const std::string& direction) {
    return direction == "12" || direction == "3" || direction == "6" || direction == "9";
}

} // namespace

void fields(Fields& f, Instrument& i) {
    f.text("name", i.name);
    f.choice("kind", i.kind, instrument_kind_names);
    f.number("resolution", i.resolution, length_range);
    f.number("standard_uncertainty", i.standard_uncertainty, size_range);
    f.number_or("turn_mm", i.turn, 0, length_range);
    f.text_if("last_check", i.last_check);
    f.number("zero_mm", i.zero, any_length);
    f.text_if("zero_set_on", i.zero_set_on);
    f.text_if("zero_time", i.zero_time);
    f.number("zero_c", i.zero_c, celsius_range);
    f.choice_or_first("clockwise", i.clockwise, dial_sense_keys);
    f.number_or("contact_angle_rad", i.contact_angle, 0, {-std::numbers::pi / 2, std::numbers::pi / 2});
    if (f.left_out("check_days", i.check_days == 0))
        i.check_days = 0;
    else
        f.whole("check_days", i.check_days, {0, 3660});
    f.number("repeatability", i.repeatability, length_range);
    if (!f.left_out("repeatability_readings", i.repeatability_readings == 0)) {
        auto readings = static_cast<std::int64_t>(i.repeatability_readings);
        f.whole("repeatability_readings", readings, {0, 1000});
        i.repeatability_readings = static_cast<std::size_t>(std::max<std::int64_t>(readings, 0));
    }
}

void fields(Fields& f, Conditions& c) {
    f.flag("caps_torqued", c.caps_torqued);
    f.flag("plate_on", c.plate_on);
    f.number("part_c", c.part_c, celsius_range);
    f.number("gauge_c", c.gauge_c, celsius_range);
    f.text_if("fasteners", c.fasteners);
}

void fields(Fields& f, Reading& r) {
    f.choice("quantity", r.at.quantity, quantity_names);
    f.feature("feature", r.at.feature, kinds_of(r.at.quantity));
    f.text_if("level", r.at.level);
    f.text_if("direction", r.at.direction);
    if (is_at_a_place(r.at.quantity))
        f.place("place_mm", r.at.place);
    f.text("words", r.words);
    f.number("value", r.value, range_of(r.at.quantity));
    f.number("upper", r.upper, range_of(r.at.quantity));
    f.text("typed", r.typed);
    f.flag_if("confirmed", r.confirmed);
    f.group("instrument", [&] { fields(f, r.instrument); });
    f.group("conditions", [&] { fields(f, r.conditions); });
    f.demand(!r.upper || *r.upper > r.value, "upper", "is not thicker than what goes in", "the thinner one first");
    f.demand(r.at.quantity != Quantity::sweep || is_clock(r.at.direction), "direction", "is no place of a sweep",
             "12, 3, 6 or 9");
}

} // namespace pallix::block
