// SPDX-License-Identifier: GPL-3.0-or-later
#include "metrology/surface_texture.h"

#include <algorithm>
#include <boost/math/distributions/normal.hpp>
#include <cmath>
#include <gtest/gtest.h>
#include <numbers>
#include <random>

using namespace pallix::metrology;

namespace {

Profile wave(double length, double step, double wavelength, double amplitude = 1) {
    Profile p{step, {}};
    for (double x = 0; x <= length + step / 2; x += step)
        p.heights.push_back(amplitude * std::sin(2 * std::numbers::pi * x / wavelength));
    return p;
}

/// An Abbott curve through nodes (ratio, height), as heights in a shuffled order.
std::vector<double> heights_of(const std::vector<std::pair<double, double>>& nodes, int intervals = 10000) {
    std::vector<double> heights;
    for (int i = 0; i <= intervals; ++i) {
        const double m = static_cast<double>(i) / intervals;
        const auto after =
            std::find_if(nodes.begin() + 1, nodes.end() - 1, [m](const auto& n) { return n.first >= m; });
        const auto before = after - 1;
        heights.push_back(before->second +
                          (after->second - before->second) * (m - before->first) / (after->first - before->first));
    }
    std::shuffle(heights.begin(), heights.end(), std::mt19937(7));
    return heights;
}

} // namespace

TEST(Roughness, SineAndTriangleByTheirIntegrals) { // Ra 2/π, Rq 1/√2; triangle 1/2, 1/√3
    const Roughness sine = roughness_of(wave(10, 0.0005, 1), 1);
    EXPECT_NEAR(sine.ra, 2 / std::numbers::pi, 1e-4);
    EXPECT_NEAR(sine.rq, 1 / std::numbers::sqrt2, 1e-4);
    EXPECT_NEAR(sine.rz, 2, 1e-5) << "crest to trough in every length";
    EXPECT_EQ(sine.lengths, 10U);
    Profile triangle{0.0005, {}};
    for (int i = 0; i < 20000; ++i) {
        const double phase = (i % 2000) / 2000.0;
        triangle.heights.push_back(phase < 0.5 ? 4 * phase - 1 : 3 - 4 * phase);
    }
    const Roughness r = roughness_of(triangle, 1);
    EXPECT_NEAR(r.ra, 0.5, 1e-4);
    EXPECT_NEAR(r.rq, 0.577350269, 1e-4);
}

TEST(GaussianFilter, KeepsOfEveryWaveWhatTheStandardStates) { // 1 − 2^−(λc/λ)², ISO 16610-21
    struct {
        double wavelength, gain;
    } const cases[]{{0.4, 0.9375}, {0.8, 0.5}, {1.6, 0.159103584746}, {2.5, 0.0685178681866}};
    for (const auto& c : cases) {
        const Profile p = wave(12 * c.wavelength + 4, 0.002, c.wavelength);
        const std::vector<double> mean = gaussian_mean_line(p, 0.8);
        double largest = 0; // amplitude left, well away from the ends
        for (std::size_t i = 500; i + 500 < p.heights.size(); ++i)
            largest = std::max(largest, std::abs(p.heights[i] - mean[i]));
        EXPECT_NEAR(largest, c.gain, 1e-4) << c.wavelength;
    }
}

TEST(GaussianFilter, LeavesALevelLineAtNothingUpToItsEnds) {
    const Profile level{0.01, std::vector<double>(400, 3.25)};
    for (const double z : gaussian_mean_line(level, 0.8))
        EXPECT_NEAR(z, 3.25, 1e-12);
    EXPECT_NEAR(roughness_profile(level, 0.8).length(), 3.99 - 0.8, 0.011) << "half a cutoff less at either end";
}

TEST(GaussianFilter, DeepGroovesDoNotPullTheSecondLineDown) {
    Profile grooved{0.001, std::vector<double>(5600, 0.0)};
    for (std::size_t i = 200; i < grooved.heights.size(); i += 400)
        for (std::size_t k = 0; k < 40 && i + k < grooved.heights.size(); ++k)
            grooved.heights[i + k] = -1;
    const Profile once = roughness_profile(grooved, 0.8), twice = roughness_profile_with_valleys(grooved, 0.8);
    const auto top = [](const Profile& p) { return *std::ranges::max_element(p.heights); };
    EXPECT_GT(top(once), 0.08) << "a tenth of the length lies one lower: the line goes down by about 0.1";
    EXPECT_LT(top(twice), 0.02);
}

TEST(MaterialRatio, PiecewiseCurvesByHand) { // ISO 13565-2; worked out exactly from straight pieces
    const auto a = material_ratio(heights_of({{0, 3}, {0.1, 0.8}, {0.8, -0.6}, {1, -5}}));
    ASSERT_TRUE(a);
    EXPECT_NEAR(a->rk, 2, 1e-9);
    EXPECT_NEAR(a->rpk, 2, 1e-3);
    EXPECT_NEAR(a->rvk, 4, 1e-3);
    EXPECT_NEAR(a->mr1, 1.0 / 11, 1e-6);
    EXPECT_NEAR(a->mr2, 9.0 / 11, 1e-6);
    const auto b = material_ratio(heights_of({{0, 6}, {0.02, 2}, {0.1, 0.8}, {0.8, -0.6}, {0.9, -1.4}, {1, -7}}));
    ASSERT_TRUE(b);
    EXPECT_NEAR(b->rk, 2, 1e-9);
    EXPECT_NEAR(b->rpk, 28.0 / 13, 2e-3);
    EXPECT_NEAR(b->rvk, 4.4, 2e-3);
    EXPECT_NEAR(b->mr1, 0.26 / 3, 1e-6);
    EXPECT_NEAR(b->mr2, 0.85, 1e-6);
}

TEST(MaterialRatio, NormallySpreadHeights) { // quantiles of the normal distribution; Rk and the rest by integration
    std::vector<double> heights;
    const boost::math::normal standard;
    constexpr int n = 200001;
    for (int i = 0; i < n; ++i)
        heights.push_back(boost::math::quantile(standard, (i + 0.5) / n));
    const auto m = material_ratio(heights);
    ASSERT_TRUE(m);
    // The exact values; 200,001 heights reach four and a half sigma out, the distribution further.
    EXPECT_NEAR(m->rk, 2.57395610795, 2e-5);
    EXPECT_NEAR(m->rpk, 0.945030726422, 2e-4);
    EXPECT_NEAR(m->rvk, 0.945030726422, 2e-4);
    EXPECT_NEAR(100 * m->mr1, 9.90509687581, 2e-3);
    EXPECT_NEAR(m->mr2, 1 - m->mr1, 1e-9);
}

TEST(MaterialRatio, NothingOfOneHeightOrOfTooFew) {
    EXPECT_FALSE(material_ratio(std::vector<double>(50, 1.0)));
    EXPECT_FALSE(material_ratio({1, 2, 3}));
}
