// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/ledger.h"
#include "block/state/fold.h"
#include "block/state/readings_state.h"
#include "planning/readings/reading_plan.h"

#include "block/small_block.h"
#include "planning/story.h"

using namespace pallix;
using namespace pallix::block;
using namespace pallix::planning;

namespace {

Folded state_of(std::vector<Payload> payloads) {
    std::vector<Entry> entries{{1, "", "", JobOpened{"small", "", "b.json", test::small_blueprint()}}};
    for (Payload& p : payloads)
        entries.push_back({static_cast<std::int64_t>(entries.size() + 1), "", "", std::move(p)});
    return fold(entries);
}

/// What would be read at the place that is asked for.
Reading answer(const AskedReading& asked, double value) {
    Reading r = test::size_reading("main.1", "", "", value);
    r.at = asked.at;
    return r;
}

} // namespace

TEST(ReadingPlan, HoldsEveryPlaceOfTheTrade) {
    const Blueprint b = test::read_small_blueprint();
    const auto count = [&](Measuring what) { return usual_places(b, what, "C").size(); };
    EXPECT_EQ(count(Measuring::main_sizes), 2U * 2 * 3);
    EXPECT_EQ(count(Measuring::saddle_heights), 2U);
    EXPECT_EQ(count(Measuring::bar_sweep), 2U * 4);
    EXPECT_EQ(count(Measuring::deck_heights), 4U);
    EXPECT_EQ(count(Measuring::feelers), 5U) << "three lengthwise, two diagonals; one bore has no neighbour";
    EXPECT_EQ(count(Measuring::cylinder_sizes), 3U * 2);
    EXPECT_EQ(count(Measuring::cylinder_walls), 2U * 4);
    EXPECT_EQ(count(Measuring::piston_heights), 2U);
    EXPECT_EQ(count(Measuring::lifter_sizes), 0U);
    EXPECT_EQ(count(Measuring::temperatures), 2U);
    EXPECT_EQ(count(Measuring::head_feelers), 5U);
    EXPECT_EQ(count(Measuring::chamber_volumes), 1U);
    EXPECT_EQ(count(Measuring::valve_drops), 2U);
    for (std::size_t i = 0; i < measurings; ++i)
        for (const MeasuredAt& at : usual_places(b, static_cast<Measuring>(i), "C"))
            EXPECT_TRUE(b.lists(at.feature)) << at.key();
}

TEST(ReadingPlan, GoesThroughSkipsAndComesToItsEnd) {
    std::vector<Payload> done;
    ReadingWish wish{Measuring::deck_heights, "C", false, {}, {}};
    auto asked = next_reading(state_of({}), wish);
    ASSERT_TRUE(asked);
    EXPECT_EQ(asked->number, 1U);
    EXPECT_EQ(asked->of, 4U);
    EXPECT_EQ(asked->expected, 200) << "the blueprint's height, nothing else is known";
    wish.skipped.push_back(asked->at.key());
    EXPECT_EQ(next_reading(state_of({}), wish)->number, 2U);
    wish.skipped.clear();
    for (int i = 0; i < 4; ++i) {
        asked = next_reading(state_of(done), wish);
        ASSERT_TRUE(asked);
        done.emplace_back(answer(*asked, 200.01));
    }
    EXPECT_FALSE(next_reading(state_of(done), wish));
    wish.once_more = asked->at.key();
    EXPECT_EQ(next_reading(state_of(done), wish)->reading, 2U);
    EXPECT_FALSE(next_reading(state_of({}), {Measuring::deck_heights, "R", false, {}, {}})) << "no such bank";
}

TEST(ReadingPlan, ALearnerReadsTwiceWhereACutHangsOnIt) {
    ReadingWish wish{Measuring::main_sizes, "", true, {}, {}};
    std::vector<Payload> done{answer(*next_reading(state_of({}), wish), 60.01)};
    EXPECT_EQ(next_reading(state_of(done), wish)->reading, 2U);
    EXPECT_EQ(next_reading(state_of(done), wish)->number, 1U);
    done.push_back(answer(*next_reading(state_of(done), wish), 60.011));
    EXPECT_EQ(next_reading(state_of(done), wish)->number, 2U);
    wish.what = Measuring::temperatures;
    done = {answer(*next_reading(state_of({}), wish), 20)};
    EXPECT_EQ(next_reading(state_of(done), wish)->number, 2U);
}

TEST(ReadingPlan, IsAsTheShopHasChosenIt) {
    const auto usual = usual_places(test::read_small_blueprint(), Measuring::cylinder_sizes, "C");
    const Folded s = state_of({ReadingPlanChosen{"cylinder_sizes C", {usual[4].key(), usual[0].key(), "nonsense"}}});
    const auto places = chosen_places(s, Measuring::cylinder_sizes, "C");
    ASSERT_EQ(places.size(), 2U);
    EXPECT_EQ(places[0].key(), usual[4].key());
    EXPECT_EQ(places[1].key(), usual[0].key());
    EXPECT_EQ(chosen_places(s, Measuring::main_sizes, "").size(), 12U);
}

TEST(ReadingPlan, ExpectsWhatTheCutterWasSetTo) {
    const auto log = ProbeLogTaken{"l.csv", "", test::small_log(200.1, 0.15).text(), 0.001, false}; // up to 200.170
    const ReadingWish wish{Measuring::deck_heights, "C", false, {}, {}};
    EXPECT_NEAR(next_reading(state_of({log}), wish)->expected, 200.1, 1e-6);
    const auto after = next_reading(state_of({log, DeckCut{"C", PassKind::pass, 0.1, false, {}}}), wish);
    EXPECT_NEAR(after->expected, 200.07, 1e-6);
    EXPECT_LT(after->believable, 0.2);
}

TEST(Expectation, KnowsZeroRepeatAndNeighbours) {
    const Folded s = state_of({test::size_reading("main.1", "front", "upright", 60.010),
                               test::size_reading("main.1", "front", "60 left", 60.014),
                               test::size_reading("main.1", "rear", "upright", 60.012),
                               test::size_reading("main.2", "front", "upright", 60.9)});
    AskedReading asked = *next_reading(s, {Measuring::main_sizes, "", false, {}, readings_of(s).places[0].at.key()});
    Instrument gauge = readings_of(s).readings[0].reading.instrument;
    gauge.zero = 59.99;
    gauge.turn = 0.2;
    Expected e = expectation(s, asked, gauge, Unit::mm);
    EXPECT_EQ(e.value, 60.01);
    EXPECT_EQ(e.zero, 59.99);
    EXPECT_EQ(e.repeat, 60.010);
    EXPECT_NEAR(*e.neighbours, 60.013, 1e-9) << "of its own main; the middle of two";
    EXPECT_EQ(e.turn, 0.2);
    gauge.zero = 73.99;
    EXPECT_FALSE(expectation(s, asked, gauge, Unit::mm).zero) << "set for another bore: its zero says nothing here";
    gauge.kind = InstrumentKind::inside_micrometer;
    gauge.zero = 59.99;
    EXPECT_FALSE(expectation(s, asked, gauge, Unit::mm).zero);
}

// An aluminium block at 60 °C, the gauge at 20 °C: a bore of 60 shows 60·22·10⁻⁶·40 = 0.053 more than it is at 20 °C
// (expansion from memory). A repeat is held against what the gauge showed before, not against what that comes to.
TEST(Expectation, HoldsARepeatAgainstWhatAHotBlockShows) {
    std::string blueprint = test::story_blueprint();
    blueprint.insert(blueprint.find("\"unit\""), "\"material\":\"aluminium\",");
    test::Story s(blueprint);
    Conditions hot;
    hot.part_c = 60;
    hot.gauge_c = 20;
    s.add(ConditionsStated{hot, false});
    Reading r = test::size_reading("main.1", "front", "upright", 60.063, 0.0005);
    r.conditions = hot;
    s.add(r);
    const Folded state = s.state();
    const double known = readings_of(state).place(r.at)->value;
    EXPECT_NEAR(known, 60.063 - 60 * expansion_of(Material::aluminium) * 40, 2e-4);
    EXPECT_LT(known, 60.02);
    const Expected e = expectation(state, {r.at, 60.01, 0.5, 1, 1, 1}, r.instrument, Unit::mm);
    EXPECT_NEAR(*e.repeat, 60.063, 2e-4);
}

TEST(EdgeLines, LieOnTheDeck) {
    const Blueprint b = test::read_small_blueprint();
    for (const EdgeLine& line : edge_lines(b, "C"))
        for (const metrology::Vec2 end : {line.from, line.to}) {
            EXPECT_GE(end.x, 0);
            EXPECT_LE(end.x, 150);
            EXPECT_LE(std::abs(end.y), 50);
        }
}
