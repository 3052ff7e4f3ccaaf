// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/job_state.h"
#include "planning/assessment.h"
#include "wording/readings.h"
#include "wording/sentences.h"
#include "wording/tables.h"
#include "wording/tunnel_words.h"

#include "block/small_block.h"

#include <gmock/gmock.h>

using namespace pallix::wording;
using namespace pallix::block;
using namespace pallix::planning;
using pallix::test::small_log;
using testing::Contains;
using testing::HasSubstr;

namespace {

const LengthText mm(Unit::mm);

struct Said {
    JobState state;
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
    EXPECT_EQ(s.call.headline, "Deck: witness cut, six passes left");
    EXPECT_EQ(s.call.number, "0.025 mm");
    EXPECT_THAT(
        s.call.reasons,
        Contains(testing::AllOf(testing::StartsWith("Front"),
                                HasSubstr(" is the lowest place; it cleans up 0.140 mm below the highest point."))));
    EXPECT_THAT(s.call.reasons, Contains("Cut to 200.030 mm (least cut)."));
    EXPECT_THAT(s.call.caution, HasSubstr("Stop the spindle"));
    EXPECT_EQ(s.waits, "witness cut on the deck, 0.025 mm");
}

TEST(Call, SendsToTheTunnelFirstWhereItFails) {
    const Said s = after({probed(200.1, 0.15)});
    Assessment a = assess(s.state);
    const auto tunnel = std::ranges::find(a.stages, Stage::tunnel, &StageState::stage);
    ASSERT_NE(tunnel, a.stages.end());
    ASSERT_EQ(tunnel->mark, StageMark::meets);
    EXPECT_THAT(s.call.reasons, testing::Not(Contains(HasSubstr("tunnel fails"))));
    tunnel->mark = StageMark::fails;
    const CallText call = call_text(s.state, a, mm);
    EXPECT_EQ(call.headline, s.call.headline) << "what the deck needs stays to be seen";
    EXPECT_THAT(call.reasons.front(), HasSubstr("The main tunnel fails"));
    EXPECT_EQ(waits_for(s.state, a, mm), "the main tunnel: it fails");
}

TEST(Call, WarnsBelowTheBlueprintsLimit) {
    const Said s = after({probed(200.1, 0.15), DeckTargetChosen{TargetSchool::height, true, 199.9}});
    EXPECT_THAT(s.call.reasons, Contains("That is 0.050 mm below the blueprint's lower limit."));
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
    EXPECT_EQ(after(good).call.headline, "The deck meets");
    EXPECT_THAT(after(good).call.reasons, Contains("Deck: 0.140 mm came off in all."));
    auto doubtful = work;
    doubtful.push_back(probed(200.03, 0, std::nullopt));
    EXPECT_EQ(after(doubtful).call.headline, "Deck: can't tell yet");
    EXPECT_THAT(after(doubtful).call.reasons,
                Contains("The gauge's uncertainty was not stated: measure again and state it."));
    auto low = work;
    low.push_back(probed(199.9));
    EXPECT_EQ(after(low).call.headline, "Deck fails");
}

TEST(Call, EveryKindHasWords) {
    for (const Said& s : {after({}),
                          after({probed(200.1, 0.15), cut(PassKind::finish, 0.14, false),
                                 cut(PassKind::spring, 0, false), cut(PassKind::spring, 0, false)}),
                          after({probed(200.1, 0.15), DeckTargetChosen{TargetSchool::height, true, {}}})}) {
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
    const DeckCheck check{
        CheckKind::flatness, 0.012, 0.0012, {std::nullopt, 0.05}, pallix::metrology::Verdict::meets, {}};
    EXPECT_EQ(check_sentence(check, mm), "flatness 0.012 ±0.0024 mm, at most 0.050 — meets");
}

TEST(Understood, IsEchoedAndQuestioned) {
    const Expected e{215, 0.127, Unit::inch};
    const auto u = read_shorthand("-8 thou", e);
    ASSERT_TRUE(u);
    EXPECT_EQ(understood_words(*u, Quantity::height, e, "", mm),
              "understood: 214.797 mm, −0.203 from what is expected");
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
              "bore gauge checked: 73.993 mm on a size of 73.990, off by +0.003");
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
