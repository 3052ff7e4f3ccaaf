// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/decks/straightedge.h"

#include "block/small_block.h"

#include <CGAL/Exact_predicates_inexact_constructions_kernel.h>
#include <CGAL/convex_hull_2.h>
#include <algorithm>
#include <random>

using namespace pallix::planning;
using namespace pallix::block;
using pallix::metrology::Vec2;
using pallix::metrology::Vec3;

namespace {

using Kernel = CGAL::Exact_predicates_inexact_constructions_kernel;

/// Upper hull by CGAL, from front to rear.
std::vector<Vec2> upper_hull_by_cgal(const std::vector<Vec2>& profile) {
    std::vector<Kernel::Point_2> points, hull;
    for (const Vec2 p : profile)
        points.emplace_back(p.x, p.y);
    CGAL::upper_hull_points_2(points.begin(), points.end(), std::back_inserter(hull));
    std::vector<Vec2> upper{profile.back()}; // its upper hull runs from the rear and leaves the last point out
    for (const auto& p : hull)
        upper.push_back({p.x(), p.y()});
    upper.push_back(profile.front());
    std::ranges::sort(upper, {}, &Vec2::x);
    upper.erase(std::unique(upper.begin(), upper.end(), [](Vec2 a, Vec2 b) { return a.x == b.x; }), upper.end());
    return upper;
}

EdgeComparison read_line(const std::string& name, double in, std::optional<double> out) {
    const Blueprint b = pallix::test::read_small_blueprint();
    const std::vector<EdgeLine> lines = edge_lines(b, "C");
    return {*std::ranges::find(lines, name, &EdgeLine::name), in, out, {}, {}};
}

} // namespace

TEST(Straightedge, LiesOnBothEndsOfAHollow) {
    const EdgeLaid laid = lay_straightedge({{0, 0.02}, {100, 0.00}, {200, 0.02}});
    ASSERT_EQ(laid.rests.size(), 1U);
    EXPECT_FALSE(laid.rocks());
    EXPECT_NEAR(laid.gap(), 0.02, 1e-15);
    EXPECT_EQ(laid.rests[0].gap_at, 100);
}

TEST(Straightedge, RocksOnACrown) {
    // A flat top from 80 to 120, 0.02 lower at both ends: it lies on the top; tipped, one end hangs lower still.
    const EdgeLaid laid = lay_straightedge({{0, 0.00}, {80, 0.02}, {120, 0.02}, {200, 0.00}});
    ASSERT_EQ(laid.rests.size(), 3U);
    EXPECT_TRUE(laid.rocks());
    EXPECT_NEAR(laid.gap(), 0.02, 1e-15) << "under the ends, while it lies on the top";
    EXPECT_EQ(laid.rests[1].from.x, 0);
    // On the front half its line rises 0.02 in 80 mm: at 200 it stands at 0.05, the deck at 0.
    EXPECT_NEAR(laid.rests[1].gap, 0.05, 1e-12);
    EXPECT_NEAR(laid.rests[2].gap, 0.05, 1e-12);
}

TEST(Straightedge, AHairBetweenTwoHullEdgesIsNotFeltAsRocking) {
    const EdgeLaid laid = lay_straightedge({{0, 0.0}, {100, 0.0005}, {200, 0.0}});
    EXPECT_FALSE(laid.rocks());
}

TEST(Straightedge, RestsOnTheHullThatCgalFinds) {
    std::mt19937 bits(3);
    std::uniform_real_distribution<double> wave(0, 0.03);
    for (int trial = 0; trial < 300; ++trial) {
        std::vector<Vec2> profile;
        for (int i = 0; i <= 40; ++i)
            profile.push_back({10.0 * i, wave(bits) - 0.0002 * (i - 20) * (i - 20) * (trial % 3 - 1)});
        const std::vector<Vec2> hull = upper_hull_by_cgal(profile);
        const EdgeLaid laid = lay_straightedge(profile);
        // The hull edge under the middle, and the largest distance below its line.
        std::size_t edge = 0;
        while (edge + 2 < hull.size() && hull[edge + 1].x < 200)
            ++edge;
        const Vec2 a = hull[edge], b = hull[edge + 1];
        EXPECT_EQ(laid.rests[0].from.x, a.x);
        EXPECT_EQ(laid.rests[0].to.x, b.x);
        double gap = 0;
        for (const Vec2 p : profile)
            gap = std::max(gap, a.y + (b.y - a.y) / (b.x - a.x) * (p.x - a.x) - p.y);
        EXPECT_NEAR(laid.gap(), gap, 1e-12);
    }
}

TEST(Straightedge, OnAMapItLeavesTheBoreOut) {
    const Blueprint b = pallix::test::read_small_blueprint();
    // A deck 0.04 lower along its middle line; the bore (60 across at u 75) takes the middle of that line away.
    std::vector<Vec3> points;
    for (double u = 2; u <= 148; u += 14.6)
        for (const double v : {-48.0, 0.0, 48.0})
            points.push_back({u, v, v == 0 ? 199.96 : 200.0});
    const DeckMap map(b, b.banks[0], points, 0.5);
    const auto across = lay_straightedge(profile_along(map, {20, -47}, {20, 47}));
    EXPECT_NEAR(across.gap(), 0.04 * 47 / 48, 0.001);
    for (const Vec2 p : profile_along(map, {5, 0}, {145, 0}))
        EXPECT_TRUE(p.x < 41 || p.x > 99) << p.x;
}

TEST(FlatnessFromFeelers, BothDiagonalsBoundIt) {
    const FlatnessBounds b =
        flatness_from_feelers({read_line("right side", 0.02, 0.03), read_line("left side", 0.03, 0.04),
                               read_line("diagonal from front, right side", 0.04, 0.05),
                               read_line("diagonal from front, left side", 0.01, 0.02)});
    EXPECT_NEAR(b.at_least, 0.02, 1e-15) << "half of what goes in: the end of an edge may hang";
    ASSERT_TRUE(b.at_most);
    EXPECT_NEAR(*b.at_most, 0.05 + 0.02 + 2 * 0.04, 1e-15);
    ASSERT_TRUE(b.proven);
    EXPECT_NEAR(*b.proven, *b.at_most, 1e-15) << "both sides end on the diagonals";
    EXPECT_TRUE(b.not_read.empty());
}

TEST(FlatnessFromFeelers, ALineThatMeetsOneOtherBoundsNothing) {
    // The middle line crosses the diagonals in one place: it may stand askew by any amount, and no feeler would tell.
    const FlatnessBounds b =
        flatness_from_feelers({read_line("middle", 0, 0.01), read_line("diagonal from front, right side", 0, 0.005),
                               read_line("diagonal from front, left side", 0, 0.005)});
    EXPECT_FALSE(b.proven);
    EXPECT_NEAR(*b.at_most, 0.01 + 2 * 0.01, 1e-12) << "as sure as 95 %, were it anywhere between the others";
    // Lines across, one from either side, hold it where it meets them; from there it may run out to its ends.
    const auto across = [](double u) {
        return EdgeComparison{{"across at " + std::to_string(u), {u, -45}, {u, 45}}, 0, 0.01, {}, {}};
    };
    const FlatnessBounds held = flatness_from_feelers({read_line("middle", 0, 0.01), read_line("right side", 0, 0.01),
                                                       read_line("left side", 0, 0.01), across(41.25), across(108.75),
                                                       read_line("diagonal from front, right side", 0, 0.005),
                                                       read_line("diagonal from front, left side", 0, 0.005)});
    // Sides leave the zone of 0.01 by 0.01, lines across by 0.02. The middle, 7.5 to 142.5, is held from 1/4 to 3/4 of
    // its length by those: 0.01 + 0.02, and half of (0.01 + 2 × 0.02 + 0.01) beyond; by the centre and one of them
    // worse.
    ASSERT_TRUE(held.proven);
    EXPECT_NEAR(*held.proven, 0.01 + 2 * (0.03 + 0.03), 1e-12);
}

TEST(FlatnessFromFeelers, WithoutADiagonalATwistIsUnseen) {
    EdgeComparison unread = read_line("diagonal from front, left side", 0, {});
    unread.goes_in.reset();
    const FlatnessBounds b = flatness_from_feelers(
        {read_line("right side", 0.02, 0.03), read_line("diagonal from front, right side", 0.04, 0.05), unread});
    EXPECT_FALSE(b.at_most);
    EXPECT_EQ(b.not_read, std::vector<std::string>{"diagonal from front, left side"});
}

TEST(FlatnessFromFeelers, HoldsTheTrueFlatnessOfSimulatedDecks) {
    // Lines on random smooth decks, read to 10 µm steps: the zone of the points along them lies in the bounds.
    const Blueprint b = pallix::test::read_small_blueprint();
    std::mt19937 bits(11);
    std::normal_distribution<double> normal(0, 1);
    for (int trial = 0; trial < 60; ++trial) {
        const double bow = 0.02 * normal(bits), twist = 0.02 * normal(bits), cross_bow = 0.01 * normal(bits);
        const auto height = [&](Vec2 p) {
            const double x = (p.x - 75) / 75, y = p.y / 50;
            return 200 + bow * x * x + twist * x * y + cross_bow * y * y;
        };
        std::vector<EdgeComparison> lines;
        std::vector<Vec3> seen;
        for (const EdgeLine& line : edge_lines(b, "C")) {
            std::vector<Vec2> profile;
            for (int i = 0; i <= 60; ++i) {
                const Vec2 p = line.from + (i / 60.0) * (line.to - line.from);
                profile.push_back({i / 60.0 * norm(line.to - line.from), height(p)});
                if (line.name != "middle")
                    seen.push_back({p.x, p.y, height(p)});
            }
            const double gap = lay_straightedge(profile).gap();
            const double in = std::floor(gap / 0.01) * 0.01;
            lines.push_back({line, in, in + 0.01, {}, {}});
        }
        const double flatness = evaluate_deck(b.banks[0], seen)->flatness_mz;
        const FlatnessBounds bounds = flatness_from_feelers(lines);
        EXPECT_GE(flatness, bounds.at_least - 1e-9) << trial;
        EXPECT_FALSE(bounds.proven) << "with one bore nothing holds the middle's ends";
        std::erase_if(lines, [](const EdgeComparison& c) { return c.line.name == "middle"; });
        const FlatnessBounds held = flatness_from_feelers(lines);
        ASSERT_TRUE(held.proven);
        EXPECT_LE(flatness, *held.proven + 1e-9) << trial;
    }
}
