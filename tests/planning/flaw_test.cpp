// SPDX-License-Identifier: GPL-3.0-or-later
// Cracks anywhere on the block: how bad, what they hold up, and what is decided.
#include "planning/decks/flaw_risk.h"

#include "block/blueprint.h"
#include "block/job_file.h"
#include "block/state/bore_state.h"
#include "block/state/deck_state.h"
#include "planning/steps/answer.h"
#include "planning/steps/any_time.h"
#include "story.h"

#include <gmock/gmock.h>

using namespace pallix;
using namespace pallix::block;
using namespace pallix::planning;

namespace {

FeatureId id(const char* text) {
    return *FeatureId::parse(text);
}
FlawMarked on_deck(FlawKind kind, std::vector<metrology::Vec2> path, FlawNear near = FlawNear::open_deck) {
    return {"C", kind, std::move(path), near, {}, "", {}, {}};
}
FlawMarked in(FlawWhere where, const char* feature) {
    return {"", FlawKind::crack, {}, {}, {}, "", where, *feature ? std::optional(id(feature)) : std::nullopt};
}
/// Answers a step as the window does, and adds what it makes.
std::string answered(test::Story& s, const std::string& step_id, Answers answers) {
    const Folded state = s.state();
    const Assessment a = assess(state);
    const auto step = step_by_id(state, a, step_id);
    if (!step)
        return "there is no such step";
    const auto made = planning::answer(state, a, *step, answers, "2026-03-02T12:00:00Z");
    if (!made)
        return made.error().front().text();
    for (const Payload& entry : *made)
        s.add(entry);
    return "";
}
test::Story found() {
    test::Story s;
    s.add(StepDone{"washed"}).add(StepDone{"inspected for cracks"}).caps(true);
    return s;
}

} // namespace

// Cylinder 1 stands at 30, 0 with a radius of 40: 42 above it is 2 from its edge, a line past it 5 away is 5 from it.
TEST(FlawRisk, GoesByTheDistanceToTheNearestEdge) {
    const Blueprint b = *read_blueprint(test::story_blueprint(), "b");
    FlawRisk r = flaw_risk(b, on_deck(FlawKind::crack, {{30, 42}}));
    EXPECT_EQ(r.cylinder, id("bore.C.1"));
    EXPECT_NEAR(r.to_edge, 2, 1e-12);
    EXPECT_EQ(r.danger, FlawDanger::great) << "under the gasket's ring";
    r = flaw_risk(b, on_deck(FlawKind::crack, {{0, 45}, {60, 45}}));
    EXPECT_NEAR(r.to_edge, 5, 1e-12) << "its ends are further off";
    EXPECT_EQ(r.danger, FlawDanger::little);
    EXPECT_EQ(flaw_risk(b, on_deck(FlawKind::crack, {{0, 45}}, FlawNear::bolt)).danger, FlawDanger::great);
    EXPECT_EQ(flaw_risk(b, on_deck(FlawKind::crack, {{0, 45}}, FlawNear::coolant_hole)).danger, FlawDanger::some);
    EXPECT_EQ(flaw_risk(b, on_deck(FlawKind::pit, {{30, 42}})).danger, FlawDanger::some);
    EXPECT_EQ(flaw_risk(b, on_deck(FlawKind::mark, {{0, 48}})).danger, FlawDanger::little);
    EXPECT_EQ(flaw_risk(b, in(FlawWhere::web, "main.2")).danger, FlawDanger::great);
    EXPECT_EQ(flaw_risk(b, in(FlawWhere::outside, "")).danger, FlawDanger::some);
}

TEST(Flaws, AreKeptWhereverTheyAre) {
    const std::vector<Entry> entries{{1, "2026-03-02T09:00:00Z", "Marit", JobOpened{"job", "", "b.json", "{}"}},
                                     {2, "2026-03-02T09:00:00Z", "Marit", in(FlawWhere::web, "main.2")},
                                     {3, "2026-03-02T09:00:00Z", "Marit", in(FlawWhere::bore, "bore.C.1")},
                                     {4, "2026-03-02T09:00:00Z", "Marit", in(FlawWhere::outside, "")},
                                     {5, "2026-03-02T09:00:00Z", "Marit", on_deck(FlawKind::pit, {{1, 2}})}};
    const auto again = read_job(write_job(entries), "b");
    ASSERT_TRUE(again) << again.error().front().text();
    EXPECT_EQ(write_job(*again), write_job(entries));
    EXPECT_EQ(std::get<FlawMarked>((*again)[1].payload).feature, id("main.2"));
    auto wrong = entries;
    std::get<FlawMarked>(wrong[1].payload).feature = id("bore.C.1"); // a web is a main's
    EXPECT_FALSE(read_job(write_job(wrong), "b"));
}

TEST(Flaws, ACrackInASaddleHoldsTheTunnelUpUntilSomebodyDecides) {
    test::Story s = found();
    s.log(test::log_of(29.95));
    EXPECT_EQ(answered(s, "main.3/any/flaw", {{"where", std::string("saddle")}, {"flaw", std::string("crack")}}), "");
    ASSERT_EQ(decks_of(s.state()).flaws.size(), 1U);
    EXPECT_EQ(decks_of(s.state()).flaws[0].flaw.where, FlawWhere::saddle);
    const std::string decide = s.called();
    EXPECT_THAT(decide, testing::StartsWith("flaw/"));
    EXPECT_TRUE(s.metal().empty());
    EXPECT_THAT(answered(s, decide, {{"choice", std::string("sleeve")}}), testing::HasSubstr("one of the choices"))
        << "no sleeve takes a saddle in";
    EXPECT_EQ(answered(s, decide, {{"choice", std::string("watch")}}), "");
    EXPECT_THAT(s.called(), testing::StartsWith("tunnel/"));
    EXPECT_EQ(answered(s, "main.3/any/" + decide, {{"choice", std::string("scrap")}}), "") << "decided otherwise";
}

TEST(Flaws, ASleeveDecidedOnIsTheCylinders) {
    test::Story s = found();
    EXPECT_EQ(answered(s, "bore.C.2/any/flaw", {{"flaw", std::string("crack")}, {"depth", 3.0}}), "");
    EXPECT_EQ(answered(s, s.called(), {{"choice", std::string("sleeve")}}), "");
    ASSERT_TRUE(bores_of(s.state()).bore(id("bore.C.2")).decided);
    EXPECT_EQ(bores_of(s.state()).bore(id("bore.C.2")).decided->payload.choice, BoreChoice::sleeve);
    // Of a deck it is the nearest one's; where none is near, no sleeve helps.
    s.add(on_deck(FlawKind::crack, {{150, 43}}));
    const auto of_deck = [&s] { return "deck.C/flaw/" + std::to_string(decks_of(s.state()).flaws.back().sequence); };
    EXPECT_EQ(answered(s, of_deck(), {{"choice", std::string("sleeve")}}), "");
    EXPECT_TRUE(bores_of(s.state()).bore(id("bore.C.3")).decided);
    s.add(on_deck(FlawKind::crack, {{120, 49}})); // 57.4 from the nearest axis: 17 from its edge
    EXPECT_THAT(answered(s, of_deck(), {{"choice", std::string("sleeve")}}),
                testing::HasSubstr("no cylinder lies so near"));
}

TEST(Flaws, OneOutsideIsDecidedOnBeforeTheBlockIsHandedOver) {
    test::Story s = found();
    s.log(test::log_of(30.005));
    EXPECT_EQ(s.called(), "passport/hand_over");
    EXPECT_EQ(answered(s, "cleaned/any/flaw", {{"flaw", std::string("crack")}, {"note", std::string("by the pump")}}),
              "");
    EXPECT_THAT(s.called(), testing::StartsWith("flaw/"));
    EXPECT_THAT(s.waits("passport/hand_over"), testing::Contains(Rule::flaw_decided));
    EXPECT_EQ(answered(s, s.called(), {{"choice", std::string("stop_and_pin")}}), "");
    EXPECT_EQ(s.called(), "passport/hand_over");
}
