// SPDX-License-Identifier: GPL-3.0-or-later
// How each feature stands, as one sees it from two metres away.
#include "planning/common/block_face.h"

#include "block/state/fold.h"
#include "planning/common/assessment.h"
#include "story.h"

#include <algorithm>
#include <gmock/gmock.h>

using namespace pallix;
using namespace pallix::block;
using namespace pallix::planning;
using test::Story;

namespace {

Face face(const Story& s, const char* id) {
    const Folded state = s.state();
    const std::vector<Face> faces = faces_of(state, s.now());
    const auto found = std::ranges::find(faces, *FeatureId::parse(id), &Face::id);
    EXPECT_NE(found, faces.end()) << id;
    return found == faces.end() ? Face{} : *found;
}

Story looked_over() {
    Story s;
    s.add(StepDone{"washed"}).add(StepDone{"inspected for cracks"}).caps(true);
    return s;
}

} // namespace

TEST(BlockFace, WhatNobodyMeasuredIsOpenAndSaysNoNumber) {
    const Story s;
    for (const char* id : {"main.3", "deck.C", "bore.C.1"}) {
        EXPECT_EQ(face(s, id).mark, StageMark::open) << id;
        EXPECT_FALSE(face(s, id).what) << id;
    }
}

TEST(BlockFace, AMainStandsAsItsVerdictUntilItsCapIsCut) {
    Story s = looked_over();
    s.probed(30.005); // 60.010 of 60.000 to 60.020
    EXPECT_EQ(face(s, "main.2").mark, StageMark::meets);
    EXPECT_EQ(face(s, "main.2").what, FaceNumber::size);
    EXPECT_NEAR(face(s, "main.2").number, 60.010, 1e-6);
    Story large = looked_over();
    large.probed(30.02);
    EXPECT_EQ(face(large, "main.2").mark, StageMark::fails);
    large.cut_caps(0.02);
    EXPECT_EQ(face(large, "main.2").mark, StageMark::stale);
}

TEST(BlockFace, ADeckToBeCutSaysHowMuchIsToGoAndACutOneIsStale) {
    Story s = looked_over();
    s.probed(30.005, 0, 200.08).add(DeckTargetChosen{TargetSchool::height, true, 200.0});
    EXPECT_EQ(face(s, "deck.C").mark, StageMark::current);
    EXPECT_EQ(face(s, "deck.C").what, FaceNumber::left);
    EXPECT_NEAR(face(s, "deck.C").number, 0.08, 1e-9);
    EXPECT_TRUE(face(s, "deck.C").decides) << "the call is about it";
    s.deck(PassKind::finish, 0.08).deck(PassKind::spring, 0).deck(PassKind::spring, 0);
    EXPECT_EQ(face(s, "deck.C").mark, StageMark::stale) << "cut since it was measured";
    s.probed(30.005, 0, 200.0);
    EXPECT_EQ(face(s, "deck.C").mark, StageMark::meets);
    EXPECT_NEAR(face(s, "deck.C").number, 200.0, 1e-9);
}

TEST(BlockFace, CylindersNobodyAskedForAreMeasuredAndNoMore) {
    Story s = looked_over();
    for (int n = 1; n <= 4; ++n)
        for (const char* level : {"top", "middle", "bottom"})
            for (const char* way : {"across", "along"})
                s.add(test::size_reading("bore.C." + std::to_string(n), level, way, n == 2 ? 80.20 : 80.01, 0.001));
    EXPECT_EQ(face(s, "bore.C.1").mark, StageMark::done);
    EXPECT_EQ(face(s, "bore.C.1").what, FaceNumber::over);
    EXPECT_NEAR(face(s, "bore.C.2").number, 0.20, 1e-9);
    CylinderPlanChosen plan;
    plan.oversizes = {0.25, 0.5};
    s.add(plan);
    EXPECT_TRUE(face(s, "bore.C.2").decides) << "it sets the size of the others";
    EXPECT_FALSE(face(s, "bore.C.1").decides);
    EXPECT_EQ(face(s, "bore.C.1").mark, StageMark::current);
}

TEST(BlockFace, AsFoundEndsBeforeTheFirstMetalAndLeavesOutWhatWasStruck) {
    const std::vector<Entry> entries{
        {1, "", "", JobOpened{"story", "", "b.json", test::story_blueprint()}},
        {2, "", "", DeckCut{"C", PassKind::pass, 0.1, false, {}}},
        {3, "", "", Note{"seen"}},
        {4, "", "", Strike{2, "wrong job"}},
        {5, "", "", StepDone{"washed"}},
        {6, "", "", TunnelPass{TunnelPassKind::strokes, 20, {}, false}},
        {7, "", "", StepDone{"inspected"}},
    };
    std::vector<std::int64_t> kept;
    for (const Entry& entry : entries_as_found(entries))
        kept.push_back(entry.sequence);
    EXPECT_THAT(kept, testing::ElementsAre(1, 3, 5));
}
