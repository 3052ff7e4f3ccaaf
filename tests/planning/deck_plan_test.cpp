// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/decks/deck_plan.h"

#include "block/small_block.h"

using namespace pallix::planning;
using namespace pallix::block;
using pallix::metrology::Vec3;

namespace {

/// A bank on a V: right +30°, left −30°.
BankBlueprint bank_at(const std::string& id, double angle_deg) {
    BankBlueprint b = pallix::test::read_small_blueprint().banks[0];
    b.id = id;
    b.angle = angle_deg * radians_per_degree;
    return b;
}

DeckResult deck(const BankBlueprint& b, std::vector<double> corners) { // front +v, front −v, rear +v, rear −v
    return *evaluate_deck(b,
                          {{12, 42, corners[0]}, {12, -42, corners[1]}, {138, 42, corners[2]}, {138, -42, corners[3]}});
}

const BankBlueprint right = bank_at("R", 30), left = bank_at("L", -30);

} // namespace

TEST(DeckPlan, LeastCutWithEqualBanksGoesToTheLowestOfAll) {
    const DeckResult r = deck(right, {200.06, 200.05, 200.02, 200.04}),
                     l = deck(left, {200.07, 200.05, 200.03, 200.06});
    const DeckPlan plan = plan_decks({{&right, &r}, {&left, &l}}, {});
    EXPECT_EQ(plan.start_with, "R");
    EXPECT_NEAR(plan.bank("R")->target, 200.02, 1e-12);
    EXPECT_NEAR(plan.bank("R")->cut, 0.04, 1e-12);
    EXPECT_NEAR(plan.bank("L")->target, 200.02, 1e-12);
    EXPECT_NEAR(plan.bank("L")->cut, 0.05, 1e-12);
    EXPECT_TRUE(plan.bank("L")->cleans);
    EXPECT_EQ(plan.bank("R")->lowest.along, Along::rear);
    EXPECT_EQ(plan.bank("R")->lowest.across, Across::outboard) << "+v is outboard on the right bank";
    EXPECT_EQ(plan.bank("L")->lowest.across, Across::inboard) << "and inboard on the left one";
    EXPECT_NEAR(*plan.bank("R")->over_lower_limit, 0.07, 1e-12);
}

TEST(DeckPlan, EachBankItsOwn) {
    const DeckResult r = deck(right, {200.06, 200.05, 200.02, 200.04}),
                     l = deck(left, {200.07, 200.05, 200.03, 200.06});
    const DeckPlan plan = plan_decks({{&right, &r}, {&left, &l}}, {TargetSchool::least_cut, false, {}});
    EXPECT_NEAR(plan.bank("L")->target, 200.03, 1e-12);
    EXPECT_NEAR(plan.bank("L")->cut, 0.04, 1e-12);
}

TEST(DeckPlan, BlueprintHeightMayLeaveALowPlace) {
    const DeckResult r = deck(right, {200.06, 200.05, 199.98, 200.04});
    const DeckPlan plan = plan_decks({{&right, &r}}, {TargetSchool::blueprint, true, {}});
    EXPECT_FALSE(plan.banks[0].cleans);
    EXPECT_NEAR(plan.banks[0].short_by, 0.02, 1e-12);
    EXPECT_NEAR(plan.banks[0].cut, 0.06, 1e-12);
}

TEST(DeckPlan, GivenHeightBelowTheBlueprintsLimitIsSeen) {
    const DeckResult r = deck(right, {200.06, 200.05, 200.02, 200.04});
    EXPECT_TRUE(plan_decks({{&right, &r}}, {TargetSchool::height, true, {}}).lack == TargetLack::height);
    const DeckPlan plan = plan_decks({{&right, &r}}, {TargetSchool::height, true, 199.9});
    EXPECT_NEAR(plan.banks[0].cut, 0.16, 1e-12);
    EXPECT_NEAR(*plan.banks[0].over_lower_limit, -0.05, 1e-12);
    EXPECT_EQ(plan_decks({}, {}).banks.size(), 0U);
}

TEST(DeckLie, SlopesAndTwistByHand) {
    // front out 10, front in 4, rear out 3, rear in 1 µm over 200: twist = (10 − 4) − (3 − 1) = 4 µm.
    const DeckResult r = deck(right, {200.010, 200.004, 200.003, 200.001});
    const DeckLie lie = deck_lie(right, r);
    EXPECT_NEAR(lie.twist, 0.004, 1e-9);
    EXPECT_NEAR(lie.rear_over_front, -0.005 * 150 / 126, 1e-9); // means 7 and 2 µm, 126 mm apart, over 150
    EXPECT_NEAR(lie.positive_over_negative, 0.004 * 100 / 84, 1e-9);
    const DeckResult l = deck(left, {200.004, 200.010, 200.001, 200.003}); // the same deck, mirrored
    EXPECT_NEAR(deck_lie(left, l).twist, 0.004, 1e-9) << "out is −v on the left bank";
}

TEST(Places, AreNamedByThirds) {
    EXPECT_EQ(place_on_deck(right, {10, 0}).along, Along::front);
    EXPECT_EQ(place_on_deck(right, {75, 0}).along, Along::middle);
    EXPECT_EQ(place_on_deck(right, {75, 0}).across, Across::middle);
    EXPECT_EQ(place_on_deck(right, {140, -40}).across, Across::inboard);
    EXPECT_EQ(place_on_deck(left, {140, -40}).across, Across::outboard);
    const BankBlueprint inline_bank = bank_at("C", 0);
    EXPECT_EQ(place_on_deck(inline_bank, {140, 40}).across, Across::right);
    EXPECT_EQ(place_on_deck(inline_bank, {140, -40}).across, Across::left);
}

TEST(Corners, AreTheNearestTouches) {
    const auto corners = corner_heights(right, {{1, 49, 5}, {20, 30, 6}, {149, 49, 7}, {2, -48, 8}, {148, -49, 9}});
    ASSERT_EQ(corners.size(), 4U);
    for (const CornerHeight& c : corners)
        EXPECT_EQ(c.height, c.rear ? (c.positive_v ? 7 : 9) : (c.positive_v ? 5 : 8));
}
