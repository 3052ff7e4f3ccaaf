// SPDX-License-Identifier: GPL-3.0-or-later
// Blocks to practise on: gauges and machines do as is stated of them, an exercise is the same for everybody, and who
// knows the trade comes out better than who does not.
#include "block/digest.h"
#include "block/entries/practice_entries.h"
#include "block/job_file.h"
#include "block/state/fold.h"
#include "sanitized.h"
#include "simulated_shop.h"
#include "workshop/practice/own_exercise.h"
#include "workshop/practice/result.h"

#include <algorithm>
#include <cmath>
#include <gtest/gtest.h>
#include <iostream>
#include <numeric>

using namespace pallix;
using namespace pallix::workshop;

namespace {

constexpr std::size_t draws = 10000;

block::MeasuredAt main_size(const char* level = "front") {
    return {{block::FeatureKind::main, "", 2}, block::Quantity::size, level, "upright", {}};
}

/// A sound block, read again and again: each reading is in the ledger before the next.
struct DrawnReadings {
    std::vector<double> off;
    std::size_t slipped = 0;
};
DrawnReadings drawn(const GaugeHabits& gauges, const block::MeasuredAt& at = main_size()) {
    const block::Blueprint b = tender_inline_four();
    PracticeBench bench(SimulatedBlock(b, as_drawn(b), {}, 1), gauges, 7);
    DrawnReadings all;
    for (std::size_t i = 0; i < draws; ++i) {
        const auto sent = bench.read(at);
        all.off.push_back(sent->value - sent->is);
        all.slipped += sent->slipped ? 1 : 0;
        bench.work(block::Reading{});
    }
    return all;
}
double mean(const std::vector<double>& all) {
    return std::accumulate(all.begin(), all.end(), 0.0) / static_cast<double>(all.size());
}
double spread(const std::vector<double>& all) {
    const double m = mean(all);
    double sum = 0;
    for (const double x : all)
        sum += (x - m) * (x - m);
    return std::sqrt(sum / static_cast<double>(all.size() - 1));
}

} // namespace

// Four standard deviations of what ten thousand draws of such a distribution may be off.
TEST(PracticeGauges, ScatterAsTheyAreSaidTo) {
    GaugeHabits g;
    g.scatter = 0.01; // many steps of the dial
    const DrawnReadings all = drawn(g);
    EXPECT_NEAR(mean(all.off), 0, 4 * 0.01 / std::sqrt(draws));
    EXPECT_NEAR(spread(all.off), 0.01, 4 * 0.01 / std::sqrt(2.0 * draws));
    for (const auto& [width, share] : {std::pair(1.0, 0.6827), {1.96, 0.95}, {2.576, 0.99}}) { // normal, from tables
        const auto within =
            std::ranges::count_if(all.off, [&, w = width](double x) { return std::abs(x) <= w * 0.01; });
        EXPECT_NEAR(static_cast<double>(within) / draws, share, 4 * std::sqrt(share * (1 - share) / draws) + 0.005)
            << width << "; a step of the dial moves some over the edge";
    }
}

TEST(PracticeGauges, SlipAsOftenAsTheyAreSaidTo) {
    GaugeHabits g;
    g.slips = 0.03;
    const DrawnReadings turns = drawn(g);
    EXPECT_NEAR(static_cast<double>(turns.slipped) / draws, 0.03, 4 * std::sqrt(0.03 * 0.97 / draws));
    const auto whole = std::ranges::count_if(turns.off, [](double x) { return std::abs(x - 1) < 0.01; });
    const auto tenth = std::ranges::count_if(turns.off, [](double x) { return std::abs(x - 0.1) < 0.01; });
    EXPECT_EQ(static_cast<std::size_t>(whole + tenth), turns.slipped) << "a turn of the dial, or a tenth of one";
    EXPECT_NEAR(static_cast<double>(whole), static_cast<double>(tenth), 4 * std::sqrt(0.03 * draws));

    GaugeHabits dirty;
    dirty.mishaps = 0.02;
    const block::MeasuredAt deck{{block::FeatureKind::deck, "C", 0}, block::Quantity::height, "", "", {100, 60}};
    const DrawnReadings dirt = drawn(dirty, deck);
    EXPECT_NEAR(static_cast<double>(dirt.slipped) / draws, 0.02, 4 * std::sqrt(0.02 * 0.98 / draws));
    for (const double x : dirt.off)
        EXPECT_TRUE(std::abs(x) < 0.01 || (x > 0.015 && x < 0.065)) << x << ": dirt under a foot lifts it";
}

TEST(PracticeGauges, WhoLooksAgainSeesTheSlip) {
    GaugeHabits g;
    g.slips = 1;
    const block::Blueprint b = tender_inline_four();
    PracticeBench bench(SimulatedBlock(b, as_drawn(b), {}, 1), g, 7);
    EXPECT_TRUE(bench.read(main_size())->slipped);
    EXPECT_FALSE(bench.read(main_size())->slipped);
    bench.work(block::Reading{});
    EXPECT_TRUE(bench.read(main_size())->slipped) << "the next one";
}

TEST(PracticeGauges, DriftAndAreKnockedUntilTheyAreHeldAgainstTheirRing) {
    GaugeHabits g;
    g.scatter = 1e-6;
    g.drift = 0.1; // a millimetre in a thousand readings
    const DrawnReadings all = drawn(g);
    for (const std::size_t i : {0UL, 100UL, 1000UL, 9999UL})
        EXPECT_NEAR(all.off[i], 0.001 * static_cast<double>(i), 0.0006);

    GaugeHabits knocked;
    knocked.scatter = 1e-6;
    knocked.zero_slips_after = 5;
    knocked.zero_slip = -0.02;
    const block::Blueprint b = tender_inline_four();
    PracticeBench bench(SimulatedBlock(b, as_drawn(b), {}, 1), knocked, 7);
    std::vector<double> off;
    const auto read = [&] {
        const auto sent = bench.read(main_size());
        off.push_back(sent->value - sent->is);
        bench.work(block::Reading{});
    };
    for (int i = 0; i < 8; ++i)
        read();
    for (std::size_t i = 0; i < off.size(); ++i)
        EXPECT_NEAR(off[i], i < 5 ? 0 : -0.02, 0.0006) << i;
    const block::RingCheck check = bench.check("gauge", 50);
    EXPECT_NEAR(check.reading, 49.98, 0.0006);
    bench.work(check);
    read();
    EXPECT_NEAR(off.back(), 0, 0.0006) << "its zero is right again";
}

// 60 mm of aluminium, 25 K over 20 °C, the gauge 5 K under: 58·(22·25 + 11.5·5)·10⁻⁶ (expansions from memory).
TEST(PracticeGauges, ShowABlockAsWarmAsItIs) {
    block::Blueprint b = tender_inline_four();
    b.material = block::Material::aluminium;
    GaugeHabits g;
    g.scatter = 1e-6;
    g.part_c = 45;
    g.gauge_c = 15;
    PracticeBench bench(SimulatedBlock(b, as_drawn(b), {}, 1), g, 7);
    const double size = b.mains[1].diameter.middle();
    EXPECT_NEAR(bench.read(main_size())->value,
                size * (1 + (block::expansion_of(block::Material::aluminium) * 25 + 11.5e-6 * 5)), 0.0006);
    const block::MeasuredAt block_c{{}, block::Quantity::temperature, "", "block", {}};
    EXPECT_NEAR(bench.read(block_c)->value, 45, 0.6);
}

TEST(PracticeMachines, SpoilWhatTheyAreSaidTo) {
    const block::Blueprint b = tender_inline_four();
    MachineHabits m;
    m.backlash = 0.02;
    m.lifted_at = 2;
    m.lifted = 0.05;
    m.boring_bar.chips_at = 2;
    m.boring_bar.chip = 0.03;
    SimulatedBlock block(b, as_drawn(b), m, 1);
    static_cast<void>(block.cut_deck("C", 0.05));
    EXPECT_NEAR(block.deck("C").taken, 0.03, 0.003) << "the first pass stays short";
    EXPECT_LT(block.deck("C").high - block.deck("C").low, 0.001);
    static_cast<void>(block.cut_deck("C", 0.05));
    EXPECT_NEAR(block.deck("C").high - block.deck("C").low, 0.05, 0.002) << "a chip lay under the block";
    static_cast<void>(block.cut_deck("C", 0.06));
    EXPECT_LT(block.deck("C").high - block.deck("C").low, 0.001) << "a deeper pass takes it out again";
    const auto bored = [&](std::size_t i, bool fresh) {
        block.bore(b.bores[i].id, 82.4, fresh);
        return block.truth({b.bores[i].id, block::Quantity::size, "middle", "along", {}});
    };
    EXPECT_NEAR(bored(0, false), 82.4, 0.012);
    EXPECT_NEAR(bored(1, false), 82.37, 0.012);
    EXPECT_NEAR(bored(2, true), 82.4, 0.012);
}

TEST(Exercise, IsTheSameForEverybodyAndNoOther) {
    std::vector<std::string> all;
    for (std::size_t t = 0; t < theme_keys.size(); ++t)
        for (int level = 1; level <= levels; ++level)
            for (const std::int64_t number : {1, 2}) {
                const Exercise e = exercise_of(static_cast<Theme>(t), level, number);
                EXPECT_EQ(hidden_json(e.truth), hidden_json(exercise_of(static_cast<Theme>(t), level, number).truth));
                all.push_back(hidden_json(e.truth));
                const auto read = read_hidden(all.back(), e.blueprint);
                ASSERT_TRUE(read) << read.error().front().text();
                EXPECT_EQ(hidden_json(*read), all.back()) << "it is kept to the last digit";
                EXPECT_FALSE(told_of(static_cast<Theme>(t)).story.empty());
            }
    std::ranges::sort(all);
    EXPECT_EQ(std::ranges::adjacent_find(all), all.end());
    EXPECT_EQ(theme_of("bowed_tunnel"), Theme::bowed_tunnel);
    EXPECT_FALSE(theme_of("bowed"));
}

TEST(Exercise, ItsTruthIsRefusedWhereItBelongsToAnotherBlock) {
    const Exercise e = exercise_of(Theme::bowed_tunnel, 1, 1);
    EXPECT_EQ(read_hidden(hidden_json(e.truth), workboat_v6()).error().front().file, "truth");
    EXPECT_FALSE(read_hidden("{}", e.blueprint));
    EXPECT_FALSE(read_hidden("no json", e.blueprint));
}

namespace {

OwnExercise own(std::vector<std::string> errors) {
    return {"The pilot's spare",
            "It lay in the shed.",
            "Bring it up to its drawing.",
            4,
            2,
            {block::Stage::tunnel, block::Stage::decks},
            write_blueprint(workboat_v6()),
            std::move(errors)};
}

} // namespace

TEST(OwnExercise, HasTheErrorsThatWereTypedAndNoOthers) {
    const auto read = read_own_exercise(
        own_exercise_json(own({"main.2 up 0.03", "main.2 over 0,01", "deck.R slope 0.05", "deck.L dip 120 40 0.08 25",
                               "bore.R.1 oversize 0.2", "bore.R.1 off 0.1 -0.05", "gauge knocked 12 0.02",
                               "gauge block_c 40", "bar chip 3 0.04", ""})),
        "spare.pallix-exercise.json");
    ASSERT_TRUE(read) << read.error().front().text();
    const auto e = exercise_of(*read);
    ASSERT_TRUE(e) << e.error().front().text();
    const SimulatedBlock block(e->blueprint, e->truth.block, e->truth.machines, 1);
    const block::MeasuredAt main{{block::FeatureKind::main, "", 2}, block::Quantity::size, "front", "upright", {}};
    EXPECT_NEAR(block.truth(main), e->blueprint.mains[1].diameter.middle() + 0.01, 1e-9);
    block::MeasuredAt saddle = main;
    saddle.quantity = block::Quantity::saddle;
    EXPECT_NEAR(block.truth(saddle), 0.03 + 0.005, 1e-9) << "higher, and larger by half of what it is over";
    EXPECT_EQ(e->truth.block.decks.at("R").rear_over_front, 0.05);
    EXPECT_NEAR(e->truth.block.decks.at("L").height(*e->blueprint.bank("L"), {120, 40}), -0.08, 1e-9);
    const block::FeatureId bore{block::FeatureKind::bore, "R", 1}, other{block::FeatureKind::bore, "R", 2};
    const auto size = [&](const block::FeatureId& id) {
        return block.truth({id, block::Quantity::size, "top", "along", {}}) - e->blueprint.hole(id)->diameter.nominal;
    };
    EXPECT_NEAR(size(bore), 0.2, 1e-9);
    EXPECT_NEAR(size(other), 0, 1e-9);
    EXPECT_NEAR(block.off_its_place(bore).y, -0.05, 1e-9);
    EXPECT_EQ(e->truth.gauges.zero_slips_after, 12);
    EXPECT_EQ(e->truth.gauges.part_c, 40);
    EXPECT_EQ(e->truth.machines.boring_bar.chips_at, 3);
    const Played played = [&] {
        PracticeBench bench(e->blueprint, e->truth);
        return play(bench, opening_of(*e), careful_player(e->truth), 1);
    }();
    EXPECT_TRUE(played.ended) << played.stuck;
    EXPECT_GT(reckon(played.entries)->score(), 60);
}

// What is pulled in the drawing is a line, and the block of that line lies where it was pulled to.
TEST(OwnExercise, IsPulledIntoShape) {
    OwnExercise mine = own({});
    const Exercise sound = *exercise_of(mine);
    const SimulatedBlock as_it_should(sound.blueprint, sound.truth.block, {}, 1);
    const auto shapes = shapes_of(as_it_should, as_it_should, {});
    const auto index = [&](ShapeOf what, const char* bank = "") {
        return static_cast<std::size_t>(
            std::ranges::find_if(shapes, [&](const Shape& s) { return s.what == what && s.bank == bank; }) -
            shapes.begin());
    };
    const auto pull = [&](std::size_t shape, std::size_t part, double length) {
        const ErrorLine line = pulled(sound.blueprint, shapes, shape, part, length);
        mine.errors = with_error(mine.errors, line);
        return line.text;
    };
    const std::size_t deck = index(ShapeOf::deck, "R"), last = shapes[deck].parts.size() - 1;
    EXPECT_EQ(pull(index(ShapeOf::line_upright), 1, 0.0312), "main.2 up 0.030");
    EXPECT_EQ(pull(index(ShapeOf::line_sideways), 2, -0.02), "main.3 side -0.020");
    EXPECT_EQ(pull(index(ShapeOf::mains), 0, 0.01), "main.1 over 0.010");
    EXPECT_EQ(pull(deck, last, 0.04), "deck.R slope 0.080") << "the middle stays where it is";
    EXPECT_EQ(pull(index(ShapeOf::cylinders, "L"), 1, 0.25), "bore.L.2 oversize 0.250");
    EXPECT_EQ(mine.errors.size(), 5U);
    const auto bent = exercise_of(mine);
    ASSERT_TRUE(bent) << bent.error().front().text();
    const auto now = shapes_of(as_it_should, SimulatedBlock(bent->blueprint, bent->truth.block, {}, 1), {});
    EXPECT_NEAR(now[index(ShapeOf::line_upright)].parts[1].is_low, 0.03, 1e-6);
    EXPECT_NEAR(now[index(ShapeOf::line_sideways)].parts[2].is_low, -0.02, 1e-6);
    EXPECT_NEAR(now[index(ShapeOf::mains)].parts[0].is_low, 0.01, 1e-6);
    EXPECT_NEAR(now[index(ShapeOf::cylinders, "L")].parts[1].is_low, 0.25, 1e-6);
    // Heights are from the tunnel, whose line now leans a little.
    EXPECT_NEAR(now[deck].parts[last].is_low - now[deck].parts[0].is_low, 0.08, 0.03);
    EXPECT_EQ(now[deck].parts[last].was_low, 0);

    EXPECT_EQ(pull(index(ShapeOf::line_upright), 1, 0.02), "main.2 up 0.020");
    EXPECT_EQ(mine.errors[0], "main.2 up 0.020") << "in the place of what it said before";
    EXPECT_EQ(pull(index(ShapeOf::line_upright), 1, 0.001), "") << "back where it should be";
    EXPECT_EQ(mine.errors.size(), 4U);
    EXPECT_NE(pull(deck, last / 2, -0.06).find(" 0.060 30"), std::string::npos) << "a low place";
    EXPECT_EQ(pull(deck, last / 2, 0.06), "") << "none can be high";
    EXPECT_EQ(stages_of(mine.errors),
              (std::vector{block::Stage::tunnel, block::Stage::decks, block::Stage::cylinders}));
    EXPECT_EQ(stages_of({"gauge knocked 12 0.02"}).size(), 4U);
}

TEST(OwnExercise, SaysWhichLineIsWrong) {
    const auto said = [](const std::string& line) {
        const auto e = exercise_of(own({"main.1 up 0.01", line}));
        return e ? std::string() : e.error().front().text();
    };
    EXPECT_EQ(said("main.9 up 0.01"), "errors:2: \"main.9\" is not on this block, expected main.3, deck.R, bore.R.2, "
                                      "lifter.R.1, gauge or bar");
    EXPECT_EQ(said("main.1 bent 0.01"),
              "errors:2: \"bent\" is no error of main.1, expected one of oval, over, side, up");
    EXPECT_EQ(said("main.1"), "errors:2: nothing is said of main.1, expected one of oval, over, side, up");
    EXPECT_EQ(said("deck.R dip 1 2 3"), "errors:2: deck.R dip has 3 numbers, expected 4");
    EXPECT_EQ(said("main.1 up far"), "errors:2: \"far\" is no number, expected a number");
    EXPECT_NE(said("main.1 up 70"), "") << "no main lies there";
    EXPECT_NE(said("main.1 up nan"), "");
    OwnExercise none = own({});
    none.blueprint = "{}";
    EXPECT_FALSE(exercise_of(none));
    none = own({});
    none.title.clear();
    EXPECT_FALSE(read_own_exercise(own_exercise_json(none), "x.json"));
    for (const char* text : {"", "{}", "[]", "no json", R"({"format":"pallix-job","version":1})"})
        EXPECT_EQ(read_own_exercise(text, "x.json").error().front().file, "x.json") << text;
}

// The bench as the ledger leaves it is the bench that was worked on: nothing hangs on when the program was started.
TEST(Practice, ALedgerGoneThroughAgainLeavesTheSameBlock) {
    for (const Theme theme : {Theme::bowed_tunnel, Theme::low_corner, Theme::chipped_edge, Theme::growing_lifters}) {
        const Exercise e = exercise_of(theme, 3, 3);
        PracticeBench bench(e.blueprint, e.truth);
        const Played played = play(bench, opening_of(e), careful_player(e.truth), 3);
        ASSERT_TRUE(played.ended) << e.key << ": " << played.stuck;
        PracticeBench again(e.blueprint, e.truth, played.entries);
        for (const block::MainBlueprint& main : e.blueprint.mains)
            for (const char* way : {"upright", "60 left"}) {
                const block::MeasuredAt at{main.id, block::Quantity::size, "rear", way, {}};
                EXPECT_DOUBLE_EQ(again.block().truth(at), bench.block().truth(at)) << e.key;
            }
        for (const block::BankBlueprint& bank : e.blueprint.banks)
            EXPECT_DOUBLE_EQ(again.block().deck(bank.id).low, bench.block().deck(bank.id).low) << e.key;
        for (const auto* holes : {&e.blueprint.bores, &e.blueprint.lifters})
            for (const block::HoleBlueprint& hole : *holes) {
                const block::MeasuredAt at{hole.id, block::Quantity::size, "top", "across", {}};
                EXPECT_DOUBLE_EQ(again.block().truth(at), bench.block().truth(at)) << e.key;
            }
        EXPECT_EQ(again.read(main_size())->value, bench.read(main_size())->value) << "and its gauges go on alike";
    }
}

TEST(Practice, IsReckonedUpOnlyWhereItsSealIsWhole) {
    const Exercise e = exercise_of(Theme::bowed_tunnel, 1, 1);
    std::vector<block::Entry> entries;
    for (block::Payload& p : opening_of(e))
        entries.push_back(
            {static_cast<std::int64_t>(entries.size() + 1), "2026-03-02T09:00:00Z", "Mira", std::move(p)});
    const auto untouched = reckon(entries);
    ASSERT_TRUE(untouched) << untouched.error().front().text();
    EXPECT_FALSE(untouched->finished);
    EXPECT_LT(untouched->score(), 60) << "who does nothing has done nothing wrong, and nothing";
    const auto job = block::read_job(block::write_job(entries), "job.json");
    ASSERT_TRUE(job) << "an exercise goes into a file and back";
    EXPECT_EQ(reckon(*job)->score(), untouched->score());
    auto& begun = std::get<block::PracticeBegun>(entries.back().payload);
    const std::string sealed = begun.sealed;
    begun.sealed[10] = begun.sealed[10] == 'A' ? 'B' : 'A';
    EXPECT_EQ(reckon(entries).error().front().what, "the seal of its truth is broken");
    begun.sealed = sealed;
    begun.sha256 = block::sha256_hex("another");
    EXPECT_FALSE(reckon(entries)) << "a truth that was put in its place later";
    entries.pop_back();
    EXPECT_EQ(reckon(entries).error().front().what, "this block is no practice");
}

// What was done after the truth was opened does not count.
TEST(Practice, CountsOnlyUntilTheTruthIsOpened) {
    const Exercise e = exercise_of(Theme::straightedge, 1, 2);
    PracticeBench bench(e.blueprint, e.truth);
    std::vector<block::Entry> entries = play(bench, opening_of(e), careful_player(e.truth), 1).entries;
    const double score = reckon(entries)->score();
    const auto add = [&entries](block::Payload p) {
        entries.push_back({static_cast<std::int64_t>(entries.size() + 1), entries.back().time, "Mira", std::move(p)});
    };
    add(block::TruthOpened{score});
    add(block::DeckCut{"C", block::PassKind::pass, 1.0, true, {}});
    EXPECT_EQ(reckon(entries)->score(), score);
    std::erase_if(entries, [](const auto& one) { return std::holds_alternative<block::TruthOpened>(one.payload); });
    EXPECT_LT(reckon(entries)->score(), score - 10) << "a millimetre too deep";
}

// The careful player follows what is called, the careless one cuts on the first number and half as much again. Few in
// every run, a thousand by scripts/practice.
TEST(Practice, WhoFollowsTheCallsComesOutBetterInEveryThemeAndAtEveryLevel) {
    std::array<double, levels> careful_at{}, careless_at{};
    const std::size_t each = test::jobs(3);
    double themes = 0;
    for (std::size_t t = 0; t < theme_keys.size(); t += test::sanitized ? 8 : 1, ++themes) {
        double careful = 0, careless = 0, least = 100;
        for (std::size_t i = 0; i < each; ++i) {
            const int level = 1 + static_cast<int>(i) % levels;
            const Exercise e = exercise_of(static_cast<Theme>(t), level, static_cast<std::int64_t>(i / levels + 1));
            const auto score_of = [&](const PlayerHabits& habits) {
                PracticeBench bench(e.blueprint, e.truth);
                const Played played = play(bench, opening_of(e), habits, e.truth.seed);
                EXPECT_TRUE(played.ended) << e.key << " " << level << "-" << e.number << ": " << played.stuck;
                return reckon(played.entries)->score();
            };
            const double well = score_of(careful_player(e.truth)), badly = score_of(careless_player(e.truth));
            careful += well;
            careless += badly;
            least = std::min(least, well);
            careful_at.at(static_cast<std::size_t>(level - 1)) += well;
            careless_at.at(static_cast<std::size_t>(level - 1)) += badly;
        }
        const auto n = static_cast<double>(each);
        std::cout << theme_keys[t] << ": careful " << careful / n << " (least " << least << "), careless "
                  << careless / n << "\n";
        EXPECT_GE(careful / n, 85) << theme_keys[t];
        EXPECT_GE(least, 50) << theme_keys[t];
        EXPECT_LE(careless / n, careful / n - 8) << theme_keys[t];
    }
    for (std::size_t level = 0; level < std::min(each, careful_at.size()); ++level)
        EXPECT_GT(careful_at.at(level), careless_at.at(level) + 8.0 * themes);
}
