// SPDX-License-Identifier: GPL-3.0-or-later
// Parts, people and clocks that a job waits for; a learner at the bench.
#include "planning/steps/shop_steps.h"

#include "block/state/card_state.h"
#include "block/state/deck_state.h"
#include "planning/common/entry_rules.h"
#include "planning/steps/any_time.h"
#include "planning/steps/steps.h"
#include "story.h"

#include <algorithm>
#include <gmock/gmock.h>

using namespace pallix;
using namespace pallix::block;
using namespace pallix::planning;
using test::Story;
using testing::HasSubstr;

namespace {

constexpr const char* noon = "2026-03-02T12:00:00Z";

/// Answers a step as the shop would. @return what is wrong with it; empty where it was taken
std::string shop_answers_to(Story& story, const std::string& id, const Answers& answers) {
    const Folded state = story.state();
    const Assessment a = assess(state, nullptr, noon);
    const auto step = step_by_id(state, a, id);
    if (!step)
        return "no step " + id;
    auto payloads = answer(state, a, *step, answers, noon);
    if (!payloads)
        return payloads.error().front().text();
    for (Payload& p : *payloads) {
        if (const auto faults = faults_in(p); !faults.empty())
            return faults.front().text();
        if (const auto fault = fault_now(state, a, p))
            return fault->what;
        story.add(std::move(p));
    }
    return "";
}

const Wait* wait_of(const Story& story, const std::string& id, const Assessment& a) {
    static_cast<void>(story);
    const Step* step = a.steps.find(id);
    return step && !step->waits_for.empty() ? &step->waits_for.front() : nullptr;
}

/// A tunnel in size and line, a deck that was probed: the deck's first pass is called.
Story at_the_deck() {
    Story story;
    story.add(StepDone{"washed"}).add(StepDone{"inspected for cracks, threads, caps and registers"});
    story.caps(true).probed(30.005, 0, 200.10).add(DeckTargetChosen{TargetSchool::height, true, 200.0});
    return story;
}

} // namespace

TEST(ShopSteps, ALineOfTheCardChangesThatLineAlone) {
    Story story;
    ASSERT_EQ(shop_answers_to(story, "received/any/customer",
                              {{"customer", std::string("Tern")}, {"reach", std::string("bell")}}),
              "");
    ASSERT_EQ(shop_answers_to(story, "received/any/block", {{"identity", std::string("118 B")}}), "");
    ASSERT_EQ(shop_answers_to(story, "received/any/customer", {{"reach", std::string("post")}}), "");
    const Folded state = story.state();
    EXPECT_EQ(intake_of(state).customer, "Tern");
    EXPECT_EQ(card_of(state).card.identity, "118 B");
    EXPECT_EQ(card_of(state).card.reach, "post");
    EXPECT_THAT(shop_answers_to(story, "received/any/gasket", {}), HasSubstr("nothing is typed"));
}

TEST(ShopSteps, AUseThatNobodyStatedIsNone) {
    Story story;
    ASSERT_EQ(shop_answers_to(story, "received/any/use",
                              {{"use", std::string("not_stated")}, {"fuel", std::string("diesel")}}),
              "");
    EXPECT_FALSE(card_of(story.state()).card.use);
    EXPECT_THAT(shop_answers_to(story, "received/any/use", {{"use", std::string("not_stated")}}), HasSubstr("nothing"));
    ASSERT_EQ(shop_answers_to(story, "received/any/use", {{"use", std::string("race")}}), "");
    EXPECT_EQ(card_of(story.state()).card.use, Use::race);
    EXPECT_EQ(card_of(story.state()).card.fuel, "diesel");
}

TEST(ShopSteps, DaysAreTypedAsPeopleSayThem) {
    EXPECT_EQ(day_typed("2026-12-04", noon), "2026-12-04");
    EXPECT_EQ(day_typed("14 days", noon), "2026-03-16");
    EXPECT_EQ(day_typed("+1", noon), "2026-03-03");
    EXPECT_EQ(day_typed("2 weeks", noon), "2026-03-16");
    for (const char* wrong : {"", "soon", "2026-02-30", "14", "days", "+-3", "2026-13-01", "9999 days"})
        EXPECT_FALSE(day_typed(wrong, noon)) << wrong;
    Story story;
    EXPECT_THAT(shop_answers_to(story, "received/any/promised", {{"promised", std::string("soon")}}),
                HasSubstr("\"soon\""));
}

// From a new job to its first reading nothing is asked that was not asked before.
TEST(ShopSteps, NothingOfTheCardIsCalledFor) {
    const Story story;
    EXPECT_EQ(story.called(), "cleaned/wash");
    for (const Step& step : story.now().steps.steps)
        EXPECT_EQ(step.id.find("/any/"), std::string::npos) << step.id;
}

TEST(ShopSteps, MetalWaitsForAPartUntilItIsHere) {
    Story story = at_the_deck();
    const std::string pass = story.called();
    ASSERT_EQ(pass.substr(0, 7), "deck.C/");
    ASSERT_EQ(
        shop_answers_to(
            story, "received/any/part",
            {{"part", std::string("gasket set")}, {"due", std::string("2 days")}, {"waiting", std::string("decks")}}),
        "");
    Assessment a = story.now();
    const Wait* wait = wait_of(story, pass, a);
    ASSERT_TRUE(wait);
    EXPECT_EQ(wait->rule, Rule::part_here);
    EXPECT_EQ(wait->part, "gasket set");
    EXPECT_NE(story.called(), pass);
    ASSERT_EQ(shop_answers_to(story, wait->step, {{"done", true}}), "");
    EXPECT_EQ(story.called(), pass);
}

TEST(ShopSteps, APersonIsWaitedForUntilItIsSettled) {
    Story story = at_the_deck();
    const std::string pass = story.called();
    ASSERT_EQ(shop_answers_to(story, "received/any/hold", {{"with", std::string("the owner")}}), "");
    const Assessment a = story.now();
    const Wait* wait = wait_of(story, pass, a);
    ASSERT_TRUE(wait);
    EXPECT_EQ(wait->person, "the owner");
    const std::string lift = wait->step;
    ASSERT_EQ(shop_answers_to(story, lift, {{"done", true}, {"note", std::string("go on")}}), "");
    EXPECT_EQ(story.called(), pass);
    EXPECT_EQ(shop_answers_to(story, lift, {{"done", true}}), "no step " + lift) << "once";
    EXPECT_THAT(fault_now(story.state(), story.now(), HoldLifted{3, ""})->what, HasSubstr("entry 3"));
}

TEST(ShopSteps, ASoakHoldsWashingUntilItIsOver) {
    Story story;
    ASSERT_EQ(shop_answers_to(story, "cleaned/any/soak", {{"minutes", 90.0}}), "");
    EXPECT_EQ(story.called(), "") << "everything measured waits for clean";
    EXPECT_EQ(story.now().steps.find("cleaned/wash")->waits_for.front().until, "2026-03-02T13:30:00Z");
    const Assessment later = story.now("2026-03-02T13:30:01Z");
    ASSERT_TRUE(later.steps.now());
    EXPECT_EQ(later.steps.now()->id, "cleaned/wash");
}

TEST(ShopSteps, LookedOverOneByOneIsLookedOver) {
    Story story;
    story.add(StepDone{"washed"});
    EXPECT_EQ(story.called(), "cleaned/inspect");
    ASSERT_EQ(shop_answers_to(story, "cleaned/any/threads", {{"done", true}}), "");
    ASSERT_EQ(shop_answers_to(story, "cleaned/any/caps", {{"done", true}}), "");
    EXPECT_EQ(story.called(), "cleaned/inspect");
    ASSERT_EQ(shop_answers_to(story, "cleaned/any/cracks", {{"done", true}, {"method", std::string("dye")}}), "");
    EXPECT_EQ(story.called(), "as_found/log");
}

TEST(ShopSteps, AStageDoneElsewherePassesByItsPapers) {
    Story story;
    Answers some{{"tunnel", false},  {"decks", true},    {"cylinders", true},
                 {"lifters", false}, {"mock_up", false}, {"finish", true}};
    EXPECT_THAT(shop_answers_to(story, "received/any/scope", some), HasSubstr("why a stage is left out"));
    some["reason"] = std::string("tunnel good by the papers of the shop before");
    ASSERT_EQ(shop_answers_to(story, "received/any/scope", some), "");
    EXPECT_FALSE(wanted(story.state(), Stage::tunnel));
    EXPECT_TRUE(wanted(story.state(), Stage::decks));
}

TEST(ShopSteps, WhatTheDecksAreCutTo) {
    Story story;
    ASSERT_EQ(shop_answers_to(story, "received/any/target", {{"ratio", 9.5}}), "");
    EXPECT_EQ(decks_of(story.state()).target.school, TargetSchool::ratio);
    ASSERT_EQ(shop_answers_to(story, "received/any/target", {{"ratio", 9.5}, {"height", 199.9}}), "");
    EXPECT_EQ(decks_of(story.state()).target.school, TargetSchool::height) << "the other stood there before";
}

TEST(ShopSteps, ABlockThatHasLeftAsksForNothing) {
    Story story = at_the_deck();
    ASSERT_EQ(shop_answers_to(story, "passport/any/hand_over",
                              {{"to", std::string("Tern")}, {"note", std::string("as it is")}}),
              "");
    EXPECT_EQ(story.called(), "");
    const Folded state = story.state();
    ASSERT_TRUE(card_of(state).delivered);
    EXPECT_EQ(card_of(state).delivered_at, "2026-03-02T09:00:00Z");
    for (const Step& step : story.now().steps.steps)
        EXPECT_GE(step.state, StepState::done) << step.id;
}

// ---- a learner at the bench ---------------------------------------------------------------------------------------

TEST(Learner, SomebodyElseSignsBeforeTheFirstCutOfItsKind) {
    Story story = at_the_deck();
    const std::string pass = story.called();
    story.add(AtBench{"Mira", Role::learner});
    ASSERT_EQ(story.called(), "sign_off/cut_deck");
    EXPECT_EQ(story.now().steps.find(pass)->waits_for.front().step, "sign_off/cut_deck");
    EXPECT_THAT(shop_answers_to(story, "sign_off/cut_deck", {{"by", std::string("Mira")}}), HasSubstr("cannot sign"));
    ASSERT_EQ(shop_answers_to(story, "sign_off/cut_deck", {{"by", std::string("Marit")}, {"by_code", true}}), "");
    EXPECT_EQ(story.called(), pass);
    story.deck(PassKind::witness, 0.01, false);
    EXPECT_EQ(story.called().substr(0, 7), "deck.C/") << "once for each kind";
}

TEST(Learner, AMachinistIsNotSlowedDown) {
    Story story = at_the_deck();
    const std::string pass = story.called();
    story.add(AtBench{"Mira", Role::learner}).add(AtBench{"Marit", Role::machinist});
    EXPECT_EQ(story.called(), pass);
}

// By gauge: every main is read a second time before the hone takes anything.
TEST(Learner, WhatACutHangsOnIsReadTwice) {
    Story story;
    story.add(StepDone{"washed"}).add(StepDone{"inspected for cracks, threads, caps and registers"});
    story.add(StepSkipped{"as_found/log", "no probe in this shop"});
    story.caps(true).sizes(59.99, 59.99).saddles();
    const std::string cut = story.called();
    ASSERT_TRUE(story.now().steps.now()->cannot_be_undone) << cut;
    story.add(AtBench{"Mira", Role::learner});
    const Assessment a = story.now();
    ASSERT_TRUE(a.steps.now());
    EXPECT_EQ(a.steps.now()->task, Task::read) << a.steps.now()->id;
    EXPECT_EQ(a.steps.now()->second_look, SecondLook::learner);
    EXPECT_EQ(a.steps.find(cut)->waits_for.front().rule, Rule::complete);
    story.sizes(59.9903, 59.9903).saddles();
    EXPECT_THAT(story.called(), HasSubstr("sign_off/")) << "read twice, and then somebody looks at it";
}

// What can be decided at any time is no way round it.
TEST(Learner, DecidesNothingAlone) {
    Story story = at_the_deck();
    story.add(AtBench{"Mira", Role::learner});
    EXPECT_THAT(shop_answers_to(story, "bore.C.1/any/decide", {{"choice", std::string("sleeve")}}),
                HasSubstr("a decision"));
    EXPECT_THAT(shop_answers_to(story, "received/any/target", {{"ratio", 9.5}}), HasSubstr("a decision"));
    EXPECT_EQ(shop_answers_to(story, "received/any/gasket", {{"gasket", std::string("copper")}}), "");
}

TEST(Learner, GoesAgainstNoRuleAlone) {
    Story story = at_the_deck();
    story.add(GatePassed{Rule::doubt, "tunnel", "before anybody learned here"});
    story.add(AtBench{"Mira", Role::learner});
    const auto fault = [&story](const Payload& payload) {
        const auto f = fault_now(story.state(), story.now(), payload);
        return f ? f->expected : std::string();
    };
    EXPECT_THAT(fault(GatePassed{Rule::doubt, "decks", "it will do"}), HasSubstr("fetch somebody"));
    EXPECT_THAT(fault(StepSkipped{"cleaned/inspect", "it will do"}), HasSubstr("fetch somebody"));
    EXPECT_EQ(fault(Note{"looked at it"}), "");
    story.add(SignedOff{"deck.C/decide", "Marit", Role::machinist, true});
    EXPECT_EQ(fault(GatePassed{Rule::sign_off, "deck.C", "so"}), "") << "the decision is Marit's";
    story.add(GatePassed{Rule::sign_off, "deck.C", "so"});
    EXPECT_THAT(fault(GatePassed{Rule::sign_off, "deck.C", "so"}), HasSubstr("fetch somebody")) << "one for one";
}
