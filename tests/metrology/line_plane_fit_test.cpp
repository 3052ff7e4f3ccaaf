// SPDX-License-Identifier: GPL-3.0-or-later
#include "metrology/line_fit.h"
#include "metrology/plane_fit.h"
#include "reference_data.h"

#include <nlohmann/json.hpp>
#include <random>

using namespace pallix::metrology;

namespace {

double reference(const std::string& set_name, const char* key) {
    const auto sets =
        nlohmann::json::parse(pallix::test::read_file(std::string(PALLIX_TEST_DATA) + "/reference/lsq-expected.json"));
    for (const auto& set : sets)
        if (set["name"] == set_name)
            return pallix::test::reference_number(set["expected"][key].get<std::string>());
    ADD_FAILURE() << set_name;
    return 0;
}

} // namespace

// Pearson, "On lines and planes of closest fit" (1901), ten points: 5.784 − 0.5456 x; the further digits by SVD.
TEST(LineFit, AgreesWithPearson) {
    const std::vector<double> x{0, .9, 1.8, 2.6, 3.3, 4.4, 5.2, 6.1, 6.5, 7.4},
        y{5.9, 5.4, 4.4, 4.6, 3.5, 3.7, 2.8, 2.8, 2.4, 1.5};
    std::vector<Vec3> points;
    for (std::size_t i = 0; i < x.size(); ++i)
        points.push_back({x[i], y[i], 0});
    const auto fit = fit_line(points);
    ASSERT_TRUE(fit);
    const double slope = fit->direction.y / fit->direction.x;
    EXPECT_NEAR(slope, -0.5455611975209646, 1e-12);
    EXPECT_NEAR(fit->point.y - slope * fit->point.x, 5.784043774530085, 1e-12);
    EXPECT_GT(fit->direction.x, 0) << "from the first point towards the last";
}

TEST(LineFit, AgreesWithSixtyDigitArithmeticInSpace) {
    const auto fit = fit_line(pallix::test::reference_points3("line3d_crankaxis.csv"));
    ASSERT_TRUE(fit);
    const Vec3 d = fit->direction;
    EXPECT_NEAR(d.x / d.z, reference("line3d_crankaxis", "dxdz"), 1e-12);
    EXPECT_NEAR(d.y / d.z, reference("line3d_crankaxis", "dydz"), 1e-12);
    EXPECT_NEAR(fit->point.x - d.x / d.z * fit->point.z, reference("line3d_crankaxis", "x0"), 1e-9);
    EXPECT_NEAR(fit->point.y - d.y / d.z * fit->point.z, reference("line3d_crankaxis", "y0"), 1e-9);
}

TEST(LineFit, LargestDistanceIsThatOfTheWorstPoint) {
    const auto fit = fit_line(std::vector<Vec3>{{-2, 1, 0}, {-1, -1, 0}, {1, -1, 0}, {2, 1, 0}});
    ASSERT_TRUE(fit); // symmetric: the x axis
    EXPECT_NEAR(fit->largest_distance, 1, 1e-12);
}

TEST(LineFit, RefusesPointsInOnePlace) {
    EXPECT_EQ(fit_line(std::vector<Vec3>{{1, 2, 3}}).error(), FitFault::too_few_points);
    EXPECT_EQ(fit_line(std::vector<Vec3>{{1, 2, 3}, {1, 2, 3}}).error(), FitFault::degenerate);
}

TEST(PlaneFit, AgreesWithSixtyDigitArithmetic) {
    for (const std::string name : {"plane_deck", "plane_45deg"}) {
        const auto fit = fit_plane(pallix::test::reference_points3(name + ".csv"));
        ASSERT_TRUE(fit);
        const Vec3 n = (1 / fit->normal.z) * fit->normal; // z = a + b x + c y has the normal (−b, −c, 1)
        EXPECT_NEAR(-n.x, reference(name, "b"), 1e-11) << name;
        EXPECT_NEAR(-n.y, reference(name, "c"), 1e-11) << name;
        EXPECT_NEAR(dot(n, fit->point), reference(name, "a"), 1e-8) << name;
    }
}

TEST(PlaneFit, TurnsWithItsPoints) {
    std::mt19937 bits(3);
    std::uniform_real_distribution<double> place(-200, 200), height(-0.02, 0.02);
    std::vector<Vec3> points;
    for (int i = 0; i < 40; ++i)
        points.push_back({place(bits), place(bits), height(bits)});
    const auto flat = fit_plane(points);
    ASSERT_TRUE(flat);
    const double c = std::cos(0.6), s = std::sin(0.6);
    for (Vec3& p : points)
        p = {p.x, c * p.y - s * p.z, s * p.y + c * p.z};
    const auto turned = fit_plane(points);
    ASSERT_TRUE(turned);
    EXPECT_NEAR(turned->range, flat->range, 1e-12);
    const Vec3 n = facing(flat->normal, {0, 0, 1});
    const Vec3 expected{n.x, c * n.y - s * n.z, s * n.y + c * n.z};
    EXPECT_NEAR(std::abs(dot(turned->normal, expected)), 1, 1e-14);
}

TEST(PlaneFit, RefusesPointsOnALine) {
    EXPECT_EQ(fit_plane(std::vector<Vec3>{{0, 0, 0}, {1, 1, 1}, {2, 2, 2}}).error(), FitFault::degenerate);
    EXPECT_EQ(fit_heights(std::vector<Vec3>{{0, 0, 1}, {1, 1, 2}, {2, 2, 5}}).error(), FitFault::degenerate);
}

TEST(HeightFit, FindsAnExactSlope) {
    std::vector<Vec3> points;
    for (const double u : {0.0, 100.0, 400.0})
        for (const double v : {-70.0, 70.0})
            points.push_back({u, v, 215 + 1e-4 * u - 3e-4 * v});
    const auto fit = fit_heights(points);
    ASSERT_TRUE(fit);
    EXPECT_NEAR(fit->height, 215, 1e-10);
    EXPECT_NEAR(fit->slope_u, 1e-4, 1e-14);
    EXPECT_NEAR(fit->slope_v, -3e-4, 1e-14);
}
