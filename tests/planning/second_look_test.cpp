// SPDX-License-Identifier: GPL-3.0-or-later
// What one reading may not decide by itself, and what a cut says against the readings: told entry by entry, to the
// call.
#include "block/state/deck_state.h"
#include "block/state/readings_state.h"
#include "planning/cylinders/honing.h"
#include "planning/row_block.h"
#include "planning/steps/answer.h"
#include "planning/story.h"
#include "workshop/harbour.h"

#include <gmock/gmock.h>

using namespace pallix;
using namespace pallix::block;
using namespace pallix::planning;
using test::bore_id;
using test::RowJob;
using test::Story;
using testing::IsEmpty;
using testing::StartsWith;

namespace {

/// Ready for metal on the decks: tunnel good, washed and looked at.
Story good_tunnel() {
    Story s;
    s.add(StepDone{"washed"}).add(StepDone{"inspected for cracks, threads, caps and registers"});
    s.add(StepSkipped{"as_found/log", "no probe in this shop"});
    s.caps(true).sizes(60.010, 60.010).saddles();
    return s;
}

/// Heights of the four corners over 200, in the order of the reading plan.
Story& corners(Story& s, const std::array<double, 4>& over) {
    const auto places = chosen_places(s.state(), Measuring::deck_heights, "C");
    EXPECT_EQ(places.size(), 4U);
    for (std::size_t i = 0; i < places.size(); ++i) {
        Reading r = test::size_reading("main.1", "", "", 200 + over[i], 0.001);
        r.at = places[i];
        s.add(r);
    }
    return s;
}

/// Two oversizes on hand, and nothing else to be done.
void only_cylinders(RowJob& job) {
    CylinderPlanChosen plan;
    plan.oversizes = {0.25, 0.5};
    job.add(plan);
    job.add(ScopeChosen{{Stage::cylinders}, "the rest is good by its papers"});
    job.add(StepDone{"washed"});
    job.add(StepDone{"inspected for cracks, threads, caps and registers"});
    job.add(StepSkipped{"as_found/log", "no probe in this shop"});
}

} // namespace

// One corner a tenth over the other three: a slip as likely as a twist. Before anything is cut it is read again; struck
// and read as it is, the deck is planned; borne out, likewise.
TEST(SecondLook, AtACornerThatDisagreesAcrossTheDiagonals) {
    Story s = good_tunnel();
    corners(s, {0.060, 0.062, 0.061, 0.160});
    const std::string doubtful = s.called();
    EXPECT_THAT(doubtful, StartsWith("deck.C/measure"));
    EXPECT_THAT(s.metal(), IsEmpty());
    const Assessment a = s.now();
    ASSERT_TRUE(a.steps.now()->place);
    EXPECT_NEAR(readings_of(s.state()).place(*a.steps.now()->place)->value, 200.160, 1e-9) << "the one furthest off";
    Story good = good_tunnel();
    corners(good, {0.160, 0.150, 0.070, 0.060});
    EXPECT_THAT(good.called(), StartsWith("deck.C/witness")) << "a slope is no twist: corners that agree are read once";
}

// Heights say 0.100 to come off, and after 0.025 nothing is dark: a corner was read too high or the pass was deeper. No
// deeper on such heights; measured anew, the plan goes on from there.
TEST(SecondLook, AtADeckThatCameCleanTooSoon) {
    Story s = good_tunnel();
    corners(s, {0.160, 0.150, 0.070, 0.060});
    ASSERT_THAT(s.called(), StartsWith("deck.C/witness"));
    s.deck(PassKind::witness, 0.0254, true);
    ASSERT_TRUE(s.now().bank("C")->clean_too_soon);
    EXPECT_NEAR(*s.now().bank("C")->clean_too_soon, 0.100 - 0.0254, 1e-9);
    EXPECT_THAT(s.called(), StartsWith("deck.C/measure"));
    EXPECT_THAT(s.metal(), IsEmpty());
    corners(s, {0.050, 0.051, 0.050, 0.049});
    EXPECT_FALSE(s.now().bank("C")->clean_too_soon);

    Story honest = good_tunnel(); // 0.030 to come off: within a thou and what four readings may be off
    corners(honest, {0.090, 0.088, 0.061, 0.060});
    honest.deck(PassKind::witness, 0.0254, true);
    EXPECT_FALSE(honest.now().bank("C")->clean_too_soon);
}

// Six sizes of a rough bore, one of them a tenth over: the engine does not go up a size on it.
TEST(SecondLook, AtTheOneSizeThatSetsTheOversize) {
    const auto looked_at = [](double odd) {
        RowJob job;
        for (int n = 1; n <= 4; ++n)
            for (const char* level : {"top", "middle", "bottom"})
                for (const char* way : {"across", "along"}) {
                    const bool slip = n == 3 && std::string(level) == "middle" && std::string(way) == "along";
                    job.add(test::size_reading(bore_id(n).text(), level, way, slip ? odd : 80.10, 0.0005));
                }
        only_cylinders(job);
        return assess(job.state(), nullptr, "2026-03-02T12:00:00Z");
    };
    const Assessment odd = looked_at(80.20), worn = looked_at(80.12);
    EXPECT_EQ(odd.steps.now()->id, "bore.C.3/measure/middle/along");
    EXPECT_EQ(odd.steps.now()->second_look, SecondLook::sets_size);
    for (const Step& step : odd.steps.steps)
        EXPECT_FALSE(step.cannot_be_undone && step.state == StepState::ready) << step.id << " before it is read again";
    EXPECT_THAT(worn.steps.now()->id, testing::EndsWith("/rough")) << "within what bores wear: nothing is asked twice";
}

// In size by the needle's width and brushed: no stone follows the brush for a micrometre that readings cannot tell, and
// a bore that is still too small gets the finest stone, not the brush again.
TEST(SecondLook, TheBrushIsNotSentAfterMicrometres) {
    const auto at = [](double size, const std::string& last_grit) {
        RowJob job = test::rough_bored();
        job.add(BoreCut{bore_id(1), BoreOperation::hone, 80.5, {}, false, 40, last_grit, 45.0, ""});
        job.sizes(bore_id(1), size);
        const Folded s = job.state();
        return hone_board(s, *study_cylinders(s, {})).bores.front();
    };
    const HonePlanChosen plan = usual_hone_plan(Abrasive::vitrified, 80);
    const auto grit = [&plan](const HoneBore& b) { return b.step ? plan.steps[*b.step].grit : std::string(); };
    // Finish 80.500, readings good to 0.0005: stones go on to 80.501, less what the finest leaves to the brush.
    EXPECT_EQ(grit(at(80.490, "220 stone")), "400 stone") << "0.011 to take";
    EXPECT_EQ(grit(at(80.4985, "400 stone")), "brush") << "0.0015 and the doubt are within what the last stone leaves";
    EXPECT_TRUE(at(80.501, "400 stone").brush_due);
    EXPECT_FALSE(at(80.500, "brush").to_hone) << "in size, brushed: done";
    EXPECT_EQ(grit(at(80.498, "brush")), "400 stone") << "still too small: the brush takes nothing that counts";
}

// The same slip where no size on offer holds it: read again before anybody decides on a sleeve, and nothing waits for a
// decision that is not asked for yet.
TEST(SecondLook, BeforeASleeveIsDecidedOnOneReading) {
    RowJob job;
    for (int n = 1; n <= 4; ++n)
        for (const char* level : {"top", "middle", "bottom"})
            for (const char* way : {"across", "along"}) {
                const bool slip = n == 2 && std::string(level) == "top" && std::string(way) == "across";
                job.add(test::size_reading(bore_id(n).text(), level, way, slip ? 81.10 : 80.10, 0.0005));
            }
    only_cylinders(job);
    const Assessment a = assess(job.state(), nullptr, "2026-03-02T12:00:00Z");
    EXPECT_EQ(a.steps.now()->id, "bore.C.2/measure/top/across");
    for (const Step& step : a.steps.steps)
        for (const Wait& wait : step.waits_for)
            EXPECT_TRUE(a.steps.find(wait.step)) << step.id << " waits for " << wait.step;
}

// Banks that are cut to targets of their own are held against those, whatever is chosen for a least cut; four readings
// of each place later a doubt is somebody's to decide.
TEST(SecondLook, AtBanksThatAreNotMeantToBeAlike) {
    const auto job = [](TargetSchool school, double left_over) {
        Blueprint b = workshop::workboat_v6();
        for (BankBlueprint& bank : b.banks)
            if (bank.id == "L")
                bank.deck_height.nominal += 1;
        Story s(write_blueprint(b));
        s.add(DeckTargetChosen{school, true, {}});
        for (const BankBlueprint& bank : b.banks)
            for (const MeasuredAt& at : all_places(b, Measuring::deck_heights, bank.id)) {
                Reading r = test::size_reading("main.1", "", "", bank.deck_height.nominal + 0.01, 0.001);
                r.value += bank.id == "L" ? left_over : 0;
                r.at = at;
                s.add(r);
            }
        return s;
    };
    EXPECT_EQ(job(TargetSchool::blueprint, 0).now().pair->verdict, metrology::Verdict::meets) << "a millimetre apart";
    EXPECT_NEAR(job(TargetSchool::least_cut, -1).now().pair->difference, 0, 1e-9) << "both to one height";
    Story doubtful = job(TargetSchool::blueprint, 0.0254); // a thou: right on what banks may differ
    EXPECT_EQ(doubtful.now().decks.kind, DeckStep::settle_doubt);
    const Folded once = doubtful.state();
    for (int again = 0; again < 3; ++again)
        for (const MeasuredPlace& p : readings_of(once).places) {
            Reading r = test::size_reading("main.1", "", "", p.value, 0.001);
            r.at = p.at;
            doubtful.add(r);
        }
    EXPECT_EQ(doubtful.now().decks.kind, DeckStep::cannot_be_told);
    ASSERT_TRUE(doubtful.now().steps.find("decks/decide"));
    EXPECT_FALSE(doubtful.now().steps.find("decks/settle"));
}

// Both banks signed for against each other: the step asks for its reason, and is answered by it.
TEST(SecondLook, ADecisionOnBothBanksAsksForItsReason) {
    Step decision;
    decision.id = "decks/decide";
    decision.task = Task::decide_deck;
    decision.stage = Stage::decks;
    const auto refused = answer(Folded{}, Assessment{}, decision, {}, "2026-03-02T12:00:00Z");
    EXPECT_FALSE(refused);
    const auto signed_for = answer(Folded{}, Assessment{}, decision,
                                   {{"reason", std::string("a gasket of its own each")}}, "2026-03-02T12:00:00Z");
    ASSERT_TRUE(signed_for);
    EXPECT_EQ(std::get<GatePassed>(signed_for->front()).about, "decks");
}

// A saddle a hair inside the limit of straightness, with a gauge that cannot tell: the saddles are read in turn, the
// one that was read seldomest first, and when every one was read four times somebody decides. Nobody reads for ever.
TEST(SecondLook, ADoubtThatReadingDoesNotSettleIsDecided) {
    Story s;
    s.add(StepDone{"washed"}).add(StepDone{"inspected for cracks, threads, caps and registers"});
    s.add(StepSkipped{"as_found/log", "no probe in this shop"});
    s.caps(true).sizes(60.010, 60.010).saddles(0.0252); // of 0.0254
    ASSERT_EQ(s.called(), "tunnel/settle");
    std::map<std::string, int> read;
    for (int i = 0; i < 40 && s.called() == "tunnel/settle"; ++i) {
        const Assessment a = s.now();
        const auto at = *a.steps.now()->place;
        Reading again = test::size_reading(at.feature.text(), "", "", at.feature.number == 3 ? 0.0252 : 0, 0.0005);
        again.at = at;
        s.add(again);
        ++read[at.key()];
    }
    EXPECT_EQ(read.size(), 5u) << "not the same one again and again";
    for (const auto& [place, times] : read)
        EXPECT_EQ(times, 3) << place << ": and once before";
    EXPECT_EQ(s.called(), "tunnel/doubt");
    s.add(GatePassed{Rule::tunnel_first, "tunnel", "as good as the saddle can be read here"});
    EXPECT_THAT(s.called(), testing::Not(StartsWith("tunnel")));
}

// Everything in size, and one saddle a tenth off the others: every cap would go to the grinder for one slip.
TEST(SecondLook, AtASaddleThatStandsOutFromTheOthers) {
    Story s;
    s.add(StepDone{"washed"}).add(StepDone{"inspected for cracks, threads, caps and registers"});
    s.add(StepSkipped{"as_found/log", "no probe in this shop"});
    s.caps(true).sizes(60.010, 60.010).saddles(0.1);
    EXPECT_EQ(s.called(), "main.3/measure/saddle");
    EXPECT_EQ(s.now().steps.now()->second_look, SecondLook::stands_out);
    EXPECT_THAT(s.metal(), IsEmpty());
    Story slipped =
        s; // read again as it is: the two do not agree, which is asked about at the line; the first is struck
    slipped.add(Strike{static_cast<std::int64_t>(s.entries().size()) - 2, "slipped"});
    Reading again = test::size_reading("main.3", "", "", 0.0, 0.0005);
    again.at.quantity = Quantity::saddle;
    slipped.add(again);
    EXPECT_THAT(slipped.called(), testing::Not(StartsWith("tunnel/caps")));
    EXPECT_THAT(slipped.called(), testing::Not(StartsWith("main.3/measure/saddle")));
    again.value = 0.1;
    s.add(again);
    EXPECT_THAT(s.called(), StartsWith("tunnel/")) << "borne out: that is how it lies";
}

// Three cylinders read all over, the fourth in one place: it may be the one that sets the size.
TEST(SecondLook, ARowIsReadAsFarAsItsFirstCylinder) {
    RowJob job;
    for (int n = 1; n <= 3; ++n)
        job.sizes(bore_id(n), 80.10);
    job.add(test::size_reading("bore.C.4", "top", "across", 80.10, 0.0005));
    only_cylinders(job);
    const Assessment a = assess(job.state(), nullptr, "2026-03-02T12:00:00Z");
    EXPECT_EQ(a.steps.now()->id, "bore.C.4/measure/top/along");
    for (const Step& step : a.steps.steps)
        EXPECT_FALSE(step.cannot_be_undone && step.state == StepState::ready) << step.id;
    job.sizes(bore_id(4), 80.10);
    EXPECT_THAT(assess(job.state(), nullptr, "2026-03-02T12:00:00Z").steps.now()->id, testing::EndsWith("/rough"));
}

// Decks alone, and nobody has a probe: their heights are read, and nobody is told to hand the block over.
TEST(SecondLook, DecksAreReadByGaugeWhereNoLogIsToCome) {
    Story s;
    s.add(ScopeChosen{{Stage::decks}, "the rest is good by its papers"});
    s.add(StepDone{"washed"}).add(StepDone{"inspected for cracks, threads, caps and registers"});
    EXPECT_EQ(s.called(), "as_found/log");
    s.add(StepSkipped{"as_found/log", "no probe in this shop"});
    EXPECT_THAT(s.called(), StartsWith("deck.C/measure/height"));
}

// Nor a bridge: the straightedge goes over all its lines before anything is cut by what it says.
TEST(SecondLook, DecksAreFeltWhereNobodyReadsHeights) {
    Story s;
    s.add(ScopeChosen{{Stage::decks}, "the rest is good by its papers"});
    s.add(StepDone{"washed"}).add(StepDone{"inspected for cracks, threads, caps and registers"});
    s.add(StepSkipped{"as_found/log", "no probe in this shop"});
    for (const Step& step : s.now().steps.steps)
        if (step.place && step.place->quantity == Quantity::height)
            s.add(StepSkipped{step.id, "no bridge in this shop"});
    const auto lines = chosen_places(s.state(), Measuring::feelers, "C");
    ASSERT_GT(lines.size(), 2U);
    for (std::size_t i = 0; i < lines.size(); ++i) {
        const Assessment a = s.now();
        ASSERT_TRUE(a.steps.now() && a.steps.now()->place) << i;
        EXPECT_EQ(*a.steps.now()->place, lines[i]);
        EXPECT_THAT(s.metal(), IsEmpty()) << "after " << i << " of " << lines.size();
        Reading r = test::size_reading("main.1", "", "", 0.10, 0.005);
        r.at = lines[i];
        r.upper = 0.15;
        s.add(r);
    }
    EXPECT_THAT(s.called(), StartsWith("deck.C/witness"));
}

// Every cylinder was decided to be left as it is: there is nothing to bore, and no piston is asked for.
TEST(SecondLook, NoSizeIsAskedForWhereEveryCylinderIsLeft) {
    RowJob job;
    for (int n = 1; n <= 4; ++n)
        job.sizes(bore_id(n), 81.10);
    only_cylinders(job);
    for (int n = 1; n <= 4; ++n)
        job.add(BoreDecided{bore_id(n), BoreChoice::leave, "too large for anything on offer"});
    const Assessment a = assess(job.state(), nullptr, "2026-03-02T12:00:00Z");
    EXPECT_FALSE(a.steps.find("cylinders/sizes"));
    ASSERT_TRUE(a.steps.now());
    EXPECT_EQ(a.steps.now()->task, Task::hand_over);
}
