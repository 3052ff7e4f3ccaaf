// SPDX-License-Identifier: GPL-3.0-or-later
#include "metrology/decision.h"

#include <gtest/gtest.h>

using namespace pallix::metrology;

namespace {

// ISO 14253-1 zones worked out by hand for a bore of 64.000 to 64.019 and a standard uncertainty of 0.0012.
constexpr Limits bore{64.000, 64.019};
constexpr double u = 0.0012;

} // namespace

TEST(Decision, GuardBandOfTwoStandardUncertainties) { // conformity is proven from 64.0024 to 64.0166
    EXPECT_EQ(decide(64.00241, u, bore), Verdict::meets);
    EXPECT_EQ(decide(64.00239, u, bore), Verdict::cannot_tell);
    EXPECT_EQ(decide(64.01659, u, bore), Verdict::meets);
    EXPECT_EQ(decide(64.01661, u, bore), Verdict::cannot_tell);
    EXPECT_EQ(decide(63.99761, u, bore), Verdict::cannot_tell);
    EXPECT_EQ(decide(63.99759, u, bore), Verdict::fails);
    EXPECT_EQ(decide(64.02141, u, bore), Verdict::fails);
}

TEST(Decision, NewerEditionGuardsByOneSidedNinetyFivePercent) { // 1.65 u: 64.00198 to 64.01702
    EXPECT_EQ(decide(64.00199, u, bore, {1.65}), Verdict::meets);
    EXPECT_EQ(decide(64.00197, u, bore, {1.65}), Verdict::cannot_tell);
    EXPECT_EQ(decide(64.01701, u, bore, {1.65}), Verdict::meets);
    EXPECT_EQ(decide(64.01703, u, bore, {1.65}), Verdict::cannot_tell);
}

TEST(Decision, UnknownUncertaintyProvesNothing) {
    EXPECT_EQ(decide(64.01, std::nullopt, bore), Verdict::cannot_tell);
    EXPECT_EQ(decide(70, std::nullopt, bore), Verdict::cannot_tell);
}

TEST(Decision, OneSidedLimits) {
    EXPECT_EQ(decide(-100, 0.001, {std::nullopt, 0.05}), Verdict::meets);
    EXPECT_EQ(decide(0.06, 0.001, {std::nullopt, 0.05}), Verdict::fails);
    EXPECT_EQ(decide(5, 0.001, {1.0, std::nullopt}), Verdict::meets);
    EXPECT_EQ(decide(5, 0.001, {}), Verdict::meets);
}

TEST(Decision, AWindowNarrowerThanTheGuardIsNeverMet) {
    for (double value = 9.99; value < 10.01; value += 0.0005)
        EXPECT_NE(decide(value, 0.005, {9.997, 10.003}), Verdict::meets) << value;
}

TEST(Decision, TheWorseVerdictCounts) {
    EXPECT_EQ(worse(Verdict::meets, Verdict::cannot_tell), Verdict::cannot_tell);
    EXPECT_EQ(worse(Verdict::fails, Verdict::cannot_tell), Verdict::fails);
}
