// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/shorthand.h"

#include <gtest/gtest.h>
#include <ostream>

using namespace pallix::block;

namespace {

struct Case {
    const char* typed;
    double nominal; ///< mm
    Unit bench;
    double value; ///< mm, worked out by hand
    bool relative;
};

void PrintTo(const Case& c, std::ostream* out) {
    *out << c.typed;
}

constexpr double in = 25.4;

} // namespace

class Shorthand : public testing::TestWithParam<Case> {};

TEST_P(Shorthand, IsUnderstood) {
    const Case& c = GetParam();
    const auto u = read_shorthand(c.typed, {c.nominal, 2.0, c.bench});
    ASSERT_TRUE(u) << u.error();
    EXPECT_NEAR(u->value, c.value, 1e-9);
    EXPECT_NEAR(u->deviation, c.value - c.nominal, 1e-9);
    EXPECT_EQ(u->relative, c.relative);
    EXPECT_EQ(u->suspicion, Suspicion::none);
}

INSTANTIATE_TEST_SUITE_P(
    Bench, Shorthand,
    testing::Values(
        Case{"3.7552", 3.75 * in, Unit::inch, 3.7552 * in, false},
        Case{"3755", 3.75 * in, Unit::inch, 3.755 * in, false},
        Case{"37556", 3.75 * in, Unit::inch, 3.7556 * in, false}, Case{"21498", 215, Unit::mm, 214.98, false},
        Case{"214980", 215, Unit::mm, 214.98, false}, Case{"+2.5 thou", 215, Unit::inch, 215 + 0.0635, true},
        Case{"-0.8thou", 215, Unit::mm, 215 - 0.02032, true}, Case{"3t", 215, Unit::mm, 215 + 0.000762 * 10, true},
        Case{"6 tenths", 215, Unit::inch, 215 + 6 * 0.00254, true}, Case{"12 µm", 215, Unit::inch, 215.012, true},
        Case{"-12um", 215, Unit::inch, 214.988, true}, Case{"0.05mm", 215, Unit::inch, 215.05, true},
        Case{"-.0005", 215, Unit::inch, 215 - 0.0127, true}, Case{"30 over", 95, Unit::inch, 95 + 0.762, true},
        Case{"−0.02", 215, Unit::mm, 214.98, true}, Case{"215,03", 215, Unit::mm, 215.03, false},
        Case{"  8.4649 in ", 215, Unit::mm, 8.4649 * in, false}, Case{"215", 215, Unit::mm, 215, false},
        Case{"8.4646\"", 215, Unit::mm, 8.4646 * in, false}),
    [](const auto& instance) { return "case" + std::to_string(instance.index); });

TEST(ShorthandQuestions, TenTimesTooMuchIsAskedAbout) {
    const auto u = read_shorthand("-8 thou", {215, 0.127, Unit::inch});
    ASSERT_TRUE(u);
    EXPECT_EQ(u->suspicion, Suspicion::ten_times);
    ASSERT_TRUE(u->instead);
    EXPECT_NEAR(*u->instead, 215 - 0.8 * 0.0254, 1e-9);
}

TEST(ShorthandQuestions, WhatFitsTheOtherUnitIsAskedAboutAsThatUnit) {
    Expected bore{58.0, 0.5, Unit::inch};
    const auto mm = read_shorthand("58.01", bore);
    EXPECT_EQ(mm->suspicion, Suspicion::other_unit) << "where 2.2835 in is expected";
    EXPECT_NEAR(*mm->instead, 58.01, 1e-12);
    EXPECT_EQ(read_shorthand("58.01mm", bore)->suspicion, Suspicion::none) << "said so";
    EXPECT_EQ(read_shorthand("2.2837", bore)->suspicion, Suspicion::none);
    bore.bench = Unit::mm;
    const auto inch = read_shorthand("2.2837", bore);
    EXPECT_EQ(inch->suspicion, Suspicion::other_unit) << "not a deviation of 2.28 mm";
    EXPECT_NEAR(*inch->instead, 58.00598, 1e-9);
    EXPECT_NE(read_shorthand("+2.2837", bore)->suspicion, Suspicion::other_unit) << "with a sign it is a deviation";
}

// Bored 20 over, the next size read is 30 over: over nominal, as pistons are sold.
TEST(Shorthand, OverCountsFromNominalNotFromTheLastCut) {
    Expected after_cut{95 + 0.508, 1, Unit::inch};
    after_cut.nominal = 95.0;
    EXPECT_NEAR(read_shorthand("30 over", after_cut)->value, 95.762, 1e-9);
    EXPECT_NEAR(read_shorthand("+10 thou", after_cut)->value, 95.762, 1e-9) << "other deviations from what is expected";
}

TEST(ShorthandQuestions, FarOffIsAskedAbout) {
    EXPECT_EQ(read_shorthand("9.4649", {215, 0.127, Unit::inch})->suspicion, Suspicion::far);
    EXPECT_EQ(read_shorthand("+2 mm", {215, 0.127, Unit::inch})->suspicion, Suspicion::far);
}

TEST(ShorthandRefusals, SayWhy) {
    for (const char* typed : {"", "   ", "abc", "1.2.3", "--1", "+", ".", "12 furlongs", "1e5", "nan", "inf"}) {
        const auto u = read_shorthand(typed, {215, 1, Unit::mm});
        ASSERT_FALSE(u) << typed;
        EXPECT_FALSE(u.error().empty());
    }
    EXPECT_NE(read_shorthand("12 furlongs", {215, 1, Unit::mm}).error().find("furlongs"), std::string::npos);
}

TEST(PlainLength, IsReadInTheBenchUnitOrItsOwn) {
    EXPECT_NEAR(*read_length("2 µm", Unit::inch), 0.002, 1e-12);
    EXPECT_NEAR(*read_length("0.5 tenths", Unit::mm), 0.00127, 1e-12);
    EXPECT_NEAR(*read_length("0.0001", Unit::inch), 0.00254, 1e-12);
    EXPECT_NEAR(*read_length("1.5", Unit::mm), 1.5, 1e-12);
    EXPECT_FALSE(read_length("a bit", Unit::mm));
}
