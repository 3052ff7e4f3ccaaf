// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/steps/work_sheet.h"

#include "planning/steps/steps.h"
#include "story.h"

#include <gmock/gmock.h>
#include <set>

using namespace pallix;
using namespace pallix::block;
using namespace pallix::planning;
using testing::HasSubstr;

namespace {

test::Story deck_to_cut() {
    test::Story story;
    story.add(StepDone{"washed"}).add(StepDone{"inspected for cracks, threads, caps and registers"});
    story.caps(true).probed(30.005, 0, 200.10).add(DeckTargetChosen{TargetSchool::height, true, 200.0});
    return story;
}

} // namespace

TEST(WorkSheet, StepsAreCalledByFourLettersThatStay) {
    const std::string code = sheet_code("deck.C/witness");
    EXPECT_EQ(code.size(), 4u);
    EXPECT_EQ(code, sheet_code("deck.C/witness"));
    std::set<std::string> codes;
    for (int i = 0; i < 1000; ++i)
        codes.insert(sheet_code("bore.C." + std::to_string(i) + "/rough"));
    EXPECT_GT(codes.size(), 985u) << "65,536 of them: a thousand share some eight"; // n²/2/65536
    for (const std::string& one : codes)
        EXPECT_EQ(one.find_first_of("aeiouyljq"), std::string::npos);
}

TEST(WorkSheet, ALineIsACodeAndWhatTheStepAsksFor) {
    const test::Story story = deck_to_cut();
    const Assessment a = story.now();
    const Step* cut = a.steps.now();
    ASSERT_EQ(cut->task, Task::cut_deck);
    const std::string code = sheet_code(cut->id);
    const auto tick = [&](const std::string& line, Unit unit = Unit::mm) { return read_tick(a.steps, line, unit); };
    const auto plain = tick(code);
    ASSERT_TRUE(plain) << plain.error();
    EXPECT_EQ(plain->step, cut->id);
    EXPECT_EQ(std::get<double>(plain->answers.at("depth")), *cut->asks[0].proposed);
    EXPECT_EQ(std::get<double>(tick(code + " 0.05")->answers.at("depth")), 0.05);
    EXPECT_NEAR(std::get<double>(tick(code + " 0.002 in")->answers.at("depth")), 0.0508, 1e-12);
    EXPECT_TRUE(std::get<bool>(tick(code + " 0.05 clean")->answers.at("clean")));
    std::string shouted = code;
    for (char& c : shouted)
        c = static_cast<char>(c - 'a' + 'A');
    EXPECT_TRUE(tick(shouted));
    EXPECT_THAT(tick("").error(), HasSubstr("nothing"));
    EXPECT_THAT(tick("zzzz").error(), HasSubstr("zzzz"));
    EXPECT_THAT(tick(code + " 0.05 clean twice").error(), HasSubstr("\"twice\""));
    EXPECT_FALSE(tick(code + " 5 thou mm"));
}

TEST(WorkSheet, WhatIsDoneInOneClampingStandsTogether) {
    const Assessment a = deck_to_cut().now();
    const auto batches = batches_of(a.steps);
    ASSERT_FALSE(batches.empty());
    EXPECT_EQ(batches.front().steps.front(), a.steps.now());
    std::size_t listed = 0;
    for (const Batch& batch : batches) {
        listed += batch.steps.size();
        if (batch.steps.front()->state != StepState::waits) {
            for (const Step* step : batch.steps)
                EXPECT_TRUE(in_one_clamping(*step, *batch.steps.front())) << step->id;
        }
    }
    std::size_t open = 0;
    for (const Step& step : a.steps.steps)
        open += step.state <= StepState::waits && !step.aside;
    EXPECT_EQ(listed, open);
    Step left, right;
    left.where = right.where = {Machine::surfacer, SetUp::deck_up, {}};
    left.about = FeatureId{FeatureKind::deck, "L", 0};
    right.about = FeatureId{FeatureKind::deck, "R", 0};
    EXPECT_FALSE(in_one_clamping(left, right)) << "the block is rolled";
}
