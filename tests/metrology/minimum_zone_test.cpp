// SPDX-License-Identifier: GPL-3.0-or-later
#include "metrology/minimum_zone.h"

#include "metrology/circle_fit.h"
#include "reference_data.h"

#include <cmath>
#include <glpk.h>
#include <limits>
#include <numbers>
#include <random>

using namespace pallix::metrology;
using pallix::test::reference_points2;
using pallix::test::reference_points3;

namespace {

/// The narrowest vertical gap between two parallel planes z = a + b x + c y that hold all points, as a linear programme
/// (GLPK simplex): an independent method. Divided by √(1 + b² + c²) it is their distance.
double zone_by_linear_programme(const std::vector<Vec3>& points) {
    glp_prob* lp = glp_create_prob();
    glp_term_out(GLP_OFF);
    glp_set_obj_dir(lp, GLP_MIN);
    glp_add_cols(lp, 4); // a, b, c, half gap
    for (int i = 1; i <= 3; ++i)
        glp_set_col_bnds(lp, i, GLP_FR, 0, 0);
    glp_set_col_bnds(lp, 4, GLP_LO, 0, 0);
    glp_set_obj_coef(lp, 4, 1);
    glp_add_rows(lp, 2 * static_cast<int>(points.size()));
    constexpr double scale = 100; // keeps the slopes in reach of the simplex's tolerances
    int row = 0;
    for (const Vec3 p : points)
        for (const double sign : {1.0, -1.0}) {
            ++row;
            const int index[] = {0, 1, 2, 3, 4};
            const double value[] = {0, sign, sign * p.x / scale, sign * p.y / scale, 1};
            glp_set_mat_row(lp, row, 4, index, value);
            glp_set_row_bnds(lp, row, GLP_LO, sign * p.z * 1000, 0); // heights in µm
        }
    glp_smcp parameters;
    glp_init_smcp(&parameters);
    parameters.msg_lev = GLP_MSG_OFF;
    parameters.tol_bnd = parameters.tol_dj = 1e-10;
    EXPECT_EQ(glp_simplex(lp, &parameters), 0);
    const double gap = 2 * glp_get_obj_val(lp) / 1000;
    const double b = glp_get_col_prim(lp, 2) / 1000 / scale, c = glp_get_col_prim(lp, 3) / 1000 / scale;
    glp_delete_prob(lp);
    return gap / std::sqrt(1 + b * b + c * c);
}

double ring_width(const std::vector<Vec2>& points, Vec2 c) {
    double low = std::numeric_limits<double>::infinity(), high = 0;
    for (const Vec2 p : points) {
        low = std::min(low, norm(p - c));
        high = std::max(high, norm(p - c));
    }
    return high - low;
}

/// Every centre through three points and every crossing of two bisectors, on all points: slow and sure.
double ring_zone_by_enumeration(const std::vector<Vec2>& p) {
    struct Bisector {
        Vec2 n;
        double d;
    };
    std::vector<Bisector> bisectors;
    for (std::size_t i = 0; i < p.size(); ++i)
        for (std::size_t j = 0; j < i; ++j)
            bisectors.push_back({p[i] - p[j], (dot(p[i], p[i]) - dot(p[j], p[j])) / 2});
    double best = std::numeric_limits<double>::infinity();
    for (const Bisector& a : bisectors)
        for (const Bisector& b : bisectors)
            if (const double det = cross(a.n, b.n); std::abs(det) > 1e-9)
                best = std::min(best,
                                ring_width(p, {(a.d * b.n.y - b.d * a.n.y) / det, (a.n.x * b.d - b.n.x * a.d) / det}));
    return best;
}

RingZone zone_of(const std::vector<Vec2>& points) {
    return roundness_zone(points, fit_circle(points)->centre);
}

std::vector<Vec3> random_deck(std::mt19937& bits, int count) {
    std::uniform_real_distribution<double> u(0, 420), v(-80, 80), h(-0.03, 0.03);
    std::vector<Vec3> points;
    for (int i = 0; i < count; ++i) {
        const double x = u(bits), y = v(bits);
        points.push_back({x, y, 240 + 2e-4 * x - 3e-4 * y + h(bits)});
    }
    return points;
}

} // namespace

// Widths squared are exact fractions: enumeration in rational arithmetic, confirmed by CGAL (min_strip_2, Width_3).
TEST(StripWidth, AgreesWithExactArithmetic) {
    EXPECT_NEAR(strip_width(reference_points2("str_mains5.csv")), std::sqrt(2044900.0 / 12100000001.0), 1e-13);
    EXPECT_NEAR(strip_width(reference_points2("str_deck9.csv")), std::sqrt(7840000.0 / 40000000001.0), 1e-13);
    EXPECT_NEAR(strip_width(reference_points2("str_steep.csv")), std::sqrt(25.0 / 13.0), 1e-13);
}

TEST(StripWidth, PointsOnALineNeedNoWidth) {
    EXPECT_EQ(strip_width(std::vector<Vec2>{{0, 0}, {1, 1}}), 0);
    EXPECT_NEAR(strip_width(std::vector<Vec2>{{0, 0}, {1, 2}, {2, 4}, {3, 6}, {3, 6}}), 0, 1e-14);
}

TEST(FlatnessZone, AgreesWithExactArithmetic) {
    EXPECT_NEAR(flatness_zone(reference_points3("flat_deck15.csv")).width, std::sqrt(406505700.0 / 190588235417.0),
                1e-11);
    EXPECT_NEAR(flatness_zone(reference_points3("flat_grid9.csv")).width, 0.016499999984046, 1e-11);
    EXPECT_NEAR(flatness_zone(reference_points3("flat_saddle4.csv")).width, 0.02, 1e-11);
    EXPECT_NEAR(flatness_zone(reference_points3("flat_tilt9.csv")).width, std::sqrt(40000.0 / 50000001.0), 1e-11);
}

TEST(FlatnessZone, AgreesWithALinearProgramme) {
    std::mt19937 bits(11);
    for (int trial = 0; trial < 60; ++trial) {
        const auto points = random_deck(bits, 4 + trial % 40);
        EXPECT_NEAR(flatness_zone(points).width, zone_by_linear_programme(points), 1e-9) << "trial " << trial;
    }
}

TEST(FlatnessZone, AgreesWithALinearProgrammeOnAScan) {
    std::mt19937 bits(12);
    const auto points = random_deck(bits, 3000);
    const PlaneZone zone = flatness_zone(points);
    EXPECT_NEAR(zone.width, zone_by_linear_programme(points), 1e-9);
    double low = 1e9, high = -1e9;
    for (const Vec3 p : points) {
        low = std::min(low, dot(p, zone.normal));
        high = std::max(high, dot(p, zone.normal));
    }
    EXPECT_NEAR(high - low, zone.width, 1e-10) << "the zone along its normal holds every point";
}

TEST(FlatnessZone, ThickSetsToo) { // a unit cube: the narrowest way through it is its edge
    std::vector<Vec3> cube;
    for (const double x : {0.0, 1.0})
        for (const double y : {0.0, 1.0})
            for (const double z : {0.0, 1.0})
                cube.push_back({x, y, z});
    EXPECT_NEAR(flatness_zone(cube).width, 1, 1e-11);
    // A regular tetrahedron of edge √2 is narrowest between two opposite edges, which lie 1 apart.
    EXPECT_NEAR(flatness_zone(std::vector<Vec3>{{0, 0, 0}, {1, 1, 0}, {1, 0, 1}, {0, 1, 1}}).width, 1, 1e-11);
}

TEST(FlatnessZone, IsNeverWiderThanTheLeastSquaresPlaneSays) {
    std::mt19937 bits(13);
    for (int trial = 0; trial < 100; ++trial) {
        const auto points = random_deck(bits, 12);
        const double zone = flatness_zone(points).width;
        EXPECT_GT(zone, 0);
        EXPECT_LE(zone, 0.06 + 1e-9);
    }
}

TEST(FlatnessZone, PerfectPlanesAndFewPoints) {
    EXPECT_EQ(flatness_zone(std::vector<Vec3>{{0, 0, 0}, {1, 0, 0}, {0, 1, 5}}).width, 0);
    std::vector<Vec3> plane;
    for (int i = 0; i < 20; ++i)
        for (int k = 0; k < 20; ++k)
            plane.push_back({i * 20.0, k * 8.0, 215 + 0.001 * i - 0.002 * k});
    EXPECT_LT(flatness_zone(plane).width, 1e-10);
    const std::vector<Vec3> same(10, Vec3{1, 2, 3});
    EXPECT_EQ(flatness_zone(same).width, 0);
}

TEST(RoundnessZone, AgreesWithExactArithmetic) {
    const auto int8 = zone_of(reference_points2("round_int8.csv"));
    EXPECT_NEAR(int8.width, 1.03770702844054, 1e-12);
    EXPECT_NEAR(int8.centre.x, 0, 1e-12);
    EXPECT_NEAR(int8.centre.y, 4.0 / 19, 1e-12);
    EXPECT_NEAR(zone_of(reference_points2("round_plus8.csv")).width, 105 - 70 * std::numbers::sqrt2, 1e-12);
    EXPECT_NEAR(zone_of(reference_points2("circle_bore86_full.csv")).width, 0.0109226884572291, 1e-12);
    EXPECT_NEAR(zone_of(reference_points2("circle_far.csv")).width, 0.0162218467360412, 1e-11);
    EXPECT_NEAR(zone_of(reference_points2("round_3lobe24.csv")).width, 0.0125166910013744, 1e-12);
}

TEST(RoundnessZone, AgreesWithEnumeration) {
    std::mt19937 bits(21);
    std::normal_distribution<double> noise(0, 0.004);
    for (int trial = 0; trial < 150; ++trial) {
        std::vector<Vec2> points;
        const int count = 4 + trial % 10;
        for (int i = 0; i < count; ++i) {
            const double a = 2 * std::numbers::pi * (i + 0.2) / count, r = 43 + noise(bits);
            points.push_back({12 + r * std::cos(a), -7 + r * std::sin(a)});
        }
        EXPECT_NEAR(zone_of(points).width, ring_zone_by_enumeration(points), 1e-11) << "trial " << trial;
    }
}

// r = R + a·cos(n·t) at its 2n extremes: the zone is 2a wide (by symmetry).
TEST(RoundnessZone, LobedRings) {
    for (const int lobes : {2, 3, 5, 8}) {
        std::vector<Vec2> points;
        for (int k = 0; k < 2 * lobes; ++k) {
            const double t = std::numbers::pi * k / lobes, r = 40 + 0.01 * std::cos(lobes * t);
            points.push_back({r * std::cos(t), r * std::sin(t)});
        }
        EXPECT_NEAR(zone_of(points).width, 0.02, 1e-12) << lobes;
    }
}

TEST(RoundnessZone, FewerThanFourPointsAreRound) {
    EXPECT_EQ(roundness_zone(std::vector<Vec2>{{1, 0}, {0, 1}, {-1, 0}}, {0, 0}).width, 0);
}
