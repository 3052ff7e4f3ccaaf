// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/decks/deck_map.h"

#include "block/small_block.h"
#include "planning/decks/triangulation.h"

#include <numbers>

using namespace pallix::planning;
using namespace pallix::block;
using pallix::metrology::Vec2;
using pallix::metrology::Vec3;

namespace {

Blueprint plain() { // without bore and dowel, so that shares can be worked out by hand
    Blueprint b = pallix::test::read_small_blueprint();
    b.bores.clear();
    b.dowels.clear();
    return b;
}

std::vector<Vec3> corners(double a, double b, double c, double d) {
    return {{0, -50, a}, {150, -50, b}, {0, 50, c}, {150, 50, d}};
}

} // namespace

TEST(Triangulation, CoversASquareGrid) { // four points on one circle each: the hard case of Delaunay
    std::vector<Vec2> grid;
    for (int i = 0; i < 6; ++i)
        for (int k = 0; k < 4; ++k)
            grid.push_back({i * 10.0, k * 10.0});
    grid.push_back({0, 0}); // a point measured twice
    double area = 0;
    for (const Triangle& t : delaunay(grid))
        area += std::abs(cross(grid[t[1]] - grid[t[0]], grid[t[2]] - grid[t[0]])) / 2;
    EXPECT_NEAR(area, 50 * 30, 1e-9);
}

TEST(Triangulation, NoPointLiesInATrianglesCircle) {
    std::vector<Vec2> points;
    for (int i = 0; i < 40; ++i)
        points.push_back({std::fmod(i * 61.803398875, 100.0), std::fmod(i * 38.196601125 * 1.7, 80.0)});
    const auto triangles = delaunay(points);
    ASSERT_GT(triangles.size(), 40U);
    for (const Triangle& t : triangles) {
        const Vec2 a = points[t[0]], b = points[t[1]], c = points[t[2]];
        const double d = 2 * cross(b - a, c - a);
        const Vec2 ab = b - a, ac = c - a;
        const Vec2 centre =
            a + Vec2{(ac.y * dot(ab, ab) - ab.y * dot(ac, ac)) / d, (ab.x * dot(ac, ac) - ac.x * dot(ab, ab)) / d};
        for (const Vec2 p : points)
            EXPECT_GE(norm(p - centre), norm(a - centre) - 1e-3);
    }
}

TEST(Triangulation, PointsOnALineHaveNoTriangle) {
    EXPECT_TRUE(delaunay({{0, 0}, {1, 1}, {2, 2}}).empty());
}

TEST(DeckMap, IsExactOnAPlane) {
    const Blueprint b = plain();
    const DeckMap map(b, b.banks[0], corners(200, 200.15, 200, 200.15), 0.5); // rises 1 µm a mm along u
    EXPECT_NEAR(*map.height_at({75.25, 10}), 200.07525, 1e-6);
    EXPECT_NEAR(map.covered_share(), 1, 1e-9);
    EXPECT_FALSE(map.height_at({-1, 0}));
    EXPECT_FALSE(map.height_at({75, 51}));
}

TEST(DeckMap, CleanShareOfASlopeIsLinear) {
    const Blueprint b = plain();
    const DeckMap map(b, b.banks[0], corners(200, 200.15, 200, 200.15), 0.5);
    EXPECT_NEAR(map.clean_share(200.15), 0, 0.01);
    EXPECT_NEAR(map.clean_share(200.12), 0.2, 0.01); // a fifth of the length lies higher
    EXPECT_NEAR(map.clean_share(200.03), 0.8, 0.01);
    EXPECT_EQ(map.clean_share(200), 1);
    EXPECT_EQ(map.clean_share(300), 0);
}

// A surface given by a formula, touched at 25,000 places of a lattice that fits no cell: two thirds of the cells have
// one.
TEST(DeckMap, ADenseScanIsTheSurfaceBetweenItsTouchesAndBlankBeyondThem) {
    const Blueprint b = plain();
    const auto surface = [](Vec2 at) { return 200 + 0.0004 * at.y + 0.02 * std::sin(at.x / 30); };
    std::vector<Vec3> points;
    for (int i = 0; i < 250; ++i)
        for (int k = 0; k < 100; ++k) {
            const Vec2 at{i * 0.3, -50 + k * 1.01}; // as far as u = 75
            points.push_back({at.x, at.y, surface(at)});
        }
    const DeckMap map(b, b.banks[0], points, 0.5);
    double most = 0;
    for (int column = 0; column < map.columns() / 2; ++column)
        for (int row = 0; row < map.rows(); ++row) {
            ASSERT_FALSE(std::isnan(map.height(column, row))) << column << " " << row;
            most = std::max(most, std::abs(map.height(column, row) + map.nominal() - surface(map.middle(column, row))));
        }
    EXPECT_LT(most, 0.0005) << "a cell is half a millimetre, and the surface rises 1 µm a mm at most";
    EXPECT_FALSE(map.height_at({82, 0})) << "fourteen cells beyond the last touch";
}

TEST(DeckMap, NeverGrowsWithTheLevel) {
    const Blueprint b = pallix::test::read_small_blueprint();
    const DeckMap map(b, b.banks[0], corners(200.01, 200.05, 200.03, 200.02), 1);
    for (double w = 200; w < 200.06; w += 0.001)
        EXPECT_GE(map.clean_share(w), map.clean_share(w + 0.001));
}

TEST(DeckMap, IsBlankWhereNothingWasProbedAndInHoles) {
    const Blueprint b = pallix::test::read_small_blueprint();
    const DeckMap half(b, b.banks[0], {{0, -50, 200}, {75, -50, 200}, {0, 50, 200}, {75, 50, 200}}, 0.5);
    EXPECT_TRUE(half.height_at({20, 30}));
    EXPECT_FALSE(half.height_at({100, 30})) << "beyond the touches";
    EXPECT_FALSE(half.height_at({75, 0})) << "in the bore";
    EXPECT_FALSE(half.height_at({0.3, -40})) << "in the dowel hole";
    // Half of deck less half of the bore (30 mm radius) less the half dowel hole, over all less bore and half dowel
    // hole.
    const double bore = std::numbers::pi * 900, dowel = std::numbers::pi * 25 / 2;
    EXPECT_NEAR(half.covered_share(), (7500 - bore / 2 - dowel) / (15000 - bore - dowel), 0.005);
}
