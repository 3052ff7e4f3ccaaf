// SPDX-License-Identifier: GPL-3.0-or-later
// What calls say of a bar's marks, of flaws, of a size that does not hold every cylinder, of a bank that is levelled.
#include "block/state/deck_state.h"
#include "block/state/intake_state.h"
#include "planning/row_block.h"
#include "planning/story.h"
#include "planning/tunnel/tunnel_study.h"
#include "units.h"
#include "wording/cylinders/cylinder_words.h"
#include "wording/decks/deck_words.h"
#include "wording/readings/readings.h"
#include "wording/steps/step_words.h"
#include "wording/tunnel/tunnel_words.h"

#include <gmock/gmock.h>

using namespace pallix;
using namespace pallix::block;
using namespace pallix::wording;
using test::mm;
using testing::Contains;
using testing::HasSubstr;

namespace {

CallText call_of(const test::Story& s) {
    return call_text(s.state(), s.now(), mm);
}

} // namespace

TEST(JudgementWords, AMarkNamesItsMainAndWhatIsStillToMark) {
    test::Story s;
    TunnelPolicy policy = planning::usual_tunnel_policy();
    policy.method = TunnelMethod::bore;
    policy.bar = 50;
    s.caps(true).sizes(60.02, 60.02).saddles().add(policy).cut_caps(0.06).caps(true).sizes(59.96, 59.99);
    s.add(TunnelPass{TunnelPassKind::establishing, 0, 4.98, false});
    s.add(MainMarked{{FeatureKind::main, "", 1}, BarMark::clean});
    EXPECT_EQ(call_of(s).headline, "Main 2: look at what the pass left");
    EXPECT_THAT(call_of(s).reasons, Contains("Still to mark: mains 2, 3, 4 and 5."));
    EXPECT_THAT(contact_sentences({{{FeatureKind::main, "", 1}, 1, 1}, {{FeatureKind::main, "", 3}, 0.4, 0}}),
                testing::ElementsAre("It is to touch all of the cap and all of the saddle of main 1.",
                                     "It is to touch part of the cap and nothing of the saddle of main 3."));
}

TEST(JudgementWords, AFlawSaysWhereItIsAndHowBadThatIs) {
    test::Story s;
    const Blueprint b = *read_blueprint(test::story_blueprint(), "b");
    FlawMarked crack{"C", FlawKind::crack, {{30, 42}}, FlawNear::open_deck, {}, "", {}, {}};
    EXPECT_THAT(flaw_risk_sentence(b, crack, mm), HasSubstr("within 2.000 mm of the edge of cylinder 1"));
    EXPECT_THAT(flaw_risk_sentence(b, crack, mm), HasSubstr("it grows, or it leaks"));
    s.caps(true).log(test::log_of(29.95));
    s.add(FlawMarked{
        "", FlawKind::crack, {}, {}, 3.0, "from the oil hole", FlawWhere::web, FeatureId{FeatureKind::main, "", 3}});
    EXPECT_EQ(call_of(s).headline, "Decide on the flaw in main 3");
    EXPECT_THAT(call_of(s).reasons.front(),
                HasSubstr("The web of main 3: crack, 3.000 mm deep: from the oil hole — not decided"));
    FlawMarked outside{"", FlawKind::crack, {}, {}, {}, "", FlawWhere::outside, {}};
    EXPECT_THAT(flaw_risk_sentence(b, outside, mm), HasSubstr("pressure test it"));
}

TEST(JudgementWords, ASizeSaysWhatItCostsTheOthersAndASleeveWhatItLeaves) {
    test::RowJob job;
    for (int n = 1; n <= 4; ++n)
        job.sizes(test::bore_id(n), n == 2 ? 80.40 : 80.10);
    CylinderPlanChosen plan;
    plan.oversizes = {0.25, 0.5};
    job.add(plan);
    const Folded state = job.state();
    EXPECT_THAT(choice_sentences(state, *planning::study_cylinders(state, {}), test::bore_id(2), mm),
                testing::ElementsAre("All at +0.500 mm: 0.250 mm more off each of the rest.",
                                     "A sleeve for this one: the rest stay at +0.250 mm; once it is in, cylinder 1 "
                                     "(bore 1) and cylinder 3 (bore 3), beside it, have to be measured again."));
}

TEST(JudgementWords, LevellingSaysWhichFootAndThatItIsReadAgain) {
    test::Story s;
    s.caps(true).log(test::log_of(30.005, 0, 200.10)).add(DeckTargetChosen{TargetSchool::height, true, 200.0});
    s.corners({0, 0, 0.05, 0.05});
    EXPECT_EQ(call_of(s).headline, "Level the deck");
    EXPECT_THAT(call_of(s).reasons, Contains(HasSubstr("raise 0.045 mm")));
    EXPECT_THAT(call_of(s).reasons, Contains(HasSubstr("corners are read again")));
}

TEST(JudgementWords, AClampIsNamedByItsCornerAndWhatItIsToComeUpBy) {
    test::Story s;
    s.caps(true).log(test::log_of(30.005, 0, 200.10)).add(DeckTargetChosen{TargetSchool::height, true, 200.0});
    s.corners({0, 0, -0.04, 0});
    EXPECT_EQ(call_of(s).headline, "A clamp pulls the deck out of shape: ease it");
    EXPECT_EQ(call_of(s).number, "0.040 mm");
    EXPECT_THAT(call_of(s).reasons,
                Contains("The rear, right side corner is pulled down: ease its clamp until it has come "
                         "up by 0.040 mm, tighten all of them evenly."));
    EXPECT_THAT(call_of(s).reasons, Contains(HasSubstr("measured from the tunnel, is taken off the readings")));
}

TEST(JudgementWords, ALevelSaysWhatItsZeroIs) {
    test::Story s;
    s.caps(true).log(test::log_of(30.005, 0, 200.10)).add(DeckTargetChosen{TargetSchool::height, true, 200.0});
    for (const char* way : {"along", "across"}) {
        Reading r;
        r.at = {{FeatureKind::deck, "C", 0}, Quantity::slope, "", way, {}};
        r.value = 0.25;
        s.add(r);
    }
    EXPECT_EQ(call_of(s).headline, "Level the deck");
    EXPECT_THAT(call_of(s).reasons, Contains(HasSubstr("what it shows on the machine's own table is its zero")));
    EXPECT_THAT(call_of(s).reasons, Contains(HasSubstr("the level is laid on again")));
}

TEST(JudgementWords, AHeadSaysHowItLiesWhatCameOffAndWhatItsChambersLost) {
    test::Story s;
    s.add(ScopeChosen{{Stage::finish}, ""});
    for (const char* line : {"right side", "middle"}) {
        Reading r;
        r.at = {{FeatureKind::deck, "C", 0}, Quantity::head_gap, "", line, {}};
        r.value = line[0] == 'm' ? 0.11 : 0.02;
        r.upper = r.value + 0.02;
        s.add(r);
    }
    EXPECT_EQ(call_of(s).headline, "Deck, head: witness cut");
    EXPECT_EQ(call_of(s).number, "0.025 mm");
    EXPECT_THAT(call_of(s).reasons, Contains("0.110 mm goes in under the straightedge (middle); 0.050 mm is allowed."));
    EXPECT_THAT(call_of(s).reasons, Contains(HasSubstr("pass by pass until it is touched everywhere")));
    DeckCut pass{"C", PassKind::pass, 0.1, false, {}};
    pass.head = true;
    s.add(pass);
    EXPECT_EQ(call_of(s).headline, "Deck, head: pass");
    EXPECT_THAT(call_of(s).reasons, Contains("0.100 mm off the head in all."));
    EXPECT_THAT(call_of(s).reasons, Contains(HasSubstr("taken smaller by the bore's area")));
}

// 45° seen where speed and strokes make 63: the wall says what the machine does.
TEST(JudgementWords, ACrossHatchThatIsOffSaysTheRate) {
    const planning::HoneMotion m{100, 170, 150, 110, true};
    EXPECT_EQ(
        hatch_sentence(planning::hatch_seen(m, 45 * radians_per_degree)),
        "Cross-hatch seen 45°; speed, stroke and rate make 63°. About 164 strokes a minute would make them here.");
    EXPECT_THAT(hatch_sentence(planning::hatch_seen(m, 34 * radians_per_degree)), HasSubstr("counted the other way"));
}

TEST(JudgementWords, WhatIsToBeMeasuredAgainSaysWhy) {
    test::Story s;
    s.caps(true).sizes(60.02, 60.02).cut_caps(0.05);
    EXPECT_THAT(doubt_sentences(s.state(), s.now(), mm), Contains(HasSubstr("(the caps were cut since)")));
    test::Story open;
    Reading height;
    height.at = {{FeatureKind::deck, "C", 0}, Quantity::height, "", "", {20, 40}};
    height.value = 200.02;
    height.instrument.name = "deck bridge";
    open.caps(false).add(height);
    EXPECT_THAT(doubt_sentences(open.state(), open.now(), mm),
                Contains(HasSubstr("(it was read from mains with their caps off)")));
    open.log(test::log_of(30.005));
    EXPECT_THAT(doubt_sentences(open.state(), open.now(), mm),
                Contains(HasSubstr("was probed from mains with their caps off")));
}

TEST(JudgementWords, ThePlateThatCameOffIsAskedForByWhatWasReadWithIt) {
    const test::Story s;
    planning::CylinderWork work;
    work.step = planning::CylinderStep::hone;
    work.hone.step = planning::HoneStep::put_plate_on;
    EXPECT_THAT(cylinder_call(s.state(), &work, mm).reasons, testing::SizeIs(1)) << "nobody said anything yet";
    for (int n = 1; n <= 3; ++n) {
        planning::HoneBore bore;
        bore.id = {FeatureKind::bore, "C", n};
        bore.plate_off = true;
        work.hone.bores.push_back(bore);
        const std::string who = n == 3 ? "3 cylinders: read with" : "Cylinder 1 (bore 1)";
        EXPECT_THAT(cylinder_call(s.state(), &work, mm).reasons.front(), testing::StartsWith(who));
    }
}
