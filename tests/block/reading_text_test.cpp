// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/reading_text.h"

#include <gtest/gtest.h>

using namespace pallix::block;

namespace {

Expected inch(double value, double believable) {
    Expected e;
    e.value = value;
    e.believable = believable;
    e.bench = Unit::inch;
    return e;
}

Understood read(std::string_view text, Quantity quantity, const Expected& e) {
    const auto u = read_reading(text, quantity, e);
    EXPECT_TRUE(u) << (u ? "" : u.error());
    return u.value_or(Understood{});
}

} // namespace

TEST(ReadingText, ABoreGaugeCountsFromItsZero) { // set on a ring 0.010 under what is expected
    Expected e = inch(74.006, 0.3);
    e.zero = 73.996;
    EXPECT_NEAR(read("+4 tenths", Quantity::size, e).value, 73.996 + 0.01016, 1e-9);
    EXPECT_NEAR(read("-0.0004", Quantity::size, e).value, 73.996 - 0.01016, 1e-9);
    EXPECT_NEAR(read("2.9137", Quantity::size, e).value, 74.00798, 1e-9) << "a whole size is a whole size";
    EXPECT_NEAR(read("+4 tenths", Quantity::size, e).deviation, 0.00016, 1e-9);
}

TEST(ReadingText, AnIndicatorReadsWhatItReads) {
    Expected e = inch(0, 0.13);
    e.direct = true;
    EXPECT_NEAR(read("-.0012", Quantity::saddle, e).value, -0.03048, 1e-9);
    EXPECT_NEAR(read("1.5 thou", Quantity::sweep, e).value, 0.0381, 1e-9);
    EXPECT_EQ(read("15 thou", Quantity::sweep, e).suspicion, Suspicion::ten_times);
}

// A plate 212.000 over the crankshaft, a deck that should lie at 199.950: what the micrometer says is taken down from
// it.
TEST(ReadingText, ADepthIsReadDownFromItsPlate) {
    Expected e;
    e.value = 199.95;
    e.believable = 0.6;
    e.bench = Unit::mm;
    e.needs_plate = true;
    EXPECT_FALSE(read_reading("12.03", Quantity::height, e)) << "from what, nobody has said";
    e.needs_plate = false;
    e.plate = 212;
    EXPECT_NEAR(read("12.03", Quantity::height, e).value, 199.97, 1e-12);
    EXPECT_EQ(read("12.03", Quantity::height, e).suspicion, Suspicion::none);
    EXPECT_EQ(read("14.03", Quantity::height, e).suspicion, Suspicion::far) << "2 mm down";
    e.repeat = 199.97;
    e.repeat_limit = 0.02;
    EXPECT_EQ(read("12.13", Quantity::height, e).suspicion, Suspicion::unlike_repeat);
    e.bench = Unit::inch;
    EXPECT_NEAR(read("0.4736", Quantity::height, e).value, 212 - 0.4736 * 25.4, 1e-9);
}

TEST(ReadingText, ASlippedZeroIsOneTurnOff) { // a dial of 0.2 mm a turn
    Expected e = inch(74.006, 0.13);
    e.bench = Unit::mm;
    e.turn = 0.2;
    const Understood u = read("74.208", Quantity::size, e);
    EXPECT_EQ(u.suspicion, Suspicion::one_turn);
    EXPECT_NEAR(*u.instead, 74.008, 1e-9);
    EXPECT_EQ(read("74.300", Quantity::size, e).suspicion, Suspicion::far);
}

TEST(ReadingText, RepeatsAndNeighboursAreHeldAgainstIt) {
    Expected e = inch(74.006, 0.3);
    e.bench = Unit::mm;
    e.repeat = 74.010;
    e.repeat_limit = 0.01;
    e.neighbours = 74.100;
    e.neighbour_limit = 0.08;
    EXPECT_EQ(read("74.012", Quantity::size, e).suspicion, Suspicion::unlike_neighbours);
    EXPECT_EQ(read("74.030", Quantity::size, e).suspicion, Suspicion::unlike_repeat);
    e.neighbours = 74.02;
    EXPECT_EQ(read("74.012", Quantity::size, e).suspicion, Suspicion::none);
}

TEST(ReadingText, FeelersAreABracket) {
    const Expected e = inch(0, 0.3);
    for (const char* text :
         {"6 7", "6/7", "0.006 0.007", "0.006 goes in, 0.007 does not", "6 thou 7 thou", "6, 7 not"}) {
        const Understood u = read(text, Quantity::gap, e);
        EXPECT_NEAR(u.value, 0.1524, 1e-9) << text;
        EXPECT_NEAR(u.upper.value_or(0), 0.1778, 1e-9) << text;
    }
    EXPECT_EQ(read("0 1", Quantity::gap, e).value, 0) << "nothing goes in";
    Expected mm = e;
    mm.bench = Unit::mm;
    EXPECT_NEAR(*read("0.15 0.20", Quantity::gap, mm).upper, 0.20, 1e-12);
    EXPECT_EQ(read("0.06 0.07", Quantity::gap, e).suspicion, Suspicion::ten_times) << "sixty thou under an edge";
    EXPECT_FALSE(read_reading("6", Quantity::gap, e));
    EXPECT_FALSE(read_reading("7 6", Quantity::gap, e));
    EXPECT_FALSE(read_reading("a bit", Quantity::gap, e));
}

TEST(ReadingText, ABuretteReadsCubicCentimetresAndAHeadIsABracketToo) {
    const Expected e = inch(60, 55);
    for (const char* typed : {"66.25", "66,25 cc", "66.25 cm³", "66.25 ml"})
        EXPECT_NEAR(read(typed, Quantity::volume, e).value, 66.25, 1e-12) << typed;
    EXPECT_EQ(read("660", Quantity::volume, e).suspicion, Suspicion::far);
    for (const char* typed : {"4 in", "-3", "0", ""})
        EXPECT_FALSE(read_reading(typed, Quantity::volume, e)) << typed;
    const auto head = read("2 3", Quantity::head_gap, inch(0, 0.3));
    EXPECT_NEAR(head.value, 0.0508, 1e-12);
    EXPECT_NEAR(*head.upper, 0.0762, 1e-12);
}

TEST(ReadingText, TemperaturesAndSlopes) {
    const Expected e{20, 20, Unit::inch};
    EXPECT_NEAR(read("19.5", Quantity::temperature, e).value, 19.5, 1e-12);
    EXPECT_NEAR(read("68 F", Quantity::temperature, e).value, 20, 1e-9);
    EXPECT_NEAR(read("−3 °C", Quantity::temperature, e).value, -3, 1e-12);
    EXPECT_EQ(read("195", Quantity::temperature, e).suspicion, Suspicion::far);
    const auto wrong = read_reading("20 mm", Quantity::temperature, e);
    ASSERT_FALSE(wrong);
    EXPECT_NE(wrong.error().find("use °C"), std::string::npos);
    const Expected level{0, 1, Unit::inch};
    EXPECT_NEAR(read("0.04", Quantity::slope, level).value, 0.04, 1e-12);
    EXPECT_NEAR(read("0.5 thou/ft", Quantity::slope, level).value, 0.041666667, 1e-8); // 0.0005 in/ft
    EXPECT_FALSE(read_reading("half", Quantity::slope, level));
    EXPECT_FALSE(read_reading("nan", Quantity::slope, level));
}
