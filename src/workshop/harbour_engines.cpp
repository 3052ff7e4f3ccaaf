// SPDX-License-Identifier: GPL-3.0-or-later
// The engines of the harbour, what is wrong with each block, and what its probe says of them.
#include "block/units.h"
#include "workshop/harbour.h"
#include "workshop/machines.h"

#include <cmath>

namespace pallix::workshop {
namespace {

using namespace block;

Tolerance size(double nominal, double lower, double upper) {
    return {nominal, lower, upper};
}

/// A row of bearings along the crankshaft.
std::vector<MainBlueprint> row(FeatureKind kind, int count, double first, double spacing, Tolerance diameter) {
    std::vector<MainBlueprint> out;
    out.reserve(static_cast<std::size_t>(count));
    for (int i = 0; i < count; ++i)
        out.push_back({{kind, "", i + 1}, first + i * spacing, diameter});
    return out;
}

struct BankLayout {
    std::string id;
    double angle_deg;
    double first_bore_u;
    double first_dowel_u;
    int first_cylinder;
    int cylinder_step;
};

void add_bank(Blueprint& b, const BankLayout& bank, int bores, double spacing, double bore, double height,
              double half_width) {
    const double start = bank.first_bore_u - 0.72 * spacing;
    const double end = bank.first_bore_u + (bores - 1) * spacing + 0.72 * spacing;
    constexpr double cut_corner = 14;
    b.banks.push_back({bank.id,
                       bank.angle_deg * radians_per_degree,
                       size(height, -0.05, 0.05),
                       0.05,
                       {{start + cut_corner, -half_width},
                        {end - cut_corner, -half_width},
                        {end, -half_width + cut_corner},
                        {end, half_width - cut_corner},
                        {end - cut_corner, half_width},
                        {start + cut_corner, half_width},
                        {start, half_width - cut_corner},
                        {start, -half_width + cut_corner}}});
    for (int i = 0; i < bores; ++i)
        b.bores.push_back({{FeatureKind::bore, bank.id, i + 1},
                           bank.first_cylinder + i * bank.cylinder_step,
                           {},
                           bank.first_bore_u + i * spacing,
                           0,
                           size(bore, 0, 0.02)});
    const double dowel_v = -half_width + 16;
    b.dowels.push_back({{FeatureKind::dowel, bank.id, 1}, {}, {}, bank.first_dowel_u, dowel_v, size(14, 0, 0.018)});
    b.dowels.push_back({{FeatureKind::dowel, bank.id, 2},
                        {},
                        {},
                        bank.first_dowel_u + (bores - 1) * spacing + 0.96 * spacing,
                        dowel_v,
                        size(14, 0, 0.018)});
}

/// Two lifters for each cylinder of a bank, on the plane through the cam.
void add_lifters(Blueprint& b, const std::string& bank, double angle_deg, double first_u, int count = 6) {
    const double angle = angle_deg * radians_per_degree;
    const double v = b.cam->y * std::cos(angle) - b.cam->z * std::sin(angle);
    for (int i = 0, pair = 0; i < count; ++i, pair = i / 2)
        b.lifters.push_back({{FeatureKind::lifter, bank, i + 1},
                             {},
                             angle,
                             first_u + pair * 116 + (i % 2) * 44,
                             std::round(v * 1000) / 1000,
                             size(22, 0, 0.021)});
}

/// Cylinders worn in their travel; the left bank drilled off its place as a whole, one cylinder of the right bank
/// repaired once and not where it belongs; lifters a little off, more worn towards the rear.
void wear_holes(PracticeBlock& p) {
    const auto bore = [](const char* bank, int n) { return FeatureId{FeatureKind::bore, bank, n}; };
    for (int n = 1; n <= 3; ++n) {
        p.holes[bore("R", n)] = {
            {0.012 - 0.006 * n, 0.009 * (n - 2)}, {0.00004 * n, -0.00006}, 0.012, 0.035 + 0.006 * n, 0.014};
        p.holes[bore("L", n)] = {
            {-0.052 + 0.004 * n, -0.098 + 0.006 * n}, {-0.00003, 0.00005}, 0.011, 0.030 + 0.004 * n, 0.011};
    }
    p.holes[bore("R", 2)].offset = {0.078, 0.134};
    for (const char* bank : {"R", "L"})
        for (int n = 1; n <= 6; ++n)
            p.holes[{FeatureKind::lifter, bank, n}] = {
                {0.02 - 0.006 * n, (bank[0] == 'R' ? 0.06 : -0.05) + 0.007 * (n % 3)},
                {0, 0.0001 * (n % 2)},
                0.008 + 0.005 * n,
                0,
                0.002};
}

PracticeBlock port_engine() {
    PracticeBlock p{workboat_v6(), {}, -0.005, 0.003, 0.002, {}};
    wear_holes(p);
    p.decks["R"] = {.offset = 0.115,
                    .rear_over_front = -0.062,
                    .positive_over_negative = -0.048,
                    .twist = 0.021,
                    .crown = -0.012,
                    .dip = {330, 62},
                    .dip_depth = 0.034,
                    .dip_radius = 42,
                    .cut_to = {}};
    p.decks["L"] = {.offset = 0.141,
                    .rear_over_front = 0.037,
                    .positive_over_negative = 0.055,
                    .twist = -0.014,
                    .crown = 0.010,
                    .dip = {60, -58},
                    .dip_depth = 0.022,
                    .dip_radius = 38,
                    .cut_to = {}};
    return p;
}

PracticeBlock starboard_engine() {
    PracticeBlock p{workboat_v6(), {}, 0.004, -0.002, 0.003, {}};
    wear_holes(p);
    p.decks["R"] = {.offset = 0.088,
                    .rear_over_front = 0.051,
                    .positive_over_negative = 0.034,
                    .twist = -0.018,
                    .crown = 0.016,
                    .dip = {36, -60},
                    .dip_depth = 0.041,
                    .dip_radius = 36,
                    .cut_to = {}};
    p.decks["L"] = {.offset = 0.064,
                    .rear_over_front = -0.044,
                    .positive_over_negative = 0.039,
                    .twist = 0.012,
                    .crown = -0.008,
                    .dip = {352, -55},
                    .dip_depth = 0.028,
                    .dip_radius = 40,
                    .cut_to = {}};
    return p;
}

PracticeBlock tender_engine() {
    PracticeBlock p{tender_inline_four(), {}, -0.004, 0.002, 0.001, {}};
    p.decks["C"] = {.offset = 0.092,
                    .rear_over_front = 0.038,
                    .positive_over_negative = -0.029,
                    .twist = 0.016,
                    .crown = 0.012,
                    .dip = {300, 48},
                    .dip_depth = 0.019,
                    .dip_radius = 34,
                    .cut_to = {}};
    return p;
}

/// Three cylinders worn alike, the third scored by a broken ring land past every size on hand.
PracticeBlock smack_engine() {
    PracticeBlock p{tender_inline_four(), {}, 0.003, -0.001, 0.002, {}};
    p.decks["C"] = {.offset = 0.104,
                    .rear_over_front = -0.031,
                    .positive_over_negative = 0.022,
                    .twist = 0.011,
                    .crown = 0.006,
                    .dip = {110, -44},
                    .dip_depth = 0.014,
                    .dip_radius = 30,
                    .cut_to = {}};
    for (int n = 1; n <= 4; ++n)
        p.holes[{FeatureKind::bore, "C", n}] = {
            {0.008 * n - 0.02, 0.028 - 0.012 * n}, {0.00003, 0.00004 * (n - 2)}, 0.014, 0.055 + 0.012 * n, 0.016};
    p.holes[{FeatureKind::bore, "C", 3}] = {{0.03, -0.06}, {0.0001, -0.0002}, 0.9, 0.62, 0.1};
    return p;
}

/// Lifters drilled off their places on one bank, cylinders sound.
PracticeBlock ferry_engine() {
    PracticeBlock p{ferry_v8(), {}, 0.002, 0.001, 0.001, {}};
    for (const char* bank : {"R", "L"}) {
        const double side = bank[0] == 'R' ? 1 : -1;
        p.decks[bank] = {.offset = 0.06,
                         .rear_over_front = 0.012 * side,
                         .positive_over_negative = 0.010,
                         .twist = 0.006,
                         .crown = 0.004,
                         .dip = {200, 40},
                         .dip_depth = 0.008,
                         .dip_radius = 30,
                         .cut_to = {}};
        for (int n = 1; n <= 4; ++n)
            p.holes[{FeatureKind::bore, bank, n}] = {
                {0.012 * side, 0.02 - 0.008 * n}, {0.00002, -0.00003}, 0.01, 0.03 + 0.004 * n, 0.01};
        for (int n = 1; n <= 8; ++n)
            p.holes[{FeatureKind::lifter, bank, n}] = {{0.05 - 0.011 * n, side * 0.16 + 0.03 * ((n * 5) % 7 - 3)},
                                                       {0, 0.0004 * ((n * 3) % 5 - 2)},
                                                       0.006 + 0.003 * n,
                                                       0,
                                                       0.003};
    }
    return p;
}

ProbeJob harbour_probe(std::uint64_t seed, bool rolled) {
    return {.seed = seed,
            .noise = 0.0006,
            .tip_radius = rolled ? 2.0 : 0.0,
            .unit = Unit::mm,
            .temperature_c = 19.5,
            .rolled = rolled,
            .points_along = 13,
            .points_across = 7,
            .holes = true,
            .stated_uncertainty = harbour_touch_uncertainty};
}

} // namespace

Blueprint workboat_v6() {
    Blueprint b;
    b.name = "workboat V6, 60 degrees";
    b.origin_dowel = {FeatureKind::dowel, "R", 1};
    b.clocking = Clocking::cam;
    b.mains = row(FeatureKind::main, 4, 14, 116, size(74, 0, 0.013));
    b.cam = CamBlueprint{0, 128, row(FeatureKind::cam, 4, 14, 116, size(52, 0, 0.025))};
    add_bank(b, {"R", 30, 72, 6, 1, 2}, 3, 116, 97, 241.3, 80);
    add_bank(b, {"L", -30, 97, 31, 2, 2}, 3, 116, 97, 241.3, 80);
    add_lifters(b, "R", 24, 50);
    add_lifters(b, "L", -24, 75);
    // u counts from the origin dowel, so that the dowel stands at 0.
    const double origin = b.dowels.front().u;
    for (auto& hole : b.bores)
        hole.u -= origin;
    for (auto& hole : b.lifters)
        hole.u -= origin;
    for (auto& hole : b.dowels)
        hole.u -= origin;
    for (auto& bank : b.banks)
        for (auto& corner : bank.deck_outline)
            corner.x -= origin;
    return b;
}

Blueprint tender_inline_four() {
    Blueprint b;
    b.name = "tender inline four";
    b.origin_dowel = {FeatureKind::dowel, "C", 1};
    b.clocking = Clocking::panrail;
    b.mains = row(FeatureKind::main, 5, 12, 94, size(58, 0, 0.013));
    add_bank(b, {"C", 0, 59, 0, 1, 1}, 4, 94, 82, 208.5, 68);
    return b;
}

Blueprint ferry_v8() {
    Blueprint b;
    b.name = "ferry V8, 90 degrees";
    b.material = Material::aluminium;
    b.origin_dowel = {FeatureKind::dowel, "R", 1};
    b.clocking = Clocking::cam;
    b.mains = row(FeatureKind::main, 5, 16, 108, size(68, 0, 0.013));
    b.cam = CamBlueprint{0, 122, row(FeatureKind::cam, 5, 16, 108, size(50, 0, 0.025))};
    add_bank(b, {"R", 45, 82, 0, 1, 2}, 4, 108, 92, 228.6, 76);
    add_bank(b, {"L", -45, 60, -22, 2, 2}, 4, 108, 92, 228.6, 76);
    add_lifters(b, "R", 40, 62, 8);
    add_lifters(b, "L", -40, 40, 8);
    return b;
}

DemoFile harbour_trace() {
    TraceJob job;
    job.seed = 2607;
    return {"gannet-cylinder-1.trace.csv", trace(job)};
}

std::vector<DemoFile> harbour_files() {
    PracticeBlock after = tender_engine();
    after.decks["C"].cut_to = 0.0475; // over nominal, as the passes of its job leave it
    return {
        {"workboat-v6.pallix-blueprint.json", write_blueprint(workboat_v6())},
        {"tender-inline-four.pallix-blueprint.json", write_blueprint(tender_inline_four())},
        {"puffling-port-as-found.csv", probe(port_engine(), harbour_probe(2601, true))},
        {"puffling-starboard-as-found.csv", probe(starboard_engine(), harbour_probe(2602, true))},
        {"samphire-as-found.csv", probe(tender_engine(), harbour_probe(2603, false))},
        {"samphire-after-decking.csv", probe(after, harbour_probe(2604, false))},
        {"ferry-v8.pallix-blueprint.json", write_blueprint(ferry_v8())},
        {"eider-as-found.csv", probe(smack_engine(), harbour_probe(2605, false))},
        {"gannet-as-found.csv", probe(ferry_engine(), harbour_probe(2606, false))},
    };
}

} // namespace pallix::workshop
