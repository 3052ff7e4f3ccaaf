// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/readings/reading_plan.h"
#include "wording/readings/readings.h"

#include "block/reading_text.h"
#include "block/small_block.h"
#include "units.h"

#include <gmock/gmock.h>

using namespace pallix;
using namespace pallix::block;
using namespace pallix::wording;
using planning::Measuring;
using testing::HasSubstr;

namespace {

using test::mm, test::inch;

Expected about(double value, double believable = 0.3) {
    Expected e;
    e.value = value;
    e.believable = believable;
    e.bench = Unit::mm;
    return e;
}

std::string echo(const char* typed, Quantity q, const Expected& e) {
    const auto u = read_reading(typed, q, e);
    return u ? understood_words(*u, q, e, "ring", mm) : u.error();
}

} // namespace

TEST(ReadingWords, NameThePlaceByFunction) {
    const Blueprint b = test::read_small_blueprint();
    EXPECT_EQ(place_of_reading(b, planning::usual_places(b, Measuring::main_sizes, "")[1]), "main 1, front, 60° left");
    EXPECT_EQ(place_of_reading(b, planning::usual_places(b, Measuring::cylinder_sizes, "C")[0]),
              "cylinder 1 (bore 1), top, across the crankshaft");
    EXPECT_EQ(place_of_reading(b, planning::usual_places(b, Measuring::deck_heights, "C")[3]), "deck, rear, left side");
    EXPECT_EQ(place_of_reading(b, planning::usual_places(b, Measuring::bar_sweep, "")[1]),
              "main 1, 3 o'clock, seen from the rear");
    EXPECT_EQ(place_of_reading(b, planning::usual_places(b, Measuring::temperatures, "")[1]),
              "temperature of the gauge");
    EXPECT_EQ(place_of_reading(b, planning::usual_places(b, Measuring::feelers, "C")[0]), "deck, edge right side");
    EXPECT_EQ(place_of_reading(b, planning::usual_places(b, Measuring::head_feelers, "C")[0]),
              "head over the deck, edge right side");
    EXPECT_EQ(place_of_reading(b, planning::usual_places(b, Measuring::chamber_volumes, "C")[0]),
              "chamber of cylinder 1 (bore 1)");
    EXPECT_EQ(place_of_reading(b, planning::usual_places(b, Measuring::valve_drops, "C")[1]),
              "cylinder 1 (bore 1), exhaust valve to piston");
}

TEST(ReadingWords, SayTheSignOfAGaugeInWords) {
    Expected e = about(60.01);
    e.zero = 60.0;
    EXPECT_EQ(echo("-4 µm", Quantity::size, e),
              "understood: 59.996 mm, 0.004 smaller than the zero (ring), 0.014 less than is expected");
    EXPECT_THAT(echo("+4 µm", Quantity::size, e), HasSubstr("0.004 larger than the zero"));
    EXPECT_EQ(echo("0.05 0.10", Quantity::gap, about(0)), "understood: 0.050 mm goes in, 0.100 mm does not");
    EXPECT_EQ(echo("19.54", Quantity::temperature, about(20, 20)), "understood: 19.5 °C");
    Expected indicator = about(0);
    indicator.direct = true;
    EXPECT_EQ(echo("-0.012", Quantity::saddle, indicator), "understood: 0.012 mm proud of the line");
    EXPECT_EQ(echo("12 µm proud", Quantity::saddle, indicator), "understood: 0.012 mm proud of the line");
    EXPECT_EQ(echo("0.012 back", Quantity::saddle, indicator), "understood: 0.012 mm back of the line");
    EXPECT_EQ(echo("0.3 below", Quantity::piston, indicator), "understood: 0.300 mm below the deck");
    EXPECT_EQ(echo("0.02 proud", Quantity::piston, indicator), "understood: 0.020 mm proud of the deck");
    EXPECT_EQ(echo("0.02 low", Quantity::indicator, indicator), "understood: 0.020 mm low");
    EXPECT_EQ(echo("0.02", Quantity::sweep, indicator), "understood: 0.020 mm in");
}

// Which way a needle turns is the dial's own; without its card nobody can tell, and no deviation counts from nowhere.
TEST(ReadingWords, ADeviationNeedsItsZeroAndADialItsSense) {
    Expected e = about(60.01);
    EXPECT_THAT(read_reading("cw 0.4 thou", Quantity::size, e).error(), HasSubstr("clockwise is smaller or larger"));
    e.zero = 60.0;
    e.clockwise = DialSense::smaller;
    EXPECT_EQ(echo("clockwise 4 µm", Quantity::size, e),
              "understood: 59.996 mm, clockwise is smaller, 0.004 smaller than the zero (ring), 0.014 less than is "
              "expected");
    EXPECT_NEAR(read_reading("ccw 0.01", Quantity::size, e)->value, 60.01, 1e-12);
    e.clockwise = DialSense::larger;
    EXPECT_NEAR(read_reading("cw 0.01", Quantity::size, e)->value, 60.01, 1e-12);
    e.zero.reset();
    e.needs_zero = true;
    EXPECT_THAT(read_reading("+0.01", Quantity::size, e).error(), HasSubstr("no zero near that"));
    EXPECT_NEAR(read_reading("60.012", Quantity::size, e)->value, 60.012, 1e-12) << "a whole size needs none";
    e.nominal = 60.0;
    EXPECT_NEAR(read_reading("1 over", Quantity::size, e)->value, 60.0254, 1e-12) << "over the drawing";
}

TEST(ReadingWords, AskAboutTurnRepeatAndNeighbours) {
    Expected e = about(60.01, 0.13);
    e.turn = 0.2;
    e.repeat_limit = 0.01;
    const auto question = [&](const char* typed) {
        return question_about(*read_reading(typed, Quantity::size, e), Quantity::size, e, mm);
    };
    EXPECT_THAT(question("60.212"), HasSubstr("one turn of the dial off: slipped zero? 60.012 mm would fit"));
    e.repeat = 60.0;
    EXPECT_THAT(question("60.02"), HasSubstr("The same place read 60.000 mm before, 0.020 mm away"));
    EXPECT_EQ(question("60.005"), "");
}

TEST(SettlingWords, SayWhatWouldSettleIt) {
    using enum metrology::SettledBy;
    EXPECT_EQ(settling_sentence({nothing_needed, 0, 0}, mm), "Enough: more readings would change nothing.");
    EXPECT_EQ(settling_sentence({more_readings, 1, 0}, mm),
              "One more reading would settle it, if the mean stays where it is.");
    EXPECT_THAT(settling_sentence({more_readings, 3, 0}, mm), HasSubstr("3 more readings"));
    EXPECT_EQ(settling_sentence({better_gauge, 0, 0.001}, mm),
              "More readings will not settle it; a gauge good to ±0.0020 mm would.");
    EXPECT_THAT(settling_sentence({nothing_will, 0, 0}, mm), HasSubstr("on its limit"));
}

TEST(PatternWords, NameCauseAndShare) {
    const Blueprint b = test::read_small_blueprint();
    planning::Pattern p;
    EXPECT_EQ(pattern_sentence(b, p, mm), "No common pattern.");
    p = {planning::PatternKind::shift, 0.924, {0.3, 0.4}, 0, 0, {}, {}};
    EXPECT_EQ(pattern_sentence(b, p, mm),
              "All one way, by 0.500 mm (92 % of the scatter): the datum, the fixture or a core shift.");
    p = {planning::PatternKind::rotation, 1, {}, 0.0012, 0, {}, {}};
    EXPECT_THAT(pattern_sentence(b, p, inch), HasSubstr("turned by 1.20 thou per inch"));
    p = {planning::PatternKind::outlier, 0.99, {}, 0, 0, {FeatureKind::bore, "C", 1}, {0.1, 0}};
    EXPECT_THAT(pattern_sentence(b, p, mm), HasSubstr("One stands out: cylinder 1 (bore 1), by 0.100 mm"));
}

TEST(PositionWords, AreInboardOutboardFrontRear) {
    const BankBlueprint right = test::read_small_blueprint("cam", "30").banks[0];
    const BankBlueprint left = test::read_small_blueprint("cam", "-30").banks[0];
    EXPECT_EQ(position_words(right, {-0.01, 0.02}, mm),
              "0.020 mm outboard across the crankshaft, 0.010 mm to the front along it");
    EXPECT_EQ(position_words(left, {0.01, 0.02}, mm),
              "0.020 mm inboard across the crankshaft, 0.010 mm to the rear along it");
}

TEST(InstrumentWords, SayWhatIsMissing) {
    Instrument i;
    i.name = "g";
    i.kind = InstrumentKind::bore_gauge;
    EXPECT_EQ(instrument_words(i, mm), "no zero set; uncertainty not stated");
    i.zero = 73.99;
    i.zero_set_on = "ring";
    i.standard_uncertainty = 0.001;
    i.repeatability = 0.0008;
    EXPECT_EQ(instrument_words(i, mm), "zero 73.990 mm, set on ring; ±0.0020 mm; repeats within 0.0008 mm");
    EXPECT_EQ(conditions_words({}), "conditions not stated");
    EXPECT_EQ(conditions_words({false, true, {}, 21.0, "oil"}), "caps off, torque plate on, gauge 21.0 °C, oil");
}
