// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/state/fold.h"
#include "block/state/intake_state.h"
#include "workshop/practice_block.h"

#include "block/evaluation.h"
#include "planning/common/assessment.h"
#include "reference_data.h"
#include "workshop/harbour.h"

using namespace pallix::workshop;
using namespace pallix::block;

namespace {

Evaluation evaluate_probe(const PracticeBlock& block, const ProbeJob& job) {
    const std::vector<NamedText> logs{{"p.csv", probe(block, job)}};
    const auto set = read_probe_logs(logs, block.blueprint);
    EXPECT_TRUE(set) << set.error().front().text();
    const auto e = evaluate(block.blueprint, *set);
    EXPECT_TRUE(e) << e.error().front().text();
    return *e;
}

PracticeBlock flat_v6() {
    PracticeBlock p{workboat_v6(), {}, 0, 0, 0};
    p.decks["R"].offset = 0.1;
    p.decks["L"].offset = 0.05;
    return p;
}

} // namespace

TEST(PracticeBlock, TheSameJobGivesTheSameBytes) {
    EXPECT_EQ(probe(flat_v6(), {.seed = 5}), probe(flat_v6(), {.seed = 5}));
    EXPECT_NE(probe(flat_v6(), {.seed = 5}), probe(flat_v6(), {.seed = 6}));
}

TEST(PracticeBlock, ANoiselessProbeFindsTheTruthInEverySetUpUnitAndTip) {
    for (const bool rolled : {false, true})
        for (const double tip : {0.0, 2.0})
            for (const Unit unit : {Unit::mm, Unit::inch}) {
                ProbeJob job{.seed = 1, .noise = 0, .tip_radius = tip, .unit = unit, .rolled = rolled};
                const Evaluation e = evaluate_probe(flat_v6(), job);
                const double digits = unit == Unit::mm ? 2e-4 : 1e-4; // what the log's decimals carry
                EXPECT_NEAR(e.deck("R")->height_mean, 241.4, digits);
                EXPECT_NEAR(e.deck("L")->height_mean, 241.35, digits);
                EXPECT_NEAR(e.deck("R")->flatness_mz, 0, 2 * digits);
                EXPECT_NEAR(e.cam->distance, 128, digits);
                EXPECT_NEAR(e.tunnel.straightness_lsq, 0, 2 * digits);
                EXPECT_NEAR(e.mains[0].diameter, 74.0065, 2 * digits);
            }
}

TEST(PracticeBlock, TiltTwistAndDipShowInTheHeights) {
    PracticeBlock p = flat_v6();
    DeckTruth& truth = p.decks["R"];
    truth.offset = 0.2;
    truth.rear_over_front = 0.1;
    truth.positive_over_negative = -0.06;
    const Evaluation e = evaluate_probe(p, {.seed = 1, .noise = 0});
    const BankBlueprint& bank = *p.blueprint.bank("R");
    const auto lie = pallix::planning::deck_lie(bank, *e.deck("R"));
    EXPECT_NEAR(lie.rear_over_front, 0.1, 5e-4);
    EXPECT_NEAR(lie.positive_over_negative, -0.06, 5e-4);
    DeckTruth dipped;
    dipped.offset = 0.1;
    dipped.dip = {100, 0};
    dipped.dip_depth = 0.03;
    EXPECT_NEAR(dipped.height(bank, {100, 0}), 0.07, 1e-12);
    dipped.cut_to = 0.05;
    EXPECT_NEAR(dipped.height(bank, {100, 0}), 0.05, 1e-12);
}

TEST(Harbour, ShippedFilesAreWhatTheGeneratorWrites) {
    const auto files = harbour_files();
    EXPECT_GE(files.size(), 6U);
    for (const DemoFile& file : files)
        EXPECT_EQ(pallix::test::read_file(std::string(PALLIX_DEMO_DATA) + "/" + file.name), file.text) << file.name;
}

TEST(Harbour, EachJobStandsAtAnotherPlaceOfItsRoute) {
    std::vector<std::string> calls;
    for (const DemoJob& job : harbour_jobs()) {
        const Folded state = fold(job.entries);
        EXPECT_TRUE(intake_of(state).troubles.empty())
            << intake_of(state).title << ": " << intake_of(state).troubles.front().words;
        const pallix::planning::Assessment a = pallix::planning::assess(state);
        const pallix::planning::Step* now = a.steps.now();
        calls.push_back(now ? now->id : "");
    }
    EXPECT_EQ(calls, (std::vector<std::string>{"deck.R/flaw/11", "deck.L/pass", "passport/hand_over", "tunnel/caps",
                                               "bore.C.3/sleeve/press", "bore.L.1/hone", "cleaned/wash"}));
}
