// SPDX-License-Identifier: GPL-3.0-or-later
// What comes of caps that are stated off.
#include "block/ledger.h"
#include "block/small_block.h"
#include "planning/common/assessment.h"
#include "planning/steps/steps.h"
#include "story.h"

#include <gmock/gmock.h>

using namespace pallix;
using namespace pallix::block;
using namespace pallix::planning;
using test::log_of;
using test::Story;

TEST(Stories, CylindersAreBoredWithTheCapsOn) {
    Story s;
    s.add(ScopeChosen{{Stage::cylinders}, "tunnel good by its papers"}).caps(false);
    s.bores(80.02).pistons(80.45);
    EXPECT_EQ(s.called(), "cylinders/caps");
    EXPECT_THAT(s.metal(), testing::IsEmpty());
    s.caps(true);
    EXPECT_EQ(s.called(), "bore.C.1/rough");
}

TEST(Stories, HeightsAreReadWithTheCapsOn) {
    Story s;
    s.add(StepDone{"washed"}).add(StepDone{"inspected for cracks"}).add(StepSkipped{"as_found/log", "no probe here"});
    s.add(ScopeChosen{{Stage::decks}, "tunnel good by its papers"}).caps(true);
    const Assessment before = s.now();
    const Step* first = before.steps.now();
    ASSERT_TRUE(first && first->place && first->place->quantity == Quantity::height) << s.called();
    Reading height;
    height.at = *first->place;
    height.value = 200.02;
    height.instrument.name = "deck bridge";
    s.caps(false);
    EXPECT_EQ(s.called(), "decks/caps");
    EXPECT_THAT(s.waits(first->id), testing::ElementsAre(Rule::conditions));
    s.add(height); // typed all the same
    EXPECT_EQ(s.called(), "decks/caps");
    Story answered = s;
    answered.add(GatePassed{Rule::conditions, "decks", "a bar that clamps in the saddles"});
    EXPECT_EQ(answered.called(), first->id);
    answered.add(height);
    EXPECT_NE(answered.called(), first->id) << "who answers for it is not asked for ever";
    s.caps(true);
    EXPECT_EQ(s.called(), first->id) << "what was read without them is none";
    s.add(height);
    EXPECT_NE(s.called(), first->id);
}

TEST(Stories, ADeckProbedFromOpenMainsIsMeasuredAgain) {
    Story s;
    s.add(ScopeChosen{{Stage::decks}, "tunnel good by its papers"})
        .add(DeckTargetChosen{TargetSchool::blueprint, true, {}});
    s.caps(false).log(log_of(30.005, 0, 200.10));
    EXPECT_THAT(s.metal(), testing::IsEmpty());
    EXPECT_EQ(s.called(), "decks/caps");
    s.caps(true);
    EXPECT_THAT(s.metal(), testing::IsEmpty());
    EXPECT_EQ(s.called(), "deck.C/probe") << "it was open when it was probed";
    s.log(log_of(30.005, 0, 200.10));
    EXPECT_EQ(s.called(), "deck.C/witness");
    s.caps(false); // for the bearings: what was measured with them on stands
    EXPECT_EQ(s.called(), "deck.C/witness");
}
