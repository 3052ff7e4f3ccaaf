// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/ledger.h"
#include "block/state/fold.h"
#include "planning/common/assessment.h"

#include "block/small_block.h"

#include <cmath>

using namespace pallix::planning;
using namespace pallix::block;
using pallix::metrology::Verdict;
using pallix::test::small_log;

namespace {

class Job {
  public:
    Job() { add(JobOpened{"small", "", "small.json", pallix::test::small_blueprint()}); }
    Job& add(Payload payload) {
        entries_.push_back(
            {static_cast<std::int64_t>(entries_.size() + 1), "2026-03-02T09:41:00Z", "Marit", std::move(payload)});
        return *this;
    }
    Job& log(const std::string& text, std::optional<double> u = 0.001) {
        return add(ProbeLogTaken{"log.csv", "", text, u, false});
    }
    Job& cut(PassKind kind, double depth, bool clean = false) { return add(DeckCut{"C", kind, depth, clean, {}}); }
    Assessment now() const { return assess(fold(entries_)); }
    StageMark mark(Stage stage) const { return now().stages[static_cast<std::size_t>(stage)].mark; }

  private:
    std::vector<Entry> entries_;
};

} // namespace

// One deck from the blueprint to the passport; 0.14 rises from front to rear over 140 mm between the touches.
TEST(Assessment, LeadsThroughADeck) {
    Job job;
    EXPECT_EQ(job.now().steps.now()->task, Task::wash);
    EXPECT_EQ(job.mark(Stage::cleaned), StageMark::current);

    job.log(small_log(200.1, 0.15).text()); // 200.03 to 200.17
    Assessment a = job.now();
    EXPECT_EQ(a.decks.kind, DeckStep::cut);
    EXPECT_EQ(a.decks.pass->kind, PassKind::witness);
    EXPECT_NEAR(a.decks.remaining, 0.14 + 0.0254, 1e-7) << "until it is clean, and the finishing cut";
    EXPECT_EQ(job.mark(Stage::tunnel), StageMark::meets);
    EXPECT_EQ(job.mark(Stage::decks), StageMark::current);

    job.cut(PassKind::witness, 0.0254).cut(PassKind::pass, 0.05);
    a = job.now();
    EXPECT_NEAR(a.banks[0].taken, 0.0754, 1e-12);
    EXPECT_NEAR(a.banks[0].remaining, 0.0646 + 0.0254, 1e-7);
    EXPECT_TRUE(a.banks[0].stale);
    EXPECT_FALSE(a.banks[0].verdict) << "nothing is proven from heights before the cut";

    job.cut(PassKind::pass, a.banks[0].remaining - 0.0254).cut(PassKind::finish, 0.0254, true);
    a = job.now();
    EXPECT_EQ(a.decks.kind, DeckStep::cut);
    EXPECT_EQ(a.decks.pass->kind, PassKind::spring);
    EXPECT_EQ(a.decks.passes_left, 2U);

    job.cut(PassKind::spring, 0, true).cut(PassKind::spring, 0, true);
    EXPECT_EQ(job.now().decks.kind, DeckStep::measure_again);
    EXPECT_EQ(job.mark(Stage::decks), StageMark::stale);

    job.log(small_log(200.0056).text());
    a = job.now();
    EXPECT_EQ(a.decks.kind, DeckStep::done);
    EXPECT_EQ(a.banks[0].verdict->verdict, Verdict::meets);
    EXPECT_TRUE(a.banks[0].passes.empty()) << "a micrometre over the target is no reason to cut on";
    EXPECT_EQ(job.mark(Stage::decks), StageMark::meets);
    EXPECT_EQ(job.mark(Stage::passport), StageMark::current);
}

TEST(Assessment, WithoutABlueprintNothingIsLookedAt) { // the stage of the tunnel once asked it for its mains
    const Assessment a = assess(Folded());
    EXPECT_EQ(a.steps.now()->task, Task::mend_blueprint);
    for (const StageState& s : a.stages)
        EXPECT_TRUE(s.mark == StageMark::open || s.stage == Stage::received) << static_cast<int>(s.stage);
}

TEST(Assessment, DarkAtDepthIsLookedInto) {
    Job job;
    job.log(small_log(200.1, 0.15).text()).cut(PassKind::finish, 0.14, false);
    EXPECT_EQ(job.now().decks.kind, DeckStep::cut) << "a thou deeper is within what six touches could not tell";
    EXPECT_NEAR(job.now().decks.remaining, 1.5 * 0.0254, 1e-6) << "half of it first, and the finishing cut";
    EXPECT_NEAR(job.now().banks[0].plan.moved, 0.0127, 1e-6);
    EXPECT_EQ(job.now().decks.pass->kind, PassKind::pass) << "not finished before it is clean";
    job.cut(PassKind::finish, 0.0254, false);
    job.cut(PassKind::spring, 0).cut(PassKind::spring, 0);
    EXPECT_EQ(job.now().decks.kind, DeckStep::look_why_dark) << "and beyond that something is wrong";
}

TEST(Assessment, UnstatedUncertaintyLeavesDoubt) {
    Job job;
    job.log(small_log(200.1, 0.15).text())
        .cut(PassKind::finish, 0.14, true)
        .cut(PassKind::spring, 0, true)
        .cut(PassKind::spring, 0, true);
    job.log(small_log(200.03).text(), std::nullopt);
    EXPECT_EQ(job.now().decks.kind, DeckStep::settle_doubt);
    EXPECT_EQ(job.mark(Stage::decks), StageMark::cannot_tell);
}

TEST(Assessment, CutTooDeepFails) {
    Job job;
    job.log(small_log(200.1, 0.15).text()).cut(PassKind::finish, 0.3, true);
    job.cut(PassKind::spring, 0, true).cut(PassKind::spring, 0, true).log(small_log(199.87).text());
    EXPECT_EQ(job.now().decks.kind, DeckStep::under_limit) << "199.87, and 199.95 is the least";
    EXPECT_EQ(job.mark(Stage::decks), StageMark::fails);
    Job early;
    early.log(small_log(200.1, 0.15).text()).add(GatePassed{Rule::sign_off, "deck.C", "under the limit, by wish"});
    early.cut(PassKind::finish, 0.14, true).cut(PassKind::spring, 0, true).cut(PassKind::spring, 0, true);
    early.log(small_log(199.96).text()); // 0.07 under its plan, over the blueprint's least
    EXPECT_EQ(early.now().decks.kind, DeckStep::fails) << "signed before anybody knew how it came out";
    job.add(GatePassed{Rule::sign_off, "deck.C", "a thicker gasket is here"});
    EXPECT_EQ(job.now().decks.kind, DeckStep::done) << "decided with a reason: the mark stays";
    EXPECT_EQ(job.mark(Stage::decks), StageMark::fails);
}

// Flat, square, and over the blueprint's largest height: as planned it is done, nothing is spoiled, and both are said.
TEST(Assessment, OverTheBlueprintIsSaidBesideThePlan) {
    Job job;
    job.log(small_log(200.3, 0.15).text()).cut(PassKind::finish, 0.14, true);
    job.cut(PassKind::spring, 0, true).cut(PassKind::spring, 0, true).log(small_log(200.23).text());
    EXPECT_EQ(job.now().decks.kind, DeckStep::done);
    ASSERT_TRUE(job.now().banks[0].verdict);
    EXPECT_EQ(job.now().banks[0].verdict->planned, Verdict::meets);
    EXPECT_EQ(job.now().banks[0].verdict->blueprint, Verdict::fails) << "0.23 over nominal, 0.05 is allowed";
    EXPECT_EQ(job.mark(Stage::decks), StageMark::meets);
}

TEST(Assessment, StillTooHighIsCutOn) {
    Job job;
    job.add(DeckTargetChosen{TargetSchool::height, true, 200.23}).log(small_log(200.3, 0.15).text());
    job.cut(PassKind::finish, 0.05, false).log(small_log(200.32).text());
    const Assessment a = job.now(); // target 200.23, measured 200.32, allowed to 200.28
    EXPECT_EQ(a.decks.kind, DeckStep::cut);
    EXPECT_NEAR(a.decks.remaining, 0.09, 1e-6);
    EXPECT_NE(a.decks.pass->kind, PassKind::witness);
}

// Handbook and bench agree: rough until it is clean, then one finishing cut, and no metal for its own sake.
TEST(Assessment, CleanSoonerThanPlannedIsFinishedThere) {
    Job job;
    job.log(small_log(200.1, 0.15).text()).cut(PassKind::witness, 0.0254).cut(PassKind::pass, 0.1, true);
    Assessment a = job.now(); // clean at 0.1254, planned at 0.14
    EXPECT_EQ(a.decks.pass->kind, PassKind::finish);
    EXPECT_NEAR(a.decks.remaining, 0.0254, 1e-9);
    EXPECT_NEAR(a.banks[0].plan.moved, 0.1254 - 0.14, 1e-7);
    EXPECT_EQ(a.steps.now()->asks.at(1).proposed, 1) << "what was clean stays clean under a deeper cut";
    job.cut(PassKind::finish, 0.0254, true);
    EXPECT_EQ(job.now().decks.pass->kind, PassKind::spring);
}

// Handbook: until the marker lines vanish, or three without change.
TEST(Assessment, NoFinishingCutGoesUnderTheBlueprintWhereItIsCleanAboveIt) {
    Job job; // lowest place 199.96, and 199.95 is the least
    job.log(small_log(200.03, 0.15).text());
    const double told = 2 * std::hypot(0.001, 0.002); // gauge and infeed: what can be proven
    EXPECT_NEAR(job.now().banks[0].plan.target, 199.95 + told, 1e-6);
    EXPECT_NEAR(job.now().banks[0].plan.finish.value_or(0), 0.01 - told, 1e-6);
    EXPECT_NEAR(job.now().decks.remaining, 0.15 - told, 1e-6);
    job.cut(PassKind::pass, 0.14, true);
    EXPECT_EQ(job.now().decks.pass->kind, PassKind::finish);
    EXPECT_NEAR(job.now().decks.pass->depth, 0.01 - told, 1e-6);
}

TEST(Assessment, SpringPassesEndByTheirMarkerLines) {
    const auto spring = [](MarkerLines lines) {
        DeckCut cut{"C", PassKind::spring, 0, true, {}};
        cut.lines = lines;
        return cut;
    };
    Job job;
    job.log(small_log(200.1, 0.15).text()).cut(PassKind::finish, 0.14, true);
    EXPECT_EQ(job.now().decks.passes_left, 2U) << "usual, as long as nobody looked";
    EXPECT_EQ(job.now().steps.now()->asks.front().key, "lines");
    Job gone = job;
    gone.add(spring(MarkerLines::gone));
    EXPECT_EQ(gone.now().decks.kind, DeckStep::measure_again) << "one was enough";
    job.add(spring(MarkerLines::fewer)).add(spring(MarkerLines::fewer)).add(spring(MarkerLines::fewer));
    EXPECT_EQ(job.now().decks.pass->kind, PassKind::spring) << "they are still going";
    job.add(spring(MarkerLines::same)).add(spring(MarkerLines::same));
    EXPECT_EQ(job.now().decks.pass->kind, PassKind::spring);
    job.add(spring(MarkerLines::same));
    EXPECT_EQ(job.now().decks.kind, DeckStep::measure_again) << "deflection, not stock";
}

TEST(Assessment, ByStraightedgeADeckIsRoughedFinishedAndSprungAsWell) {
    Job job;
    job.add(GatePassed{Rule::tunnel_first, "decks", "good by its papers"});
    job.cut(PassKind::witness, 0.0254);
    EXPECT_EQ(job.now().decks.pass->kind, PassKind::pass) << "not clean";
    job.cut(PassKind::pass, 0.05, true);
    EXPECT_EQ(job.now().decks.pass->kind, PassKind::finish);
    EXPECT_NEAR(job.now().decks.pass->depth, 0.0254, 1e-9);
    job.cut(PassKind::finish, 0.0254, true);
    EXPECT_EQ(job.now().decks.pass->kind, PassKind::spring);
    job.cut(PassKind::spring, 0, true).cut(PassKind::spring, 0, true);
    EXPECT_EQ(job.now().decks.kind, DeckStep::feel_again);
}

TEST(Assessment, ATargetThatLeavesPlacesIsSaidBeforeTheFirstCut) {
    Job job;
    job.log(small_log(200.1, 0.15).text()).add(DeckTargetChosen{TargetSchool::height, true, 200.1});
    const Assessment a = job.now();
    EXPECT_EQ(a.decks.kind, DeckStep::will_not_clean);
    EXPECT_NEAR(a.decks.remaining, 0.07, 1e-7);
    job.add(DeckTargetChosen{TargetSchool::height, true, std::nullopt});
    EXPECT_EQ(job.now().decks.kind, DeckStep::give_height);
}

TEST(Assessment, AFlatDeckInHeightNeedsNoCut) {
    Job job;
    job.log(small_log(200.01, 0.002).text());
    EXPECT_EQ(job.now().decks.kind, DeckStep::done);
}

TEST(Assessment, ABrokenBlueprintIsTheFirstThingToMend) {
    const Assessment a = assess(fold({{1, "2026-03-02T09:41:00Z", "", JobOpened{"t", "", "b.json", "{"}}}));
    EXPECT_EQ(a.steps.now()->task, Task::mend_blueprint);
}
