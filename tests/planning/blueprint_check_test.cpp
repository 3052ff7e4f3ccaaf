// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/common/blueprint_check.h"

#include "story.h"
#include "wording/common/lengths.h"

#include <gmock/gmock.h>

using namespace pallix;
using namespace pallix::planning;
using block::FeatureId;
using Kind = BlueprintDoubtKind;

namespace {

block::Blueprint story() {
    auto b = block::read_blueprint(test::story_blueprint(), "b.json");
    EXPECT_TRUE(b);
    b->lifters.clear();
    return *b;
}
FeatureId id(const char* text) {
    return *FeatureId::parse(text);
}

MATCHER_P3(Doubts, kind, about, by, "") {
    return arg.kind == kind && arg.about.text() == about && std::abs(arg.by - by) < 1e-9;
}

} // namespace

// By hand: bores of 80 every 60 mm overlap by 20 each, and the outer ones reach 10 beyond the deck's ends.
TEST(BlueprintCheck, FindsHolesThatRunIntoOneAnotherAndOverTheEdge) {
    const auto doubts = doubts_of(story());
    EXPECT_THAT(doubts, testing::Contains(Doubts(Kind::overlap, "bore.C.1", 20)));
    EXPECT_THAT(doubts, testing::Contains(Doubts(Kind::over_edge, "bore.C.1", 10)));
    EXPECT_THAT(doubts, testing::Contains(Doubts(Kind::over_edge, "bore.C.4", 10)));
    EXPECT_THAT(doubts, testing::Not(testing::Contains(Doubts(Kind::over_edge, "bore.C.2", 0))));
}

TEST(BlueprintCheck, NamesTheOneThatIsUnlikeItsLike) {
    block::Blueprint b = story();
    b.bores.clear();
    b.dowels.clear(); // the story's stands on the edge
    EXPECT_TRUE(doubts_of(b).empty());
    b.mains[2].diameter.nominal = 61;
    b.mains[3].x += 4;
    b.mains[4].diameter.upper = 0.5;
    const auto doubts = doubts_of(b);
    EXPECT_THAT(doubts, testing::UnorderedElementsAre(
                            Doubts(Kind::unlike, "main.3", 1), Doubts(Kind::uneven, "main.4", 4),
                            Doubts(Kind::uneven, "main.5", -4), Doubts(Kind::wide_window, "main.5", 0.5)));
}

TEST(BlueprintCheck, LeavesAThinWallToWhoeverKnowsBetter) {
    block::Blueprint b = story();
    for (std::size_t i = 0; i < b.bores.size(); ++i)
        b.bores[i].diameter.nominal = 58;
    EXPECT_THAT(doubts_of(b), testing::Contains(Doubts(Kind::thin_wall, "bore.C.1", 2)));
}

// A right bank at 30 degrees and a left one at -30, set back 25: the mirror of (10, 64) is (35, -64).
TEST(BlueprintCheck, HoldsABankAgainstTheOtherInAMirror) {
    block::Blueprint b;
    b.mains = story().mains;
    for (const char* bank : {"R", "L"}) {
        const bool left = bank[0] == 'L';
        b.banks.push_back({bank, left ? -0.5 : 0.5, {200, -0.05, 0.05}, {}, {}, true});
        for (int n = 1; n <= 3; ++n)
            b.bores.push_back(
                {{block::FeatureKind::bore, bank, n}, {}, {}, n * 100.0 + (left ? 25 : 0), 0, {80, 0, 0.02}});
        b.dowels.push_back(
            {{block::FeatureKind::dowel, bank, 1}, {}, {}, left ? 35.0 : 10.0, left ? -64.0 : 64.0, {12, 0, 0.02}});
    }
    EXPECT_TRUE(doubts_of(b).empty());
    b.dowels[1].v = 64;
    EXPECT_THAT(doubts_of(b), testing::ElementsAre(Doubts(Kind::not_mirrored, "dowel.L.1", 128)));
    b.bores[4].u += 3;
    EXPECT_THAT(doubts_of(b), testing::Contains(Doubts(Kind::not_mirrored, "bore.L.2", 3)));
}

TEST(BlueprintCheck, SaysWhatIsNotJudged) {
    block::Blueprint b = story();
    EXPECT_TRUE(without_limits(b).empty());
    b.mains[3].diameter.lower.reset();
    b.banks[0].deck_height.upper.reset();
    EXPECT_THAT(without_limits(b), testing::ElementsAre(id("deck.C"), id("main.4")));
}
