// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/entry_samples.h"
#include "block/number_text.h"
#include "block/reading_text.h"

#include <clocale>
#include <cstdlib>
#include <gtest/gtest.h>

using namespace pallix::block;

// scripts/test runs everything once more under a locale with a decimal comma: this tells that it really holds then.
TEST(Locale, IsTheOneAskedFor) {
    const char* asked = std::getenv("LC_ALL");
    const bool comma = asked && std::string_view(asked).starts_with("de_DE");
    EXPECT_STREQ(std::localeconv()->decimal_point, comma ? "," : ".");
}

// Under a comma locale the demo was empty, screens mixed "0,0020 in" with "−0.4 thou", and the stand-in sent "60,01".
TEST(Locale, NumbersOfFilesHaveAPoint) {
    EXPECT_EQ(fixed_number(8.46456, 4), "8.4646");
    EXPECT_EQ(fixed_number(-0.0004, 3), "-0.000");
    EXPECT_EQ(short_number(0.005), "0.005");
    EXPECT_EQ(short_number(1e30), "1e+30");
    EXPECT_EQ(finite_number("60.01"), 60.01);
    EXPECT_FALSE(finite_number("60,01"));
    for (const Payload& payload : pallix::test::one_of_each()) {
        const auto again = read_payload(kind_of(payload), version_of(payload), payload_json(payload));
        ASSERT_TRUE(again);
        EXPECT_TRUE(*again == payload) << kind_of(payload);
    }
}

TEST(Locale, ACommaIsUnderstoodWhereverAPersonTypes) {
    const Expected e{20, 20, Unit::mm};
    EXPECT_NEAR(read_reading("19,5", Quantity::temperature, e)->value, 19.5, 1e-12);
    EXPECT_NEAR(read_reading("−3,5 °C", Quantity::temperature, e)->value, -3.5, 1e-12);
    EXPECT_NEAR(read_reading("0,04", Quantity::slope, e)->value, 0.04, 1e-12);
    EXPECT_NEAR(read_reading("0,15 0,20", Quantity::gap, e)->value, 0.15, 1e-12);
    EXPECT_NEAR(*read_reading("0,15, 0,20", Quantity::gap, e)->upper, 0.20, 1e-12);
    EXPECT_NEAR(read_reading("20,012", Quantity::size, e)->value, 20.012, 1e-12);
    const Expected inch{0, 0.3, Unit::inch};
    EXPECT_NEAR(*read_reading("6,7", Quantity::gap, inch)->upper, 0.1778, 1e-9) << "six goes in, seven does not";
    EXPECT_NEAR(read_reading("0.006 in, 0.007 in", Quantity::gap, Expected{0, 0.3, Unit::mm})->value, 0.1524, 1e-9);
    EXPECT_EQ(read_number("12,5"), 12.5);
    EXPECT_EQ(read_number("15°", {"°"}), 15);
    EXPECT_EQ(read_number("−0.5"), -0.5);
    for (const char* wrong : {"", "steep", "1,2,3", "15°", "nan", "inf"})
        EXPECT_FALSE(read_number(wrong)) << wrong;
}
