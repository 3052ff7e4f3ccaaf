// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/common/entry_rules.h"

#include "block/entry_samples.h"
#include "planning/cylinders/boring.h"
#include "row_block.h"

#include <gmock/gmock.h>
#include <set>

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

// A head needs no height of its deck: a line felt is enough.
TEST(EntryRules, AHeadIsCutOnceItWasFelt) {
    RowJob job;
    DeckCut cut{"C", PassKind::witness, 0.02, false, {}};
    cut.head = true;
    EXPECT_THAT(said(job, cut), HasSubstr("nothing was read of the head"));
    Reading felt;
    felt.at = {{FeatureKind::deck, "C", 0}, Quantity::head_gap, "", "middle", {}};
    felt.value = 0.1;
    felt.upper = 0.12;
    EXPECT_EQ(said(job, felt), "");
    job.add(felt);
    EXPECT_EQ(said(job, cut), "");
    cut.head = false;
    EXPECT_EQ(said(job, cut), "bank C was not measured");
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

// ---- what belongs to a block, and what may be done now -------------------------------------------------------------

// One of each kind, made for a block with bank C, bores 1 and lifters 1 and 2: held against the row, which has them,
// and against a block that lists nothing of it.
TEST(EntryRules, AnEntryBelongsToTheBlockThatListsItsPlace) {
    const std::set<std::string> elsewhere{
        "deck_cut",  "flaw",           "deck_forecast",   "deck_finish",   "set_up",    "head_work",
        "reading",   "caps_cut",       "main_mark",       "tunnel_plan",   "bore_pit",  "bore_decided",
        "pistons",   "bore_cut",       "insert_measured", "insert_fitted", "bore_step", "profile_trace",
        "roughness", "lifter_decided", "tunnel_forecast", "truth_opened"};
    const RowJob row;
    const Folded here = row.state(), nothing;
    for (const Payload& payload : pallix::test::one_of_each()) {
        const std::string kind = kind_of(payload);
        if (kind == "insert_measured") // its sample is no ring: 3.5 outside, 78 inside
            EXPECT_EQ(fault_of(here, payload)->what, "these lengths are no rings in one another");
        else if (kind == "truth_opened")
            EXPECT_EQ(fault_of(here, payload)->what, "this block is no practice");
        else
            EXPECT_FALSE(fault_of(here, payload)) << kind << ": " << fault_of(here, payload)->what;
        EXPECT_EQ(fault_of(nothing, payload).has_value(), elsewhere.contains(kind)) << kind;
    }
}

// What the work at hand forbids was done elsewhere all the same: a job that comes in is not refused for it.
TEST(EntryRules, TheOrderOfTheWorkIsNoReasonToRefuseWhatWasDoneElsewhere) {
    RowJob job = ready_to_bore();
    job.add(rough(1));
    const Folded state = job.state();
    const Assessment assessment = assess(state);
    const std::vector<Payload> done{
        DeckCut{"C", PassKind::pass, 0.1, false, {}}, rough(2),
        InsertFitted{bore_id(2), 0, {}, {}, ""},      InsertFitted{lifter_id(1), 0, {}, {}, ""},
        FlawDecided{7, FlawChoice::watch, ""},        Note{" "}};
    for (const Payload& payload : done) {
        EXPECT_FALSE(fault_of(state, payload)) << kind_of(payload);
        EXPECT_TRUE(fault_now(state, assessment, payload)) << kind_of(payload);
    }
}

TEST(EntryRules, WhatDoesNotBelongIsRefusedAtOnceAndFromElsewhere) {
    const Folded state = RowJob().state();
    const Assessment assessment = assess(state);
    InsertMeasured thin;
    thin.bore = bore_id(1);
    thin.outside = {84, 84, 84, 84, 84, 84};
    thin.inside = 84.5; // larger than its outside
    thin.length = 140;
    thin.interference = 0.03;
    thin.parent_outside = 100;
    PistonsStated small;
    small.size = 30;
    PistonsStated one;
    one.sizes = {{bore_id(3), 170}};
    const std::vector<std::pair<Payload, std::string>> wrong{
        {thin, "these lengths are no rings in one another"},
        {small, "these pistons do not belong into bore.C.1"},
        {one, "the piston of bore.C.3 does not belong into its bore"},
        {BoreCut{bore_id(1), BoreOperation::hone, 161, {}, false, 10, "", {}, ""}, "the size of the cut cannot be"},
        {BoreCut{bore_id(1), BoreOperation::rough, 80.5, 39, false, 0, "", {}, ""}, "the size of the cut cannot be"},
        {SetUpRead{"C", "deck", {{{0, 0}, 0}, {{1, 1}, 0}, {{2, 2}, 0}}, {{"front", {0, 0}}, {"rear", {100, 0}}}},
         "these readings fix no plane, or the feet no line"},
        {HeadWork{"C", {}, {}, 0, {}}, "nothing was said of the head"},
    };
    for (const auto& [payload, what] : wrong) {
        ASSERT_TRUE(fault_of(state, payload)) << what;
        EXPECT_EQ(fault_of(state, payload)->what, what);
        EXPECT_FALSE(fault_of(state, payload)->expected.empty()) << what;
        ASSERT_TRUE(fault_now(state, assessment, payload)) << what;
        EXPECT_EQ(fault_now(state, assessment, payload)->what, what);
    }
}
