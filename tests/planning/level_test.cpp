// SPDX-License-Identifier: GPL-3.0-or-later
// A bank that is levelled on the machine: read, raise, read again, until its corners agree.
#include "planning/decks/set_up.h"
#include "story.h"

#include <gmock/gmock.h>

using namespace pallix;
using namespace pallix::block;
using namespace pallix::planning;

namespace {

/// What the indicator reads at the corners.
void corners(test::Story& s, const std::array<double, 4>& heights) {
    std::size_t i = 0;
    for (const char* end : {"front", "rear"})
        for (const char* side : {"+v", "-v"}) {
            Reading r;
            r.at = {{FeatureKind::deck, "C", 0}, Quantity::indicator, end, side, {}};
            r.value = heights.at(i++);
            r.instrument.name = "indicator";
            s.add(r);
        }
}

} // namespace

TEST(Level, RoundsUntilTheCornersAgree) {
    test::Story s;
    s.caps(true).log(test::log_of(30.005, 0, 200.10)).add(DeckTargetChosen{TargetSchool::height, true, 200.0});
    ASSERT_EQ(s.called(), "deck.C/witness") << "nobody has begun to level: it is not asked for";
    corners(s, {0.0, 0.0, 0.05, 0.05}); // the rear stands high
    EXPECT_EQ(s.called(), "deck.C/level");
    EXPECT_TRUE(s.metal().empty());
    EXPECT_NEAR(*s.now().steps.now()->number, 0.05 * 180 / 201.6, 1e-9) << "feet at an eighth from either end";
    s.add(StepDone{"block levelled, C"});
    EXPECT_THAT(s.called(), testing::HasSubstr("/measure/")) << "what was read is void";
    EXPECT_THAT(s.waits("deck.C/witness"), testing::ElementsAre(Rule::order));
    corners(s, {0.0, 0.004, 0.01, 0.008}); // within half a thou
    EXPECT_EQ(s.called(), "deck.C/witness");
    s.deck(PassKind::witness, 0.02, true);
    EXPECT_THAT(s.called(), testing::StartsWith("deck.C/")) << "the next pass on the same set-up";
    EXPECT_TRUE(s.now().steps.now()->cannot_be_undone);
}

// One corner off the plane of the others: no foot takes that out, and it does not stop the work.
TEST(Level, AHighCornerIsNoTilt) {
    test::Story s;
    s.caps(true).log(test::log_of(30.005, 0, 200.10)).add(DeckTargetChosen{TargetSchool::height, true, 200.0});
    corners(s, {0.02, -0.02, -0.02, 0.02});
    EXPECT_EQ(s.called(), "deck.C/witness");
}
