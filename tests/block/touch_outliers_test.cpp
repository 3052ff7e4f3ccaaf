// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/evaluation.h"
#include "block/small_block.h"
#include "block/touch_outliers.h"
#include "sanitized.h"

#include <cmath>
#include <gtest/gtest.h>
#include <numbers>
#include <random>

using namespace pallix::block;
using pallix::test::LogWriter;

namespace {

struct Ring {
    int count = 8;
    double oval = 0, noise = 0;
    int slipped = -1;
    double slip = 0; ///< outward, mm
};

/// The small block, main 1 as that ring.
std::vector<TouchStandingOut> of(const Ring& ring, std::mt19937& random, std::optional<double> stated) {
    std::normal_distribution<double> normal(0, 1);
    std::uniform_real_distribution<double> turn(0, 2 * std::numbers::pi);
    const double start = turn(random), lean = turn(random);
    LogWriter w;
    for (int i = 0; i < ring.count; ++i) {
        const double a = start + 2 * std::numbers::pi * i / ring.count;
        const double r = 30 + ring.oval / 4 * std::cos(2 * (a - lean)) + ring.noise * normal(random) +
                         (i == ring.slipped ? ring.slip : 0);
        w.touch("main.1", {20, r * std::cos(a), r * std::sin(a)});
    }
    w.ring_x("main.2", {120, 0, 0}, 30).ring_x("cam.1", {20, 0, 100}, 20);
    w.ring_z("dowel.C.1", {0, -40, 195}, 5).deck(200);
    const Blueprint blueprint = pallix::test::read_small_blueprint();
    const std::vector<pallix::block::NamedText> logs{{"log.csv", w.text()}};
    const auto probe = read_probe_logs(logs, blueprint);
    EXPECT_TRUE(probe) << (probe ? "" : probe.error().front().text());
    const auto e = evaluate(blueprint, *probe);
    EXPECT_TRUE(e);
    return touches_standing_out(blueprint, *probe, e->frame, stated);
}

} // namespace

TEST(TouchOutliers, OneOfEightIsNamedWithHowFar) {
    std::mt19937 random(1);
    const auto found = of({8, 0, 0.001, 3, -0.06}, random, 0.001);
    ASSERT_EQ(found.size(), 1U);
    EXPECT_EQ(found.front().feature.text(), "main.1");
    EXPECT_EQ(found.front().touch, 4U);
    EXPECT_EQ(found.front().of, 8U);
    EXPECT_NEAR(found.front().off, -0.06, 0.004) << "the others' own fit, known to a few micrometres";
    EXPECT_LT(found.front().scatter, 0.003);
}

TEST(TouchOutliers, OfFourNobodyCanSayWhich) {
    std::mt19937 random(1);
    const auto found = of({4, 0, 0, 1, 0.2}, random, 0.001);
    ASSERT_EQ(found.size(), 1U);
    EXPECT_FALSE(found.front().touch);
    EXPECT_NEAR(std::abs(found.front().off), 0.2, 0.01) << "one diameter is that much longer";
    EXPECT_TRUE(of({4, 0.03, 0, -1, 0}, random, 0.001).empty()) << "oval as worn mains are";
}

// Honest rings, oval as worn mains are: whoever is asked for nothing stops listening. And of slips of a tenth most are
// seen.
TEST(TouchOutliers, HonestTouchesAreSeldomAskedAboutAndSlipsAlmostAlways) {
    std::mt19937 random(7);
    std::uniform_real_distribution<double> oval(0, 0.03);
    int asked = 0, seen = 0, rings = 0;
    for (const int count : {5, 6, 8, 12, 24})
        for (int i = 0; i < pallix::test::fewer(400); ++i, ++rings) {
            const double form = oval(random);
            asked += of({count, form, 0.0015, -1, 0}, random, 0.0015).empty() ? 0 : 1;
            seen += of({count, form, 0.0015, 1, 0.15}, random, 0.0015).empty() ? 0 : 1;
        }
    EXPECT_LE(asked, (pallix::test::sanitized ? 0.05 : 0.01) * rings); // of a few hundred, more by chance
    EXPECT_GE(seen, 0.9 * rings);
}
