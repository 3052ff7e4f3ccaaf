// SPDX-License-Identifier: GPL-3.0-or-later
#include "metrology/uncertainty.h"

#include "metrology/circle_fit.h"
#include "metrology/monte_carlo.h"
#include "reference_data.h"

#include <numbers>

using namespace pallix::metrology;

namespace {

/// NIST StRD univariate data: certified values in the head, the data after the line of dashes.
std::vector<double> nist(const std::string& name) {
    std::istringstream in(pallix::test::read_file(std::string(PALLIX_TEST_DATA) + "/reference/nist/" + name + ".txt"));
    std::vector<double> values;
    bool data = false;
    for (std::string line; std::getline(in, line);) {
        if (data && line.find_first_of("0123456789") != std::string::npos)
            values.push_back(pallix::test::reference_number(line));
        data = data || line.starts_with("------");
    }
    return values;
}

} // namespace

// NIST Statistical Reference Datasets, univariate: certified mean and standard deviation.
TEST(Repeatability, AgreesWithCertifiedData) {
    const Repeatability light = repeatability(nist("Michelso"));
    EXPECT_EQ(light.count, 100U);
    EXPECT_NEAR(light.mean, 299.852400000000, 1e-12);
    EXPECT_NEAR(light.standard_deviation, 0.0790105478190518, 1e-13);
    EXPECT_NEAR(light.of_mean(), 0.00790105478190518, 1e-14);
    const Repeatability filter = repeatability(nist("Mavro"));
    EXPECT_NEAR(filter.mean, 2.00185600000000, 1e-13);
    EXPECT_NEAR(filter.standard_deviation, 0.000429123454003053, 1e-14);
}

// NumAcc4: values of ten million that differ by a tenth, exact answer 0.1. Their own rounding to doubles leaves 8
// digits; a naive sum of squares would leave none.
TEST(Repeatability, KeepsItsDigitsOnLargeValues) {
    const Repeatability r = repeatability(nist("NumAcc4"));
    EXPECT_EQ(r.count, 1001U);
    EXPECT_NEAR(r.mean, 10000000.2, 1e-8);
    EXPECT_NEAR(r.standard_deviation, 0.1, 1e-8);
}

TEST(Repeatability, OfOneOrNoneIsNothing) {
    EXPECT_EQ(repeatability({}).standard_deviation, 0);
    const std::vector<double> one{3};
    EXPECT_EQ(repeatability(one).mean, 3);
    EXPECT_EQ(repeatability(one).standard_deviation, 0);
}

TEST(Contributions, FollowTheGuide) { // JCGM 100:2008, 4.3.7 and F.2.2.1
    EXPECT_NEAR(of_half_width(0.003), 0.003 / std::numbers::sqrt3, 1e-15);
    EXPECT_NEAR(of_resolution(0.002), 0.29 * 0.002, 1e-5);
    EXPECT_NEAR(of_spread_drift(-0.012, 0.5), 0.006, 1e-15) << "half the way: not yet, or all of it";
    EXPECT_NEAR(of_spread_drift(-0.012, 0.1), 0.0036, 1e-15);
    const std::vector<Contribution> parts{{"a", 3}, {"b", 4}, {"c", 12}};
    EXPECT_EQ(combined(parts), 13);
}

// Length at 20 °C exactly is D(1+αg(Tg−20))/(1+αp(Tp−20)); values worked out in 60 digits.
TEST(Temperature, IsCorrectedToTwentyDegrees) {
    const auto at20 = [](double d, const Thermal& t) { return d + thermal_correction(d, t); };
    EXPECT_NEAR(at20(86, {25, 25, 11e-6, 11.5e-6}), 86.0002149882, 2e-7);
    EXPECT_NEAR(at20(450, {30, 30, 23e-6, 11.5e-6}), 449.9482618998, 2e-5) << "first order: 1.2e-5 of 450 mm";
    EXPECT_NEAR(at20(86, {35, 21, 10.5e-6, 11.5e-6}), 85.9874459773, 3e-6);
    // A 100 mm iron bore and its steel gauge, both at 30 °C: +1.0 µm, not −10.5.
    EXPECT_NEAR(thermal_correction(100, {30, 30, 10.5e-6, 11.5e-6}), 0.001, 1e-12);
    EXPECT_EQ(thermal_correction(100, {20, 20, 22e-6, 11.5e-6}), 0);
}

TEST(Temperature, UncertaintyByHand) {
    // At 20 °C only the thermometers count: 100·√((10e-6·0.5)² + (11.5e-6·0.5)²).
    EXPECT_NEAR(thermal_uncertainty(100, {20, 20, 10e-6, 11.5e-6}), 100 * std::hypot(5e-6, 5.75e-6), 1e-15);
    // 10 K off, coefficients known to 10 %: 100·√((5e-6)² + (10·1e-6)² + (5.75e-6)² + (10·1.15e-6)²).
    EXPECT_NEAR(thermal_uncertainty(100, {30, 30, 10e-6, 11.5e-6}),
                100 * std::sqrt(25e-12 + 100e-12 + 33.0625e-12 + 132.25e-12), 1e-15);
}

TEST(CircleCovariance, OfAFullRingByHand) { // (JᵀJ) is diagonal: n/2, n/2, n
    std::vector<double> angles;
    for (int i = 0; i < 8; ++i)
        angles.push_back(2 * std::numbers::pi * i / 8);
    const auto c = circle_covariance(angles);
    ASSERT_TRUE(c);
    EXPECT_NEAR((*c)[0], 2.0 / 8, 1e-12);
    EXPECT_NEAR((*c)[4], 2.0 / 8, 1e-12);
    EXPECT_NEAR((*c)[8], 1.0 / 8, 1e-12);
    EXPECT_NEAR((*c)[1], 0, 1e-12);
    EXPECT_FALSE(circle_covariance(std::vector<double>{0.1, 0.1, 0.1}));
}

// An arc of a third of a ring: the fit drawn again and again scatters as its covariance says.
TEST(CircleCovariance, AgreesWithDrawsOnAnArc) {
    constexpr double sigma = 0.002, r = 30;
    std::vector<double> angles;
    for (int i = 0; i < 12; ++i)
        angles.push_back(2.0 * i / 11);
    const auto c = circle_covariance(angles);
    ASSERT_TRUE(c);
    const Trial trial = [&](Deviates& draw, std::span<double> out) {
        std::vector<Vec2> points;
        for (const double a : angles)
            points.push_back({r * std::cos(a) + sigma * draw.normal(), r * std::sin(a) + sigma * draw.normal()});
        const auto fit = fit_circle(points);
        if (!fit)
            return false;
        out[0] = fit->centre.x;
        out[1] = fit->centre.y;
        out[2] = fit->radius;
        return true;
    };
    MonteCarloRun run;
    run.trials = 4000;
    const auto drawn = monte_carlo(3, trial, run);
    ASSERT_TRUE(drawn);
    for (const std::size_t k : {0U, 1U, 2U}) { // 4000 draws know a standard deviation to 1.1 %
        const double said = sigma * std::sqrt((*c)[4 * k]);
        EXPECT_NEAR((*drawn)[k].standard_deviation, said, 0.05 * said) << k;
    }
}
