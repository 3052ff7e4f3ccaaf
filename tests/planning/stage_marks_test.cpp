// SPDX-License-Identifier: GPL-3.0-or-later
// The marks of the route: what is known of each stage, never more.
#include "block/state/fold.h"
#include "planning/common/assessment.h"
#include "story.h"

using namespace pallix::block;
using namespace pallix::planning;
using pallix::test::size_reading;
using pallix::test::Story;
using Mark = StageMark;

namespace {

/// Washed, looked over, caps torqued, probed: in size, round and in line, the deck 0.03 over its middle.
Story sound_block(double deck = 200.03) {
    Story s;
    s.add(StepDone{"washed"}).add(StepDone{"inspected for cracks"}).caps(true).probed(30.005, 0, deck);
    return s;
}

FeatureId cylinder(int n) {
    return {FeatureKind::bore, "C", n};
}

/// Across and along at three heights.
void read_cylinder(Story& s, int n, double size) {
    for (const char* level : {"top", "middle", "bottom"})
        for (const char* way : {"across", "along"})
            s.add(size_reading("bore.C." + std::to_string(n), level, way, size, 0.001));
}

} // namespace

TEST(StageMarks, ANewJobIsReceivedAndWaitsForTheWash) {
    const Story s;
    EXPECT_EQ(s.mark(Stage::received), Mark::done);
    EXPECT_EQ(s.mark(Stage::cleaned), Mark::current);
    for (const Stage stage : {Stage::as_found, Stage::tunnel, Stage::decks, Stage::cylinders, Stage::lifters,
                              Stage::mock_up, Stage::finish, Stage::passport})
        EXPECT_EQ(s.mark(stage), Mark::open) << static_cast<int>(stage);
}

TEST(StageMarks, CleanedIsDoneWhenBothWereDone) {
    Story s;
    s.add(StepDone{"washed"});
    EXPECT_EQ(s.mark(Stage::cleaned), Mark::current) << "not looked over yet";
    s.add(StepDone{"inspected for cracks"});
    EXPECT_EQ(s.mark(Stage::cleaned), Mark::done);
    EXPECT_EQ(s.mark(Stage::as_found), Mark::current);
}

TEST(StageMarks, ATunnelIsWhatItsNewestRoundSays) {
    Story s = sound_block();
    EXPECT_EQ(s.mark(Stage::as_found), Mark::done);
    EXPECT_EQ(s.mark(Stage::tunnel), Mark::meets);
    s.caps(false);
    EXPECT_EQ(s.mark(Stage::tunnel), Mark::stale) << "nothing that was read with them on holds";
    s.caps(true);
    EXPECT_EQ(s.mark(Stage::tunnel), Mark::stale) << "they do not come back to where they were";
    s.probed(30.005);
    EXPECT_EQ(s.mark(Stage::tunnel), Mark::meets);
    s.strokes(20);
    EXPECT_EQ(s.mark(Stage::tunnel), Mark::stale);
}

TEST(StageMarks, ATunnelOutOfSizeFailsAndNearItsLimitCannotBeTold) {
    Story large;
    large.caps(true).probed(30.05); // 60.10 where 60.02 is the most
    EXPECT_EQ(large.mark(Stage::tunnel), Mark::fails);
    Story near;
    near.caps(true).probed(30.01); // 60.020 to the micron
    EXPECT_EQ(near.mark(Stage::tunnel), Mark::cannot_tell);
}

TEST(StageMarks, ADeckIsNoBetterThanTheTunnelItIsMeasuredFrom) {
    const auto cut_to_depth = [](Story s) {
        s.add(DeckTargetChosen{TargetSchool::height, true, 200.0}).add(PassPlanChosen{0, 0.05, 0, 0});
        s.deck(PassKind::finish, 0.03);
        EXPECT_EQ(s.mark(Stage::decks), Mark::stale) << "cut to its depth, not measured since";
        return s;
    };
    Story good = cut_to_depth(sound_block());
    good.probed(30.005, 0, 200.0);
    EXPECT_EQ(good.mark(Stage::decks), Mark::meets);
    Story bad = sound_block();
    bad.probed(30.05, 0, 200.03).add(GatePassed{Rule::tunnel_first, "decks", "the mains are done afterwards, by wish"});
    bad = cut_to_depth(bad);
    bad.probed(30.05, 0, 200.0);
    EXPECT_NE(bad.mark(Stage::decks), Mark::meets) << "everything hangs on the mains";
    EXPECT_NE(bad.mark(Stage::decks), Mark::fails) << "and nothing is known against the deck";
}

TEST(StageMarks, ADeckUnderItsLimitFailsWhateverItsPlan) {
    Story s = sound_block(199.94); // 199.95 is the least
    EXPECT_EQ(s.mark(Stage::decks), Mark::fails);
}

TEST(StageMarks, CylindersThatAreReadAreFoundNotJudged) {
    Story s = sound_block();
    EXPECT_EQ(s.mark(Stage::cylinders), Mark::open);
    for (int n = 1; n <= 4; ++n)
        read_cylinder(s, n, 80.01);
    EXPECT_NE(s.mark(Stage::cylinders), Mark::meets) << "nobody has said what they shall become";
    s.add(BoreCut{cylinder(1), BoreOperation::rough, 80.25, {}, false, 0, "", {}, ""});
    EXPECT_NE(s.mark(Stage::cylinders), Mark::meets);
    EXPECT_NE(s.mark(Stage::cylinders), Mark::done) << "work has begun";
}

TEST(StageMarks, WhatIsNotWantedAsksForNothing) {
    Story s = sound_block();
    s.add(ScopeChosen{{Stage::tunnel}, "the rest is done elsewhere"});
    const Assessment a = s.now();
    EXPECT_EQ(s.mark(Stage::tunnel), Mark::meets);
    for (const Step& step : a.steps.steps)
        if (step.stage == Stage::decks || step.stage == Stage::cylinders) {
            EXPECT_TRUE(step.state != StepState::now && step.state != StepState::ready) << step.id;
        }
}

// One stage is where the work is, unless something is known of it that weighs more; and there is a mark for each.
TEST(StageMarks, TheCallAndTheMarksAgreeAtEveryEntry) {
    Story s;
    const auto look = [&s](const char* after) {
        const Assessment a = s.now();
        ASSERT_EQ(a.stages.size(), stage_keys.size()) << after;
        const Step* now = a.steps.now();
        int current = 0;
        for (const StageState& stage : a.stages)
            if (stage.mark == Mark::current) {
                ++current;
                ASSERT_TRUE(now) << after;
                EXPECT_EQ(stage.stage, now->stage) << after;
            }
        EXPECT_LE(current, 1) << after;
        if (now && current == 0) {
            const Mark mark = a.stages[static_cast<std::size_t>(now->stage)].mark;
            EXPECT_TRUE(mark == Mark::fails || mark == Mark::cannot_tell || mark == Mark::stale) << after;
        }
    };
    look("opened");
    s.add(StepDone{"washed"}).add(StepDone{"inspected for cracks"});
    look("cleaned");
    s.size(1, "front", "upright", 60.01);
    look("one size");
    s.caps(true).probed(30.02, 0, 200.06);
    look("probed, too large");
    s.cut_caps(0.08);
    look("caps cut");
    s.caps(true).probed(29.99, 0.04);
    look("probed again");
    s.strokes(30).probed(30.005, 0, 200.06);
    look("honed and probed");
    s.add(TunnelCut{TunnelMethod::hone, ""});
    look("done");
    s.deck(PassKind::witness, 0.03, false, {{60, 45}});
    look("witness cut, a place dark");
    s.deck(PassKind::pass, 0.03);
    look("clean");
    s.probed(30.005, 0, 200.0);
    look("measured");
}
