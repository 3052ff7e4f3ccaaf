// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/decks/deck_shape.h"

#include "block/small_block.h"
#include "metrology/minimum_zone.h"

#include <random>

using namespace pallix::planning;
using namespace pallix::block;
using pallix::metrology::Vec3;

TEST(LocalFlatness, FindsTheWindowWithTheDip) {
    std::vector<Vec3> points;
    for (double u = 0; u <= 300; u += 15)
        for (double v = -60; v <= 60; v += 15)
            points.push_back({u, v, u == 210 && v == 30 ? 199.97 : 200.0});
    const auto local = local_flatness(points);
    ASSERT_TRUE(local);
    EXPECT_NEAR(local->worst, 0.03, 1e-9);
    EXPECT_LE(local->low.x, 210);
    EXPECT_GE(local->high.x, 210);
    EXPECT_LE(local->low.y, 30);
    EXPECT_GE(local->high.y, 30);
}

TEST(LocalFlatness, ALongBowIsLessWithinAWindow) {
    // A parabola w = k·u²: over a chord of length s its zone is k·s²/4.
    const double k = 0.04 / (150.0 * 150.0);
    std::vector<Vec3> points;
    for (double u = -150; u <= 150; u += 2.5)
        for (const double v : {-40.0, 0.0, 40.0})
            points.push_back({u, v, 200 + k * u * u});
    EXPECT_NEAR(pallix::metrology::flatness_zone(points).width, 0.04, 1e-6);
    EXPECT_NEAR(local_flatness(points)->worst, k * 75 * 75 / 4, k * 75 * 75 / 4 * 0.08) << "to the nearest points";
}

TEST(LocalFlatness, TooFewPlacesSayNothing) {
    EXPECT_FALSE(local_flatness({{0, 0, 1}, {1, 0, 1}, {0, 1, 1}}));
    EXPECT_FALSE(local_flatness({{0, 0, 1}, {200, 0, 1}, {0, 200, 1}, {200, 200, 1}}));
}

TEST(BanksLie, AngleAndHeightAgainstTheBlueprint) {
    Blueprint b = pallix::test::read_small_blueprint();
    BankBlueprint r = b.banks[0], l = r;
    r.id = "R", l.id = "L";
    r.angle = 30 * radians_per_degree;
    l.angle = -r.angle;
    b.banks = {r, l};
    // The right deck rises 0.05 over 100 towards +v (outboard): its own angle is smaller by that.
    const auto right =
        *evaluate_deck(r, {{0, 50, 200.075}, {0, -50, 200.025}, {150, 50, 200.075}, {150, -50, 200.025}});
    const auto left = *evaluate_deck(l, {{0, 50, 200.02}, {0, -50, 200.02}, {150, 50, 200.02}, {150, -50, 200.02}});
    const auto lie = banks_lie(b, right, left);
    ASSERT_TRUE(lie);
    EXPECT_NEAR(lie->angle_error, -std::atan(0.0005), 1e-12);
    EXPECT_NEAR(lie->angle, 60 * radians_per_degree - std::atan(0.0005), 1e-12);
    EXPECT_NEAR(lie->height_difference, 0.03, 1e-9);
    EXPECT_NEAR(banks_lie(b, left, right)->angle_error, lie->angle_error, 1e-15) << "whichever stands first";
    EXPECT_FALSE(banks_lie(b, right, right));
}

TEST(DeckCoverage, TellsWhatWasNotReached) {
    const Blueprint b = pallix::test::read_small_blueprint();
    const DeckCoverage c = deck_coverage(b.banks[0], {{5, 45}, {120, -20}, {80, 0}});
    EXPECT_NEAR(c.front, 5, 1e-12);
    EXPECT_NEAR(c.rear, 30, 1e-12);
    EXPECT_NEAR(c.positive, 5, 1e-12);
    EXPECT_NEAR(c.negative, 30, 1e-12);
    EXPECT_NEAR(c.most(), 30, 1e-12);
}
