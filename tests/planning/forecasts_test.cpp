// SPDX-License-Identifier: GPL-3.0-or-later
// How often forecasts held, and what comes of it.
#include "planning/shop/forecasts.h"

#include "block/state/deck_state.h"
#include "block/state/tunnel_state.h"
#include "planning/decks/deck_belief.h"
#include "planning/tunnel/tunnel_study.h"
#include "planning/tunnel/tunnel_work.h"
#include "story.h"

#include <algorithm>
#include <cmath>
#include <random>

using namespace pallix;
using namespace pallix::block;
using namespace pallix::planning;

namespace {

std::vector<ForecastCame> of_kind(const Folded& state, ForecastKind kind) {
    std::vector<ForecastCame> all = forecasts_that_came(state);
    std::erase_if(all, [kind](const ForecastCame& came) { return came.kind != kind; });
    return all;
}

Experience widened(ForecastKind kind, double by) {
    return {{}, {{kind, "", "", 14, 9, by}}};
}

ForecastCame missed(double by) {
    return {ForecastKind::removal, {"deck bridge", "Marit"}, by, by <= 1};
}

ForecastRecord of_all(const std::vector<ForecastCame>& came) {
    return count_forecasts(came).front(); // without gauge and person
}

} // namespace

TEST(Forecasts, ADeckBecameCleanSomewhereInItsLastPass) {
    test::Story held;
    held.probed(30.005).add(DeckForecastKept{"C", 0.04, 0.06, 199.97, 199.99, {75, 0}});
    held.deck(PassKind::pass, 0.04, false).deck(PassKind::pass, 0.03, true);
    auto came = of_kind(held.state(), ForecastKind::removal);
    ASSERT_EQ(came.size(), 1u);
    EXPECT_TRUE(came[0].held);
    EXPECT_NEAR(came[0].miss, 0, 1e-9) << "0.05 lies between 0.04 and 0.07";
    EXPECT_EQ(came[0].by, (MeasuredBy{"probe", ""}));

    test::Story early;
    early.probed(30.005).add(DeckForecastKept{"C", 0.04, 0.06, 199.97, 199.99, {75, 0}});
    early.deck(PassKind::pass, 0.02, true);
    came = of_kind(early.state(), ForecastKind::removal);
    ASSERT_EQ(came.size(), 1u);
    EXPECT_FALSE(came[0].held);
    EXPECT_NEAR(came[0].miss, 3, 1e-9) << "0.02 at the most: 0.03 from the middle, of 0.01 to either side";

    test::Story open;
    open.probed(30.005).add(DeckForecastKept{"C", 0.04, 0.06, 199.97, 199.99, {75, 0}});
    open.deck(PassKind::pass, 0.04, false);
    EXPECT_TRUE(of_kind(open.state(), ForecastKind::removal).empty()) << "it has not come yet";
}

TEST(Forecasts, WhatWasStretchedIsCountedAsItWasToldAndMeasuredAsItWouldHaveBeen) {
    test::Story story;
    story.add(widened(ForecastKind::removal, 2));
    story.probed(30.005).add(DeckForecastKept{"C", 0.04, 0.06, 199.97, 199.99, {75, 0}});
    story.deck(PassKind::pass, 0.042, true).deck(PassKind::pass, 0.01, true);
    const auto came = of_kind(story.state(), ForecastKind::removal);
    ASSERT_EQ(came.size(), 1u);
    EXPECT_TRUE(came[0].held);
    EXPECT_NEAR(came[0].miss, 1.6, 1e-9) << "0.008 of 0.01 as told, of 0.005 as the heights had it";
}

TEST(Forecasts, SizesAfterCapsAreHeldAgainstWhatTheCutShouldHaveMade) {
    test::Story story;
    story.caps(true).sizes(60.03, 60.03).saddles().cut_caps(0.02).caps(true);
    story.sizes(60.01, 60.02); // upright by the cut, 60° off by half of it
    story.size(3, "front", "upright", 60.03);
    const auto came = of_kind(story.state(), ForecastKind::cap_size);
    ASSERT_EQ(came.size(), 30u);
    EXPECT_EQ(std::ranges::count_if(came, [](const ForecastCame& c) { return c.held; }), 29);
    const auto out = std::ranges::find(came, false, &ForecastCame::held);
    // Read twice, 60.01 and 60.03: 0.01 off; allowed 2√2 · 0.0005, the readings being whole in µm or better.
    EXPECT_NEAR(out->miss, 0.01 / (2 * std::sqrt(2.0) * 0.0005), 0.5);
    EXPECT_EQ(out->by.person, "Marit");
    test::Story later = story;
    later.strokes(10).size(1, "front", "upright", 60.05);
    EXPECT_EQ(of_kind(later.state(), ForecastKind::cap_size).size(), 30u)
        << "what the hone did has nothing to do with it";
}

TEST(Forecasts, AStrokeThatTookMoreThanForetoldIsHeldAgainstIt) {
    test::Story story;
    story.caps(true).sizes(60.0, 60.0).saddles();
    const auto all = [&](double d) { story.sizes(d, d); };
    story.strokes(20);
    all(60.002);
    story.strokes(20);
    all(60.004);
    EXPECT_EQ(of_kind(story.state(), ForecastKind::strokes).size(), 1u) << "of the first go nothing was foretold";
    EXPECT_TRUE(of_kind(story.state(), ForecastKind::strokes)[0].held);
    story.strokes(20);
    all(60.012); // four times as fast
    const auto came = of_kind(story.state(), ForecastKind::strokes);
    ASSERT_EQ(came.size(), 2u);
    EXPECT_FALSE(came[1].held);
    EXPECT_GT(came[1].miss, 2);
}

TEST(Forecasts, TheRiseOfTheLineIsSeenFromTheCamshaft) {
    test::Story story;
    story.probed(30.0, 0, 200.03);
    TunnelForecastKept kept;
    for (int n = 1; n <= 5; ++n)
        kept.rises.push_back({{FeatureKind::main, "", n}, 0.01, 0.002});
    story.add(kept).strokes(20);
    EXPECT_TRUE(of_kind(story.state(), ForecastKind::rise).empty());
    // The bores are probed 0.012 higher in the block: from their line the cam stands 0.012 lower.
    test::LogWriter w;
    for (std::size_t i = 0; i < test::stations.size(); ++i)
        for (const char* level : {"front", "rear"})
            w.ring_x("main." + std::to_string(i + 1), {test::stations[i] + (level[0] == 'f' ? -8.0 : 8.0), 0, 0},
                     30.005, 8, level);
    w.ring_x("cam.1", {20, 0, 99.988}, 25).ring_x("cam.2", {220, 0, 99.988}, 25);
    w.ring_z("dowel.C.1", {0, 0, 200.018}, 6);
    for (const double u : {5.0, 120.0, 235.0})
        for (const double v : {-45.0, 45.0})
            w.touch("deck.C", {u, v, 200.018});
    story.log(w.text());
    const auto came = of_kind(story.state(), ForecastKind::rise);
    ASSERT_EQ(came.size(), 1u);
    EXPECT_TRUE(came[0].held);
    // 0.002 off, of 1.96 √(0.002² + 2 · 0.0005²) = 0.00416
    EXPECT_NEAR(came[0].miss, 0.481, 0.01);
}

TEST(Forecasts, ARecordIsMadeForAllForEachGaugeAndForEachPerson) {
    std::vector<ForecastCame> came;
    for (int i = 0; i < 6; ++i)
        came.push_back({ForecastKind::cap_size, {i < 4 ? "old gauge" : "new gauge", "Marit"}, 0.5, true});
    const auto records = count_forecasts(came);
    ASSERT_EQ(records.size(), 4u);
    EXPECT_EQ(records[0], (ForecastRecord{ForecastKind::cap_size, "", "", 6, 6, 1}));
    EXPECT_EQ(records[1], (ForecastRecord{ForecastKind::cap_size, "", "Marit", 6, 6, 1}));
    EXPECT_EQ(records[2].gauge, "new gauge");
    EXPECT_EQ(records[3].made, 4);
}

TEST(Forecasts, OnlyWhatChanceDoesNotExplainIsStretched) {
    const double within = 0.5;
    // Binomial, 0.95: 4 of 5 or fewer 0.226, 3 of 5 or fewer 0.0226.
    EXPECT_EQ(of_all({missed(within), missed(within), missed(within), missed(within), missed(3)}).widen, 1);
    EXPECT_EQ(of_all({missed(within), missed(within), missed(within), missed(2), missed(3)}).widen, 3);
    EXPECT_EQ(of_all({missed(9), missed(9), missed(9), missed(9)}).widen, 1) << "four are too few to conclude from";
    EXPECT_EQ(of_all({missed(9), missed(9), missed(9), missed(9), missed(9)}).widen, ForecastRecord::widest);
    std::vector<ForecastCame> many;
    for (int i = 1; i <= 39; ++i)
        many.push_back(missed(i / 10.0)); // 10 of 39 held
    EXPECT_NEAR(of_all(many).widen, 3.8, 1e-12) << "the ⌈0.95 · 40⌉-th smallest";
}

// A shop whose gauges are half as good as they are said to be: after enough jobs its intervals hold as often as they
// say; one that is honest is left alone.
TEST(Forecasts, StretchedIntervalsHoldAsOftenAsTheySay) {
    std::mt19937_64 random(11);
    std::normal_distribution<double> normal;
    constexpr int shops = 2000, jobs = 39;
    const auto shops_of = [&](double worse) {
        int held = 0, stretched = 0;
        for (int shop = 0; shop < shops; ++shop) {
            std::vector<ForecastCame> came;
            for (int i = 0; i < jobs; ++i)
                came.push_back(missed(std::abs(worse * normal(random)) / 1.96));
            const double widen = of_all(came).widen;
            held += std::abs(worse * normal(random)) / 1.96 <= widen;
            stretched += widen > 1;
        }
        return std::pair(static_cast<double>(held) / shops, static_cast<double>(stretched) / shops);
    };
    const auto [bad, often] = shops_of(2);
    EXPECT_NEAR(bad, 0.95, 0.015);
    EXPECT_GT(often, 0.99);
    const auto [honest, seldom] = shops_of(1);
    EXPECT_GT(honest, 0.935);
    EXPECT_LT(seldom, 0.06);
}

// ---- what a job does with it ---------------------------------------------------------------------------------------

TEST(Experience, TheBeliefOfADeckIsStretchedAndSaysSo) {
    test::Story plain, taught;
    taught.add(widened(ForecastKind::removal, 2));
    for (test::Story* story : {&plain, &taught})
        story->probed(30.005, 0, 200.03);
    const auto usual = believe_deck(plain.state(), "C"), wide = believe_deck(taught.state(), "C");
    ASSERT_TRUE(usual && wide);
    EXPECT_FALSE(usual->widened);
    ASSERT_TRUE(wide->widened);
    EXPECT_EQ(wide->widened->held, 9);
    const auto half = [](const metrology::Interval& i) { return i.high - i.middle; };
    EXPECT_NEAR(half(wide->surface.removal), 2 * half(usual->surface.removal), 1e-12);
    EXPECT_NEAR(half(wide->surface.lowest), 2 * half(usual->surface.lowest), 1e-12);
    EXPECT_GT(wide->clean_depth().sure, usual->clean_depth().sure);
    EXPECT_NEAR(wide->clean_depth().likely, usual->clean_depth().likely, 1e-12);
}

TEST(Experience, SizesThatComeDifferentlyHereAreAskedAboutLater) {
    const auto story = [](bool taught) {
        test::Story s;
        if (taught)
            s.add(widened(ForecastKind::cap_size, 3));
        s.caps(true).sizes(60.03, 60.03).saddles().cut_caps(0.03).caps(true);
        for (const char* step : {"even contact of the parting faces", "caps deburred"})
            s.add(StepDone{step});
        s.sizes(60.003, 60.015); // upright 0.003 more than the cut makes of it
        return s;
    };
    const TunnelWork plain = story(false).now().tunnel_work, taught = story(true).now().tunnel_work;
    EXPECT_TRUE(std::ranges::any_of(plain.predictions, &CapPrediction::disagrees));
    EXPECT_TRUE(std::ranges::none_of(taught.predictions, &CapPrediction::disagrees));
    EXPECT_NEAR(taught.predictions.front().allowed, 3 * plain.predictions.front().allowed, 1e-12);
}

TEST(Experience, TheRiseUnderTheHoneIsLessSure) {
    const auto study = [](bool taught) {
        test::Story s;
        if (taught)
            s.add(widened(ForecastKind::rise, 2));
        auto made = study_tunnel(s.probed(29.99, 0.01).state());
        explain(*made);
        return *made;
    };
    const TunnelStudy plain = study(false), taught = study(true);
    ASSERT_FALSE(plain.forecast.empty());
    EXPECT_NEAR(*taught.forecast[0].uncertainty, 2 * *plain.forecast[0].uncertainty, 1e-12);
    EXPECT_TRUE(taught.widened);
}

TEST(Experience, FewerStrokesAtOnceWhereTheyTookMoreThanForetold) {
    const auto work = [](bool taught) {
        test::Story s;
        if (taught)
            s.add(widened(ForecastKind::strokes, 4));
        s.caps(true).sizes(59.98, 59.98).saddles().strokes(20);
        s.sizes(59.99, 59.99).strokes(20).sizes(60.0, 60.0);
        return s.now().tunnel_work;
    };
    const auto plain = work(false).forecast, taught = work(true).forecast;
    ASSERT_TRUE(plain && taught);
    EXPECT_LT(taught->at_once, plain->at_once);
    EXPECT_EQ(taught->strokes_left, plain->strokes_left);
}

TEST(Experience, ARecordCountsForItsGaugeAndItsPersonOnly) {
    test::Story s;
    s.add(Experience{{},
                     {{ForecastKind::removal, "", "", 40, 39, 1},
                      {ForecastKind::removal, "deck bridge", "", 10, 6, 1.8},
                      {ForecastKind::removal, "", "Mira", 6, 3, 2.5}}});
    const Folded state = s.state();
    EXPECT_FALSE(widened_by(state, ForecastKind::removal, {"probe", ""}));
    EXPECT_NEAR(widened_by(state, ForecastKind::removal, {"deck bridge", "Marit"})->widen, 1.8, 1e-12);
    EXPECT_NEAR(widened_by(state, ForecastKind::removal, {"deck bridge", "Mira"})->widen, 2.5, 1e-12);
    EXPECT_FALSE(widened_by(state, ForecastKind::rise, {"deck bridge", "Mira"}));
}

TEST(Experience, IsTakenFromFiveBlocksOn) {
    const TraitOf wear{Trait::wear, "bore.C.1"};
    std::vector<BlockTraits> blocks{{{wear, 0.03}}, {{wear, 0.05}}, {{wear, 0.04}}, {{wear, 0.03}}};
    std::vector<ForecastCame> came(4, missed(2));
    EXPECT_EQ(experience_from(blocks, came), Experience());
    blocks.push_back({{wear, 0.05}});
    came.push_back(missed(2));
    const Experience taught = experience_from(blocks, came);
    ASSERT_EQ(taught.traits.size(), 1u);
    EXPECT_NEAR(taught.traits[0].mean, 0.04, 1e-12);
    EXPECT_EQ(taught.traits[0].blocks, 5);
    EXPECT_EQ(taught.forecasts.size(), 3u) << "all, of the gauge, of the person";
    Payload kept = taught;
    EXPECT_TRUE(faults_in(kept).empty());
}

TEST(Experience, AForecastIsKeptBeforeTheFirstPassAndTheFirstGo) {
    test::Story s;
    s.probed(29.99, 0.01);
    const TunnelPass go{TunnelPassKind::strokes, 10, {}, false};
    EXPECT_TRUE(keeps_rise_forecast(s.state(), go));
    EXPECT_FALSE(keeps_rise_forecast(s.state(), {TunnelPassKind::final_pass, 0, 1.2, false}))
        << "a bar is told its line";
    TunnelStudy study = *study_tunnel(s.state());
    EXPECT_FALSE(kept_forecast(study)) << "not explained: no line is forecast";
    explain(study);
    const auto rise = kept_forecast(study);
    ASSERT_TRUE(rise);
    EXPECT_EQ(rise->rises.size(), 5u);
    EXPECT_TRUE(keeps_deck_forecast(s.state(), {"C", PassKind::pass, 0.02, false, {}}));
    EXPECT_FALSE(keeps_deck_forecast(s.state(), {"C", PassKind::spring, 0, false, {}}));
    EXPECT_FALSE(keeps_deck_forecast(s.state(), {"C", PassKind::flush, 0.02, false, {}})) << "of a sleeve";
    DeckCut head{"C", PassKind::pass, 0.02, false, {}};
    head.head = true;
    EXPECT_FALSE(keeps_deck_forecast(s.state(), head)) << "of the head";
    s.add(*rise).strokes(10);
    EXPECT_FALSE(keeps_rise_forecast(s.state(), go)) << "the second go";
}
