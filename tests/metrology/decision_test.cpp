// SPDX-License-Identifier: GPL-3.0-or-later
#include "metrology/decision.h"

#include <cmath>
#include <gtest/gtest.h>
#include <limits>

using namespace pallix::metrology;

namespace {

// ISO 14253-1 zones worked out by hand for a bore of 64.000 to 64.019 and a standard uncertainty of 0.0012.
constexpr Limits bore{64.000, 64.019};
constexpr double known_u = 0.0012;

} // namespace

TEST(Decision, GuardBandOfTwoStandardUncertainties) { // conformity is proven from 64.0024 to 64.0166
    EXPECT_EQ(decide(64.00241, known_u, bore), Verdict::meets);
    EXPECT_EQ(decide(64.00239, known_u, bore), Verdict::cannot_tell);
    EXPECT_EQ(decide(64.01659, known_u, bore), Verdict::meets);
    EXPECT_EQ(decide(64.01661, known_u, bore), Verdict::cannot_tell);
    EXPECT_EQ(decide(63.99761, known_u, bore), Verdict::cannot_tell);
    EXPECT_EQ(decide(63.99759, known_u, bore), Verdict::fails);
    EXPECT_EQ(decide(64.02141, known_u, bore), Verdict::fails);
}

TEST(Decision, NewerEditionGuardsByOneSidedNinetyFivePercent) { // 1.65 u: 64.00198 to 64.01702
    EXPECT_EQ(decide(64.00199, known_u, bore, {1.65}), Verdict::meets);
    EXPECT_EQ(decide(64.00197, known_u, bore, {1.65}), Verdict::cannot_tell);
    EXPECT_EQ(decide(64.01701, known_u, bore, {1.65}), Verdict::meets);
    EXPECT_EQ(decide(64.01703, known_u, bore, {1.65}), Verdict::cannot_tell);
}

TEST(Decision, UnknownUncertaintyProvesNothing) {
    EXPECT_EQ(decide(64.01, std::nullopt, bore), Verdict::cannot_tell);
    EXPECT_EQ(decide(70, std::nullopt, bore), Verdict::cannot_tell);
}

TEST(Decision, NoLimitProvesNothing) {
    EXPECT_EQ(decide(64.01, known_u, {}), Verdict::cannot_tell);
    EXPECT_EQ(settle(64.01, {0.001, 0.001, 1}, {}).by, SettledBy{});
}

TEST(Decision, OneSidedLimits) {
    EXPECT_EQ(decide(-100, 0.001, {std::nullopt, 0.05}), Verdict::meets);
    EXPECT_EQ(decide(0.06, 0.001, {std::nullopt, 0.05}), Verdict::fails);
    EXPECT_EQ(decide(5, 0.001, {1.0, std::nullopt}), Verdict::meets);
}

TEST(Decision, AWindowNarrowerThanTheGuardIsNeverMet) {
    for (double value = 9.99; value < 10.01; value += 0.0005)
        EXPECT_NE(decide(value, 0.005, {9.997, 10.003}), Verdict::meets) << value;
}

TEST(Decision, TheWorseVerdictCounts) {
    EXPECT_EQ(worse(Verdict::meets, Verdict::cannot_tell), Verdict::cannot_tell);
    EXPECT_EQ(worse(Verdict::fails, Verdict::cannot_tell), Verdict::fails);
}

TEST(Settling, IsEnoughWhereMoreWouldChangeNothing) {
    EXPECT_EQ(settle(64.01, {0.0012, 0, 1}, bore).by, SettledBy::nothing_needed);
    EXPECT_EQ(settle(64.1, {0.0012, 0, 1}, bore).by, SettledBy::nothing_needed);
}

TEST(Settling, CountsTheReadingsByHand) {
    // 0.002 from the limit needs u ≤ 0.001; with 0.0006 fixed the rest may be 0.0008: (0.0016/0.0008)² = 4 readings.
    const Settling s = settle(64.002, {0.0006, 0.0016, 1}, bore);
    EXPECT_EQ(s.by, SettledBy::more_readings);
    EXPECT_EQ(s.readings, 3U);
    EXPECT_NEAR(s.gauge_uncertainty, 0.001, 1e-9);
    // Having taken them, and the mean stayed: proven.
    EXPECT_EQ(decide(64.002 + 1e-9, Sureness{0.0006, 0.0016, 4}.standard_uncertainty(), bore), Verdict::meets);
}

TEST(Settling, SaysWhenOnlyABetterGaugeWillDo) {
    const Settling s = settle(64.002, {0.0012, 0.0004, 3}, bore); // more than 0.001 is fixed
    EXPECT_EQ(s.by, SettledBy::better_gauge);
    EXPECT_NEAR(s.gauge_uncertainty, 0.001, 1e-9);
    EXPECT_EQ(settle(64.0001, {0, 0.002, 1}, bore).by, SettledBy::better_gauge) << "1600 readings are no answer";
    EXPECT_EQ(settle(63.999, {0.0012, 0, 1}, bore).by, SettledBy::better_gauge) << "outside, by less than the band";
}

TEST(Settling, SaysWhenNothingWill) {
    EXPECT_EQ(settle(64.000, {0.0001, 0.0001, 1}, bore).by, SettledBy::nothing_will);
}

// ISO 14253-1 zones with u 0.0012: acceptance 64.0024 to 64.0166 at 2u. Risk of a wrong acceptance at its very edge is
// the normal tail beyond two standard deviations, 2.275 %.
TEST(Decision, RiskAtTheEdgeOfTheZone) {
    EXPECT_NEAR(0.5 * std::erfc(2 / std::sqrt(2.0)), 0.02275, 1e-5);
    EXPECT_EQ(decide(64.0024 + 1e-9, 0.0012, bore), Verdict::meets);
    EXPECT_NEAR(0.5 * std::erfc(1.65 / std::sqrt(2.0)), 0.0494715, 1e-6);
}

// "Not a number" was neither below the one limit nor above the other, and so it met both.
TEST(Decision, WhatIsNoNumberProvesNothing) {
    const double nan = std::nan(""), infinite = std::numeric_limits<double>::infinity();
    for (const double value : {nan, infinite, -infinite})
        EXPECT_EQ(decide(value, 0.001, bore), Verdict::cannot_tell) << value;
    for (const double u : {nan, infinite, -0.001})
        EXPECT_EQ(decide(64.009, u, bore), Verdict::cannot_tell) << u;
    EXPECT_EQ(decide(64.009, 0.001, {nan, 64.019}), Verdict::cannot_tell);
    EXPECT_EQ(decide(64.009, 0.001, {64.0, nan}), Verdict::cannot_tell);
    EXPECT_EQ(decide(64.009, 0.001, bore), Verdict::meets) << "and numbers are decided on as before";
}
