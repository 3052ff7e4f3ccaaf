// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/decks/balance.h"

#include <gtest/gtest.h>

using namespace pallix;
using namespace pallix::planning;

namespace {

block::BalanceCard card() {
    block::BalanceCard c;
    c.big_end = 500;
    c.bearing = 40;
    c.oil = 4;
    c.piston = 400;
    c.pin = 120;
    c.rings = 36;
    c.locks = 2;
    c.small_end = 142;
    return c;
}

} // namespace

// By hand: two rods of 540 turning and 700 moving, half of that: 2·(540 + 350) + 4.
TEST(Balance, ABobweightStandsForWhatHangsOnAThrow) {
    const auto b = bobweight(card());
    ASSERT_TRUE(b);
    EXPECT_DOUBLE_EQ(b->turning, 540);
    EXPECT_DOUBLE_EQ(b->moving, 700);
    EXPECT_DOUBLE_EQ(b->weight, 1784);
    block::BalanceCard single = card();
    single.rods = 1;
    single.share = 0.6;
    EXPECT_DOUBLE_EQ(bobweight(single)->weight, 540 + 420 + 4);
    block::BalanceCard lacking = card();
    lacking.pin.reset();
    EXPECT_FALSE(bobweight(lacking)) << "what was not weighed is not nothing";
    EXPECT_EQ(missing_for_balance(lacking), (std::vector<std::string>{"pin", "the crankshaft's mass", "its speed"}));
}

// ISO 21940-11, U = 9549·G·m/n: G 6.3, 20 kg, 6000 rpm → 200.5 g·mm in all.
TEST(Balance, ThePermissibleUnbalanceIsThatOfTheStandard) {
    block::BalanceCard c = card();
    EXPECT_FALSE(permissible_unbalance(c));
    c.crank = 20;
    c.speed = 6000;
    EXPECT_NEAR(*permissible_unbalance(c), 200.5, 0.05);
}
