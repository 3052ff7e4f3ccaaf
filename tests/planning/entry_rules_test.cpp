// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/common/entry_rules.h"

#include "planning/cylinders/boring.h"
#include "row_block.h"

#include <gmock/gmock.h>

using namespace pallix;
using namespace pallix::block;
using namespace pallix::planning;
using test::bore_id;
using test::lifter_id;
using test::RowJob;
using testing::HasSubstr;

namespace {

/// What is said of an entry in the job as it stands; empty where it can be made.
std::string said(const RowJob& job, const Payload& payload) {
    const Folded state = job.state();
    const auto fault = fault_now(state, assess(state), payload);
    return fault ? fault->what : std::string();
}

/// Four worn cylinders with pistons for 80.5: the board knows what each is bored to.
RowJob ready_to_bore() {
    RowJob job;
    for (int n = 1; n <= 4; ++n)
        job.sizes(bore_id(n), 80.05);
    CylinderPlanChosen plan;
    plan.oversizes = {0.5};
    plan.oversize = 0.5;
    job.add(plan);
    PistonsStated pistons;
    pistons.size = 80.45;
    pistons.clearance = 0.05;
    job.add(pistons);
    return job;
}

BoreCut rough(int n, bool new_edge = false) {
    return {bore_id(n), BoreOperation::rough, 80.4, 80.4, new_edge, 0, "", {}, ""};
}

} // namespace

TEST(EntryRules, PlacesTheBlueprintDoesNotListAreNamed) {
    const RowJob job;
    EXPECT_EQ(said(job, BoreDecided{{FeatureKind::bore, "C", 9}, BoreChoice::sleeve, ""}),
              "bore.C.9 is not in the blueprint");
    EXPECT_EQ(said(job, FlawMarked{"R", FlawKind::pit, {{1, 1}}, FlawNear::bore, {}, ""}),
              "bank \"R\" is not in the blueprint");
    EXPECT_EQ(said(job, CapsCut{{{{FeatureKind::main, "", 5}, 0.01}}}), "main.5 is not in the blueprint");
    EXPECT_EQ(said(job, test::size_reading("main.3", "front", "upright", 60)), "main.3 is not in the blueprint");
    EXPECT_EQ(said(job, FlawDecided{7, FlawChoice::watch, ""}), "no flaw stands in entry 7");
    EXPECT_EQ(said(job, DeckCut{"C", PassKind::pass, 0.1, false, {}}), "bank C was not measured");
    EXPECT_EQ(said(job, Note{"anything"}), "");
}

TEST(EntryRules, WithoutABlueprintNothingHasAPlace) {
    Folded state;
    const Assessment nothing;
    EXPECT_TRUE(fault_now(state, nothing, BorePitted{bore_id(1), 0.1, "top", "left", ""}));
    EXPECT_TRUE(fault_now(state, nothing, FinishNoted{"C", CutterState::dull, {}, ""}));
    EXPECT_FALSE(fault_now(state, nothing, StepDone{"washed"}));
}

// The window alone asked for it: a hole bored unmeasured went past the rule by any other way.
TEST(EntryRules, NoHoleIsBoredBeforeTheLastWasMeasured) {
    RowJob job = ready_to_bore();
    ASSERT_EQ(said(job, rough(1)), "");
    job.add(rough(1));
    EXPECT_THAT(said(job, rough(2)), HasSubstr("the last hole was not measured"));
    EXPECT_EQ(said(job, BoreCut{bore_id(1), BoreOperation::hone, 80.5, {}, false, 30, "220", {}, ""}), "")
        << "the hone is another tool";
    job.sizes(bore_id(1), 80.4);
    EXPECT_EQ(said(job, rough(2)), "");
}

TEST(EntryRules, AHoleOverItsSizeStopsTheBar) {
    RowJob job = ready_to_bore();
    job.add(rough(1));
    job.sizes(bore_id(1), 80.55);
    EXPECT_THAT(said(job, rough(2)), HasSubstr("came out over its size"));
}

TEST(EntryRules, SizesBelongIntoTheirBores) {
    const RowJob job;
    PistonsStated pistons;
    pistons.size = 180;
    EXPECT_THAT(said(job, pistons), HasSubstr("do not belong into bore.C.1"));
    pistons.size.reset();
    pistons.sizes[bore_id(2)] = 20;
    EXPECT_THAT(said(job, pistons), HasSubstr("the piston of bore.C.2 does not belong into its bore"));
    BoreCut cut = rough(1);
    cut.target = 800;
    EXPECT_THAT(said(job, cut), HasSubstr("the size of the cut cannot be"));
}

TEST(EntryRules, NothingIsPressedInBeforeItsSeat) {
    RowJob job;
    EXPECT_THAT(said(job, InsertFitted{bore_id(1), 0.05, {}, {}, ""}),
                HasSubstr("the sleeve of bore.C.1 was not measured"));
    InsertMeasured sleeve;
    sleeve.bore = bore_id(1);
    sleeve.outside.fill(84);
    sleeve.inside = 79;
    sleeve.length = 140;
    sleeve.interference = 0.03;
    sleeve.parent_outside = 100;
    EXPECT_EQ(said(job, sleeve), "");
    job.add(sleeve);
    EXPECT_EQ(said(job, InsertFitted{bore_id(1), 0.05, {}, {}, ""}), "");
    sleeve.inside = 85;
    EXPECT_THAT(said(job, sleeve), HasSubstr("no rings in one another"));
    EXPECT_THAT(said(job, InsertFitted{lifter_id(1), 0, {}, {}, ""}), HasSubstr("no bush is to go into lifter.C.1"));
}

TEST(EntryRules, AHeadOfWhichNothingIsSaidIsNoWork) {
    const RowJob job;
    EXPECT_THAT(said(job, HeadWork{"C", {}, {}, 0, {}}), HasSubstr("nothing was said of the head"));
    EXPECT_EQ(said(job, HeadWork{"C", 0.05, {}, 0, {}}), "");
    EXPECT_EQ(said(job, HeadWork{"C", {}, {}, 0.1, {}}), "");
}

TEST(EntryRules, ASetUpFixesAPlaneAndALine) {
    const RowJob job;
    const SetUpRead in_line{"C", "deck", {{{0, 0}, 0}, {{1, 0}, 0}, {{2, 0}, 0}}, {{"a", {0, 0}}, {"b", {5, 5}}}};
    EXPECT_THAT(said(job, in_line), HasSubstr("fix no plane"));
    const SetUpRead sound{
        "C", "deck", {{{0, -40}, 0}, {{400, -40}, 0.1}, {{200, 40}, 0}}, {{"a", {0, 0}}, {"b", {400, 5}}}};
    EXPECT_EQ(said(job, sound), "");
}
