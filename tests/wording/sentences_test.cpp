// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/ledger.h"
#include "block/state/fold.h"
#include "block/state/intake_state.h"
#include "planning/common/assessment.h"
#include "wording/common/tables.h"
#include "wording/readings/readings.h"
#include "wording/steps/step_words.h"
#include "wording/tunnel/tunnel_words.h"

#include "block/small_block.h"
#include "units.h"

#include <gmock/gmock.h>
#include <sstream>

using namespace pallix::wording;
using namespace pallix::block;
using namespace pallix::planning;
using pallix::test::small_log;
using testing::Contains;
using testing::HasSubstr;

namespace {

using test::mm;

struct Said {
    Folded state;
    CallText call;
    std::string waits;
};

/// What is said after some entries.
Said after(std::vector<Payload> payloads) {
    std::vector<Entry> entries;
    entries.push_back(
        {1, "2026-03-02T09:41:00Z", "Marit", JobOpened{"small", "", "small.json", pallix::test::small_blueprint()}});
    for (Payload& p : payloads)
        entries.push_back(
            {static_cast<std::int64_t>(entries.size() + 1), "2026-03-02T09:41:00Z", "Marit", std::move(p)});
    Said said;
    said.state = fold(entries);
    const Assessment a = assess(said.state);
    said.call = call_text(said.state, a, mm);
    said.waits = waits_for(said.state, a, mm);
    return said;
}

ProbeLogTaken probed(double height, double slope = 0, std::optional<double> u = 0.001) {
    return {"log.csv", "", small_log(height, slope).text(), u, false};
}
DeckCut cut(PassKind kind, double depth, bool clean = true) {
    return {"C", kind, depth, clean, {}};
}

} // namespace

TEST(Call, NamesBankPassDepthAndTheLowestPlace) {
    const Said s = after({probed(200.1, 0.15)});
    EXPECT_EQ(s.call.headline, "Deck: witness cut, until it is clean");
    EXPECT_EQ(s.call.number, "0.025 mm");
    EXPECT_THAT(
        s.call.reasons,
        Contains(testing::AllOf(testing::StartsWith("Front"),
                                HasSubstr(" is the lowest place; it cleans up 0.140 mm below the highest point; the "
                                          "finishing cut of 0.025 mm comes under that, once it is marked clean."))));
    EXPECT_THAT(s.call.reasons, Contains("Cut to 200.005 mm (least cut), seven passes by the plan."));
    EXPECT_THAT(s.call.caution, HasSubstr("Stop the spindle"));
    EXPECT_EQ(s.waits, "deck: witness cut, 0.025 mm");
}

TEST(Call, SendsToTheTunnelFirstWhereItFails) { // 60.000 to 60.020; bores of 60.05 ask for the caps
    std::string log;
    std::istringstream lines(small_log(200.1, 0.15).text());
    for (std::string line; std::getline(lines, line);)
        log += line.find("main.2") == std::string::npos ? line + "\n" : "";
    pallix::test::LogWriter ring("", "");
    ring.ring_x("main.2", {120, 0, 0}, 30.03);
    const std::string rows = ring.text();
    const Said s = after({ProbeLogTaken{"log.csv", "", log + rows.substr(rows.find_first_not_of('\n')), 0.001, false}});
    ASSERT_TRUE(intake_of(s.state).troubles.empty()) << intake_of(s.state).troubles.front().words;
    EXPECT_EQ(s.call.headline, "Cut the caps");
    EXPECT_THAT(s.waits, testing::StartsWith("cut the caps"));
    const Assessment a = assess(s.state);
    const Step* witness = a.steps.find("deck.C/witness");
    ASSERT_TRUE(witness);
    EXPECT_EQ(witness->state, StepState::waits);
    EXPECT_EQ(wait_words(s.state, a, witness->waits_for.front(), mm), "the main tunnel first: cut the caps");
}

TEST(Call, AsksForADecisionBelowTheBlueprintsLimit) { // 199.95 is the least; the target is 199.9
    const std::vector<Payload> low{probed(200.1, 0.15), DeckTargetChosen{TargetSchool::height, true, 199.9}};
    const Said s = after(low);
    EXPECT_EQ(s.call.headline, "Deck: under the blueprint's least height");
    EXPECT_EQ(s.call.number, "0.050 mm");
    auto decided = low;
    decided.push_back(GatePassed{Rule::sign_off, "deck.C", "a thicker gasket is here"});
    EXPECT_EQ(after(decided).call.headline.substr(0, 17), "Deck: witness cut");
    EXPECT_THAT(after(decided).call.reasons, Contains("That is 0.050 mm below the blueprint's lower limit."));
}

TEST(Call, SaysWhatWillNotCleanUpAndByHowMuch) {
    const Said s = after({probed(200.1, 0.15), DeckTargetChosen{TargetSchool::height, true, 200.1}});
    EXPECT_EQ(s.call.headline, "Deck will not clean up");
    EXPECT_EQ(s.call.number, "0.070 mm");
}

TEST(Call, AsksForMeasuringAgainAndThenTellsTheVerdict) {
    std::vector<Payload> work{probed(200.1, 0.15), cut(PassKind::finish, 0.14), cut(PassKind::spring, 0),
                              cut(PassKind::spring, 0)};
    EXPECT_EQ(after(work).call.headline, "Measure the deck again");
    auto good = work;
    good.push_back(probed(200.03));
    EXPECT_EQ(after(good).call.headline, "Print the passport");
    EXPECT_THAT(after(good).call.reasons, Contains("The deck meets."));
    EXPECT_THAT(after(good).call.reasons, Contains("Deck: 0.140 mm came off in all."));
    auto doubtful = work;
    doubtful.push_back(probed(200.03, 0, std::nullopt));
    EXPECT_EQ(after(doubtful).call.headline, "The tunnel: can't tell yet") << "the same log holds the mains";
    EXPECT_THAT(after(doubtful).call.reasons,
                Contains("How sure a touch is was not stated: probe it again and state it."));
    doubtful.push_back(GatePassed{Rule::tunnel_first, "decks", "measured at the maker's"});
    EXPECT_EQ(after(doubtful).call.headline, "Deck: can't tell yet");
    EXPECT_THAT(after(doubtful).call.reasons,
                Contains("The gauge's uncertainty was not stated: measure again and state it."));
    auto low = work;
    low.push_back(probed(199.9));
    EXPECT_EQ(after(low).call.headline, "Deck: under the blueprint's least height");
}

TEST(Call, EveryKindHasWords) {
    for (const Said& s : {after({}),
                          after({probed(200.1, 0.15), cut(PassKind::finish, 0.14, false),
                                 cut(PassKind::spring, 0, false), cut(PassKind::spring, 0, false)}),
                          after({probed(200.1, 0.15), DeckTargetChosen{TargetSchool::height, true, {}}})}) {
        SCOPED_TRACE(s.call.headline);
        EXPECT_FALSE(s.call.headline.empty());
        EXPECT_FALSE(s.call.reasons.empty());
        EXPECT_FALSE(s.waits.empty());
    }
}

TEST(Lie, IsToldInWords) {
    const BankBlueprint bank = pallix::test::read_small_blueprint("cam", "30").banks[0];
    const auto words = lie_sentences(bank, {-0.03, 0.012, 0.004}, mm);
    EXPECT_THAT(words, testing::ElementsAre("Rear 0.030 mm below front.", "Outboard 0.012 mm above inboard.",
                                            "Twisted by 0.004 mm: outboard is higher at the front."));
    const BankBlueprint left = pallix::test::read_small_blueprint("cam", "-30").banks[0];
    EXPECT_EQ(lie_sentences(left, {0, 0.012, 0}, mm)[1], "Outboard 0.012 mm below inboard.")
        << "+v is inboard on the left bank";
    EXPECT_EQ(lie_sentences(left, {0, 0, 0}, mm)[2], "Not twisted.");
}

TEST(Checks, ShowValueUncertaintyLimitAndVerdict) {
    DeckCheck check{
        CheckKind::flatness, 0.012, 0.0012, {std::nullopt, 0.05}, pallix::metrology::Verdict::meets, {}, 0.012};
    EXPECT_EQ(check_sentence(check, mm), "flatness 0.012 ±0.0024 mm, at most 0.050 — meets");
    check.touched = 0.019;
    EXPECT_EQ(check_sentence(check, mm),
              "flatness 0.012 ±0.0024 mm (0.019 with the touches' noise), at most 0.050 — meets");
}

TEST(Understood, IsEchoedAndQuestioned) {
    const Expected e{215, 0.127, Unit::inch};
    const auto u = read_shorthand("-8 thou", e);
    ASSERT_TRUE(u);
    EXPECT_EQ(understood_words(*u, Quantity::height, e, "", mm), "understood: 214.797 mm, 0.203 less than is expected");
    EXPECT_THAT(question_about(*u, Quantity::height, e, mm), HasSubstr("ten times more than expected"));
    EXPECT_EQ(question_about(*read_shorthand("-.0005", e), Quantity::height, e, mm), "");
}

TEST(Entries, AreOneLineEach) {
    const Said s = after({});
    const auto line = [&](Payload p) { return entry_sentence({2, "", "", std::move(p)}, s.state, mm); };
    EXPECT_EQ(line(cut(PassKind::pass, 0.05)), "deck: pass, 0.050 mm, clean");
    EXPECT_EQ(line(DeckCut{"C", PassKind::witness, 0.02, false, {{1, 1}, {2, 2}}}),
              "deck: witness cut, 0.020 mm, two places stayed dark");
    EXPECT_EQ(line(probed(200)), "probe log log.csv taken in, standard uncertainty 0.0010 mm");
    EXPECT_EQ(line(Strike{4, "slipped zero"}), "struck entry 4: slipped zero");
    EXPECT_THAT(line(UnknownPayload{"bore_honed", 1, "{}"}), HasSubstr("bore_honed"));
    EXPECT_EQ(line(DeckTargetChosen{TargetSchool::height, false, 199.5}),
              "target: given height 199.500 mm, each bank its own");
    EXPECT_EQ(line(pallix::test::height_reading({}, 200)), "deck, somewhere: 200.000 mm (typed 200; deck bridge)");
    EXPECT_EQ(line(RingCheck{"bore gauge", 73.99, 73.993}),
              "bore gauge checked: 73.993 mm on a size of 73.990: 0.003 too much");
    EXPECT_EQ(line(TunnelCut{TunnelMethod::hone, ""}), "tunnel honed");
    EXPECT_EQ(line(ConditionsStated{{true, {}, 20.0, {}, ""}}), "conditions: caps torqued, block 20.0 °C");
    EXPECT_EQ(line(Note{"first line\nand more"}), "note: first line …");
}

TEST(Study, NamesTheReadingThatSavesMostFirst) {
    TunnelStudy study;
    const auto saves = [&](int main, double mm_saved) {
        study.readings.push_back({{FeatureKind::main, "", main}, mm_saved});
    };
    saves(1, 0.001);
    EXPECT_EQ(study_sentences(study, mm).back(), "One more reading of main 1 would save 0.001 mm of cap in all.");
    saves(2, 0.002);
    saves(3, 0.005);
    EXPECT_EQ(study_sentences(study, mm).back(),
              "One more reading of main 3 would save 0.005 mm of cap in all, of main 2 or 1 at most 0.002 mm.");
}

TEST(Table, AlignsUnderItsHeads) {
    const auto e = pallix::test::evaluate_small(small_log(200.03).text());
    ASSERT_TRUE(e);
    const std::string text = evaluation_table(pallix::test::read_small_blueprint(), *e, mm);
    EXPECT_THAT(text, HasSubstr("all lengths in mm; datum: mains, cam, dowel.C.1"));
    EXPECT_THAT(text, HasSubstr("60.010"));
    EXPECT_THAT(text, HasSubstr("deck.C"));
}
