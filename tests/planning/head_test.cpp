// SPDX-License-Identifier: GPL-3.0-or-later
// The head of a bank, felt and read like a deck, levelled by its own face and cut until it is clean and flat.
#include "block/state/deck_state.h"
#include "planning/decks/compression.h"
#include "planning/decks/head_work.h"
#include "planning/readings/reading_plan.h"
#include "planning/steps/answer.h"
#include "planning/steps/step_changes.h"
#include "story.h"

#include <gmock/gmock.h>

using namespace pallix;
using namespace pallix::block;
using namespace pallix::planning;

namespace {

/// A block that is done with, so that nothing but the head is called for.
class HeadStory : public test::Story {
  public:
    HeadStory() { add(ScopeChosen{{Stage::finish}, ""}); }

    void felt(double goes_in, double does_not) {
        for (const MeasuredAt& at : places(Measuring::head_feelers))
            feel(at, at == places(Measuring::head_feelers).front() ? goes_in : 0.01,
                 at == places(Measuring::head_feelers).front() ? does_not : 0.02);
    }
    void feel(const MeasuredAt& at, double goes_in, double does_not) {
        Reading r;
        r.at = at;
        r.value = goes_in;
        r.upper = does_not;
        r.instrument.name = "straightedge";
        add(r);
    }
    /// Indicator at the four corners: front +v, front −v, rear +v, rear −v.
    void heights(const std::array<double, 4>& read) {
        std::size_t i = 0;
        for (const MeasuredAt& at : places(Measuring::head_heights)) {
            Reading r;
            r.at = at;
            r.value = read.at(i++);
            r.instrument.name = "indicator";
            r.instrument.standard_uncertainty = 0.001;
            add(r);
        }
    }
    /// Roughed by so much, finished by 0.02 more and sprung until the lines were gone.
    void cut_clean(double depth) {
        for (DeckCut cut :
             {DeckCut{"C", PassKind::pass, depth, true, {}}, DeckCut{"C", PassKind::finish, 0.02, true, {}},
              DeckCut{"C", PassKind::spring, 0, true, {}}}) {
            cut.head = true;
            cut.lines = cut.kind == PassKind::spring ? MarkerLines::gone : MarkerLines::not_looked_at;
            add(cut);
        }
    }
    std::vector<MeasuredAt> places(Measuring what) const { return chosen_places(state(), what, "C"); }
    /// Answers what is called.
    void answered(const Answers& answers) {
        const Assessment a = now();
        const auto entries = answer(state(), a, *a.steps.now(), answers, "2026-03-02T12:00:00Z");
        ASSERT_TRUE(entries) << called() << ": " << entries.error().front().what;
        for (const Payload& p : *entries)
            add(p);
    }
    HeadProgress head() const { return now().heads.at(0); }
};

EngineFigures figures() {
    EngineFigures f;
    f.stroke = 70;
    f.chamber = 50'000;
    f.gasket_thickness = 1;
    return f;
}

} // namespace

TEST(Head, NobodyHasBegunWithIt) {
    const HeadStory s;
    EXPECT_TRUE(s.now().heads.empty());
    for (const Step& step : s.now().steps.steps)
        EXPECT_THAT(step.id, testing::Not(testing::HasSubstr("/head/")));
}

// One line felt: the others are asked for; flat along all of them, nothing is cut.
TEST(Head, FeltFlatItIsLeftAlone) {
    HeadStory s;
    s.feel(s.places(Measuring::head_feelers).front(), 0.01, 0.02);
    EXPECT_THAT(s.called(), testing::StartsWith("deck.C/measure/head_gap/"));
    s.felt(0.02, 0.03);
    EXPECT_EQ(s.head().flat, metrology::Verdict::meets);
    EXPECT_TRUE(s.head().done());
    EXPECT_TRUE(s.metal().empty());
}

// Warped by the feelers alone: pass by pass until it is touched everywhere, one finishing cut, spring passes until the
// lines are gone, then it is felt again.
TEST(Head, WarpedItIsCutUntilCleanAndFeltAgain) {
    HeadStory s;
    s.felt(0.10, 0.12);
    ASSERT_EQ(s.head().flat, metrology::Verdict::fails) << "0.05 is allowed";
    ASSERT_EQ(s.called(), "deck.C/head/witness");
    s.answered({{"depth", 0.03}, {"clean", false}});
    EXPECT_THAT(s.called(), testing::StartsWith("deck.C/head/pass")) << "what was felt is void, and it is not clean";
    s.answered({{"depth", 0.05}, {"clean", true}});
    ASSERT_EQ(s.called(), "deck.C/head/finish");
    s.answered({{"depth", 0.025}, {"clean", true}});
    ASSERT_EQ(s.called(), "deck.C/head/spring");
    s.answered({{"lines", std::string("gone")}, {"clean", true}});
    EXPECT_THAT(s.called(), testing::StartsWith("deck.C/measure/head_gap/")) << "is it flat now?";
    EXPECT_NEAR(s.head().taken, 0.105, 1e-12);
    s.felt(0.01, 0.02);
    EXPECT_TRUE(s.head().done());
    EXPECT_EQ(s.head().flat, metrology::Verdict::meets);
    EXPECT_TRUE(decks_of(s.state()).deck("C").cuts.empty()) << "the deck was not touched";
}

TEST(Head, StillNotFlatItIsCutOnceMore) {
    HeadStory s;
    s.felt(0.10, 0.12);
    s.cut_clean(0.05);
    s.felt(0.08, 0.10);
    EXPECT_EQ(s.called(), "deck.C/head/pass");
}

// Run over with the indicator where it stands: levelled by its own face first, then the least that cleans it.
TEST(Head, LevelledByItsOwnFaceThenTheLeastThatCleansIt) {
    HeadStory s;
    s.heights({0.00, 0.00, 0.06, 0.06}); // the rear stands high: no warp, a tilt
    ASSERT_EQ(s.called(), "deck.C/head/level");
    EXPECT_FALSE(s.head().to_clean) << "what is to come off hangs on how it lies";
    s.answered({{"done", true}});
    EXPECT_THAT(s.called(), testing::StartsWith("deck.C/measure/head_height/")) << "then it is read again";
    s.heights({0.03, -0.05, -0.055, 0.03}); // twisted by itself: no foot takes that out
    ASSERT_EQ(s.called(), "deck.C/head/witness");
    EXPECT_NEAR(*s.head().to_clean, 0.085, 1e-12);
    double all = 0;
    for (const Pass& pass : s.head().passes)
        all += pass.depth;
    EXPECT_NEAR(all, 0.085 + 0.0254, 1e-9) << "and a finishing cut of one thou under that";
}

// Felt flat, it is not set up for a cut that nobody makes.
TEST(Head, AFlatOneIsNotLevelled) {
    HeadStory s;
    s.felt(0.01, 0.02);
    s.heights({0.00, 0.00, 0.06, 0.06});
    EXPECT_EQ(s.head().flat, metrology::Verdict::meets);
    EXPECT_TRUE(s.head().done());
}

// Four corners that agree do not say flat: the straightedge does.
TEST(Head, FourCornersDoNotProveItFlat) {
    HeadStory s;
    s.heights({0.001, 0, 0, 0.002});
    EXPECT_EQ(s.head().flat, metrology::Verdict::cannot_tell);
    EXPECT_THAT(s.called(), testing::StartsWith("deck.C/measure/head_gap/"));
}

// Its chambers hold less; where the ratio sets the decks they are measured anew before anything hangs on them.
TEST(Head, ItsChambersAreMeasuredAnew) {
    HeadStory s;
    s.add(figures()).add(DeckTargetChosen{TargetSchool::ratio, true, {}, {}, 9.0});
    s.felt(0.10, 0.12);
    s.cut_clean(0.10);
    s.felt(0.01, 0.02);
    EXPECT_NEAR(head_state(s.state(), "C").cut_since_chamber, 0.12, 1e-12);
    EXPECT_EQ(s.called(), "bore.C.1/measure/volume");
}

// Before the cut it says what it does: chambers smaller by the bore's area, so more compression; nothing of the deck.
TEST(Head, TheCutSaysWhatItDoesToTheRatio) {
    HeadStory s;
    s.add(figures()).caps(true).log(test::log_of(30.005));
    for (const MeasuredAt& at : s.places(Measuring::piston_heights)) {
        Reading r;
        r.at = at;
        r.value = 0.5;
        r.instrument.name = "dial";
        s.add(r);
    }
    s.felt(0.10, 0.12);
    const Folded state = s.state();
    const Assessment a = s.now();
    const Step* cut = a.steps.find("deck.C/head/witness");
    ASSERT_NE(cut, nullptr);
    const auto changes = changes_of(state, a, *cut);
    ASSERT_FALSE(changes.empty());
    for (const Change& change : changes) {
        ASSERT_EQ(change.what, Changed::ratio) << "the deck is not touched";
        // Bore 80.01: (Vs + Vc)/Vc with Vs 351.946 and Vc 50 + 5.028 + 2.514 cm³; 0.0254 off takes 0.128 of it.
        EXPECT_NEAR(*change.from, 1 + 351.946 / 57.542, 2e-3);
        EXPECT_NEAR(*change.to - *change.from, 351.946 / (57.542 - 0.1277) - 351.946 / 57.542, 1e-4);
    }
}

// Worked on elsewhere it comes back as another face, and its own passes are over.
TEST(Head, WorkedOnElsewhereItIsAnotherFace) {
    HeadStory s;
    s.felt(0.10, 0.12);
    s.add(DeckCut{"C", PassKind::witness, 0.03, false, {}, 8, false, MarkerLines::not_looked_at, true});
    s.add(HeadWork{"C", {}, {}, 0.1, {}});
    EXPECT_NEAR(s.head().taken, 0.13, 1e-12);
    EXPECT_FALSE(s.head().cut);
    EXPECT_THAT(s.called(), testing::StartsWith("deck.C/measure/head_gap/"));
}

// A head on the machine is called before the decks, until something is done to its deck.
TEST(Head, InHandItGoesBeforeTheDeck) {
    test::Story s;
    s.caps(true).log(test::log_of(30.005, 0, 200.10)).add(DeckTargetChosen{TargetSchool::height, true, 200.0});
    ASSERT_EQ(s.called(), "deck.C/witness");
    for (const MeasuredAt& at : chosen_places(s.state(), Measuring::head_feelers, "C")) {
        Reading r;
        r.at = at;
        r.value = 0.10;
        r.upper = 0.12;
        r.instrument.name = "straightedge";
        s.add(r);
    }
    EXPECT_EQ(s.called(), "deck.C/head/witness");
    test::Story set_up = s; // or until somebody sets the block up again
    set_up.corners({0, 0, 0.05, 0.05});
    EXPECT_EQ(set_up.called(), "deck.C/level");
    s.deck(PassKind::witness, 0.02, false);
    EXPECT_THAT(s.called(), testing::StartsWith("deck.C/pass"));
    EXPECT_NE(s.now().steps.find("deck.C/head/witness"), nullptr);
}
