// SPDX-License-Identifier: GPL-3.0-or-later
#include "metrology/monte_carlo.h"

#include <array>
#include <atomic>
#include <cmath>
#include <gtest/gtest.h>
#include <numbers>

using namespace pallix::metrology;

namespace {

/// The sum of four rectangular quantities of mean 0; each has the standard deviation given.
Trial sum_of_rectangulars(std::array<double, 4> deviations) {
    return [deviations](Deviates& draw, std::span<double> out) {
        out[0] = 0;
        for (const double s : deviations)
            out[0] += s * std::numbers::sqrt3 * (2 * draw.uniform() - 1);
        return true;
    };
}

MonteCarloRun run_of(std::size_t trials, unsigned threads = 2) {
    MonteCarloRun run;
    run.trials = trials;
    run.seed = 7;
    run.threads = threads;
    return run;
}

} // namespace

// JCGM 101:2008, 9.2.3: four rectangular inputs of standard deviation 1. The published interval is ± 3.88; convolving
// the four exactly gives ± 3.8794. The framework of uncertainty propagation would say ± 3.92.
TEST(MonteCarlo, AdditiveModelWithEqualRectangularInputs) {
    const auto d = monte_carlo(1, sum_of_rectangulars({1, 1, 1, 1}), run_of(200'000));
    ASSERT_TRUE(d);
    EXPECT_NEAR(d->front().standard_deviation, 2, 0.01);
    EXPECT_NEAR(d->front().low, -3.8794067413, 0.02);
    EXPECT_NEAR(d->front().high, 3.8794067413, 0.02);
    EXPECT_LT(d->front().high, 3.91) << "the normal answer is wider";
}

// JCGM 101:2008, 9.2.4: one of the four has standard deviation 10 and dominates; published ± 17.0.
TEST(MonteCarlo, AdditiveModelWithOneDominantInput) {
    const auto d = monte_carlo(1, sum_of_rectangulars({1, 1, 1, 10}), run_of(200'000));
    ASSERT_TRUE(d);
    EXPECT_NEAR(d->front().standard_deviation, std::sqrt(103.0), 0.05);
    EXPECT_NEAR(d->front().high, 17.0158141027, 0.06);
}

// JCGM 101:2008, 9.2.2: four normal inputs: ± 3.92.
TEST(MonteCarlo, NormalInputsGiveTheNormalAnswer) {
    const Trial trial = [](Deviates& draw, std::span<double> out) {
        out[0] = draw.normal() + draw.normal() + draw.normal() + draw.normal();
        return true;
    };
    const auto d = monte_carlo(1, trial, run_of(200'000));
    ASSERT_TRUE(d);
    EXPECT_NEAR(d->front().mean, 0, 0.02);
    EXPECT_NEAR(d->front().high, 3.9199, 0.03);
}

TEST(MonteCarlo, SameSeedSameAnswerOnAnyNumberOfThreads) {
    const auto one = monte_carlo(1, sum_of_rectangulars({1, 2, 3, 4}), run_of(1000, 1));
    const auto three = monte_carlo(1, sum_of_rectangulars({1, 2, 3, 4}), run_of(1000, 3));
    ASSERT_TRUE(one && three);
    EXPECT_EQ(one->front().mean, three->front().mean);
    EXPECT_EQ(one->front().low, three->front().low);
    MonteCarloRun other = run_of(1000, 1);
    other.seed = 8;
    EXPECT_NE(monte_carlo(1, sum_of_rectangulars({1, 2, 3, 4}), other)->front().mean, one->front().mean);
}

TEST(MonteCarlo, TellsProgressAndStopsWhenCancelled) {
    std::atomic<bool> cancelled = false;
    double largest = 0;
    std::atomic<std::size_t> drawn = 0;
    MonteCarloRun run = run_of(100'000);
    run.cancelled = &cancelled;
    run.progress = [&](double share) {
        largest = std::max(largest, share);
        if (share > 0.1)
            cancelled = true;
    };
    const Trial trial = [&](Deviates& draw, std::span<double> out) {
        ++drawn;
        out[0] = draw.normal();
        return true;
    };
    EXPECT_FALSE(monte_carlo(1, trial, run));
    EXPECT_GT(largest, 0.1);
    EXPECT_LT(drawn, 50'000U);
}

TEST(MonteCarlo, DrawsWithoutAResultAreLeftOutAndTooManyOfThemAreNoAnswer) {
    const auto failing = [](double share) {
        return [share](Deviates& draw, std::span<double> out) {
            out[0] = 5;
            return draw.uniform() > share;
        };
    };
    const auto some = monte_carlo(1, failing(0.3), run_of(1000));
    ASSERT_TRUE(some);
    EXPECT_EQ(some->front().mean, 5);
    EXPECT_FALSE(monte_carlo(1, failing(0.8), run_of(1000)));
}
