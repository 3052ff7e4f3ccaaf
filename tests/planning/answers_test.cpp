// SPDX-License-Identifier: GPL-3.0-or-later
// Jobs done by answering what is called, step by step, as a person would with one key.
#include "planning/steps/answer.h"
#include "planning/steps/any_time.h"

#include "block/ledger.h"
#include "block/state/bore_state.h"
#include "block/state/deck_state.h"
#include "block/state/fold.h"
#include "block/state/readings_state.h"
#include "block/state/tunnel_state.h"
#include "planning/common/assessment.h"
#include "planning/cylinders/texture.h"
#include "planning/row_block.h"
#include "story.h"

#include <algorithm>
#include <functional>
#include <gmock/gmock.h>

using namespace pallix;
using namespace pallix::block;
using namespace pallix::planning;
using test::bore_id;
using test::lifter_id;
using test::Story;

namespace {

class Answered {
  public:
    explicit Answered(const std::string& material = "grey_iron") : job_(material) {}

    test::RowJob& job() { return job_; }
    Assessment now() const { return assess(job_.state(), nullptr, time_); }
    std::string called() const {
        const Assessment a = now();
        return a.steps.now() ? a.steps.now()->id : "";
    }
    /// Answers what is called with what it proposes and what is said here.
    void answer(const Answers& said = {}) {
        const Folded state = job_.state();
        const Assessment a = assess(state, nullptr, time_);
        ASSERT_TRUE(a.steps.now());
        Answers answers = proposed(*a.steps.now());
        for (const auto& [key, value] : said)
            answers[key] = value;
        const auto entries = planning::answer(state, a, *a.steps.now(), answers, time_);
        ASSERT_TRUE(entries) << entries.error().front().text();
        for (const Payload& entry : *entries)
            job_.add(entry, time_);
    }
    /// Why an answer to a step is refused.
    std::string refused(const std::string& step, const Answers& answers) const {
        const Folded state = job_.state();
        const Assessment a = assess(state, nullptr, time_);
        const Step* s = a.steps.find(step);
        if (!s)
            return "there is no step " + step;
        const auto entries = planning::answer(state, a, *s, answers, time_);
        return entries ? "" : entries.error().front().text();
    }
    void read(double size) {
        const Assessment a = now();
        ASSERT_TRUE(a.steps.now() && a.steps.now()->place) << called();
        const MeasuredAt at = *a.steps.now()->place;
        job_.add(test::size_reading(at.feature.text(), at.level, at.direction, size, 0.0005), time_);
    }
    /// The first thing a step waits for; an empty one where it waits for nothing.
    Wait waits(const std::string& id) const {
        const Assessment a = now();
        const Step* step = a.steps.find(id);
        return step && !step->waits_for.empty() ? step->waits_for.front() : Wait{};
    }
    /// Reads what is called as long as it is a reading, of one bore or of all.
    void read_all(const std::function<double(const MeasuredAt&)>& size, std::optional<FeatureId> only = {}) {
        for (int i = 0; i < 200; ++i) {
            const Assessment a = now();
            const Step* step = a.steps.now();
            if (!step || step->task != Task::read || (only && step->about != only))
                return;
            read(size(*step->place));
        }
        FAIL() << "it reads for ever: " << called();
    }
    void wait_until(const std::string& time) { time_ = time; }

  private:
    test::RowJob job_;
    std::string time_ = "2026-03-02T09:00:00Z";
};

} // namespace

TEST(AnsweredJob, AnAluminiumBlocksCylindersFromFoundToHandedOver) {
    Answered j("aluminium");
    EXPECT_EQ(j.called(), "cleaned/wash");
    j.answer();
    EXPECT_EQ(j.called(), "cleaned/inspect");
    j.answer();
    j.job().add(ScopeChosen{{Stage::cylinders}, "the rest is good by its papers"});
    for (const int n : {3, 4})
        j.job().add(BoreDecided{bore_id(n), BoreChoice::leave, "not in this test"});
    EXPECT_EQ(j.called(), "as_found/log");
    j.job().add(StepSkipped{"as_found/log", "no probe in this shop"});
    EXPECT_EQ(j.called(), "bore.C.1/measure/top/across");
    j.read_all([](const MeasuredAt&) { return 80.02; });
    EXPECT_EQ(j.called(), "cylinders/plan");
    j.answer();
    ASSERT_EQ(j.called(), "bore.C.1/rough");
    const Assessment first = j.now();
    ASSERT_TRUE(first.steps.now() && first.steps.now()->number);
    EXPECT_TRUE(first.steps.now()->cannot_be_undone);
    EXPECT_NEAR(*first.steps.now()->number, 80.15, 1e-9) << "+0.25 less the hone stock of 0.1";
    EXPECT_EQ(j.waits("bore.C.2/rough").rule, Rule::trial_first);
    for (int hole = 0; hole < 2; ++hole) {
        const Assessment a = j.now();
        ASSERT_TRUE(a.steps.now() && a.steps.now()->number) << j.called();
        j.answer();
        j.read(*a.steps.now()->number);
        if (hole == 0) {
            ASSERT_EQ(j.called(), "bore.C.1/trial");
            EXPECT_THAT(j.refused("bore.C.1/trial", {}), testing::HasSubstr("trial is missing"))
                << "nothing is proposed";
            j.answer({{"trial", std::string("clean")}});
        }
    }
    EXPECT_EQ(j.called(), "bore.C.1/measure/top/across") << "the first once more: an edge or heat would show";
    j.read(80.15);
    EXPECT_EQ(j.called(), "cylinders/plate");
    j.answer({{"plate", std::string("on")}, {"fasteners", std::string("oil, three steps")}});
    EXPECT_EQ(readings_of(j.job().state()).conditions.plate_on, true);
    EXPECT_EQ(readings_of(j.job().state()).conditions.fasteners, "oil, three steps");
    EXPECT_EQ(j.called(), "bore.C.1/measure/top/across");
    j.read_all([](const MeasuredAt&) { return 80.15; });
    // Each grit through all bores before the next; the brush follows the last stone.
    for (const auto& [grit, size] : {std::pair("150 stone", 80.255), std::pair("brush", 80.256)})
        for (int n = 1; n <= 2; ++n) {
            ASSERT_EQ(j.called(), "bore.C." + std::to_string(n) + "/hone") << grit;
            j.answer({{"strokes", 40.0}});
            EXPECT_EQ(bores_of(j.job().state()).bore(bore_id(n)).cuts.back().payload.step, grit);
            EXPECT_THAT(j.called(), testing::StartsWith("bore.C." + std::to_string(n) + "/measure"));
            j.read_all([&](const MeasuredAt&) { return size; }, bore_id(n));
        }
    ASSERT_EQ(j.called(), "cylinders/rest");
    j.answer();
    EXPECT_EQ(bores_of(j.job().state()).rest->payload.until, "2026-03-02T09:40:00Z");
    EXPECT_EQ(j.called(), "") << "nothing but waiting";
    EXPECT_EQ(j.waits("cylinders/rest").until, "2026-03-02T09:40:00Z");
    j.wait_until("2026-03-02T09:41:00Z");
    EXPECT_THAT(j.called(), testing::StartsWith("bore.C.1/measure"));
    j.read_all([](const MeasuredAt&) { return 80.254; });
    for (int tick = 0; tick < 6; ++tick) {
        EXPECT_THAT(j.called(), testing::HasSubstr("/dress/"));
        j.answer();
    }
    EXPECT_EQ(j.called(), "passport/hand_over");
}

// The worst hole alone, then one question: what it shows is what the others are bored to.
TEST(AnsweredJob, TheTrialHoleSettlesTheSize) {
    const auto trial = [](double worst) {
        Answered j;
        j.job().add(ScopeChosen{{Stage::cylinders}, "the rest is good"});
        for (int n = 1; n <= 4; ++n)
            j.job().sizes(bore_id(n), n == 3 ? worst : 80.02);
        j.answer();
        EXPECT_EQ(j.called(), "bore.C.3/rough") << "the worst first";
        j.answer();
        j.read_all([](const MeasuredAt&) { return 80.15; });
        EXPECT_EQ(j.called(), "bore.C.3/trial");
        return j;
    };
    const auto finish = [](const Answered& j) {
        const Assessment a = j.now();
        return a.cylinders->study.oversize.value_or(-1);
    };
    Answered clean = trial(80.1);
    clean.answer({{"trial", std::string("clean")}});
    EXPECT_EQ(clean.called(), "bore.C.1/rough") << "along the bank from its front";
    EXPECT_EQ(finish(clean), 0.25);

    Answered shallow = trial(80.1);
    EXPECT_THAT(shallow.refused("bore.C.3/trial", {{"trial", std::string("pits")}}),
                testing::HasSubstr("depth is missing"));
    shallow.answer({{"trial", std::string("pits")}, {"depth", 0.04}});
    EXPECT_EQ(shallow.called(), "bore.C.1/rough") << "80.15 + 2 × 0.04: the hone takes it to 80.25";
    EXPECT_EQ(finish(shallow), 0.25);

    Answered deep = trial(80.1);
    deep.answer({{"trial", std::string("pits")}, {"depth", 0.1}});
    ASSERT_EQ(deep.called(), "bore.C.3/size") << "80.35: past what it was to become";
    EXPECT_FALSE(deep.now().steps.now()->cannot_be_undone);
    deep.answer({{"choice", std::string("with_the_rest")}});
    EXPECT_EQ(finish(deep), 0.5) << "and not 0.75: the pit counts from the wall that it was seen in";
    ASSERT_EQ(deep.called(), "bore.C.3/rough") << "the trial hole goes on to the next size";
    EXPECT_NEAR(*deep.now().steps.now()->number, 80.4, 1e-9);

    Answered sleeved = trial(80.1);
    sleeved.answer({{"trial", std::string("open")}});
    ASSERT_EQ(sleeved.called(), "bore.C.3/size");
    sleeved.answer({{"choice", std::string("sleeve")}});
    EXPECT_EQ(finish(sleeved), 0.25) << "the others are spared";
    EXPECT_EQ(sleeved.called(), "bore.C.3/measure/outside/top/one_way");
}

// Numbers of a roughness tester without its trace: what is over, and whether more brush would help.
TEST(AnsweredJob, ATestersNumbersSayRedoOrStop) {
    const auto advice = [](double ra, double rpk, double rvk) {
        test::RowJob job;
        job.cut(1, BoreOperation::hone, 80.25);
        job.add(usual_texture_limits().front()); // Rpk at most 0.35, Rvk 0.9 to 2.2, Ra 0.3 to 0.6 µm
        RoughnessRead read{bore_id(1), ra / 1000, {}, {}, rpk / 1000, rvk / 1000, {}, {}};
        job.add(read);
        const auto checks = typed_texture(bores_of(job.state()), bore_id(1));
        EXPECT_EQ(checks.size(), 3U);
        job.cut(1, BoreOperation::hone, 80.25);
        EXPECT_TRUE(typed_texture(bores_of(job.state()), bore_id(1)).empty()) << "from before the last cut";
        return texture_advice(checks);
    };
    EXPECT_EQ(advice(0.45, 0.2, 1.5), TextureAdvice::enough);
    EXPECT_EQ(advice(0.45, 0.6, 1.5), TextureAdvice::brush);
    EXPECT_EQ(advice(0.45, 0.2, 0.5), TextureAdvice::coarser_last) << "no brush makes valleys";
    EXPECT_EQ(advice(0.45, 0.34, 1.5), TextureAdvice::cannot_tell) << "5 % of a tester";
    Answered j;
    j.job().add(ScopeChosen{{Stage::cylinders}, "the rest is good"});
    const Folded s = j.job().state();
    const auto steps = any_time_steps(s, bore_id(1));
    const auto step = std::ranges::find(steps, "bore.C.1/any/roughness", &Step::id);
    ASSERT_NE(step, steps.end());
    const auto entries = answer(s, j.now(), *step, {{"ra_um", 0.4}, {"mr2_percent", 80.0}}, "");
    ASSERT_TRUE(entries) << entries.error().front().text();
    const auto& read = std::get<RoughnessRead>(entries->front());
    EXPECT_NEAR(*read.ra, 0.0004, 1e-12);
    EXPECT_NEAR(*read.mr2, 0.8, 1e-12);
    EXPECT_FALSE(read.rk);
}

// A chamfer that was cut before the deck is not one any more.
TEST(AnsweredJob, TheTopChamferFallsDueAgainAfterADeckCut) {
    test::RowJob job;
    job.cut(1, BoreOperation::hone, 80.25);
    for (const std::string& step : bore_steps())
        job.add(BoreStepDone{bore_id(1), step, {}, "seen"});
    const auto last = static_cast<std::int64_t>(job.entries().size());
    EXPECT_LT(dressed_after(job.state(), bore_id(1), "chamfer, top"), last);
    job.add(DeckCut{"C", PassKind::finish, 0.02, true, {}});
    EXPECT_GT(dressed_after(job.state(), bore_id(1), "chamfer, top"), last);
    EXPECT_LT(dressed_after(job.state(), bore_id(1), "chamfer, bottom"), last);
}

TEST(AnsweredJob, SleevesArePressedAndTakenFlush) {
    Answered j;
    j.job().add(ScopeChosen{{Stage::cylinders}, "the rest is good"});
    for (int n = 1; n <= 4; ++n)
        j.job().sizes(bore_id(n), n == 2 ? 82.6 : 80.02);
    j.answer(); // the plan: on the top, the usual sizes
    ASSERT_EQ(j.called(), "bore.C.2/size");
    EXPECT_THAT(j.refused("bore.C.2/size", {{"choice", std::string("weld")}}),
                testing::HasSubstr("choice is \"weld\""));
    j.answer({{"choice", std::string("sleeve")}});
    ASSERT_EQ(j.called(), "bore.C.2/measure/outside/top/one_way");
    EXPECT_THAT(j.refused("bore.C.2/sleeve/measure", {}), testing::HasSubstr("cannot be answered now"));
    Answered read = j; // one by one, by what is called
    for (int i = 0; i < 6; ++i) {
        Reading r = test::size_reading("bore.C.2", "", "", 84.03, 0.0005);
        r.at = *read.now().steps.now()->place;
        read.job().add(r);
    }
    ASSERT_EQ(read.called(), "bore.C.2/sleeve/measure") << "the rest of it";
    EXPECT_EQ(read.now().steps.now()->asks.size(), 3U) << "inside, length, the metal that holds it";
    InsertMeasured sleeve;
    sleeve.bore = bore_id(2);
    sleeve.outside.fill(84.03);
    sleeve.inside = 79;
    sleeve.length = 140;
    sleeve.interference = 0.03;
    sleeve.parent_outside = 100;
    j.job().add(sleeve);
    ASSERT_EQ(j.called(), "bore.C.2/seat");
    EXPECT_THAT(j.refused("bore.C.2/sleeve/press", {{"proud", 0.0}}), testing::HasSubstr("cannot be answered now"));
    j.answer();
    j.read(84.0);
    ASSERT_EQ(j.called(), "bore.C.2/sleeve/press");
    EXPECT_TRUE(j.now().steps.now()->cannot_be_undone);
    EXPECT_THAT(j.refused("bore.C.2/sleeve/press", {{"proud", 50.0}}), testing::HasSubstr("proud is 50"));
    j.answer({{"proud", 0.06}});
    ASSERT_EQ(j.called(), "deck.C/flush") << "the decks are not wanted, and a proud sleeve is all the same";
    j.answer();
    EXPECT_NEAR(decks_of(j.job().state()).deck("C").flushes.back().cut.depth, 0.06, 1e-12);
    EXPECT_THAT(j.called(), testing::StartsWith("bore.C.1/measure")) << "pressed in, it pushed its neighbours";
}

TEST(AnsweredJob, LiftersAskForWhatTheyNeed) {
    Answered j;
    j.job().add(ScopeChosen{{Stage::lifters}, "only the lifters"});
    EXPECT_EQ(j.called(), "cleaned/wash");
    j.job().sizes(lifter_id(1), 22.05);
    j.job().sizes(lifter_id(2), 22.05);
    EXPECT_EQ(j.called(), "lifters/numbers");
    LifterPlanChosen plan;
    plan.lifter = 21.965;
    plan.clearance_least = 0.025;
    plan.clearance_most = 0.045;
    plan.position = 0.02;
    plan.bush_outside = 24;
    plan.interference = 0.03;
    plan.base_radius = 15;
    plan.roller_radius = 8.5;
    j.job().add(plan);
    ASSERT_EQ(j.called(), "lifter.C.1/cut");
    const double to = *j.now().steps.now()->number;
    EXPECT_EQ(j.waits("lifter.C.2/cut").step, "lifter.C.1/cut");
    j.answer();
    EXPECT_NEAR(*bores_of(j.job().state()).bore(lifter_id(1)).cuts.back().payload.target, to, 1e-12);
    EXPECT_EQ(j.called(), "lifter.C.2/cut") << "roughing is not measured";
    j.answer();
    EXPECT_EQ(j.called(), "lifter.C.1/cut") << "the next tool";
    j.answer();
    EXPECT_THAT(j.called(), testing::StartsWith("lifter.C.1/measure")) << "the first bore sets it";
}

TEST(Proposals, WhatIsProposedIsAnsweredAndTheRestLeftOpen) {
    Step step;
    step.asks = {{"done", AskKind::tick, 1, {}, {}, {}},
                 {"note", AskKind::text, {}, {}, {}, {}},
                 {"depth", AskKind::length, 0.05, 0, 5, {}}};
    const Answers answers = proposed(step);
    EXPECT_EQ(answers.size(), 2U);
    EXPECT_EQ(std::get<double>(answers.at("depth")), 0.05);
    EXPECT_TRUE(std::get<bool>(answers.at("done")));
}

TEST(Asks, ALengthIsReadInShorthandWhereASizeIsProposed) {
    const Ask setting{"setting", AskKind::length, 82.4, {}, {}};
    EXPECT_NEAR(**read_ask(setting, "82.38", Unit::mm), 82.38, 1e-12);
    EXPECT_NEAR(**read_ask(setting, "-20 µm", Unit::mm), 82.38, 1e-12);
    EXPECT_FALSE(read_ask(setting, "wide", Unit::mm));
    const Ask depth{"depth", AskKind::length, 0.05, 0, 5};
    EXPECT_NEAR(**read_ask(depth, "2 thou", Unit::mm), 0.0508, 1e-12);
    EXPECT_FALSE(*read_ask(depth, " ", Unit::mm)) << "nothing was typed";
    const Ask chamber{"engine_figures/chamber_mm3", AskKind::count, {}, {}, {}};
    EXPECT_NEAR(**read_ask(chamber, "41,5 cm³", Unit::mm), 41'500, 1e-9);
}

namespace {

/// Answers a step that can be done at any time, and adds what it makes.
void answer_any(Story& s, const std::string& id, Answers answers) {
    const Folded state = s.state();
    const Assessment a = s.now();
    const auto step = step_by_id(state, a, id);
    ASSERT_TRUE(step) << id;
    for (const auto& [key, value] : proposed(*step))
        answers.try_emplace(key, value); // as the window does
    const auto made = planning::answer(state, a, *step, answers, "2026-03-02T12:00:00Z");
    ASSERT_TRUE(made) << made.error().front().text();
    for (const Payload& entry : *made)
        s.add(entry);
}

} // namespace

TEST(AnyTime, WhatIsSeenDecidedAndDoneOfOnesOwnIsWrittenAsItWasSaid) {
    Story s;
    s.add(StepDone{"washed"}).add(StepDone{"inspected for cracks"}).caps(true).probed(30.005);
    const std::string before = s.called();
    answer_any(s, "deck.C/any/flaw",
               {{"flaw", std::string("crack")},
                {"near", std::string("bore")},
                {"path", std::vector<metrology::Vec2>{{10, 20}, {30, 20}}}});
    ASSERT_EQ(decks_of(s.state()).flaws.size(), 1U);
    EXPECT_NEAR(decks_of(s.state()).flaws[0].flaw.length(), 20, 1e-12);
    EXPECT_NE(s.called(), before) << "nobody has decided on it";
    answer_any(s, "bore.C.2/any/pit", {{"depth", 0.2}, {"level", std::string("top")}, {"side", std::string("rear")}});
    EXPECT_NEAR(bores_of(s.state()).bore(*FeatureId::parse("bore.C.2")).deepest_pit(), 0.2, 1e-12);
    answer_any(s, "bore.C.2/any/decide", {{"choice", std::string("sleeve")}, {"note", std::string("pitted")}});
    EXPECT_EQ(bores_of(s.state()).bore(*FeatureId::parse("bore.C.2")).decided->payload.note, "pitted");
    answer_any(s, "cleaned/any/pressure", {{"result", std::string("leaks")}});
    EXPECT_FALSE(decks_of(s.state()).pressure_test->payload.tight);
    answer_any(s, "deck.C/any/head", {{"cut", 0.1}});
    EXPECT_EQ(decks_of(s.state()).heads.size(), 1U);
    answer_any(s, "tunnel/any/pass", {{"pass", std::string("strokes")}, {"strokes", 20.0}});
    EXPECT_EQ(tunnel_of(s.state()).tunnel_passes.back().pass.strokes, 20);
}

TEST(AnyTime, ConditionsAreKeptButForWhatIsChanged) {
    Story s;
    answer_any(s, "cleaned/any/conditions",
               {{"caps", std::string("yes")}, {"part_c", 19.5}, {"fasteners", std::string("oil, three steps")}});
    EXPECT_EQ(readings_of(s.state()).conditions, (Conditions{true, {}, 19.5, {}, "oil, three steps"}));
    answer_any(s, "cleaned/any/conditions", {{"plate", std::string("no")}});
    EXPECT_EQ(readings_of(s.state()).conditions, (Conditions{true, false, 19.5, {}, "oil, three steps"}));
    answer_any(s, "cleaned/any/conditions", {{"caps", std::string("not_stated")}});
    EXPECT_EQ(readings_of(s.state()).conditions.caps_torqued, std::nullopt);
    const auto step = step_by_id(s.state(), s.now(), "cleaned/any/conditions");
    ASSERT_TRUE(step);
    Answers answers = proposed(*step);
    answers["part_c"] = 300.0;
    EXPECT_FALSE(planning::answer(s.state(), s.now(), *step, answers, ""));
    const auto part = std::ranges::find(step->asks, "part_c", &Ask::key);
    EXPECT_FALSE(read_ask(*part, "300", Unit::mm));
    EXPECT_EQ(**read_ask(*part, "19,5 °C", Unit::inch), 19.5);
}

TEST(AnyTime, NeverCalledForAndRefusedWhereAnswersAreMissing) {
    Story s;
    for (const Step& step : s.now().steps.steps)
        EXPECT_EQ(step.id.find("/any/"), std::string::npos) << step.id;
    const Folded state = s.state();
    const Assessment a = s.now();
    const auto flaw = step_by_id(state, a, "deck.C/any/flaw");
    ASSERT_TRUE(flaw);
    EXPECT_FALSE(planning::answer(state, a, *flaw, {{"flaw", std::string("dent")}}, ""));
    EXPECT_FALSE(step_by_id(state, a, "deck.X/any/flaw"));
    EXPECT_FALSE(step_by_id(state, a, "nothing"));
}

TEST(AnyTime, PaintedDarkPlacesMakeAPassThatTouchedTheRest) {
    Story s;
    s.add(StepDone{"washed"}).add(StepDone{"inspected for cracks"}).caps(true).probed(30.005, 0, 200.08);
    s.add(DeckTargetChosen{TargetSchool::height, true, 200.0});
    const Folded state = s.state();
    const Assessment a = s.now();
    const auto made = planning::answer(
        state, a, *a.steps.now(),
        {{"depth", 0.025}, {"clean", true}, {"brush", 6.0}, {"dark", std::vector<metrology::Vec2>{{5, 0}}}}, "");
    ASSERT_TRUE(made);
    const auto& cut = std::get<DeckCut>(made->front());
    EXPECT_FALSE(cut.clean);
    EXPECT_TRUE(cut.rest_bright);
    EXPECT_EQ(cut.brush, 6.0);
}
