// SPDX-License-Identifier: GPL-3.0-or-later
// Cylinders and lifters worked out by hand; two whole blocks stand in examples_test.cpp.
#include "block/number_text.h"
#include "small_block.h"

#include <gtest/gtest.h>

using namespace pallix::block;
using pallix::metrology::Vec2;
using pallix::metrology::Vec3;
using pallix::test::LogWriter;
using pallix::test::small_log;

namespace {

/// One level of bore.C.1, whose blueprint centre is u 75, v 0 (the bank's angle is 0: u = x, v = y, w = z).
void ring(LogWriter& log, const std::string& level, Vec3 centre, double radius, int count = 8,
          const std::string& feature = "bore.C.1") {
    for (int i = 0; i < count; ++i) {
        const double a = 2 * std::numbers::pi * (i + 0.3) / count;
        log.touch(feature, centre + Vec3{radius * std::cos(a), radius * std::sin(a), 0}, level);
    }
}

Evaluation evaluated(const LogWriter& log, const Blueprint& blueprint = pallix::test::read_small_blueprint()) {
    const auto e = pallix::test::evaluate_small(log.text(), blueprint);
    EXPECT_TRUE(e) << e.error().front().text();
    return *e;
}

} // namespace

TEST(Bore, LevelsLeanTaperAndCleanUpByHand) {
    LogWriter log = small_log();
    // Leaning 0.1 in u and −0.2 in v over the 100 from bottom to top; 0.03 smaller below.
    ring(log, "bottom", {75.02, -0.05, 90}, 30.000);
    ring(log, "top", {75.12, -0.25, 190}, 30.015);
    const Evaluation e = evaluated(log);
    ASSERT_EQ(e.bores.size(), 1U);
    const HoleResult& b = e.bores.front();
    EXPECT_EQ(b.cylinder, 1);
    ASSERT_EQ(b.levels.size(), 2U);
    EXPECT_EQ(b.levels[0].level, "top") << "from the top down, however they were logged";
    EXPECT_NEAR(b.levels[0].w, 190, 1e-7);
    EXPECT_NEAR(b.centre.x, 75.12, 1e-7);
    EXPECT_NEAR(b.error.x, 0.12, 1e-7);
    EXPECT_NEAR(b.error.y, -0.25, 1e-7);
    EXPECT_NEAR(b.diameter(), 60.03, 1e-7);
    EXPECT_NEAR(b.taper(), 0.03, 1e-7);
    EXPECT_NEAR(b.lean.x, 0.001, 1e-9);
    EXPECT_NEAR(b.lean.y, -0.002, 1e-9);
    ASSERT_TRUE(b.from_dowel); // the dowel stands where the blueprint has it
    EXPECT_NEAR(b.from_dowel->x, 0.12, 1e-7);
    // About the blueprint: no further than the largest offset plus the radius; the rings' points stand every 45°.
    EXPECT_LE(b.clean_blueprint, 2 * (30.015 + std::hypot(0.12, 0.25)) + 1e-7);
    EXPECT_GE(b.clean_blueprint, 2 * (30.015 + std::hypot(0.12, 0.25) * std::cos(std::numbers::pi / 8)) - 1e-4);
    EXPECT_LE(b.clean_free, b.clean_top);
    EXPECT_LE(b.clean_top, b.clean_blueprint);
    EXPECT_FALSE(b.v_cam);
}

TEST(Bore, OneLevelHasNeitherLeanNorTaper) {
    LogWriter log = small_log();
    ring(log, "", {75, 0, 180}, 30);
    const HoleResult b = evaluated(log).bores.front();
    EXPECT_EQ(b.lean.x, 0);
    EXPECT_EQ(b.taper(), 0);
    EXPECT_NEAR(b.clean_free, 60, 1e-7);
}

TEST(Bore, FromDowelTakesTheDowelsOwnErrorAway) {
    LogWriter log;
    log.ring_x("main.1", {20, 0, 0}, 30.005)
        .ring_x("main.2", {120, 0, 0}, 30.005)
        .ring_x("cam.1", {20, 0, 100}, 20.005);
    log.ring_z("dowel.C.1", {0, -39.9, 195}, 5.004); // 0.1 off across; the origin follows it along
    ring(log, "top", {75, 0.04, 180}, 30);
    const HoleResult b = evaluated(log).bores.front();
    EXPECT_NEAR(b.error.y, 0.04, 1e-7);
    EXPECT_NEAR(b.from_dowel->y, 0.04 - 0.1, 1e-7);
}

TEST(Lifter, IsMeasuredInItsOwnFrameAndFromTheCamPlane) {
    const double angle = 25 * radians_per_degree, v_plane = -100 * std::sin(angle); // on the plane through the cam
    std::string text = pallix::test::small_blueprint();
    const std::string lifter = R"( "lifters": [ { "id": "lifter.C.1", "bank": "C", "angle_deg": 25, "u": 60, "v": )" +
                               fixed_number(v_plane, 6) +
                               R"(, "diameter": { "nominal": 22, "lower": 0, "upper": 0.02 } } ],)";
    text.insert(text.find(" \"workshop_note\""), lifter + "\n");
    const auto blueprint = read_blueprint(text, "b");
    ASSERT_TRUE(blueprint) << blueprint.error().front().text();
    const BankAxes axes(angle);
    LogWriter log = small_log();
    for (const auto& [level, w] : {std::pair("top", 150.0), std::pair("bottom", 120.0)})
        for (int i = 0; i < 8; ++i) {
            const double a = 2 * std::numbers::pi * i / 8;
            log.touch("lifter.C.1",
                      (60.1 + 11.005 * std::cos(a)) * axes.u + (v_plane + 0.2 + 11.005 * std::sin(a)) * axes.v +
                          w * axes.w,
                      level);
        }
    const Evaluation e = evaluated(log, *blueprint);
    ASSERT_EQ(e.lifters.size(), 1U);
    EXPECT_NEAR(e.lifters[0].error.x, 0.1, 1e-6);
    EXPECT_NEAR(e.lifters[0].error.y, 0.2, 1e-5);
    ASSERT_TRUE(e.lifters[0].v_cam);
    EXPECT_NEAR(*e.lifters[0].v_cam, 0.2, 1e-5);
    EXPECT_FALSE(e.lifters[0].from_dowel);
    EXPECT_NEAR(e.lifters[0].levels[1].w, 120, 1e-7);
}

TEST(Bore, TipCentresAreCompensated) {
    LogWriter log = small_log();
    LogWriter tip("# kind: tip\n# tip_diameter: 4\n");
    ring(tip, "top", {75.1, 0, 180}, 28);
    const auto blueprint = pallix::test::read_small_blueprint();
    const std::vector<NamedText> logs{{"a.csv", log.text()}, {"b.csv", tip.text()}};
    const auto e =
        read_probe_logs(logs, blueprint).and_then([&](const ProbeSet& set) { return evaluate(blueprint, set); });
    ASSERT_TRUE(e);
    EXPECT_NEAR(e->bores[0].diameter(), 60, 1e-7);
    EXPECT_NEAR(e->bores[0].clean_free, 60, 1e-7);
    EXPECT_NEAR(e->bores[0].error.x, 0.1, 1e-7);
}

TEST(Scatter, PoolsTheRoundSections) {
    LogWriter log = small_log();
    // Eight points alternately 0.01 out and in: each deviates by 0.01 from the circle.
    for (int i = 0; i < 8; ++i) {
        const double a = 2 * std::numbers::pi * i / 8, r = 30 + (i % 2 == 0 ? 0.01 : -0.01);
        log.touch("bore.C.1", {75 + r * std::cos(a), r * std::sin(a), 180}, "top");
    }
    const Evaluation e = evaluated(log);
    EXPECT_NEAR(e.scatter.squares, 8 * 1e-4, 1e-8);
    // Two mains of 8, the cam of 8, the bore of 8, each less three (dowels are not counted).
    EXPECT_EQ(e.scatter.freedom, 5U + 5U + 5U);
    EXPECT_NEAR(*e.scatter.standard_deviation(), std::sqrt(8e-4 / 15), 1e-8);
}
