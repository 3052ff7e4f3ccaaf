// SPDX-License-Identifier: GPL-3.0-or-later
#include "wording/common/lengths.h"

#include <gtest/gtest.h>

using namespace pallix::wording;
using pallix::block::Unit;

TEST(LengthText, InchHasFourDecimalsMillimetresThree) {
    const LengthText inch(Unit::inch), mm(Unit::mm);
    EXPECT_EQ(inch.plain(215), "8.4646");
    EXPECT_EQ(mm.plain(215.0034), "215.003");
    EXPECT_EQ(inch.with_unit(0.1651), "0.0065 in");
    EXPECT_EQ(mm.with_unit(0.1651), "0.165 mm");
    EXPECT_EQ(inch.fine(0.002), "0.00008 in");
    EXPECT_EQ(mm.fine(0.002), "0.0020 mm");
}

TEST(LengthText, SignsAreRealAndZeroHasNone) {
    const LengthText mm(Unit::mm);
    EXPECT_EQ(mm.with_sign(0.02), "+0.020");
    EXPECT_EQ(mm.with_sign(-0.02), "−0.020");
    EXPECT_EQ(mm.with_sign(0.0001), "0.000");
    EXPECT_EQ(mm.with_sign(-0.0001), "0.000");
    EXPECT_EQ(mm.plain(-3), "−3.000");
    EXPECT_EQ(mm.signed_with_unit(1), "+1.000 mm");
}

TEST(Fixed, HugeNumbersDoNotOverrun) {
    EXPECT_EQ(fixed(1e300, 0).size(), 301U);
    EXPECT_EQ(fixed(-0.0, 2), "0.00");
}

TEST(Fixed, HasTheSignThatPeopleWriteHere) {
    const LengthText inch(Unit::inch);
    EXPECT_EQ(decimal_sign(), '.');
    show_decimal_comma(true);
    EXPECT_EQ(inch.with_unit(0.1651), "0,0065 in");
    EXPECT_EQ(inch.with_sign(-0.02), "−0,0008");
    EXPECT_EQ(fixed(3, 0), "3");
    EXPECT_EQ(decimal_sign(), ',');
    show_decimal_comma(false);
    EXPECT_EQ(inch.with_unit(0.1651), "0.0065 in");
}
