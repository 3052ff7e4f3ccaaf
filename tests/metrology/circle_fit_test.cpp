// SPDX-License-Identifier: GPL-3.0-or-later
#include "metrology/circle_fit.h"
#include "reference_data.h"

#include <cmath>
#include <nlohmann/json.hpp>
#include <numbers>
#include <random>

using namespace pallix::metrology;
using pallix::test::reference_points2;

namespace {

std::vector<Vec2> ring(Vec2 centre, double radius, double from, double to, int count) {
    std::vector<Vec2> points;
    for (int i = 0; i < count; ++i) {
        const double a = from + (to - from) * i / count;
        points.push_back(centre + radius * Vec2{std::cos(a), std::sin(a)});
    }
    return points;
}

double squares(const std::vector<Vec2>& points, Vec2 c, double r) {
    double sum = 0;
    for (const Vec2 p : points)
        sum += std::pow(norm(p - c) - r, 2);
    return sum;
}

} // namespace

// Gander, Golub, Strebel, "Least-squares fitting of circles and ellipses", BIT 34 (1994): geometric fit, printed to
// four decimals (4.7398, 2.9835, 4.7142); the further digits by Newton's method in 50-digit arithmetic.
TEST(CircleFit, AgreesWithGanderGolubStrebel) {
    const std::vector<Vec2> points{{1, 7}, {2, 6}, {5, 8}, {7, 7}, {9, 5}, {3, 7}};
    const auto fit = fit_circle(points);
    ASSERT_TRUE(fit);
    EXPECT_NEAR(fit->centre.x, 4.739782410906074, 1e-10);
    EXPECT_NEAR(fit->centre.y, 2.983532699292475, 1e-10);
    EXPECT_NEAR(fit->radius, 4.71422603779211, 1e-10);
    EXPECT_NEAR(squares(points, fit->centre, fit->radius), 1.227599078183656, 1e-10);
}

// Apache Commons Math, test class CircleProblem: asserted there to 1e-6 and better.
TEST(CircleFit, AgreesWithCommonsMathFivePoints) {
    const std::vector<Vec2> points{{30, 68}, {50, -6}, {110, -20}, {35, 15}, {45, 97}};
    const auto fit = fit_circle(points);
    ASSERT_TRUE(fit);
    EXPECT_NEAR(fit->centre.x, 96.07590209601095, 1e-9);
    EXPECT_NEAR(fit->centre.y, 48.135167894714, 1e-9);
    EXPECT_NEAR(fit->radius, 69.96016175359975, 1e-9);
}

TEST(CircleFit, AgreesWithCommonsMathEightySevenPoints) {
    const auto points = reference_points2("circle_commons87.csv");
    ASSERT_EQ(points.size(), 87U);
    const auto fit = fit_circle(points);
    ASSERT_TRUE(fit);
    EXPECT_NEAR(fit->centre.x, -0.1517384468227677, 1e-11);
    EXPECT_NEAR(fit->centre.y, 0.2075002072612719, 1e-11);
    EXPECT_NEAR(fit->radius, 0.2922350067290692, 1e-11);
}

// The accuracy the header promises: 1e-9 mm from 60° of arc on, 1e-6 mm at 10°.
TEST(CircleFit, AgreesWithSixtyDigitArithmeticDownToShortArcs) {
    const auto sets =
        nlohmann::json::parse(pallix::test::read_file(std::string(PALLIX_TEST_DATA) + "/reference/lsq-expected.json"));
    int seen = 0;
    for (const auto& set : sets) {
        const std::string name = set["name"];
        if (!name.starts_with("circle"))
            continue;
        ++seen;
        const auto fit = fit_circle(reference_points2(set["csv"]));
        ASSERT_TRUE(fit) << name;
        const double tolerance = name == "circle_arc10" ? 1e-6 : 1e-9;
        const auto expected = [&](const char* key) {
            return pallix::test::reference_number(set["expected"][key].get<std::string>());
        };
        EXPECT_NEAR(fit->centre.x, expected("cx"), tolerance) << name;
        EXPECT_NEAR(fit->centre.y, expected("cy"), tolerance) << name;
        EXPECT_NEAR(fit->radius, expected("r"), tolerance) << name;
        EXPECT_NEAR(fit->range, set["max_res"].get<double>() - set["min_res"].get<double>(), 2 * tolerance) << name;
    }
    EXPECT_EQ(seen, 5);
}

TEST(CircleFit, NoCircleNearbyFitsBetter) {
    std::mt19937 bits(7);
    std::normal_distribution<double> noise(0, 0.01);
    for (int trial = 0; trial < 200; ++trial) {
        auto points =
            ring({noise(bits) * 1e4, noise(bits) * 1e4}, 40, 0.3, 0.3 + std::numbers::pi * (trial % 2 ? 2 : 1), 9);
        for (Vec2& p : points)
            p = p + Vec2{noise(bits), noise(bits)};
        const auto fit = fit_circle(points);
        ASSERT_TRUE(fit);
        const double best = squares(points, fit->centre, fit->radius);
        for (const Vec2 d : {Vec2{1e-5, 0}, Vec2{-1e-5, 0}, Vec2{0, 1e-5}, Vec2{0, -1e-5}}) {
            EXPECT_GE(squares(points, fit->centre + d, fit->radius), best);
            EXPECT_GE(squares(points, fit->centre, fit->radius + d.x + d.y), best);
        }
    }
}

TEST(CircleFit, ExactCircleFarFromTheOriginKeepsItsDigits) {
    const auto fit = fit_circle(ring({5000, -8000}, 31.25, 0, 2 * std::numbers::pi, 8));
    ASSERT_TRUE(fit);
    EXPECT_NEAR(fit->centre.x, 5000, 1e-9);
    EXPECT_NEAR(fit->radius, 31.25, 1e-9);
    EXPECT_LT(fit->range, 1e-9);
}

TEST(CircleFit, RefusesWhatFixesNoCircle) {
    EXPECT_EQ(fit_circle(std::vector<Vec2>{{0, 0}, {1, 0}}).error(), FitFault::too_few_points);
    EXPECT_EQ(fit_circle(std::vector<Vec2>{{0, 0}, {1, 1}, {2, 2}, {5, 5}}).error(), FitFault::degenerate);
    EXPECT_EQ(fit_circle(std::vector<Vec2>{{3, 3}, {3, 3}, {3, 3}}).error(), FitFault::degenerate);
}

TEST(CircleFit, ThreePointsAreMetExactly) {
    const auto fit = fit_circle(std::vector<Vec2>{{3, 0}, {0, 4}, {-3, 0}});
    ASSERT_TRUE(fit); // by hand: centre (0, y) with 9 + y² = (4 − y)², y = 7/8
    EXPECT_NEAR(fit->centre.x, 0, 1e-12);
    EXPECT_NEAR(fit->centre.y, 0.875, 1e-12);
    EXPECT_NEAR(fit->radius, 3.125, 1e-12);
}
