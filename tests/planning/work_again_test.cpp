// SPDX-License-Identifier: GPL-3.0-or-later
// What is not as it should be after work, and is worked again or answered for: mains, doubts, decks and sleeves.
#include "block/state/deck_state.h"
#include "block/state/tunnel_state.h"
#include "planning/steps/answer.h"
#include "planning/tunnel/tunnel_study.h"
#include "story.h"

#include <gmock/gmock.h>

using namespace pallix;
using namespace pallix::block;
using namespace pallix::planning;

namespace {

void answer_step(test::Story& s, const std::string& id, const Answers& answers) {
    const Folded state = s.state();
    const Assessment a = s.now();
    const Step* step = a.steps.find(id);
    ASSERT_TRUE(step) << id << " of " << s.called();
    const auto entries = answer(state, a, *step, answers, "2026-03-02T12:00:00Z");
    ASSERT_TRUE(entries) << entries.error().front().text();
    for (const Payload& p : *entries)
        s.add(p);
}
/// Honed, and main 3 came out 0.005 over its window.
test::Story too_large() {
    test::Story s;
    s.caps(true).sizes(60.030, 60.015).saddles().cut_caps(0.024).caps(true).sizes(60.006, 60.003).strokes(20);
    for (int twice = 0; twice < 2; ++twice)
        for (int n = 1; n <= 5; ++n)
            for (const char* end : {"front", "rear"})
                for (const char* way : {"upright", "60 left", "60 right"})
                    s.size(n, end, way, n == 3 ? 60.025 + 0.001 * twice : 60.011);
    return s;
}
Reading height(double u, double v, double w) {
    Reading r = test::size_reading("deck.C", "", "", w, 0.001);
    r.at.quantity = Quantity::height;
    r.at.place = {u, v};
    return r;
}
test::Story& heights(test::Story& s, double w) {
    for (const DeckPlace& p : deck_places(intake_of(s.state()).blueprint->banks.front()))
        s.add(height(p.place.x, p.place.y, w));
    return s;
}
/// The straightedge along every line: that goes in, a hundredth more does not.
void felt(test::Story& s, double goes_in) {
    for (const MeasuredAt& at : usual_places(*intake_of(s.state()).blueprint, Measuring::feelers, "C")) {
        Reading r;
        r.at = at;
        r.value = goes_in;
        r.upper = goes_in + 0.01;
        r.instrument.kind = InstrumentKind::straightedge;
        s.add(r);
    }
}
Reading piston(int n, const char* side, double below) {
    Reading r = test::size_reading("bore.C." + std::to_string(n), "", "", below, 0.002);
    r.at.quantity = Quantity::piston;
    r.at.direction = side;
    return r;
}

} // namespace

TEST(WorkAgain, AMainThatIsTooLargeGetsASecondCampaign) {
    test::Story s = too_large();
    ASSERT_EQ(s.called(), "tunnel/large");
    test::Story other = s, on = s;
    answer_step(s, "tunnel/large", {{"choice", std::string("work_again")}, {"reason", std::string("over by a tenth")}});
    EXPECT_EQ(s.called(), "main.1/measure/saddle")
        << "sizes hold as they were read; where the saddles stand is not known";
    s.saddles();
    ASSERT_EQ(s.called(), "tunnel/caps") << "planned anew from what was read last";
    EXPECT_TRUE(intake_of(s.state()).gates.empty());
    const auto cuts = s.now().tunnel_work.to_cut;
    EXPECT_GT(cuts[2].cut, 0.005) << "main 3 comes down by what it is over, at the least";
    answer_step(other, "tunnel/large", {{"choice", std::string("replace_cap")}, {"reason", std::string("spun in")}});
    EXPECT_EQ(other.saddles().called(), "tunnel/caps");
    EXPECT_THAT(tunnel_of(other.state()).tunnel_policy->replaced,
                testing::ElementsAre(FeatureId{FeatureKind::main, "", 3}));
    answer_step(on, "tunnel/large", {{"choice", std::string("go_on")}, {"reason", std::string("shells to suit")}});
    EXPECT_NE(on.called(), "tunnel/caps");
    EXPECT_EQ(intake_of(on.state()).gates.size(), 1U);
}

// Three logs of the same metal have not told on which side of its limit a main lies: the fourth would not either.
TEST(WorkAgain, ADoubtThatLogsDoNotSettleIsADecision) {
    test::Story s;
    s.caps(true).log(test::log_of(30.00995)); // 60.0199 of 60.020 at most
    EXPECT_EQ(s.called(), "tunnel/probe");
    s.log(test::log_of(30.00995));
    EXPECT_EQ(s.called(), "tunnel/probe");
    s.log(test::log_of(30.00995));
    ASSERT_EQ(s.called(), "tunnel/doubt");
    answer_step(s, "tunnel/doubt", {{"reason", std::string("the gauge comes on Monday, and it is a boat")}});
    EXPECT_NE(s.called(), "tunnel/doubt");
    EXPECT_TRUE(s.waits("deck.C/witness").empty());
}

// At its least size by less than can be told, and stock left to the middle of the window: more of what was planned, not
// more readings.
TEST(WorkAgain, TheHoneGoesOnWhereStockIsLeft) {
    test::Story s;
    s.caps(true).sizes(60.030, 60.015).saddles().cut_caps(0.034).caps(true).sizes(59.996, 59.998).strokes(20);
    s.sizes(60.0004, 60.0004);
    EXPECT_EQ(s.called(), "tunnel/hone");
}

// By probe as by gauge: what strokes opened where the stones cut says how many are left.
TEST(WorkAgain, StrokesAreForecastFromLogs) {
    test::Story s;
    s.caps(true).log(test::log_of(30.018)).cut_caps(0.06).caps(true).log(test::log_of(30.018, 0.06)).strokes(20);
    // Twelve touches 30° apart, none upright: the cap has come up by 0.06 sin 75° there. The stones cut there alone.
    test::LogWriter w;
    const double most = 0.06 * std::sin(75 * std::numbers::pi / 180), opened = 0.010;
    for (std::size_t i = 0; i < test::stations.size(); ++i)
        for (const char* level : {"front", "rear"})
            for (int k = 0; k < 12; ++k) {
                const double angle = (k + 0.5) * 2 * std::numbers::pi / 12, z = 30.018 * std::sin(angle);
                double r = std::hypot(30.018 * std::cos(angle), z + (z < 0 ? 0.06 : 0));
                r = z < 0 ? std::max(r, 30.018 - most + opened) : r;
                const double out = std::atan2(z + (z < 0 ? 0.06 : 0), 30.018 * std::cos(angle));
                w.touch("main." + std::to_string(i + 1),
                        {test::stations[i] + (level[0] == 'f' ? -8.0 : 8.0), r * std::cos(out), r * std::sin(out)},
                        level);
            }
    s.log(w.text());
    const auto& forecast = s.now().tunnel_work.forecast;
    ASSERT_TRUE(forecast);
    EXPECT_NEAR(forecast->per_stroke, opened / 20, 0.05 * opened / 20) << "0.010 in 20 strokes, where they cut";
}

// The cutter met the sleeve, and the deck only where it stood as high: nothing is reckoned off the deck, and what it is
// now is read.
TEST(WorkAgain, AFlushPassTakesNothingOffTheHeight) {
    test::Story s;
    s.add(GatePassed{Rule::tunnel_first, "", "good by its papers"});
    heights(s, 200.03);
    s.add(BoreDecided{{FeatureKind::bore, "C", 2}, BoreChoice::sleeve, ""});
    s.add(InsertFitted{{FeatureKind::bore, "C", 2}, 0.05, {}, {}, ""});
    ASSERT_TRUE(s.now().steps.find("deck.C/flush"));
    answer_step(s, "deck.C/flush", {{"depth", 0.05}});
    EXPECT_EQ(decks_of(s.state()).deck("C").depth_in_all(), 0);
    EXPECT_TRUE(decks_of(s.state()).deck("C").stale());
    const Assessment a = s.now();
    EXPECT_EQ(a.decks.kind, DeckStep::measure_again);
    EXPECT_FALSE(a.steps.find("deck.C/flush")) << "it is done";
    heights(s, 200.02);
    EXPECT_NE(s.now().decks.kind, DeckStep::measure_again);
}

// One piston read on one side says nothing of the others: which of them stands highest decides how deep.
TEST(WorkAgain, AMockUpIsReadWholeAndAfterSleevesAreFlush) {
    test::Story s;
    DeckTargetChosen target{TargetSchool::clearance, true, {}};
    target.clearance = 0.05;
    s.add(GatePassed{Rule::tunnel_first, "", "good by its papers"}).add(target);
    s.add(ScopeChosen{{Stage::decks, Stage::mock_up, Stage::passport}, "the rest is good"});
    heights(s, 200.03);
    s.add(piston(1, "one side of the pin", 0.2));
    EXPECT_EQ(s.now().decks.kind, DeckStep::read_pistons);
    EXPECT_TRUE(s.metal().empty());
    EXPECT_EQ(s.called(), "bore.C.1/measure/piston/the_other_side_of_the_pin");
    s.add(InsertFitted{{FeatureKind::bore, "C", 2}, 0.05, {}, {}, ""});
    EXPECT_EQ(s.called(), "deck.C/flush") << "read over it they would be wrong";
    answer_step(s, "deck.C/flush", {{"depth", 0.05}});
    EXPECT_NE(s.called(), "deck.C/flush");
}

// Cut to its clearance, felt all over and still hollow: the list does not call for more metal, nor for the straightedge
// for ever.
TEST(WorkAgain, AHollowDeckAtItsClearanceIsADecision) {
    test::Story s;
    DeckTargetChosen target{TargetSchool::clearance, true, {}};
    target.clearance = 0.3;
    s.add(GatePassed{Rule::tunnel_first, "", "good by its papers"}).add(target);
    s.add(ScopeChosen{{Stage::decks, Stage::mock_up, Stage::passport}, "the rest is good"});
    for (const int n : {1, 4})
        for (const char* side : {"one side of the pin", "the other side of the pin"})
            s.add(piston(n, side, 0.32));
    s.deck(PassKind::finish, 0.02, false);
    felt(s, 0.1);
    for (int i = 0; i < 3; ++i) {
        DeckCut spring{"C", PassKind::spring, 0, false, {}};
        spring.lines = MarkerLines::same;
        s.add(spring);
    }
    EXPECT_EQ(s.called(), "deck.C/feel") << "what was felt before the springs is void";
    felt(s, 0.1);
    EXPECT_EQ(s.now().decks.kind, DeckStep::flat_by_feel);
    EXPECT_TRUE(s.metal().empty());
    answer_step(s, "deck.C/unmeasured", {{"reason", std::string("the gasket takes a tenth")}});
    EXPECT_THAT(s.called(), testing::Not(testing::StartsWith("deck.C")));
}

// Neither bridge nor probe: flat along every line, and the heights are asked for until somebody says that nobody here
// can read them.
TEST(WorkAgain, ADeckWhoseHeightNobodyMeasuresIsAnsweredFor) {
    test::Story s;
    s.add(GatePassed{Rule::tunnel_first, "", "good by its papers"});
    s.deck(PassKind::pass, 0.05).deck(PassKind::finish, 0.025);
    for (int i = 0; i < 3; ++i) {
        DeckCut spring{"C", PassKind::spring, 0, true, {}};
        spring.lines = MarkerLines::gone;
        s.add(spring);
    }
    felt(s, 0);
    ASSERT_EQ(s.now().decks.kind, DeckStep::flat_by_feel);
    EXPECT_THAT(s.called(), testing::StartsWith("deck.C/measure/height")) << "four heights would prove it";
    answer_step(s, "deck.C/unmeasured", {{"reason", std::string("no bridge for this engine")}});
    EXPECT_THAT(s.called(), testing::Not(testing::StartsWith("deck.C")));
    EXPECT_EQ(s.mark(Stage::decks), StageMark::cannot_tell) << "nobody says that it meets";
    s.deck(PassKind::pass, 0.02);
    EXPECT_THAT(s.called(), testing::StartsWith("deck.C")) << "cut again, it is another deck";
}
