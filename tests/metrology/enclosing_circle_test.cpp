// SPDX-License-Identifier: GPL-3.0-or-later
#include "metrology/enclosing_circle.h"

#include "reference_data.h"

#include <algorithm>
#include <random>

using namespace pallix::metrology;
using pallix::test::reference_points2;

namespace {

/// The smallest circle that holds all points, by trying every pair and triple.
double by_exhaustion(const std::vector<Vec2>& p) {
    const auto holds_all = [&](Vec2 c, double r) {
        return std::all_of(p.begin(), p.end(), [&](Vec2 q) { return norm(q - c) <= r + 1e-9; });
    };
    double best = 1e9;
    for (std::size_t i = 0; i < p.size(); ++i)
        for (std::size_t j = i + 1; j < p.size(); ++j) {
            if (const double r = norm(p[i] - p[j]) / 2; r < best && holds_all(0.5 * (p[i] + p[j]), r))
                best = r;
            for (std::size_t k = j + 1; k < p.size(); ++k) {
                const Vec2 a = p[j] - p[i], b = p[k] - p[i];
                const double d = 2 * cross(a, b);
                if (std::abs(d) < 1e-9)
                    continue;
                const Vec2 c{(b.y * dot(a, a) - a.y * dot(b, b)) / d, (a.x * dot(b, b) - b.x * dot(a, a)) / d};
                if (const double r = norm(c); r < best && holds_all(p[i] + c, r))
                    best = r;
            }
        }
    return best;
}

} // namespace

TEST(EnclosingCircle, HoldsPublishedSets) { // expected by exact fractions, confirmed by CGAL 5.5 Min_circle_2
    const Circle eight = enclosing_circle(reference_points2("round_int8.csv"));
    EXPECT_NEAR(eight.centre.x, 0.0143884892086331, 1e-12);
    EXPECT_NEAR(eight.centre.y, 0.215827338129496, 1e-12);
    EXPECT_NEAR(eight.radius, 10.7841822605915, 1e-12);
    EXPECT_NEAR(enclosing_circle(reference_points2("circle_bore86_full.csv")).radius, 43.0103065, 1e-9);
    const Circle far = enclosing_circle(reference_points2("circle_far.csv"));
    EXPECT_NEAR(far.radius, 40.0066639590751, 1e-9);
    EXPECT_NEAR(far.centre.x, 1234.56878708904, 1e-9);
}

TEST(EnclosingCircle, AgreesWithEveryPairAndTripleTried) {
    std::mt19937 random(11);
    std::uniform_real_distribution<double> at(-50, 50);
    for (int round = 0; round < 200; ++round) {
        std::vector<Vec2> points;
        for (int i = 0; i < 3 + round % 12; ++i)
            points.push_back({at(random), at(random)});
        EXPECT_NEAR(enclosing_circle(points).radius, by_exhaustion(points), 1e-8) << round;
    }
}

TEST(EnclosingCircle, SmallAndDegenerateSets) {
    EXPECT_EQ(enclosing_circle({}).radius, 0);
    const std::vector<Vec2> one{{3, 4}};
    EXPECT_EQ(enclosing_circle(one).radius, 0);
    const std::vector<Vec2> line{{0, 0}, {1, 1}, {2, 2}, {4, 4}, {1, 1}};
    EXPECT_NEAR(enclosing_circle(line).radius, 2 * std::sqrt(2.0), 1e-12);
    EXPECT_NEAR(enclosing_circle(line).centre.x, 2, 1e-12);
}
