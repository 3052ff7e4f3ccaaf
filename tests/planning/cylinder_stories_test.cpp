// SPDX-License-Identifier: GPL-3.0-or-later
// Of cylinders: what is called for after what was done, and what is not.
#include "block/ledger.h"
#include "block/small_block.h"
#include "block/state/deck_state.h"
#include "planning/common/assessment.h"
#include "planning/steps/steps.h"
#include "story.h"

#include <gmock/gmock.h>

using namespace pallix;
using namespace pallix::block;
using namespace pallix::planning;
using test::log_of;
using test::Story;

namespace {

const FeatureId third_bore{FeatureKind::bore, "C", 3};

/// A deck that is to come down by 0.1, cylinders for the first oversize, and the third of them to be sleeved.
Story to_be_sleeved() {
    Story s;
    s.add(DeckTargetChosen{TargetSchool::blueprint, true, {}}).caps(true).log(log_of(30.005, 0, 200.10));
    s.bores(80.02).pistons(80.45, 0.05);
    s.add(BoreDecided{third_bore, BoreChoice::sleeve, "cracked"});
    return s;
}

void bore_its_seat(Story& s) {
    InsertMeasured sleeve;
    sleeve.bore = third_bore;
    sleeve.outside.fill(84.03);
    sleeve.inside = 79;
    sleeve.length = 140;
    sleeve.interference = 0.03;
    sleeve.parent_outside = 100;
    s.add(sleeve);
    s.add(BoreCut{third_bore, BoreOperation::rough, 84.0, 84.0, false, 0, "", {}, ""});
    s.add(test::size_reading("bore.C.3", "top", "across", 84.0, 0.0005));
}

} // namespace

TEST(Stories, ASleeveGoesInBeforeTheDeckIsBegun) {
    Story s = to_be_sleeved();
    EXPECT_EQ(s.called(), "bore.C.3/measure/outside/top/one_way");
    EXPECT_THAT(s.waits("deck.C/witness"), testing::ElementsAre(Rule::order));
    Story ordered = s;
    ordered.add(RouteChosen{RoutePreset::mains_first, {}});
    EXPECT_EQ(ordered.called(), "deck.C/witness") << "who chose an order has it";
    Story awaited = s;
    awaited.add(PartNoted{"sleeve", false, "from the foundry", "2026-03-09", Stage::cylinders});
    EXPECT_EQ(awaited.called(), "deck.C/witness") << "and nobody waits for a part";
    bore_its_seat(s);
    EXPECT_EQ(s.called(), "bore.C.3/sleeve/press");
    s.add(InsertFitted{third_bore, 0, {}, {}, ""});
    EXPECT_EQ(s.called(), "deck.C/witness") << "one cut leaves both alike";

    Story begun;
    begun.add(DeckTargetChosen{TargetSchool::blueprint, true, {}}).caps(true).log(log_of(30.005, 0, 200.10));
    begun.add(DeckCut{"C", PassKind::witness, 0.02, false, {}});
    Story cut = to_be_sleeved();
    cut.add(DeckCut{"C", PassKind::witness, 0.02, false, {}});
    EXPECT_EQ(cut.called(), begun.called()) << "a deck that is under the cutter is finished";
}

TEST(Stories, AProudSleeveIsTakenFlushBeforeAnythingIsHoned) {
    Story s = to_be_sleeved();
    bore_its_seat(s);
    s.add(InsertFitted{third_bore, 0.05, {}, {}, ""});
    EXPECT_EQ(s.called(), "deck.C/flush");
    EXPECT_NEAR(*s.now().steps.now()->number, 0.05, 1e-12);
    EXPECT_THAT(s.metal(), testing::ElementsAre("deck.C/flush"));
}

TEST(Stories, CylindersWaitForATunnelThatFails) {
    Story s;
    s.caps(true).log(log_of(30.018, 0, 200.03));
    s.bores(80.02).pistons(80.45);
    EXPECT_EQ(s.called(), "tunnel/caps");
    EXPECT_THAT(s.waits("bore.C.1/rough"), testing::Contains(Rule::tunnel_first));
}

TEST(Stories, OnlyTheCylindersWhereTheTunnelIsGoodByItsPapers) {
    Story s;
    s.bores(80.02).pistons(80.45);
    EXPECT_EQ(s.called(), "main.1/measure/front/upright");
    Story passed = s;
    s.add(ScopeChosen{{Stage::cylinders}, "tunnel good by its papers"});
    EXPECT_EQ(s.called(), "bore.C.1/rough");
    passed.add(GatePassed{Rule::tunnel_first, "", "tunnel good by its papers"});
    passed.add(GatePassed{Rule::order, "", "only the cylinders"});
    EXPECT_THAT(passed.metal(), testing::Contains("bore.C.1/rough"));
}
