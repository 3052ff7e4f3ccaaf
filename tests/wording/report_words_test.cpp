// SPDX-License-Identifier: GPL-3.0-or-later
// What the owner of a block is told, sentence by sentence, and when nothing is said.
#include "block/state/deck_state.h"
#include "planning/story.h"
#include "wording/report/coordinate_words.h"
#include "wording/report/customer_words.h"
#include "wording/report/estimate_words.h"
#include "wording/report/outcome_words.h"
#include "wording/steps/step_words.h"

#include <gmock/gmock.h>

using namespace pallix;
using namespace pallix::block;
using namespace pallix::wording;
using metrology::Verdict;
using planning::MayTurnUp;
using planning::Outcome;
using planning::Told;
using testing::Contains;
using testing::ElementsAre;
using testing::HasSubstr;
using testing::IsEmpty;
using testing::Not;
using testing::StartsWith;

namespace {

const LengthText as_metric(Unit::mm);

Outcome flatness(std::optional<double> found, std::optional<double> left, bool worked, std::optional<Verdict> verdict) {
    Outcome o;
    o.what = Told::deck_flatness;
    o.bank = "C";
    if (found)
        o.found = planning::Span{*found, *found};
    if (left)
        o.left = planning::Span{*left, *left};
    o.worked = worked;
    o.limits = {{}, 0.05};
    o.verdict = verdict;
    return o;
}

Outcome of(Told what, double found, double left, double limit) {
    Outcome o = flatness(found, left, true, Verdict::meets);
    o.what = what;
    o.limits.upper = limit;
    return o;
}

} // namespace

TEST(OwnerIsTold, WhatWasFoundWithItsLimit) {
    const test::Story s;
    EXPECT_EQ(found_sentence(s.state(), flatness(0.082, {}, false, Verdict::fails), as_metric),
              "That face (deck flatness) was uneven by 0.082 mm; at most 0.050 mm is right.");
    EXPECT_EQ(found_sentence(s.state(), flatness({}, 0.01, true, Verdict::meets), as_metric), "")
        << "nobody measured it when it came";
    Outcome bare = flatness(0.082, {}, false, {});
    bare.limits = {};
    EXPECT_EQ(found_sentence(s.state(), bare, as_metric), "That face (deck flatness) was uneven by 0.082 mm.");
}

TEST(OwnerIsTold, HowGoodItIsOnlyWhereItWasMeasuredSince) {
    const test::Story s;
    EXPECT_EQ(now_sentence(s.state(), flatness(0.082, 0.012, true, Verdict::meets), as_metric),
              "That face (deck flatness) is flat within 0.012 mm; at most 0.050 mm is right: good.");
    EXPECT_EQ(now_sentence(s.state(), flatness(0.082, {}, true, {}), as_metric), "");
    EXPECT_THAT(now_sentence(s.state(), flatness(0.082, 0.07, true, Verdict::fails), as_metric),
                Not(HasSubstr("good")));
    EXPECT_THAT(now_sentence(s.state(), flatness(0.082, 0.049, true, Verdict::cannot_tell), as_metric),
                Not(HasSubstr("good")));
}

TEST(OwnerIsTold, WhatWouldHaveComeOfItOnlyWhereItWasBeyondItsLimitAndWorkedOn) {
    EXPECT_THAT(otherwise_sentence(flatness(0.082, 0.012, true, Verdict::meets)), HasSubstr("head gasket leaks"));
    EXPECT_EQ(otherwise_sentence(flatness(0.03, 0.012, true, Verdict::meets)), "") << "it was right when it came";
    EXPECT_EQ(otherwise_sentence(flatness(0.082, {}, false, Verdict::fails)), "") << "nobody did anything about it";
    EXPECT_THAT(otherwise_sentence(of(Told::tunnel_line, 0.1, 0.01, 0.05)), HasSubstr("crankshaft"));
    EXPECT_THAT(otherwise_sentence(of(Told::main_size, 60.1, 60, 60.05)), HasSubstr("Bearings"));
    EXPECT_THAT(otherwise_sentence(of(Told::deck_height, 200.1, 200, 200.05)), HasSubstr("compression"));
    EXPECT_THAT(otherwise_sentence(of(Told::bore_size, 80.2, 80, 80.1)), HasSubstr("Rings do not seal"));
    EXPECT_THAT(otherwise_sentence(of(Told::bore_across, 0.3, 0.1, 0.2)), HasSubstr("pulls to one side"));
    EXPECT_EQ(otherwise_sentence(of(Told::cam_distance, 0.3, 0.1, 0.2)), "");
}

TEST(OwnerIsTold, WhatToWatch) {
    const test::Story s;
    EXPECT_THAT(watch_sentence(s.state(), flatness(0.08, {}, true, {})), StartsWith("Not measured since it was cut"));
    EXPECT_EQ(watch_sentence(s.state(), flatness(0.08, 0.07, true, Verdict::fails)),
              "Outside its limit: deck flatness.");
    EXPECT_THAT(watch_sentence(s.state(), flatness(0.08, 0.049, true, Verdict::cannot_tell)),
                StartsWith("Too near its limit"));
    EXPECT_EQ(watch_sentence(s.state(), flatness(0.08, 0.01, true, Verdict::meets)), "");
}

TEST(OwnerIsTold, AllInOneLook) {
    const Outcome good = flatness(0.08, 0.01, true, Verdict::meets), bad = flatness(0.08, 0.07, true, Verdict::fails),
                  open = flatness(0.08, {}, true, {});
    EXPECT_EQ(owner_sentence({good, good}), "Everything that was held against a limit is right.");
    EXPECT_EQ(owner_sentence({good, bad, open}),
              "One thing is right, one is not, of one it is not known yet: see What to watch.");
    EXPECT_EQ(owner_sentence({}), "Nothing of the block is held against a limit yet.");
}

TEST(OwnerIsTold, TheWholeStoryOfADeck) {
    test::Story s;
    s.add(JobCard{"", "", "", "loses gaskets", "", {}, "", "", "", "", {}, ""});
    s.add(Inspected{Inspection::cracks, "dye", ""});
    s.log(test::log_of(30.005, 0, 200.08)).deck(PassKind::pass, 0.03, false).deck(PassKind::finish, 0.03);
    s.add(GatePassed{Rule::part_here, "", "the gasket is known"});
    s.log(test::log_of(30.005, 0, 200.02));
    const CustomerReport r = customer_report(s.state(), s.now(), as_metric);
    EXPECT_THAT(r.found, Contains("You told us: loses gaskets."));
    EXPECT_THAT(r.found, Contains("Cracks were looked for, by dye: none was found."));
    EXPECT_THAT(r.found, Contains("The face that the cylinder head sits on (deck) stood 200.080 mm above the "
                                  "crankshaft's axis; 199.950 to 200.050 mm is right."));
    EXPECT_THAT(r.done,
                ElementsAre("0.060 mm was taken off the face under the cylinder head, in two passes (decking)."));
    EXPECT_THAT(r.otherwise, ElementsAre(HasSubstr("wrong height")));
    EXPECT_THAT(r.now, Contains(HasSubstr("stands 200.020 mm above the crankshaft's axis")));
    EXPECT_THAT(r.watch, Contains(HasSubstr("the gasket is known")));
}

TEST(OwnerIsTold, NothingOfWhatNobodyMeasuredOrDid) {
    const test::Story s;
    const CustomerReport r = customer_report(s.state(), s.now(), as_metric);
    EXPECT_THAT(r.found, IsEmpty());
    EXPECT_THAT(r.done, IsEmpty());
    EXPECT_THAT(r.otherwise, IsEmpty());
    EXPECT_THAT(r.now, IsEmpty());
    EXPECT_THAT(r.watch, IsEmpty());
}

TEST(OverallSentence, CountsWhatIsJudgedAndNamesWhatIsNot) {
    const test::Story s;
    const Outcome good = flatness(0.08, 0.01, true, Verdict::meets), bad = flatness(0.08, 0.07, true, Verdict::fails),
                  near = flatness(0.08, 0.049, true, Verdict::cannot_tell), open = flatness(0.08, {}, true, {});
    EXPECT_EQ(overall_sentence(s.state(), {good, good}), "All 2 lines that have a limit and were measured meet it.");
    EXPECT_EQ(overall_sentence(s.state(), {good, bad, near, open}),
              "1 of 3 fails: deck flatness. 1 of 3 cannot be told: deck flatness. 1 was cut and not measured "
              "since: deck flatness.");
    EXPECT_EQ(overall_sentence(s.state(), {open}),
              "No line is held against a limit. 1 was cut and not measured since: deck flatness.");
    EXPECT_EQ(overall_sentence(s.state(), {}), "Nothing was measured yet.");
}

TEST(OverallSentence, WorkThatIsOpenIsSaid) {
    test::Story s;
    s.log(test::log_of(30.005, 0, 200.03));
    EXPECT_EQ(still_open_sentence(s.now()), "");
    s.deck(PassKind::pass, 0.02, false);
    EXPECT_EQ(still_open_sentence(s.now()), "The work is not finished: steps are open at decks.");
}

TEST(KeySizes, AreTheBlockAsItIs) {
    test::Story s;
    s.log(test::log_of(30.005, 0, 200.03));
    EXPECT_THAT(key_sizes(s.state(), s.now(), as_metric), ElementsAre("main 60.010", "deck 200.030"));
    s.deck(PassKind::pass, 0.02);
    EXPECT_THAT(key_sizes(s.state(), s.now(), as_metric), ElementsAre("main 60.010"))
        << "nobody knows the deck any more";
}

TEST(HandOver, SaysOfADeckOnlyWhatWasMeasured) {
    test::Story s; // the tunnel alone is wanted, and nobody has measured a deck
    s.add(ScopeChosen{{Stage::tunnel}, "mains only"}).caps(true).sizes(60.01, 60.01).saddles();
    ASSERT_EQ(s.called(), "passport/hand_over");
    EXPECT_THAT(call_text(s.state(), s.now(), as_metric).reasons, Not(Contains(HasSubstr("meets"))));
    test::Story deck;
    deck.log(test::log_of(30.005, 0, 200.03));
    ASSERT_EQ(deck.called(), "passport/hand_over");
    EXPECT_THAT(call_text(deck.state(), deck.now(), as_metric).reasons, Contains("The deck meets."));
}

TEST(HandOver, AsksForTheMarkThatIsNotOnTheBlockYet) {
    test::Story s;
    s.log(test::log_of(30.005, 0, 200.03)).add(SerialGiven{"S26-004", ""});
    EXPECT_THAT(call_text(s.state(), s.now(), as_metric).reasons,
                Contains("Mark the block: S26-004 does not stand on it yet."));
    s.add(SerialGiven{"S26-004", "S26-004"});
    EXPECT_THAT(call_text(s.state(), s.now(), as_metric).reasons, Not(Contains(HasSubstr("Mark the block"))));
}

TEST(EngravingLine, IsFilledIn) {
    test::Story s;
    s.log(test::log_of(30.005, 0, 200.03)).add(SerialGiven{"S26-004", ""});
    EXPECT_EQ(engraving_line("{serial} M{main} B{bore} D{deck} {serial}", s.state(), s.now(), as_metric),
              "S26-004 M60.010 B- D200.030 S26-004");
    EXPECT_EQ(engraving_line("plain", s.state(), s.now(), as_metric), "plain");
}

TEST(EstimateWords, SayWhatIsLikelyAndOnWhatItRests) {
    const test::Story s;
    planning::Estimate e;
    e.scope = {Stage::decks};
    e.hours.minutes = 150;
    e.sizes_known = true;
    e.sizes = {{0.25, 0.8}, {0.5, 0.196}};
    e.no_size = 0.004;
    e.blocks = 7;
    e.may_turn_up = {MayTurnUp::cracks};
    EstimateWords words = estimate_words(s.state(), e, as_metric);
    EXPECT_THAT(words.scope, ElementsAre(HasSubstr("(decks) are cut flat and to height")));
    EXPECT_THAT(words.hours, ElementsAre(HasSubstr("About 2.5 hours for the steps that are known now")));
    EXPECT_THAT(
        words.sizes,
        ElementsAre("Cylinders 0.250 mm larger than new: 80 in 100, by 7 blocks of this kind that were here before.",
                    "Cylinders 0.500 mm larger than new: 20 in 100, by 7 blocks of this kind that were here before.",
                    "No size on offer: less than 1 in 100, by 7 blocks of this kind that were here before."));
    EXPECT_THAT(words.may_turn_up, ElementsAre(StartsWith("Cracks were not looked for yet")));
    e.hours = {600, 480.0, 900.0, 0.8, 9, true};
    e.sizes = {{0, 1}};
    e.no_size = 0;
    e.blocks = 0;
    words = estimate_words(s.state(), e, as_metric);
    EXPECT_THAT(words.hours,
                ElementsAre("About 10 hours; between 8.0 hours and 15 hours in 8 of 10 such jobs here (nine "
                            "jobs of this engine)."));
    EXPECT_THAT(words.sizes, ElementsAre("Cylinders as large as new: as good as certain, by what was measured."));
}

TEST(CoordinateWords, SayWhatPlacesCountFrom) {
    test::Story s;
    planning::CoordinateSheet sheet{"C", false, 0, FeatureId{FeatureKind::dowel, "C", 1}, true, {}, {}};
    EXPECT_EQ(origin_words(s.state(), sheet), "dowel 1, where it was probed");
    sheet.origin_measured = false;
    EXPECT_EQ(origin_words(s.state(), sheet), "dowel 1, where the blueprint has it");
    sheet.lifters = true;
    sheet.angle = 0.5;
    EXPECT_THAT(origin_words(s.state(), sheet), HasSubstr("across from the plane through the crankshaft's axis"));
    EXPECT_EQ(sheet_name(s.state(), sheet), "deck, lifters at 28.65°");
    sheet.origin.reset();
    sheet.lifters = false;
    EXPECT_THAT(origin_words(s.state(), sheet), HasSubstr("names no dowel"));
}
