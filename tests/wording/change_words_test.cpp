// SPDX-License-Identifier: GPL-3.0-or-later
#include "wording/steps/change_words.h"

#include "planning/story.h"

#include <gmock/gmock.h>

using namespace pallix;
using namespace pallix::wording;
using planning::Change;
using planning::Changed;
using planning::Step;

namespace {

block::FeatureId feature(const char* id) {
    return *block::FeatureId::parse(id);
}

} // namespace

TEST(ChangeWords, WhatIsAlikeIsToldByItsFirstAndLastAndTheWorstOfEachNumber) {
    const block::Folded state = test::Story().state();
    std::vector<Change> changes{{Changed::deck_height, feature("deck.C"), 200.08, 200.03},
                                {Changed::clearance, feature("bore.C.1"), 0.58, 0.53},
                                {Changed::clearance, feature("bore.C.2"), 0.40, 0.35},
                                {Changed::ratio, feature("bore.C.1"), 9.501, 9.551},
                                {Changed::size, feature("bore.C.3"), {}, 80.5}};
    for (const char* id : {"main.1", "main.2", "main.3", "deck.C"})
        changes.push_back({Changed::stale, feature(id), {}, {}});
    EXPECT_THAT(change_words(state, changes, LengthText(block::Unit::mm)),
                testing::ElementsAre("deck 0.050 mm lower", "cylinder 3 (bore 3) to 80.500 mm",
                                     "nearest piston 0.400 to 0.350 mm below its deck", "compression 9.50 to 9.55",
                                     "to be read again: main 1 to main 3, deck"));
    EXPECT_TRUE(change_words(state, {}, LengthText(block::Unit::mm)).empty());
}

TEST(ChangeWords, WhereAStepIsDoneAndHowLongItTakes) {
    const block::Folded state = test::Story().state();
    const auto words = [&](planning::Task task, const char* about) {
        Step step;
        step.about = block::FeatureId::parse(about);
        step.where = where_of(task, 5, step.about);
        return where_words(state, step);
    };
    EXPECT_EQ(words(planning::Task::cut_deck, "deck.C"), "surfacer, deck up and level, about 12 min");
    EXPECT_EQ(words(planning::Task::cut_caps, "main.1"), "cap grinder, caps off the block, about 40 min");
    EXPECT_EQ(words(planning::Task::rest, "bore.C.1"), "bench") << "as long as it rests";
    EXPECT_EQ(words(planning::Task::decide_size, "bore.C.1"), "") << "at the desk";
}
