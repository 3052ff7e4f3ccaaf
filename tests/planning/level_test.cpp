// SPDX-License-Identifier: GPL-3.0-or-later
// A bank that is levelled on the machine: read, raise, read again, until its corners agree.
#include "planning/decks/set_up.h"
#include "planning/steps/answer.h"
#include "planning/steps/any_time.h"
#include "story.h"

#include <gmock/gmock.h>

using namespace pallix;
using namespace pallix::block;
using namespace pallix::planning;

TEST(Level, RoundsUntilTheCornersAgree) {
    test::Story s;
    s.caps(true).log(test::log_of(30.005, 0, 200.10)).add(DeckTargetChosen{TargetSchool::height, true, 200.0});
    ASSERT_EQ(s.called(), "deck.C/witness") << "nobody has begun to level: it is not asked for";
    s.corners({0.0, 0.0, 0.05, 0.05}); // the rear stands high
    EXPECT_EQ(s.called(), "deck.C/level");
    EXPECT_TRUE(s.metal().empty());
    EXPECT_NEAR(*s.now().steps.now()->number, 0.05 * 180 / 201.6, 1e-9) << "feet at an eighth from either end";
    s.add(StepDone{"block levelled, C"});
    EXPECT_THAT(s.called(), testing::HasSubstr("/measure/")) << "what was read is void";
    EXPECT_THAT(s.waits("deck.C/witness"), testing::ElementsAre(Rule::order));
    s.corners({0.0, 0.004, 0.01, 0.008}); // within half a thou
    EXPECT_EQ(s.called(), "deck.C/witness");
    s.deck(PassKind::witness, 0.02, true);
    EXPECT_THAT(s.called(), testing::StartsWith("deck.C/")) << "the next pass on the same set-up";
    EXPECT_TRUE(s.now().steps.now()->cannot_be_undone);
}

// The deck itself is flat, by its heights: corners that no plane takes in are pulled there by a clamp.
TEST(Level, AClampThatTwistsTheBlockIsEased) {
    test::Story s;
    s.caps(true).log(test::log_of(30.005, 0, 200.10)).add(DeckTargetChosen{TargetSchool::height, true, 200.0});
    s.corners({0.0, 0.0, -0.03, 0.01}); // at the rear +v stands 0.04 under −v, at the front both are level
    ASSERT_EQ(s.called(), "deck.C/clamp");
    EXPECT_NEAR(*s.now().steps.now()->number, 0.04, 1e-9);
    const SetUpLie lie = set_up_lie(s.state(), set_up_of(s.state(), "C"));
    ASSERT_TRUE(lie.ease);
    EXPECT_TRUE(lie.ease->rear);
    EXPECT_TRUE(lie.ease->positive_v) << "the side that is pulled down";
    EXPECT_TRUE(s.metal().empty());
    const auto eased = answer(s.state(), s.now(), *s.now().steps.now(), {{"done", true}}, "");
    ASSERT_TRUE(eased);
    s.add(eased->front());
    EXPECT_THAT(s.called(), testing::HasSubstr("/measure/")) << "what was read is void";
    s.corners({0.0, 0.0, 0.01, 0.01});
    EXPECT_EQ(s.called(), "deck.C/witness");
}

// Eased twice and no better: it is the deck's own, or misread, and does not stop the work.
TEST(Level, WhatNoClampMendsDoesNotStopTheWork) {
    test::Story s;
    s.caps(true).log(test::log_of(30.005, 0, 200.10)).add(DeckTargetChosen{TargetSchool::height, true, 200.0});
    for (int times = 0; times < 2; ++times) {
        s.corners({0.02, -0.02, -0.02, 0.02});
        ASSERT_EQ(s.called(), "deck.C/clamp");
        s.add(StepDone{clamp_eased + "C"});
    }
    s.corners({0.02, -0.02, -0.02, 0.02});
    EXPECT_EQ(s.called(), "deck.C/witness");
}

// One station read by itself, inboard against outboard: its low side is the clamp to loosen, and by how much.
TEST(Level, OneStationAloneTellsItsClamp) {
    test::Story s;
    s.caps(true).log(test::log_of(30.005, 0, 200.10)).add(DeckTargetChosen{TargetSchool::height, true, 200.0});
    const FeatureId deck{FeatureKind::deck, "C", 0};
    const MeasuredAt plus{deck, Quantity::indicator, "front", "+v", {}},
        minus{deck, Quantity::indicator, "front", "-v", {}};
    s.add(ReadingPlanChosen{"set_up C", {plus.key(), minus.key()}});
    for (const auto& [at, value] : {std::pair{plus, 0.02}, std::pair{minus, -0.03}}) {
        Reading r;
        r.at = at;
        r.value = value;
        r.instrument.name = "indicator";
        s.add(r);
    }
    ASSERT_EQ(s.called(), "deck.C/clamp");
    EXPECT_NEAR(*s.now().steps.now()->number, 0.05, 1e-9);
    EXPECT_FALSE(set_up_lie(s.state(), set_up_of(s.state(), "C")).ease->positive_v);
}

/// Heights at the four places, as they are asked for, by a bridge from the bar.
test::Story sloping_to(double rear) {
    test::Story s;
    s.caps(true).log(test::log_of(30.005, 0, 200.10)).add(DeckTargetChosen{TargetSchool::height, true, 200.0});
    for (const DeckPlace& p : deck_places(*intake_of(s.state()).blueprint->bank("C"))) {
        Reading r;
        r.at = {{FeatureKind::deck, "C", 0}, Quantity::height, "", "", p.place};
        r.value = 200.10 + (p.rear ? rear : 0);
        r.instrument.name = "bridge";
        r.instrument.standard_uncertainty = 0.002;
        s.add(r);
    }
    return s;
}

// A deck that falls to the rear by its heights and reads level lies wrong: cut so, it would keep its slope.
TEST(Level, ADeckIsLevelledToTheTunnelNotToItself) {
    test::Story s = sloping_to(-0.08);
    s.corners({0, 0, 0, 0});
    ASSERT_EQ(s.called(), "deck.C/level");
    const SetUpLie lie = set_up_lie(s.state(), set_up_of(s.state(), "C"));
    EXPECT_TRUE(lie.less_its_own);
    EXPECT_NEAR(lie.correction->along * (lie.read.readings.back().place.x - lie.read.readings.front().place.x), 0.08,
                1e-9)
        << "as it lies the tunnel rises to the rear by what the deck falls";
    s.add(StepDone{"block levelled, C"});
    s.corners({0, 0, -0.08, -0.08}); // the deck reads what its heights say
    EXPECT_EQ(s.called(), "deck.C/witness");
}

// Twisted by its own heights, it is to read twisted: no clamp is blamed for that.
TEST(Level, ItsOwnTwistIsNoClamps) {
    test::Story s = sloping_to(0);
    for (const DeckPlace& p : deck_places(*intake_of(s.state()).blueprint->bank("C"))) {
        Reading r;
        r.at = {{FeatureKind::deck, "C", 0}, Quantity::height, "", "", p.place};
        r.value = 200.10 + (p.rear == p.positive_v ? 0.02 : -0.02);
        r.instrument.name = "bridge";
        r.instrument.standard_uncertainty = 0.002;
        s.add(r).add(r).add(r); // the mean of four is a quarter of 200.10 and three of these
    }
    const double own = 0.75 * 0.02;
    s.corners({-own, own, own, -own}); // front +v, front −v, rear +v, rear −v
    EXPECT_FALSE(set_up_lie(s.state(), set_up_of(s.state(), "C")).to_mend());
    s.corners({0.02, -0.02, -0.02, 0.02}); // with the readings before: (0.02 − own)/2 and its like
    EXPECT_TRUE(set_up_lie(s.state(), set_up_of(s.state(), "C")).ease);
}

// On a plate that stands on the tunnel the indicator reads the tunnel itself.
TEST(Level, OnAPlateNothingIsTakenOff) {
    test::Story s = sloping_to(-0.08);
    const auto any = any_time_steps(s.state(), FeatureId{FeatureKind::deck, "C", 0});
    const auto step = std::ranges::find(any, Task::read_set_up_on, &Step::task);
    ASSERT_NE(step, any.end());
    const auto told = answer(s.state(), s.now(), *step, {{"surface", std::string("plate")}}, "");
    ASSERT_TRUE(told);
    s.add(told->front());
    s.corners({0, 0, 0, 0});
    EXPECT_EQ(s.called(), "deck.C/witness");
}

// A precision level along and across says as much as four corners: rise of 0.25 mm/m over what lies between the feet.
TEST(Level, APrecisionLevelTellsTheFeet) {
    test::Story s;
    s.caps(true).log(test::log_of(30.005, 0, 200.10)).add(DeckTargetChosen{TargetSchool::height, true, 200.0});
    const auto slope = [&s](const char* way, double per_m) {
        Reading r;
        r.at = {{FeatureKind::deck, "C", 0}, Quantity::slope, "", way, {}};
        r.value = per_m;
        r.instrument.name = "level";
        s.add(r);
    };
    slope("along", 0.25);
    EXPECT_EQ(s.called(), "deck.C/measure/slope/across") << "the other way is asked for";
    slope("across", 0.0);
    ASSERT_EQ(s.called(), "deck.C/level");
    EXPECT_NEAR(*s.now().steps.now()->number, 0.25e-3 * 180, 1e-9) << "feet 180 mm apart";
    s.add(StepDone{"block levelled, C"});
    EXPECT_THAT(s.called(), testing::HasSubstr("/measure/slope/"));
    slope("along", 0.02);
    slope("across", 0.02);
    EXPECT_EQ(s.called(), "deck.C/witness");
}
