// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/entries/entry_fields.h"

#include <numbers>

namespace pallix::block {
namespace {

constexpr std::array pass_kinds{"witness", "pass", "finish", "spring"};
constexpr std::array tunnel_methods{"hone", "bore"};
constexpr std::array tunnel_passes{"strokes", "caps_only", "establishing", "final"};
constexpr std::array cap_cuts{"each", "equal"};
constexpr std::array given_lines{"datum", "ends"};
constexpr std::array schools{"least_cut", "blueprint", "height", "clearance", "ratio"};
constexpr std::array instrument_kind_names{"bore_gauge",   "inside_micrometer", "outside_micrometer", "deck_bridge",
                                           "straightedge", "lever_indicator",   "dial_indicator",     "precision_level",
                                           "wall_gauge",   "thermometer"};
static_assert(instrument_kind_names.size() == instrument_kinds && quantity_names.size() == quantities);

constexpr Range celsius{-60, 200};
constexpr Range cut_of_a_deck{0, 5}, cut_of_a_cap{0, 3}; // mm: more than any machine takes at once

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
    case Quantity::slope:
        return decks;
    case Quantity::saddle:
    case Quantity::sweep:
        return mains;
    case Quantity::piston:
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
        return size_range;
    case Quantity::gap:
        return length_range;
    case Quantity::temperature:
        return celsius;
    default:
        return any_length;
    }
}

bool is_clock(const std::string& direction) {
    return direction == "12" || direction == "3" || direction == "6" || direction == "9";
}

} // namespace

void fields(Fields& f, JobOpened& p) {
    f.text("title", p.title);
    f.text("customer", p.customer);
    f.text("blueprint_file", p.blueprint_file);
    f.text("blueprint", p.blueprint, long_text);
}

void fields(Fields& f, ProbeLogTaken& p) {
    f.text("file", p.file);
    f.text("sha256", p.sha256);
    f.text("text", p.text, long_text);
    f.number("standard_uncertainty_mm", p.standard_uncertainty, {0, 100});
    f.flag_if("continues", p.continues);
}

void fields(Fields& f, Instrument& i) {
    f.text("name", i.name);
    f.choice("kind", i.kind, instrument_kind_names);
    f.number("resolution", i.resolution, length_range);
    f.number("standard_uncertainty", i.standard_uncertainty, size_range);
    f.number_or("turn_mm", i.turn, 0, length_range);
    f.text_if("last_check", i.last_check);
    f.number("zero_mm", i.zero, any_length);
    f.text_if("zero_set_on", i.zero_set_on);
    f.number_or("contact_angle_rad", i.contact_angle, 0, {-std::numbers::pi / 2, std::numbers::pi / 2});
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
    f.number("part_c", c.part_c, celsius);
    f.number("gauge_c", c.gauge_c, celsius);
    f.text_if("fasteners", c.fasteners);
}

void fields(Fields& f, Reading& r) {
    f.choice("quantity", r.at.quantity, quantity_names);
    f.feature("feature", r.at.feature, kinds_of(r.at.quantity));
    f.text_if("level", r.at.level);
    f.text_if("direction", r.at.direction);
    if (r.at.quantity == Quantity::height)
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

void fields(Fields& f, DeckCut& p) {
    f.text("bank", p.bank);
    f.choice("pass", p.kind, pass_kinds);
    f.number("depth_mm", p.depth, cut_of_a_deck);
    f.flag("clean", p.clean);
    f.list("dark_mm", p.dark, {0, 20000}, [&](metrology::Vec2& at) { f.place("", at); });
    f.number_or("brush_mm", p.brush, DeckCut::default_brush, {0, 1000, true});
    f.flag_if("rest_bright", p.rest_bright);
}

void fields(Fields& f, DeckTargetChosen& p) {
    f.choice("school", p.school, schools);
    f.flag("equal", p.equal);
    f.number("height_mm", p.height, size_range);
    f.number("clearance_mm", p.clearance, {-50, 50});
    f.number("ratio", p.ratio, {1, 100, true});
}

void fields(Fields& f, PassPlanChosen& p) {
    f.number("witness_mm", p.witness, cut_of_a_deck);
    f.number("pass_mm", p.pass, {0, 5, true});
    f.number("finish_mm", p.finish, cut_of_a_deck);
    f.whole("spring_passes", p.spring_passes, {0, 20});
}

void fields(Fields& f, ConditionsStated& p) {
    fields(f, p.conditions);
    f.flag_if("also_before", p.also_before);
}

void fields(Fields& f, RingCheck& p) {
    f.text("instrument", p.instrument);
    f.number("size_mm", p.size, size_range);
    f.number("reading_mm", p.reading, size_range);
}

void fields(Fields& f, RepeatabilityTest& p) {
    f.text("instrument", p.instrument);
    f.text("words", p.words);
    f.list("readings_mm", p.readings, {2, 1000}, [&](double& reading) { f.number("", reading, any_length); });
}

void fields(Fields& f, TunnelCut& p) {
    f.choice("method", p.method, tunnel_methods);
    f.text("note", p.note);
}

void fields(Fields& f, TunnelPolicy& p) {
    f.choice("method", p.method, tunnel_methods);
    f.number("target_diameter_mm", p.target_diameter, size_range);
    f.number("stock_mm", p.stock, {0, 50});
    f.number("parting_rad", p.parting, {0, std::numbers::pi / 2});
    f.choice("caps", p.caps, cap_cuts);
    f.number("max_cap_cut_mm", p.max_cap_cut, {0, 50});
    f.number("max_rise_mm", p.max_rise, {0, 50});
    f.number("max_side_mm", p.max_side, {0, 50});
    f.choice("line", p.line, given_lines);
    f.list("replaced", p.replaced, {0, 100}, [&](FeatureId& id) { f.feature("", id, {FeatureKind::main}); });
}

void fields(Fields& f, CapsCut& p) {
    by_feature(f, "cuts_mm", p.cuts, FeatureKind::main, cut_of_a_cap);
}

void fields(Fields& f, TunnelPass& p) {
    f.choice("pass", p.kind, tunnel_passes);
    f.whole("strokes", p.strokes, {0, 10000});
    f.number("protrusion_mm", p.protrusion, size_range);
    f.flag_if("new_cutter", p.new_cutter);
    f.demand(p.kind != TunnelPassKind::strokes || p.strokes > 0, "strokes", "is 0", "at least one stroke of the hone");
}

void fields(Fields& f, StepDone& p) {
    f.text("step", p.step);
}

void fields(Fields& f, ReadingPlanChosen& p) {
    f.text("plan", p.plan);
    f.list("places", p.places, {1, 2000}, [&](std::string& key) { f.text("", key); });
}

void fields(Fields& f, Note& p) {
    f.text("text", p.text, long_text);
}

void fields(Fields& f, Strike& p) {
    f.whole("sequence", p.sequence, {1, 1e15});
    f.text("reason", p.reason, 10 * short_text);
}

} // namespace pallix::block
