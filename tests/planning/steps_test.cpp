// SPDX-License-Identifier: GPL-3.0-or-later
// What is called for after what was done, and what is not: each story from the ledger to the one call.
#include "planning/steps/steps.h"

#include "block/ledger.h"
#include "block/small_block.h"
#include "block/state/deck_state.h"
#include "block/state/fold.h"
#include "block/state/intake_state.h"
#include "planning/common/assessment.h"
#include "planning/readings/reading_plan.h"
#include "planning/steps/answer.h"
#include "story.h"

#include <array>
#include <cmath>
#include <gmock/gmock.h>
#include <numbers>
#include <set>

using namespace pallix;
using namespace pallix::block;
using namespace pallix::planning;
using test::log_of;
using test::Story;
using testing::HasSubstr;
using testing::StartsWith;

// ---- intake -------------------------------------------------------------------------------------------------------

TEST(Stories, ANewBlockIsWashedAndLookedOverBeforeItIsMeasured) {
    Story s;
    EXPECT_EQ(s.called(), "cleaned/wash");
    EXPECT_THAT(s.waits("as_found/log"), testing::ElementsAre(Rule::clean_first));
    s.add(StepDone{"washed"});
    EXPECT_EQ(s.called(), "cleaned/inspect");
    s.add(StepDone{"inspected for cracks"});
    EXPECT_EQ(s.called(), "as_found/log");
}

TEST(Stories, ALedgerWithReadingsAndNoWordOfCleaningIsPastIt) {
    Story s;
    s.caps(true).log(log_of(30.005));
    const Assessment a = s.now();
    EXPECT_EQ(a.steps.find("cleaned/wash")->state, StepState::skipped);
    EXPECT_EQ(a.steps.find("cleaned/inspect")->state, StepState::skipped);
}

TEST(Stories, WashedAndNotLookedOverNothingIsCut) {
    Story s;
    s.add(StepDone{"washed"}).caps(true).log(log_of(30.005, 0, 200.06));
    EXPECT_EQ(s.called(), "cleaned/inspect");
    EXPECT_TRUE(s.metal().empty());
}

// ---- main tunnel --------------------------------------------------------------------------------------------------

TEST(Stories, ATouchThatAgreesWithNoOtherIsTouchedAgainBeforeMetalComesOff) {
    const std::string shrunk = log_of(29.95), chip = shrunk + "A,main.3,front,112,29.85,0\n"; // a tenth inside
    Story s;
    s.caps(true).log(chip);
    EXPECT_EQ(s.called(), "main.3/front/touch");
    EXPECT_TRUE(s.metal().empty()) << "nothing is cut by it";
    EXPECT_THAT(s.waits("tunnel/hone"), testing::Contains(Rule::doubt));
    Story again = s;
    again.log(shrunk);
    EXPECT_EQ(again.called(), "tunnel/hone") << "wiped and touched again: the new log takes its place";
    ASSERT_TRUE(s.now().touches.size() == 1 && s.now().touches.front().touch == 13U);
    EXPECT_NEAR(s.now().touches.front().off, -0.1, 1e-5);
    const Folded state = s.state();
    const Assessment a = s.now();
    EXPECT_FALSE(answer(state, a, *a.steps.now(), {}, "2026-03-02T12:00:00Z")) << "not without a word of what it is";
    const auto so = answer(state, a, *a.steps.now(), {{"reason", std::string("a dent")}}, "2026-03-02T12:00:00Z");
    ASSERT_TRUE(so && so->size() == 1) << "a dent that stays";
    s.add(so->front());
    EXPECT_FALSE(s.now().steps.find("main.3/front/touch")) << "somebody looked: it counts, as it always did";
}

TEST(Stories, TwoUprightSizesOfThirtyBothLargeAskForTheRest) {
    Story s;
    s.caps(true).size(1, "front", "upright", 60.06).size(1, "rear", "upright", 60.06);
    EXPECT_EQ(s.called(), "main.1/measure/front/60_left");
    EXPECT_TRUE(s.metal().empty());
    EXPECT_THAT(s.waits("deck.C/witness"), testing::IsEmpty()) << "no deck was measured: there is no such step";
}

TEST(Stories, SizesInTheirWindowsAndNoSaddleAskForTheSaddles) {
    Story s;
    s.caps(true).sizes(60.010, 60.010);
    EXPECT_EQ(s.called(), "main.1/measure/saddle");
    EXPECT_TRUE(s.metal().empty());
    EXPECT_EQ(s.mark(Stage::tunnel), StageMark::cannot_tell);
    s.saddles();
    EXPECT_EQ(s.mark(Stage::tunnel), StageMark::meets);
}

TEST(Stories, APlaceLeftOutOfThePlanStopsCountingAsMissing) {
    Story s;
    s.caps(true).sizes(60.010, 60.010);
    s.add(ReadingPlanChosen{"saddle_heights", {"main.1 saddle", "main.3 saddle", "main.5 saddle"}});
    for (const int n : {1, 3, 5}) {
        Reading r = test::size_reading("main." + std::to_string(n), "", "", 0, 0.0005);
        r.at.quantity = Quantity::saddle;
        s.add(r);
    }
    EXPECT_NE(s.called(), "main.2/measure/saddle");
}

TEST(Stories, InSizeAndInLineWithTheCapsOffIsNotATunnel) {
    Story s;
    s.caps(false).sizes(60.010, 60.010).saddles();
    EXPECT_EQ(s.called(), "tunnel/torque");
    EXPECT_NE(s.mark(Stage::tunnel), StageMark::meets);
    s.caps(true);
    EXPECT_EQ(s.called(), "main.1/measure/front/upright") << "read again, as they run";
    s.sizes(60.010, 60.010).saddles();
    EXPECT_EQ(s.mark(Stage::tunnel), StageMark::meets);
}

TEST(Stories, CapsThatCameOffAfterItWasReadEndTheRound) {
    Story s;
    s.caps(true).sizes(60.010, 60.010).saddles();
    EXPECT_EQ(s.mark(Stage::tunnel), StageMark::meets);
    s.caps(false);
    EXPECT_EQ(s.called(), "tunnel/torque");
    s.caps(true);
    EXPECT_EQ(s.called(), "main.1/measure/front/upright");
    Story probed;
    probed.caps(true).log(log_of(30.005)).caps(false).caps(true);
    EXPECT_EQ(probed.called(), "tunnel/probe");
}

TEST(Stories, UnstatedCapsAreAskedFor) {
    Story s;
    s.sizes(60.010, 60.010).saddles();
    EXPECT_EQ(s.called(), "tunnel/conditions");
    EXPECT_NE(s.mark(Stage::tunnel), StageMark::meets);
    const Folded state = s.state();
    const Assessment a = assess(state);
    const auto entries = answer(state, a, *a.steps.now(), proposed(*a.steps.now()), "2026-03-02T12:00:00Z");
    ASSERT_TRUE(entries) << entries.error().front().text();
    s.add(entries->front());
    EXPECT_EQ(s.mark(Stage::tunnel), StageMark::meets) << "it holds for what was read";
}

TEST(Stories, CapsCutTorquedAndReadAsPredictedAreHoned) {
    Story s;
    s.caps(true).sizes(60.030, 60.015).saddles();
    EXPECT_EQ(s.called(), "tunnel/caps");
    EXPECT_GT(*s.now().steps.now()->number, 0.01) << "the largest cut";
    s.cut_caps(0.024);
    EXPECT_EQ(s.called(), "tunnel/torque");
    EXPECT_TRUE(s.metal().empty());
    s.caps(true);
    EXPECT_EQ(s.called(), "main.1/measure/front/upright");
    EXPECT_THAT(s.waits("tunnel/hone"), testing::ElementsAre(Rule::fresh));
    s.sizes(60.006, 60.003); // less the cut upright, half of it 60° off
    EXPECT_EQ(s.called(), "tunnel/hone");
    EXPECT_NEAR(*s.now().steps.now()->number, 0.007, 1e-9) << "to the middle of the window, at the tightest place";
}

TEST(Stories, TheSameByProbe) {
    Story s;
    s.caps(true).log(log_of(30.018));
    EXPECT_EQ(s.called(), "tunnel/caps");
    s.cut_caps(0.04).caps(true);
    EXPECT_EQ(s.called(), "tunnel/probe");
    Story off = s;
    s.log(log_of(30.018, 0.04));
    EXPECT_EQ(s.called(), "tunnel/hone") << "what was probed is what the cut should have made of it";
    off.log(log_of(30.018, 0.02));
    EXPECT_EQ(off.called(), "tunnel/probe") << "half of what was cut";
    EXPECT_THAT(off.waits("tunnel/hone"), testing::ElementsAre(Rule::doubt));
}

TEST(Stories, ShrunkByHalfOfTheCutIsNamedAndTheWorstReadOnceMore) {
    Story s;
    s.caps(true).sizes(60.030, 60.015).saddles().cut_caps(0.024).caps(true);
    for (int n = 1; n <= 5; ++n)
        for (const char* end : {"front", "rear"}) {
            const bool worst = n == 4 && end[0] == 'r';
            s.size(n, end, "upright", worst ? 60.020 : 60.018)
                .size(n, end, "60 left", 60.009)
                .size(n, end, "60 right", 60.009);
        }
    EXPECT_EQ(s.called(), "main.4/measure/rear/upright");
    EXPECT_TRUE(s.metal().empty());
    EXPECT_THAT(s.waits("tunnel/hone"), testing::ElementsAre(Rule::doubt));
}

TEST(Stories, TwentyStrokesAndNothingReadAskForOneWayOfEachMain) {
    Story honed;
    honed.caps(true).sizes(60.030, 60.015).saddles().cut_caps(0.024).caps(true).sizes(60.006, 60.003).strokes(20);
    EXPECT_EQ(honed.called(), "main.1/measure/front/60_left") << "the tightest way";
    EXPECT_NE(honed.mark(Stage::tunnel), StageMark::meets);
    EXPECT_TRUE(honed.metal().empty());
    for (int n = 1; n <= 5; ++n)
        honed.size(n, "front", "60 left", 60.010);
    EXPECT_EQ(honed.called(), "main.1/measure/front/upright") << "all within: now the full set";
    honed.sizes(60.010, 60.010);
    EXPECT_EQ(honed.called(), "main.1/measure/saddle");
    honed.saddles();
    EXPECT_EQ(honed.called(), "tunnel/finish");
    honed.add(TunnelCut{TunnelMethod::hone, ""});
    EXPECT_EQ(honed.mark(Stage::tunnel), StageMark::meets) << "what was read last is as left";
    EXPECT_THAT(honed.called(), StartsWith("deck.C/measure"));
}

TEST(Stories, ATunnelThatIsDoneAndFailsIsWorkedAgain) {
    Story s;
    s.caps(true).log(log_of(30.005, 0, 200.10)).add(TunnelCut{TunnelMethod::hone, "at the neighbour's"});
    EXPECT_EQ(s.called(), "tunnel/probe");
    s.log(log_of(30.018, 0, 200.10));
    EXPECT_EQ(s.called(), "tunnel/caps") << "a second campaign";
    s.cut_caps(0.03);
    EXPECT_EQ(s.called(), "tunnel/torque");
}

/// The decks alone, laid in the frame of the mains probed before.
std::string decks_alone(double height) {
    const std::string all = log_of(30.005, 0, height);
    return all.substr(0, all.find("a,main")) + all.substr(all.find("a,deck"));
}

// A log of the decks counted as one of the mains: strokes were forgotten, and a tunnel cut since carried new heights.
TEST(Stories, DecksProbedAloneSayNothingOfTheMains) {
    Story s;
    s.caps(true).log(log_of(30.005, 0, 200.03)).add(ProbeLogTaken{"decks.csv", "", decks_alone(200.03), {}, false});
    EXPECT_EQ(s.mark(Stage::tunnel), StageMark::meets) << "how sure a touch of the mains was stands with their log";
    s.strokes(20).log(decks_alone(200.03));
    EXPECT_NE(s.mark(Stage::tunnel), StageMark::meets);
    EXPECT_EQ(s.called(), "tunnel/probe");
    s.add(TunnelCut{TunnelMethod::hone, ""}).log(decks_alone(200.02));
    EXPECT_TRUE(decks_of(s.state()).deck("C").from_other_tunnel()) << "laid on mains that are no more";
}

TEST(Stories, ADoubtIsSettledByMeasuring) {
    Story s; // 60.0198 ± 0.001 against 60.020
    s.caps(true).sizes(60.0198, 60.015).saddles();
    EXPECT_EQ(s.called(), "tunnel/settle");
    EXPECT_EQ(s.now().steps.now()->about->text(), "main.1");
    EXPECT_TRUE(s.metal().empty());
}

TEST(Stories, ScrewsTurnedAskForTheSweepAgain) {
    Story s;
    s.caps(true).sizes(60.030, 60.015).saddles();
    const auto sweep = [&s] {
        for (const int main : {1, 5})
            for (const char* clock : {"12", "3", "6", "9"}) {
                Reading r = test::size_reading("main." + std::to_string(main), "", clock, 0.01, 0.0005);
                r.at.quantity = Quantity::sweep;
                s.add(r);
            }
    };
    sweep();
    EXPECT_EQ(s.now().gauge.sweeps.size(), 2U);
    s.add(StepDone{"screws turned"});
    EXPECT_TRUE(s.now().gauge.sweeps.empty()) << "they were swept before";
    EXPECT_EQ(s.called(), "main.1/measure/sweep/12");
    sweep();
    EXPECT_EQ(s.now().gauge.sweeps.size(), 2U);
    s.add(RoundOpened{"sweep", "the bar was knocked"});
    EXPECT_TRUE(s.now().gauge.sweeps.empty());
}

// ---- decks --------------------------------------------------------------------------------------------------------

TEST(Stories, NothingIsCutFromATunnelThatFails) {
    Story s;
    s.caps(true).log(log_of(30.018, 0, 200.10)).add(DeckTargetChosen{TargetSchool::height, true, 200.0});
    s.deck(PassKind::witness, 0.01, false);
    EXPECT_EQ(s.called(), "tunnel/caps");
    EXPECT_THAT(s.waits("deck.C/pass"), testing::Contains(Rule::tunnel_first));
    s.add(GatePassed{Rule::tunnel_first, "decks", "the mains are done afterwards, by wish"});
    EXPECT_THAT(s.called(), StartsWith("deck.C/"));
    EXPECT_NE(s.mark(Stage::decks), StageMark::meets);
}

TEST(Stories, ADeckUnderTheBlueprintsLimitIsADecision) {
    Story s; // least 199.95; cut to a height of 199.90 with a reason, flat there
    s.caps(true).log(log_of(30.005, 0, 200.06));
    s.add(DeckTargetChosen{TargetSchool::height, true, 199.90});
    EXPECT_EQ(s.called(), "deck.C/decide") << "before metal comes off";
    s.deck(PassKind::finish, 0.16).deck(PassKind::spring, 0).deck(PassKind::spring, 0).log(log_of(30.005, 0, 199.90));
    EXPECT_EQ(s.called(), "deck.C/decide");
    EXPECT_EQ(s.mark(Stage::decks), StageMark::fails);
    EXPECT_NE(s.now().steps.find("passport/hand_over")->state, StepState::now);
    s.add(GatePassed{Rule::sign_off, "deck.C", "a thicker gasket"});
    EXPECT_EQ(s.called(), "passport/hand_over");
}

// A block that is not there is handed to nobody: its truth is opened, and then nothing of it is asked for.
TEST(Stories, AnExerciseEndsWithItsTruth) {
    Story s;
    s.add(PracticeBegun{"bowed_tunnel", 1, 1, "", "", "", std::string(64, '0')});
    s.caps(true);
    EXPECT_EQ(s.now().steps.find("passport/hand_over"), nullptr);
    EXPECT_EQ(s.now().steps.find("passport/open_truth")->state, StepState::waits) << "nothing was measured";
    s.log(log_of(30.005, 0, 200.06));
    EXPECT_EQ(s.called(), "passport/open_truth");
    EXPECT_EQ(s.now().steps.now()->kind, StepKind::look);

    Story early;
    early.add(PracticeBegun{"bowed_tunnel", 1, 1, "", "", "", std::string(64, '0')});
    early.caps(true);
    early.add(TruthOpened{12});
    EXPECT_EQ(early.now().steps.now(), nullptr) << early.called();
    for (const Step& step : early.now().steps.steps)
        EXPECT_FALSE(is_open(step)) << step.id;
    EXPECT_EQ(early.now().steps.find("passport/open_truth")->state, StepState::done);
}

// Marked dark, then measured: heights say it better than marks.
TEST(Stories, WhatWasDarkAndIsMeasuredGoodIsNotCutOn) {
    Story s;
    s.caps(true).log(log_of(30.005, 0, 200.06));
    s.deck(PassKind::pass, 0.03, false, {{20, 40}}).log(log_of(30.005, 0, 200.03));
    EXPECT_NE(s.now().steps.now()->task, Task::cut_deck) << s.called();
    EXPECT_TRUE(s.now().bank("C")->passes.empty());
}

// Flat is said from nine heights spread over the deck, or the straightedge's lines after the last cut.
TEST(Stories, FourCornersDoNotShowADeckFlat) {
    const auto read = [](Story& s, const std::vector<MeasuredAt>& places) {
        for (const MeasuredAt& at : places)
            s.add(test::height_reading(at.place, 200.01, 0.001));
    };
    Story s;
    s.add(GatePassed{Rule::tunnel_first, "", "good by its papers"});
    const Blueprint b = *intake_of(s.state()).blueprint;
    const auto corners = usual_places(b, Measuring::deck_heights, "C"),
               all = all_places(b, Measuring::deck_heights, "C");
    ASSERT_EQ(all.size(), 4U + 3 * 3) << "both sides and the middle between four bores";
    Story by_pattern = s;
    read(s, corners);
    EXPECT_EQ(s.called().substr(0, 19), "deck.C/measure/gap/") << "lay the straightedge";
    EXPECT_TRUE(s.metal().empty());
    Story bent = s;
    for (const EdgeLine& line : edge_lines(b, "C")) {
        Reading r = test::size_reading("main.1", "", "", 0, 0.005);
        r.at = {{FeatureKind::deck, "C", 0}, Quantity::gap, "", line.name, {}};
        r.upper = 0.03;
        s.add(r);
        r.value = 0.08;
        r.upper = 0.1;
        bent.add(r);
    }
    EXPECT_EQ(s.called(), "passport/hand_over");
    EXPECT_EQ(bent.now().steps.now()->task, Task::cut_deck) << "corners alike, and hollow between them";
    std::vector<std::string> keys;
    for (const MeasuredAt& at : all)
        keys.push_back(at.key());
    by_pattern.add(ReadingPlanChosen{deck_heights_plan + "C", keys});
    read(by_pattern, corners);
    EXPECT_FALSE(decks_of(by_pattern.state()).deck("C").latest) << "nine places of the pattern are open";
    EXPECT_EQ(by_pattern.called(), "deck.C/measure/height/60.000_42.000") << "on the same side, between the bores";
    read(by_pattern, {all.begin() + 4, all.end()});
    EXPECT_EQ(by_pattern.called(), "passport/hand_over");
    // Whoever shortens the list again has all of it.
    Story shorter = s;
    read(shorter, {all.begin() + 4, all.begin() + 5});
    shorter.add(ReadingPlanChosen{deck_heights_plan + "C", keys});
    keys.resize(5);
    shorter.add(ReadingPlanChosen{deck_heights_plan + "C", keys});
    EXPECT_EQ(decks_of(shorter.state()).deck("C").latest->result.points.size(), 5U);
}

// A limit of the shop is what is judged by, and a wider guard band leaves more in doubt.
TEST(Stories, LimitsAreThoseOfTheShop) {
    Story s;
    s.caps(true).log(log_of(30.005, 0, 200.01, 0.014)); // the middle main 0.014 up: a step of as much
    EXPECT_EQ(s.mark(Stage::tunnel), StageMark::fails) << "half a thou from main to main is usual";
    LimitsChosen race = limits_of(s.state());
    EXPECT_EQ(race, usual_limits());
    race.main_step = 0.02;
    race.reason = "a boat's engine";
    Story easier = s;
    easier.add(race);
    EXPECT_EQ(easier.mark(Stage::tunnel), StageMark::meets);
    race.straightness = 0.004;
    Story straight = s;
    straight.add(race);
    EXPECT_EQ(straight.mark(Stage::tunnel), StageMark::fails) << "and straight within 0.004 it is not";

    const auto deck = [](double coverage) { // 0.0054 under the largest height
        Story two;
        LimitsChosen guard = usual_limits();
        guard.coverage = coverage;
        guard.reason = "as the customer's papers have it";
        two.add(GatePassed{Rule::tunnel_first, "", "good by its papers"}).add(guard);
        for (const MeasuredAt& at : all_places(*intake_of(two.state()).blueprint, Measuring::deck_heights, "C"))
            two.add(test::height_reading(at.place, 200.0446, 0.002));
        return two.now().bank("C")->verdict->check(CheckKind::highest_height)->verdict;
    };
    EXPECT_EQ(deck(2), metrology::Verdict::meets);
    EXPECT_EQ(deck(3), metrology::Verdict::cannot_tell);
}

// Where a cylinder was bored to is held against two limits before it is honed, and proven once it is finished.
TEST(Stories, ACylinderOffItsPlaceIsADecisionBeforeItIsHoned) {
    const auto log = [](double radius, double off) { // four cylinders, the second one off to the right
        test::LogWriter w(log_of(30.005), "");
        for (int n = 1; n <= 4; ++n)
            for (const double z : {190.0, 120.0})
                for (int k = 0; k < 8; ++k) {
                    const double a = k * std::numbers::pi / 4;
                    w.touch("bore.C." + std::to_string(n),
                            {n * 60.0 - 30 + radius * std::cos(a), radius * std::sin(a) + (n == 2 ? off : 0), z},
                            z > 150 ? "top" : "bottom");
                }
        return w.text();
    };
    Story s;
    s.caps(true).log(log(40.02, 0.1));
    PistonsStated pistons;
    pistons.size = 80.2;
    pistons.clearance = 0.05;
    LimitsChosen limits = usual_limits();
    limits.position_across = 0.08;
    limits.reason = "as the customer's papers have it";
    s.add(ScopeChosen{{Stage::tunnel, Stage::cylinders}, ""}).add(pistons).add(limits);
    EXPECT_EQ(s.now().cylinders->placed.size(), 4U);
    EXPECT_FALSE(s.now().cylinders->placed[1].bored) << "found so: nothing to decide on yet";
    EXPECT_EQ(s.called().substr(0, 7), "bore.C.");
    for (int n = 1; n <= 4; ++n)
        s.add(BoreCut{{FeatureKind::bore, "C", n}, BoreOperation::rough, 80.15, 80.15, false, 0, "", {}, ""});
    EXPECT_TRUE(s.now().cylinders->placed.empty()) << "where they were before the bar says nothing any more";
    const auto sizes = [](Story& story, double d) {
        for (int n = 1; n <= 4; ++n)
            for (const char* level : {"top", "middle", "bottom"})
                for (const char* way : {"across", "along"})
                    story.add(test::size_reading("bore.C." + std::to_string(n), level, way, d, 0.0005));
    };
    Story unproven = s;
    Conditions plate;
    plate.caps_torqued = plate.plate_on = true;
    sizes(unproven, 80.15);
    unproven.add(ConditionsStated{plate, false});
    for (int n = 1; n <= 4; ++n)
        unproven.add(BoreCut{{FeatureKind::bore, "C", n}, BoreOperation::hone, 80.25, {}, false, 30, "brush", {}, ""});
    sizes(unproven, 80.256);
    for (int n = 1; n <= 4; ++n)
        for (const std::string& step : bore_steps())
            unproven.add(BoreStepDone{{FeatureKind::bore, "C", n}, step, {}, "seen"});
    EXPECT_EQ(unproven.called(), "cylinders/place") << "a limit is set, and nobody has probed where they are";
    Story proven = unproven;
    proven.log(log(40.128, 0.05));
    EXPECT_NE(proven.called(), "cylinders/place");
    EXPECT_EQ(proven.mark(Stage::cylinders), StageMark::meets);
    unproven.add(StepSkipped{"cylinders/place", "no probe in this shop"});
    EXPECT_NE(unproven.called(), "cylinders/place");
    s.log(log(40.075, 0.1)); // bored after the hole it found
    sizes(s, 80.15);
    const auto placed = s.now().cylinders->placed;
    ASSERT_EQ(placed.size(), 4U);
    EXPECT_NEAR(placed[1].error.y, 0.1, 1e-3);
    EXPECT_EQ(placed[1].across, metrology::Verdict::fails);
    EXPECT_EQ(placed[1].along, metrology::Verdict::meets) << "no limit was set along";
    EXPECT_EQ(placed[1].in_reach, false) << "80.15 + 2 × 0.1 is more than 80.25";
    ASSERT_EQ(s.called(), "bore.C.2/place");
    EXPECT_EQ(s.mark(Stage::cylinders), StageMark::fails);
    s.add(GatePassed{Rule::sign_off, "bore.C.2", "the owner knows"});
    EXPECT_NE(s.called(), "bore.C.2/place");
    limits.position_across = 0.12;
    Story wide = s;
    wide.add(limits);
    EXPECT_EQ(wide.now().cylinders->placed[1].across, metrology::Verdict::meets);
}

// A mock-up needs no height from the tunnel: what a bank has over its clearance comes off. Crowns are not lost; they
// count from the height that is read later, as it was then.
TEST(Stories, AMockUpWithoutHeights) {
    const auto piston = [](int n, const char* side, double below) {
        Reading r = test::size_reading("bore.C." + std::to_string(n), "", "", below, 0.002);
        r.at.quantity = Quantity::piston;
        r.at.direction = side;
        return r;
    };
    Story s;
    DeckTargetChosen target{TargetSchool::clearance, true, {}};
    target.clearance = 0.05;
    s.add(GatePassed{Rule::tunnel_first, "", "good by its papers"}).add(target);
    s.add(ScopeChosen{{Stage::decks, Stage::mock_up, Stage::passport}, "the rest is good"});
    for (const int n : {1, 4})
        s.add(piston(n, "one side of the pin", n == 1 ? 0.34 : 0.40))
            .add(piston(n, "the other side of the pin", n == 1 ? 0.36 : 0.42));
    EXPECT_EQ(s.called(), "deck.C/witness");
    EXPECT_NEAR(*s.now().feel("C")->over, 0.30, 1e-9) << "0.35 at the highest, 0.05 wanted";
    Story measured = s;
    double taken = 0;
    int passes = 0;
    for (Assessment a = s.now(); a.decks.kind == DeckStep::cut_by_feel && passes < 30; a = s.now(), ++passes) {
        taken += a.decks.pass->depth;
        s.deck(a.decks.pass->kind, a.decks.pass->depth);
    }
    EXPECT_NEAR(taken, 0.30, 1e-9);
    EXPECT_EQ(s.now().decks.kind, DeckStep::feel_again);
    // Read before anything is cut: the same target, now as a height.
    const Blueprint b = *intake_of(s.state()).blueprint;
    for (const MeasuredAt& at : usual_places(b, Measuring::deck_heights, "C"))
        measured.add(test::height_reading(at.place, 200.3, 0.001));
    ASSERT_EQ(decks_of(measured.state()).crowns.size(), 4U);
    EXPECT_NEAR(measured.now().bank("C")->plan.target, 200.0, 1e-9);
    // And read after it was cut: the pistons stand where they stood.
    for (const MeasuredAt& at : usual_places(b, Measuring::deck_heights, "C"))
        s.add(test::height_reading(at.place, 200.0, 0.001));
    EXPECT_NEAR(s.now().bank("C")->plan.target, 200.0, 1e-9);
}

// A drop that was read with part of the metal off already had come nearer by that, and by no more.
TEST(Stories, AValveDropBelongsToTheHeightItWasReadAt) {
    Story s;
    Reading drop = test::size_reading("bore.C.1", "", "", 2.5, 0.01);
    drop.at.quantity = Quantity::valve;
    drop.at.level = "intake";
    s.deck(PassKind::pass, 0.2).add(drop).deck(PassKind::pass, 0.1);
    ASSERT_TRUE(valve_clearance(s.state(), "C", "intake"));
    EXPECT_NEAR(*valve_clearance(s.state(), "C", "intake"), 2.7, 1e-9) << "before any cut; 2.4 of it are left now";
    s.add(HeadWork{"C", {}, {}, 0.1, {}});
    EXPECT_NEAR(*valve_clearance(s.state(), "C", "intake"), 2.7, 1e-9);
}

TEST(Stories, AFlawNobodyHasDecidedOnStopsTheCut) {
    Story s;
    s.caps(true).log(log_of(30.005, 0, 200.10)).add(DeckTargetChosen{TargetSchool::height, true, 200.0});
    s.add(FlawMarked{"C", FlawKind::crack, {{10, 0}}, FlawNear::bore, {}, ""});
    EXPECT_THAT(s.called(), StartsWith("deck.C/flaw/"));
    EXPECT_THAT(s.waits("deck.C/witness"), testing::ElementsAre(Rule::flaw_decided));
    s.add(FlawDecided{5, FlawChoice::watch, ""});
    EXPECT_EQ(s.called(), "deck.C/witness");
}

// ---- the list -----------------------------------------------------------------------------------------------------

TEST(Steps, AreInTheOrderOfTheRouteAndNamedOnce) {
    Story s;
    s.caps(true).log(log_of(30.005, 0, 200.10));
    const Assessment a = s.now();
    std::set<std::string> ids;
    for (const Step& step : a.steps.steps)
        EXPECT_TRUE(ids.insert(step.id).second) << step.id;
    for (const RoutePreset preset : {RoutePreset::mains_first, RoutePreset::one_clamping, RoutePreset::least_metal,
                                     RoutePreset::decks_twice, RoutePreset::sleeves_first}) {
        const auto order = order_of(preset);
        EXPECT_EQ(order.size(), stage_keys.size());
        EXPECT_EQ(order.front(), Stage::received);
        EXPECT_EQ(order.back(), Stage::passport);
    }
    s.add(RouteChosen{RoutePreset::mains_first, {Stage::cylinders, Stage::tunnel}});
    EXPECT_EQ(route_of(s.state()).front(), Stage::cylinders);
    EXPECT_EQ(route_of(s.state()).size(), stage_keys.size());
}

TEST(Steps, ASkippedStepIsNotCalledAgain) {
    Story s;
    s.add(StepSkipped{"cleaned/wash", "came washed"});
    EXPECT_EQ(s.called(), "cleaned/inspect");
    EXPECT_EQ(s.now().steps.find("cleaned/wash")->reason, "came washed");
}

TEST(Steps, OnlyMetalAndPressesCannotBeUndone) {
    Story s;
    s.caps(true).log(log_of(30.018, 0, 200.10));
    for (const Step& step : s.now().steps.steps) {
        const bool metal = step.kind == StepKind::cut || step.kind == StepKind::hone || step.task == Task::press ||
                           step.task == Task::press_bush;
        EXPECT_EQ(step.cannot_be_undone, metal) << step.id;
        EXPECT_LE(step.asks.size(), 3U) << step.id;
    }
}

TEST(Answers, NameTheAskThatIsWrong) {
    Story s;
    s.caps(true).sizes(60.030, 60.015).saddles().cut_caps(0.024).caps(true).sizes(60.006, 60.003);
    const Folded state = s.state();
    const Assessment a = assess(state);
    const Step& hone = *a.steps.now();
    ASSERT_EQ(hone.id, "tunnel/hone");
    const auto said = [&](const Answers& answers) {
        const auto entries = answer(state, a, hone, answers, "2026-03-02T12:00:00Z");
        return entries ? std::string("taken") : entries.error().front().text();
    };
    EXPECT_THAT(said({}), HasSubstr("strokes is missing"));
    EXPECT_THAT(said({{"strokes", -3.0}}), HasSubstr("strokes is -3"));
    EXPECT_THAT(said({{"strokes", true}}), HasSubstr("strokes is of another kind"));
    EXPECT_THAT(said({{"strokes", std::nan("")}}), HasSubstr("strokes is nan"));
    EXPECT_EQ(said({{"strokes", 20.0}}), "taken");
    const Step* finish = a.steps.find("tunnel/finish");
    ASSERT_TRUE(finish);
    EXPECT_THAT(answer(state, a, *finish, {}, "").error().front().text(), HasSubstr("cannot be answered now"));
}
