// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/evaluation.h"

#include "small_block.h"

#include <algorithm>
#include <cmath>
#include <random>

using namespace pallix::block;
using pallix::metrology::Vec3;
using pallix::test::evaluate_small;
using pallix::test::LogWriter;
using pallix::test::read_small_blueprint;
using pallix::test::small_log;

TEST(Evaluation, ExactBlockComesOutExactly) {
    const auto e = evaluate_small(small_log(200.03, 0.05, -0.02).text());
    ASSERT_TRUE(e) << e.error().front().text();
    EXPECT_NEAR(e->tunnel.straightness_lsq, 0, 1e-9);
    ASSERT_EQ(e->mains.size(), 2U);
    EXPECT_NEAR(e->mains[0].diameter, 60.01, 1e-8);
    EXPECT_NEAR(e->mains[0].centre.x, 20, 1e-8);
    ASSERT_TRUE(e->cam);
    EXPECT_NEAR(e->cam->distance, 100, 1e-8);
    EXPECT_EQ(e->cam->parallelism, 0) << "one bearing has no slope";
    const DeckResult& d = e->decks.at(0);
    // By hand: the deck rises 0.05 over 150 mm along u and falls 0.02 over 100 mm along v.
    EXPECT_NEAR(d.slope_u, 0.05 / 150, 1e-10);
    EXPECT_NEAR(d.tilt_v, -0.02 / 100, 1e-10);
    EXPECT_NEAR(d.angle_error(), std::atan(-0.0002), 1e-10);
    EXPECT_NEAR(d.height_max, 200.03 + 0.05 * 70 / 150 + 0.02 * 45 / 100, 1e-8);
    EXPECT_NEAR(d.cut_to_clean(), 2 * (0.05 * 70 / 150 + 0.02 * 45 / 100), 1e-8);
    EXPECT_NEAR(d.stock_to_nominal(), d.height_min - 200, 1e-12);
    EXPECT_NEAR(d.flatness_mz, 0, 1e-8);
    ASSERT_EQ(e->dowels.size(), 1U);
    EXPECT_NEAR(e->dowels[0].dv, 0, 1e-8);
    EXPECT_NEAR(e->dowels[0].diameter, 10.008, 1e-8);
}

// contract, section 1: the mean x of the first measured main's sections is that main's x in the blueprint.
TEST(Evaluation, StandsOnTheFirstMainWhereThereIsNoDowel) {
    std::string text = pallix::test::small_blueprint();
    const std::string dowel = R"("origin_dowel": "dowel.C.1", )";
    text.replace(text.find(dowel), dowel.size(), "");
    const auto blueprint = read_blueprint(text, "b.json");
    ASSERT_TRUE(blueprint);
    LogWriter log; // main 1 at two levels, its middle at 21.5 of a machine that begins elsewhere
    log.ring_x("main.1", {12.5, 0, 0}, 30.005, 8, "front").ring_x("main.1", {30.5, 0, 0}, 30.005, 8, "rear");
    log.ring_x("main.2", {121.5, 0, 0}, 30.005).ring_x("cam.1", {21.5, 0, 100}, 20.005).deck(200.03, 0, 0);
    const std::vector<NamedText> logs{{"log.csv", log.text()}};
    const auto set = read_probe_logs(logs, *blueprint);
    ASSERT_TRUE(set) << set.error().front().text();
    const auto e = evaluate(*blueprint, *set);
    ASSERT_TRUE(e) << e.error().front().text();
    EXPECT_NEAR(e->mains[0].centre.x, 11, 1e-8);
    EXPECT_NEAR(e->mains[1].centre.x, 29, 1e-8);
    EXPECT_NEAR(e->mains[2].centre.x, 120, 1e-8);
    EXPECT_TRUE(e->dowels.empty());
}

TEST(Evaluation, IsTheSameHoweverTheBlockLies) {
    const auto straight = evaluate_small(small_log(200.03, 0.05, -0.02).text());
    ASSERT_TRUE(straight);
    // The same touches, turned and moved as a clamping would.
    std::mt19937 bits(9);
    std::normal_distribution<double> n(0, 1);
    for (int trial = 0; trial < 20; ++trial) {
        const double yaw = 0.02 * n(bits), pitch = 0.02 * n(bits), roll = 3 * n(bits);
        const Vec3 x{std::cos(yaw) * std::cos(pitch), std::sin(yaw) * std::cos(pitch), std::sin(pitch)};
        const Vec3 y0 = unit(cross(Vec3{0, 0, 1}, x));
        const Vec3 y = std::cos(roll) * y0 + std::sin(roll) * cross(x, y0);
        const BlockFrame pose{{100 * n(bits), 50 * n(bits), 70 * n(bits)}, x, y, cross(x, y)};
        const std::vector<NamedText> logs{{"log.csv", small_log(200.03, 0.05, -0.02).text()}};
        const Blueprint blueprint = read_small_blueprint();
        auto set = read_probe_logs(logs, blueprint);
        ASSERT_TRUE(set);
        for (Section& s : set->sections)
            for (Touch& t : s.touches)
                t.position = pose.to_machine(t.position);
        const auto turned = evaluate(blueprint, *set);
        ASSERT_TRUE(turned) << turned.error().front().text();
        EXPECT_NEAR(turned->decks[0].height_min, straight->decks[0].height_min, 1e-7);
        EXPECT_NEAR(turned->decks[0].tilt_v, straight->decks[0].tilt_v, 1e-9);
        EXPECT_NEAR(turned->dowels[0].v, straight->dowels[0].v, 1e-7);
        EXPECT_NEAR(turned->mains[1].centre.x, straight->mains[1].centre.x, 1e-7);
    }
}

TEST(Evaluation, PanRailAndDecksClockToo) {
    // The rail lies level, so does the deck on the whole: both put z straight up.
    LogWriter log = small_log(200.03);
    for (const double x : {10.0, 130.0})
        for (const double y : {-80.0, 80.0})
            log.touch("panrail", {x, y, -50});
    const auto by_rail = evaluate_small(log.text(), read_small_blueprint("panrail"));
    ASSERT_TRUE(by_rail) << by_rail.error().front().text();
    EXPECT_NEAR(by_rail->decks[0].tilt_v, 0, 1e-12);
    EXPECT_NEAR(by_rail->decks[0].height_mean, 200.03, 1e-8) << "z points towards the deck, not away from it";
    // By the decks a tilted deck defines its own z: its tilt comes out as nothing, the cam leans instead.
    const auto by_deck = evaluate_small(small_log(200, 0, 0.1).text(), read_small_blueprint("decks"));
    ASSERT_TRUE(by_deck);
    EXPECT_NEAR(by_deck->decks[0].tilt_v, 0, 1e-9);
    EXPECT_NEAR(by_deck->cam->y / by_deck->cam->z, std::tan(std::atan(0.001)), 1e-9);
}

TEST(Evaluation, TipCentresGiveTheSurfaceBack) {
    const double r = 1.5;
    LogWriter log("# kind: tip\n# tip_diameter: 3\n");
    log.ring_x("main.1", {20, 0, 0}, 30.005 - r)
        .ring_x("main.2", {120, 0, 0}, 30.005 - r)
        .ring_x("cam.1", {20, 0, 100}, 20.005 - r);
    log.ring_z("dowel.C.1", {0, -40, 195}, 5.004 - r).deck(200.03 + r);
    const auto e = evaluate_small(log.text());
    ASSERT_TRUE(e) << e.error().front().text();
    EXPECT_NEAR(e->mains[0].diameter, 60.01, 1e-8);
    EXPECT_NEAR(e->dowels[0].diameter, 10.008, 1e-8);
    EXPECT_NEAR(e->decks[0].height_mean, 200.03, 1e-8);
}

TEST(Evaluation, ABentTunnelShowsItsBow) {
    const std::string three = [] {
        std::string t = pallix::test::small_blueprint();
        const std::string main2 = "{ \"id\": \"main.2\", \"x\": 120";
        return t.replace(t.find(main2), main2.size(),
                         "{ \"id\": \"main.2\", \"x\": 70, \"diameter\": { \"nominal\": 60, \"lower\": 0, \"upper\": "
                         "0.02 } }, { \"id\": \"main.3\", \"x\": 120");
    }();
    const auto blueprint = read_blueprint(three, "b");
    ASSERT_TRUE(blueprint) << blueprint.error().front().text();
    LogWriter log;
    log.ring_x("main.1", {20, 0, 0}, 30.005)
        .ring_x("main.2", {70, 0, 0.03}, 30.005)
        .ring_x("main.3", {120, 0, 0}, 30.005);
    log.ring_x("cam.1", {20, 0, 100}, 20.005).ring_z("dowel.C.1", {0, -40, 195}, 5.004).deck(200);
    const auto e = evaluate_small(log.text(), *blueprint);
    ASSERT_TRUE(e) << e.error().front().text();
    // Three centres at 0, 0.03, 0: the LSQ line runs through the mean 0.01, the middle is 0.02 off; the zone is 0.03.
    EXPECT_NEAR(e->tunnel.straightness_lsq, 0.04, 1e-7);
    EXPECT_NEAR(e->tunnel.straightness_vertical_mz, 0.03, 1e-7);
    EXPECT_NEAR(e->tunnel.straightness_lateral_mz, 0, 1e-7);
}

TEST(Evaluation, RefusesWithWhatIsMissing) {
    const auto says = [](const std::string& log, const Blueprint& b = read_small_blueprint()) {
        const auto e = evaluate_small(log, b);
        EXPECT_FALSE(e);
        return e ? std::string() : e.error().front().text();
    };
    LogWriter no_dowel;
    no_dowel.ring_x("main.1", {20, 0, 0}, 30)
        .ring_x("main.2", {120, 0, 0}, 30)
        .ring_x("cam.1", {20, 0, 100}, 20)
        .deck(200);
    EXPECT_NE(says(no_dowel.text()).find("log.csv:3: the origin dowel dowel.C.1 was not probed"), std::string::npos);
    LogWriter no_cam;
    no_cam.ring_x("main.1", {20, 0, 0}, 30)
        .ring_x("main.2", {120, 0, 0}, 30)
        .ring_z("dowel.C.1", {0, -40, 195}, 5)
        .deck(200);
    EXPECT_NE(says(no_cam.text()).find("no cam bearing was probed"), std::string::npos);
    EXPECT_NE(says(no_cam.text(), read_small_blueprint("panrail")).find("pan rail was not probed"), std::string::npos);
    LogWriter flat_main;
    flat_main.ring_x("main.1", {20, 0, 0}, 30)
        .touch("main.2", {120, 0, 1})
        .touch("main.2", {120, 0, 2})
        .touch("main.2", {120, 0, 3});
    EXPECT_NE(says(flat_main.text()).find("log.csv:12: the points of main.2 do not fix a circle"), std::string::npos);
    LogWriter same_place;
    same_place.ring_x("main.1", {20, 0, 0}, 30).ring_x("main.2", {20, 0, 0}, 30);
    EXPECT_NE(says(same_place.text()).find("one place"), std::string::npos);
}

TEST(Evaluation, LeavesOutWhatWasNotMeasured) {
    LogWriter log;
    log.ring_x("main.1", {20, 0, 0}, 30)
        .ring_x("main.2", {120, 0, 0}, 30)
        .ring_x("cam.1", {20, 0, 100}, 20)
        .ring_z("dowel.C.1", {0, -40, 195}, 5);
    const auto e = evaluate_small(log.text());
    ASSERT_TRUE(e);
    EXPECT_TRUE(e->decks.empty());
    EXPECT_EQ(e->deck("C"), nullptr);
}

// A hollow and a peak of one touch each in a scan of a quarter million: fewer points, and both are still there.
TEST(Thinned, LosesNoPeakAndNoHollow) {
    const BankBlueprint bank = read_small_blueprint().banks[0];
    std::vector<Vec3> points;
    for (int i = 0; i < 500; ++i)
        for (int j = 0; j < 500; ++j)
            points.push_back({i * 0.3, j * 0.2 - 50, 200 + i * 1e-4 + 1e-3 * std::sin(i * 0.7) * std::cos(j * 0.9)});
    points[123'456].z -= 0.02;
    points[7'777].z += 0.03;
    const auto whole = evaluate_deck(bank, points);
    ASSERT_TRUE(whole);
    const DeckResult few = thinned(*whole);
    EXPECT_EQ(few.touches, 250'000U);
    EXPECT_LT(few.points.size(), 60'000U);
    EXPECT_GT(few.points.size(), 20'000U);
    EXPECT_EQ(few.height_min, whole->height_min);
    EXPECT_EQ(few.flatness_mz, whole->flatness_mz);
    for (const std::size_t i : {123'456, 7'777})
        EXPECT_TRUE(std::ranges::any_of(
            few.points, [&](const Vec3& p) { return p.x == points[i].x && p.y == points[i].y && p.z == points[i].z; }));
    const auto again = evaluate_deck(bank, few.points.all());
    EXPECT_NEAR(again->flatness_mz, whole->flatness_mz, 1e-6) << "the zone stands on the points that are left";
    EXPECT_TRUE(thinned(*again).points.same(again->points) || again->points.size() > 50'000) << "small ones stay";
}
