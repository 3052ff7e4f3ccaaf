// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/decks/set_up.h"

#include <gtest/gtest.h>
#include <numeric>
#include <random>

using namespace pallix::planning;
using pallix::block::SetUpRead;
using pallix::block::Unit;

namespace {

/// Four corners of a deck 300 by 100.
SetUpRead read_corners(double front_plus, double front_minus, double rear_plus, double rear_minus) {
    return {"R",
            "deck",
            {{{0, 50}, front_plus}, {{0, -50}, front_minus}, {{300, 50}, rear_plus}, {{300, -50}, rear_minus}},
            {{"front +", {50, 100}}, {"front −", {50, -100}}, {"rear", {250, 0}}}};
}

} // namespace

TEST(SetUp, ThreeFeetTakeOutAnyTilt) {
    // By hand: rises 0.03 over 300 to the rear and 0.01 over 100 to +v, so 0.1 µm/mm along and across.
    const auto c = correct_set_up(read_corners(0.01, 0.00, 0.04, 0.03));
    ASSERT_TRUE(c);
    EXPECT_NEAR(c->along, 0.0001, 1e-15);
    EXPECT_NEAR(c->across, 0.0001, 1e-15);
    EXPECT_NEAR(c->spread, 0.04, 1e-15);
    EXPECT_NEAR(c->misfit, 0, 1e-15);
    // Heights over the feet, from the front −v one: front + 0.020 higher, rear 0.020 + 0.010 = 0.030 higher.
    EXPECT_NEAR(c->moves[0].raise, 0.010, 1e-12);
    EXPECT_NEAR(c->moves[1].raise, 0.030, 1e-12);
    EXPECT_NEAR(c->moves[2].raise, 0, 1e-12) << "the foot that stands highest stays";
    EXPECT_NEAR(c->left, 0, 1e-12);
}

TEST(SetUp, TwoFeetTakeOutOnlyTheTiltAlongThem) {
    SetUpRead s = read_corners(0.01, 0.00, 0.04, 0.03);
    s.feet = {{"front", {50, 0}}, {"rear", {250, 0}}};
    const auto c = correct_set_up(s);
    ASSERT_TRUE(c);
    EXPECT_NEAR(c->moves[0].raise, 0.020, 1e-12);
    EXPECT_NEAR(c->moves[1].raise, 0, 1e-12);
    EXPECT_NEAR(c->left, 0.01, 1e-12) << "0.1 µm/mm over the 100 across stays";
}

TEST(SetUp, AReadingOffThePlaneIsNamed) {
    // The LSQ plane of a rectangle's corners leaves a quarter of the twist at each: 0.04 / 4.
    const auto c = correct_set_up(read_corners(0.04, 0, 0, 0));
    ASSERT_TRUE(c);
    EXPECT_NEAR(c->misfit, 0.01, 1e-12);
}

TEST(SetUp, PlacesOnOneLineFixNoPlane) {
    SetUpRead s = read_corners(0, 0, 0, 0);
    s.readings = {{{0, 0}, 0}, {{100, 0}, 0.01}, {{300, 0}, 0.03}};
    EXPECT_FALSE(correct_set_up(s));
    s = read_corners(0, 0, 0, 0);
    s.readings.resize(2);
    EXPECT_FALSE(correct_set_up(s));
    s = read_corners(0, 0, 0, 0);
    s.feet = {{"one", {0, 0}}};
    EXPECT_FALSE(correct_set_up(s));
}

TEST(Stack, TakesTheFewestPiecesThatMakeTheHeight) {
    const Stack s = stack_for(37.3, {25, 10, 5, 5, 2, 1, 0.2, 0.1, 0.3});
    EXPECT_NEAR(s.height, 37.3, 1e-9);
    EXPECT_EQ(s.pieces, (std::vector<double>{25, 10, 2, 0.3}));
}

TEST(Stack, PiecesAreTypedEachWithItsUnitOrTheBenchs) {
    EXPECT_EQ(pieces_on_hand("25 mm, 0.5mm 3", Unit::mm), (std::vector<double>{25, 0.5, 3}));
    const auto inch = pieces_on_hand("1 in 0.125 2 thou", Unit::inch);
    ASSERT_EQ(inch.size(), 3U);
    EXPECT_NEAR(inch[0], 25.4, 1e-9);
    EXPECT_NEAR(inch[1], 3.175, 1e-9);
    EXPECT_NEAR(inch[2], 0.0508, 1e-9);
    EXPECT_TRUE(pieces_on_hand("none", Unit::mm).empty());
}

TEST(Stack, UsesEachPieceOnceAndComesAsNearAsItCan) {
    const Stack s = stack_for(20, {8, 8, 3});
    EXPECT_NEAR(s.height, 19, 1e-9);
    EXPECT_EQ(s.pieces, (std::vector<double>{8, 8, 3}));
    EXPECT_TRUE(stack_for(0, {5}).pieces.empty());
    EXPECT_TRUE(stack_for(10, {}).pieces.empty());
}

TEST(Stack, AgreesWithTryingEverySubset) {
    std::mt19937 bits(5);
    for (int trial = 0; trial < 40; ++trial) {
        std::vector<double> pieces;
        for (int i = 0; i < 10; ++i)
            pieces.push_back(static_cast<double>(bits() % 12000 + 20) / 1000);
        const double wanted = static_cast<double>(bits() % 40000) / 1000;
        double best = 1e9;
        int fewest = 0;
        for (unsigned set = 0; set < 1024; ++set) {
            double sum = 0;
            int count = 0;
            for (unsigned i = 0; i < 10; ++i)
                if (set >> i & 1) {
                    sum += pieces[i];
                    ++count;
                }
            const double off = std::abs(sum - wanted);
            if (off < best - 1e-7 || (off < best + 1e-7 && count < fewest)) {
                best = std::min(off, best);
                fewest = count;
            }
        }
        const Stack s = stack_for(wanted, pieces);
        EXPECT_NEAR(std::abs(s.height - wanted), best, 1e-6);
        EXPECT_EQ(static_cast<int>(s.pieces.size()), fewest);
        EXPECT_NEAR(std::accumulate(s.pieces.begin(), s.pieces.end(), 0.0), s.height, 1e-9);
    }
}
