// SPDX-License-Identifier: GPL-3.0-or-later
#include "workshop/harbour.h"

#include "block/digest.h"
#include "block/ledger.h"
#include "block/number_text.h"
#include "block/state/deck_state.h"
#include "block/units.h"
#include "planning/cylinders/honing.h"
#include "planning/cylinders/texture.h"
#include "planning/lifters/lifter_plan.h"
#include "planning/readings/reading_plan.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdio>
#include <map>

namespace pallix::workshop {
namespace {

using namespace block;

constexpr const char *v6_file = "workboat-v6.pallix-blueprint.json",
                     *four_file = "tender-inline-four.pallix-blueprint.json",
                     *v8_file = "ferry-v8.pallix-blueprint.json";

// What the passes over the tender's deck took.
constexpr double samphire_witness = 0.0254, samphire_pass = 0.0207, samphire_finish = 0.0254; // mm

/// Builds the entries of one job on a working day.
class Diary {
  public:
    Diary(std::string day, std::string person) : day_(std::move(day)), person_(std::move(person)) {}
    void add(int hour, int minute, Payload payload) {
        std::array<char, 40> time{};
        std::snprintf(time.data(), time.size(), "T%02d:%02d:00Z", hour, minute);
        entries_.push_back(
            {static_cast<std::int64_t>(entries_.size() + 1), day_ + time.data(), person_, std::move(payload)});
    }
    [[nodiscard]] std::size_t count() const { return entries_.size(); }
    std::vector<Entry> take() { return std::move(entries_); }

  private:
    std::string day_, person_;
    std::vector<Entry> entries_;
};

const std::string& text_of(const std::vector<DemoFile>& files, const std::string& name) {
    return std::ranges::find(files, name, &DemoFile::name)->text;
}

Instrument bore_gauge_on(double zero, const char* set_on) {
    Instrument i;
    i.name = "bore gauge, 50 to 100";
    i.kind = InstrumentKind::bore_gauge;
    i.resolution = 0.002;
    i.standard_uncertainty = 0.0012;
    i.turn = 0.2;
    i.last_check = "2026-01-12";
    i.zero = zero;
    i.zero_set_on = set_on;
    return i;
}

Instrument shop_instrument(const char* name, InstrumentKind kind, double resolution, double uncertainty) {
    Instrument i;
    i.name = name;
    i.kind = kind;
    i.resolution = resolution;
    i.standard_uncertainty = uncertainty;
    i.last_check = "2026-01-12";
    return i;
}

/// Engine figures of the workboat's V6.
EngineFigures workboat_figures() {
    EngineFigures f;
    f.stroke = 88;
    f.rod = 152;
    f.pin_height = 45.1;
    f.chamber = 66'000;
    f.gasket_bore = 98.5;
    f.gasket_thickness = 1.1;
    f.dish = 8'500;
    f.valve_intake = 2.1;
    f.valve_exhaust = 2.6;
    f.manifold_face = 60 * radians_per_degree;
    return f;
}

/// Pistons at top dead centre, one at each corner: both sides of the pin.
void read_pistons(Diary& diary, const Blueprint& b, int hour, int minute, const std::map<std::string, double>& below) {
    const Instrument indicator = shop_instrument("dial indicator", InstrumentKind::dial_indicator, 0.01, 0.004);
    for (const auto& [bank, clearance] : below) {
        double step = 0;
        for (const MeasuredAt& at : planning::usual_places(b, planning::Measuring::piston_heights, bank)) {
            const bool one_side = at.direction == "one side of the pin";
            const double value = clearance + (one_side ? 0.03 : -0.03) + (step += 0.005);
            const std::string typed = block::fixed_number(value, 3);
            diary.add(hour, minute++,
                      Reading{at,
                              "cylinder " + std::to_string(*b.hole(at.feature)->cylinder) + ", piston, " + at.direction,
                              value,
                              {},
                              typed,
                              false,
                              indicator,
                              {}});
        }
    }
}

/// Straightedge over the right bank: a light low towards its rear, outboard.
void lay_straightedge(Diary& diary, const Blueprint& b, int hour, int minute) {
    const Instrument edge = shop_instrument("straightedge, 600", InstrumentKind::straightedge, 0, 0.005);
    constexpr std::array goes_in{0.01, 0.0, 0.01, 0.01, 0.02, 0.0, 0.0};
    std::size_t i = 0;
    for (const MeasuredAt& at : planning::usual_places(b, planning::Measuring::feelers, "R")) {
        const double gap = goes_in[i++ % goes_in.size()];
        const std::string typed = block::fixed_number(gap, 2) + " " + block::fixed_number(gap + 0.01, 2);
        diary.add(
            hour, minute++,
            Reading{at, "right bank deck, straightedge, " + at.direction, gap, gap + 0.01, typed, false, edge, {}});
    }
}

/// A launch measured without a probe: every number typed into the reading line.
std::vector<Entry> launch_diary() {
    const Blueprint b = tender_inline_four();
    Diary diary("2026-03-04", "Jorun");
    diary.add(13, 5, JobOpened{"Tystie, harbour launch", "harbour office, Skarvoy", four_file, write_blueprint(b)});
    Conditions conditions;
    conditions.caps_torqued = true;
    conditions.part_c = 19.0;
    conditions.gauge_c = 19.0;
    conditions.fasteners = "light oil, three steps to the sheet's torque, from the middle outwards";
    diary.add(13, 10, ConditionsStated{conditions});
    int minute = 11;
    const auto read = [&](const MeasuredAt& at, const char* words, double value, const std::string& typed,
                          const Instrument& instrument) {
        diary.add(13 + minute / 60, minute % 60, Reading{at, words, value, {}, typed, false, instrument, conditions});
        ++minute;
    };
    // Sizes of the mains: worn a little where the load is, main 3 oval.
    const Instrument gauge = bore_gauge_on(58.006, "micrometer");
    for (const MeasuredAt& at : planning::usual_places(b, planning::Measuring::main_sizes, "")) {
        double um = at.direction == "upright" ? 3 : -2;
        um += at.feature.number == 3 ? (at.direction == "upright" ? 7 : -3) : at.feature.number % 2;
        um += at.level == "rear" ? 1 : 0;
        const std::string typed = (um < 0 ? "" : "+") + block::fixed_number(um, 0) + " µm";
        const std::string words = "main " + std::to_string(at.feature.number) + ", " + at.level + ", " + at.direction;
        read(at, words.c_str(), 58.006 + um / 1000, typed, gauge);
    }
    const Instrument lever = shop_instrument("lever indicator", InstrumentKind::lever_indicator, 0.002, 0.0015);
    constexpr std::array saddles{0.0, 0.004, 0.009, 0.006, 0.0};
    std::size_t i = 0;
    for (const MeasuredAt& at : planning::usual_places(b, planning::Measuring::saddle_heights, "")) {
        const std::string typed = block::fixed_number(saddles[i], 3);
        read(at, ("main " + std::to_string(at.feature.number) + ", saddle over the bar").c_str(), saddles[i++], typed,
             lever);
    }
    return diary.take();
}

FeatureId cylinder(const char* bank, int n) {
    return {FeatureKind::bore, bank, n};
}

/// Sizes of one bore by gauge, as many as places are named.
void read_bore(Diary& diary, int hour, int minute, const FeatureId& id, const std::map<std::string, double>& sizes,
               const Conditions& conditions) {
    Instrument gauge = bore_gauge_on(std::round(sizes.begin()->second * 10) / 10, "micrometer");
    gauge.name = "large bore gauge";
    const std::string name =
        (id.kind == FeatureKind::bore ? "cylinder bore " : "lifter ") + id.bank + " " + std::to_string(id.number);
    for (const auto& [place, value] : sizes) {
        const auto space = place.find(' ');
        const MeasuredAt at{id, Quantity::size, place.substr(0, space), place.substr(space + 1), {}};
        const std::string typed = block::fixed_number(value, 3);
        diary.add(hour, minute++,
                  Reading{at,
                          name + ", " + place.substr(0, space) + ", " + place.substr(space + 1),
                          value,
                          {},
                          typed,
                          false,
                          gauge,
                          conditions});
    }
}

/// The smack's four: one is sleeved, the others go to the next size.
void bore_the_smack(Diary& diary) {
    CylinderPlanChosen plan;
    plan.oversizes = {0, 0.25, 0.5, 0.75};
    plan.oversize = 0.5; // the pistons on hand
    plan.margin = 0.02;
    plan.wall_thrust = 3.8;
    plan.wall = 2.5;
    diary.add(9, 30, plan);
    const Instrument gauge = shop_instrument("wall gauge", InstrumentKind::wall_gauge, 0.01, 0.05);
    int minute = 31;
    for (const auto& [side, wall] :
         std::map<std::string, double>{{"left", 4.6}, {"right", 4.9}, {"front", 3.6}, {"rear", 3.4}})
        for (const char* level : {"top", "bottom"}) {
            const MeasuredAt at{cylinder("C", 2), Quantity::wall, level, side, {}};
            const std::string typed = block::fixed_number(wall, 2);
            diary.add(
                9, minute++,
                Reading{
                    at, std::string("cylinder 2, wall, ") + level + ", " + side, wall, {}, typed, false, gauge, {}});
        }
    diary.add(9, 45, BorePitted{cylinder("C", 3), 0.35, "middle", "left", "broken ring land"});
    diary.add(9, 50, BoreDecided{cylinder("C", 3), BoreChoice::sleeve, "dearer to bore all four past the last size"});
    PistonsStated pistons;
    pistons.alloy = PistonAlloy::cast;
    pistons.clearance = 0.055;
    pistons.size = 82.445;
    diary.add(9, 55, pistons);
    InsertMeasured sleeve;
    sleeve.bore = cylinder("C", 3);
    sleeve.outside = {86.034, 86.036, 86.032, 86.034, 86.030, 86.032};
    sleeve.inside = 81.2;
    sleeve.length = 150;
    sleeve.interference = 0.033;
    sleeve.parent_outside = 95;
    sleeve.ledge = 4;
    diary.add(10, 10, sleeve);
    Conditions caps;
    caps.caps_torqued = true;
    diary.add(10, 12, ConditionsStated{caps});
    const auto cut = [](int n, double target, double setting) {
        return BoreCut{cylinder("C", n), BoreOperation::rough, target, setting, false, 0, "", {}, ""};
    };
    diary.add(10, 30, cut(3, 84.33, 84.33));
    read_bore(diary, 10, 34, cylinder("C", 3), {{"middle across", 84.318}}, caps);
    diary.add(10, 45, cut(3, 86.0, 86.012));
    read_bore(diary, 10, 50, cylinder("C", 3), {{"middle across", 86.001}, {"top across", 86.0}}, caps);
}

/// Two of the ferry's lifters on their way to bushes.
void begin_lifters_of_the_ferry(Diary& diary, int hour, int minute) {
    LifterPlanChosen lifters;
    lifters.school = LifterSchool::bush_all;
    lifters.lifter = 21.965;
    lifters.clearance_least = 0.025;
    lifters.clearance_most = 0.05;
    lifters.bush_outside = 25.4;
    lifters.interference = 0.038;
    lifters.base_radius = 15.2;
    lifters.roller_radius = 9.5;
    lifters.keyed = true;
    lifters.key_angle = 0.0;
    lifters.height = 6;
    diary.add(hour, minute, lifters);
    const double seat = *lifters.bush_outside - *lifters.interference;
    for (int n = 1; n <= 2; ++n)
        for (const planning::LifterCutStep& step : planning::seat_steps(seat)) {
            const FeatureId id{FeatureKind::lifter, "R", n};
            minute += 4;
            diary.add(hour, minute, BoreCut{id, step.operation, step.to, {}, false, 0, "", {}, ""});
            if (n == 2 && step.operation == BoreOperation::finish)
                break; // where the day ended
            read_bore(diary, hour, minute, id, {{"top across", step.to}}, {});
            if (step.operation == BoreOperation::hone)
                diary.add(hour, minute, InsertFitted{id, 0, 0.0, 6.0, ""});
        }
}

/// The ferry's cylinders under the hone, then its lifters.
void work_on_the_ferry(Diary& diary) {
    CylinderPlanChosen plan;
    plan.oversizes = {0, 0.25, 0.5};
    plan.oversize = 0.25;
    diary.add(9, 20, plan);
    PistonsStated pistons;
    pistons.alloy = PistonAlloy::high_silicon_forged;
    pistons.clearance = 0.07;
    pistons.size = 92.18;
    pistons.hone_stock = 0.09;
    diary.add(9, 22, pistons);
    int minute = 30, hour = 9;
    const auto later = [&](int by) {
        minute += by;
        hour += minute / 60;
        minute %= 60;
    };
    Conditions plate;
    plate.caps_torqued = true;
    plate.plate_on = true;
    plate.fasteners = "torque plate, the job's gasket, oiled, three steps";
    for (const char* bank : {"R", "L"})
        for (int n = 1; n <= 4; ++n) {
            diary.add(hour, minute,
                      BoreCut{cylinder(bank, n), BoreOperation::rough, 92.16, 92.165, false, 0, "", {}, ""});
            later(4);
            read_bore(diary, hour, minute, cylinder(bank, n), {{"middle across", 92.16 + 0.001 * (n % 3)}}, {});
            later(6);
        }
    read_bore(diary, hour, minute, cylinder("R", 1), {{"bottom across", 92.161}}, {});
    later(9);
    diary.add(hour, minute, ConditionsStated{plate});
    later(6);
    HonePlanChosen hone = planning::usual_hone_plan(Abrasive::vitrified, 92);
    hone.stroke = 140;
    hone.rate = 55;
    diary.add(hour, minute, hone);
    constexpr double hatch = 33 * radians_per_degree; // as speed and strokes make it, within what an eye tells
    // Half way down: even, tapered, barrelled, and one that is nearly there.
    const std::array<std::array<double, 3>, 4> left{
        {{0.012, 0.013, 0.012}, {0.022, 0.026, 0.034}, {0.021, 0.008, 0.020}, {0.003, 0.003, 0.002}}};
    for (const char* bank : {"R", "L"})
        for (int n = 1; n <= 4; ++n) {
            diary.add(hour, minute,
                      BoreCut{cylinder(bank, n),
                              BoreOperation::hone,
                              92.25,
                              {},
                              false,
                              38,
                              "150 stone",
                              45,
                              "",
                              n == 1 ? std::optional(hatch) : std::nullopt});
            later(3);
            const auto& l = left[static_cast<std::size_t>((n - 1 + (bank[0] == 'L' ? 2 : 0)) % 4)];
            read_bore(diary, hour, minute, cylinder(bank, n),
                      {{"top across", 92.25 - l[0]},
                       {"top along", 92.25 - l[0] - 0.001},
                       {"middle across", 92.25 - l[1]},
                       {"middle along", 92.25 - l[1] - 0.002},
                       {"bottom across", 92.25 - l[2]},
                       {"bottom along", 92.25 - l[2]}},
                      plate);
            later(8);
        }
    const DemoFile stylus = harbour_trace();
    diary.add(hour, minute, TraceTaken{cylinder("R", 1), stylus.name, sha256_hex(stylus.text), stylus.text});
    diary.add(hour, minute, planning::usual_texture_limits()[2]);
    later(5);
    begin_lifters_of_the_ferry(diary, hour, minute);
}

} // namespace

std::vector<Instrument> harbour_instruments() {
    const Instrument gauge = bore_gauge_on(58.006, "micrometer");
    std::vector<Instrument> shop{
        gauge,
        shop_instrument("large bore gauge", InstrumentKind::bore_gauge, 0.002, 0.0015),
        shop_instrument("inside micrometer", InstrumentKind::inside_micrometer, 0.01, 0.003),
        shop_instrument("outside micrometers", InstrumentKind::outside_micrometer, 0.002, 0.0015),
        shop_instrument("deck bridge", InstrumentKind::deck_bridge, 0.01, 0.004),
        shop_instrument("straightedge, 600", InstrumentKind::straightedge, 0, 0.005),
        shop_instrument("lever indicator", InstrumentKind::lever_indicator, 0.002, 0.0015),
        shop_instrument("dial indicator", InstrumentKind::dial_indicator, 0.01, 0.004),
        shop_instrument("precision level", InstrumentKind::precision_level, 0.02, 0.01),
        shop_instrument("wall gauge", InstrumentKind::wall_gauge, 0.01, 0.05),
        shop_instrument("thermometer", InstrumentKind::thermometer, 0.1, 0.3)};
    shop.front().check_days = 90;
    shop.front().repeatability = 0.0009;
    shop.front().repeatability_readings = 8;
    return shop;
}

std::vector<DemoJob> harbour_jobs() {
    const std::vector<DemoFile> files = harbour_files();
    const auto opened = [&](const char* title, const char* customer, const char* blueprint) {
        return JobOpened{title, customer, blueprint, text_of(files, blueprint)};
    };
    const auto log = [&](const char* name) {
        const std::string& text = text_of(files, name);
        return ProbeLogTaken{name, sha256_hex(text), text, harbour_touch_uncertainty, false};
    };
    const auto pass = [](const char* bank, PassKind kind, double depth, bool clean, std::vector<metrology::Vec2> dark) {
        return DeckCut{bank, kind, depth, clean, std::move(dark)};
    };
    std::vector<DemoJob> jobs;

    Diary port("2026-03-02", "Marit");
    port.add(8, 5, opened("Puffling, port engine", "pilot cutter Puffling", v6_file));
    port.add(8, 20, Note{"Raw-water leak at the rear of the right bank; customer wants the least off."});
    port.add(9, 41, log("puffling-port-as-found.csv"));
    lay_straightedge(port, workboat_v6(), 9, 44);
    port.add(9, 58,
             FlawMarked{"R",
                        FlawKind::crack,
                        {{306, 34}, {322, 41}, {331, 52}},
                        FlawNear::coolant_hole,
                        {},
                        "found with dye, wept under air"});
    port.add(9, 59, FlawMarked{"R", FlawKind::pit, {{150, -62}}, FlawNear::open_deck, 0.4, "old gasket leak"});
    port.add(10, 2,
             FlawDecided{static_cast<std::int64_t>(port.count()), FlawChoice::watch, "outside the gasket's bead"});
    jobs.push_back({port.take()});

    Diary starboard("2026-03-03", "Jorun");
    starboard.add(8, 10, opened("Puffling, starboard engine", "pilot cutter Puffling", v6_file));
    starboard.add(9, 15, log("puffling-starboard-as-found.csv"));
    starboard.add(9, 20, workboat_figures());
    read_pistons(starboard, workboat_v6(), 9, 22, {{"L", 0.31}, {"R", 0.33}});
    starboard.add(9, 40, CutterFitted{250, 2, 1.2, 250, 0.12, 320, 0.06, true});
    starboard.add(9, 41, GasketChosen{GasketKind::composition, 0.0022});
    SetUpRead set_up{"L", "deck", {}, {{"front left", {30, -110}}, {"front right", {30, 110}}, {"rear", {330, 0}}}};
    // What the deck itself rises by, and 0.04 mm up to the rear, 0.012 to the middle of the V.
    constexpr std::array indicated{0.014, -0.012, 0.035, -0.049}; // mm
    for (const DeckPlace& corner : deck_places(*workboat_v6().bank("L")))
        set_up.readings.push_back({corner.place, indicated[set_up.readings.size()]});
    starboard.add(9, 50, set_up);
    starboard.add(10, 2, pass("L", PassKind::witness, 0.0254, false, {{340, -50}, {20, -60}, {60, 66}}));
    starboard.add(10, 31, pass("L", PassKind::pass, 0.0440, false, {{345, -55}}));
    jobs.push_back({starboard.take()});

    Diary tender("2026-02-26", "Marit");
    tender.add(7, 50, opened("Samphire, tender", "mussel farm at Skarvoy Sound", four_file));
    tender.add(9, 5, log("samphire-as-found.csv"));
    tender.add(9, 44, pass("C", PassKind::witness, samphire_witness, false, {{30, 50}, {300, 50}}));
    tender.add(10, 12, pass("C", PassKind::pass, samphire_pass, false, {{300, 48}}));
    tender.add(10, 40, pass("C", PassKind::finish, samphire_finish, true, {}));
    tender.add(10, 58, pass("C", PassKind::spring, 0, true, {}));
    tender.add(11, 10, pass("C", PassKind::spring, 0, true, {}));
    tender.add(11, 52, log("samphire-after-decking.csv"));
    jobs.push_back({tender.take()});

    jobs.push_back({launch_diary()});

    Diary smack("2026-03-05", "Marit");
    smack.add(8, 30, opened("Eider, fishing smack", "boatyard at Tern Skerry", four_file));
    smack.add(8, 40, Note{"Knocked on cylinder 3; a ring land broke and ran with it."});
    smack.add(9, 10, log("eider-as-found.csv"));
    bore_the_smack(smack);
    jobs.push_back({smack.take()});

    Diary ferry("2026-03-05", "Jorun");
    ferry.add(8, 5, opened("Gannet, island ferry", "Outer Holm ferry", v8_file));
    ferry.add(8, 45, log("gannet-as-found.csv"));
    work_on_the_ferry(ferry);
    jobs.push_back({ferry.take()});

    Diary ketch("2026-03-04", "Jorun");
    ketch.add(8, 2, opened("Lantern Ketch, auxiliary", "sail training trust, Outer Holm", four_file));
    ketch.add(8, 6, Note{"Washed and deburred. Caps torqued, lightly oiled, three steps."});
    jobs.push_back({ketch.take()});
    return jobs;
}

} // namespace pallix::workshop
