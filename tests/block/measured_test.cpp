// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/state/measured.h"

#include "small_block.h"

using namespace pallix::block;
using pallix::test::size_reading;

namespace {

/// Readings of one bore gauge, one after the other.
std::vector<TakenReading> taken(std::initializer_list<std::pair<std::int64_t, double>> readings,
                                std::optional<double> u = 0.001) {
    std::vector<TakenReading> out;
    for (const auto& [sequence, value] : readings) {
        const Reading r = size_reading("main.1", "front", "upright", value, u);
        out.push_back({sequence, "", "", r, value, 0, 0, fixed_uncertainty(r.instrument), ""});
    }
    return out;
}

} // namespace

TEST(MeasuredPlaces, AreTheMeanOfTheirRepeats) {
    const auto places = measured_places(taken({{2, 60.010}, {3, 60.014}, {4, 60.012}}));
    ASSERT_EQ(places.size(), 1U);
    EXPECT_NEAR(places[0].value, 60.012, 1e-12);
    EXPECT_EQ(places[0].count, 3U);
    EXPECT_NEAR(places[0].spread, 0.004, 1e-12);
    EXPECT_NEAR(places[0].sureness->of_one, 0.002, 1e-12); // s of −2, +2, 0
    EXPECT_NEAR(*places[0].standard_uncertainty(), std::hypot(0.001, 0.002 / std::sqrt(3.0)), 1e-12);
    EXPECT_EQ(places[0].sequences, (std::vector<std::int64_t>{2, 3, 4}));
}

TEST(MeasuredPlaces, OneUnstatedGaugeLeavesThePlaceUnstated) {
    auto readings = taken({{2, 60.01}});
    readings.push_back(taken({{3, 60.01}}, std::nullopt).front());
    EXPECT_FALSE(measured_places(readings).front().sureness);
}

TEST(MeasuredPlaces, StaleReadingsGiveWayToFreshOnes) {
    auto readings = taken({{2, 60.01}, {3, 60.05}});
    readings[0].stale_because = "the tunnel was cut since";
    EXPECT_NEAR(measured_places(readings).front().value, 60.05, 1e-12);
    EXPECT_FALSE(measured_places(readings).front().stale());
    readings[1].stale_because = readings[0].stale_because;
    EXPECT_TRUE(measured_places(readings).front().stale()) << "shown, and said to be stale";
}

TEST(MeasuredPlaces, BracketsNarrow) {
    std::vector<TakenReading> readings;
    for (const auto& [low, high] : {std::pair(0.10, 0.20), std::pair(0.15, 0.25)}) {
        Reading r = size_reading("main.1", "", "", low);
        r.at = {{FeatureKind::deck, "C", 0}, Quantity::gap, "", "middle", {}};
        r.upper = high;
        readings.push_back({1, "", "", r, low, 0, 0, 0.001, ""});
    }
    const MeasuredPlace p = measured_places(readings).front();
    EXPECT_EQ(p.value, 0.15);
    EXPECT_EQ(p.upper, 0.20);
}

TEST(MeasuredPlaces, AreNotMixedOfReadingsUnderOtherConditions) {
    auto readings = taken({{2, 60.01}, {3, 60.020}, {4, 60.022}});
    readings[0].reading.conditions.caps_torqued = true;
    readings[1].reading.conditions.caps_torqued = readings[2].reading.conditions.caps_torqued = false;
    EXPECT_NEAR(measured_places(readings).front().value, 60.021, 1e-12) << "the newest round alone";
    EXPECT_EQ(measured_places(readings).front().count, 2U);
}

// Two checks, 0.006 apart, three readings between: 1/4, 2/4 and 3/4 of the drift come off; 0.006/√12 is left.
TEST(MeasuredPlaces, AreTheSameWhereTheirKeysAre) {
    const FeatureId deck{FeatureKind::deck, "R", 0}, first{FeatureKind::main, "", 1}, second{FeatureKind::main, "", 2};
    const auto height = [&deck](double u, double v) { return MeasuredAt{deck, Quantity::height, "", "", {u, v}}; };
    EXPECT_TRUE(is_same_place(height(12.5, -60), height(12.5004, -60.0003))) << "written 12.500 −60.000";
    EXPECT_FALSE(is_same_place(height(12.5, -60), height(12.5006, -60))) << "written 12.501";
    const std::vector<MeasuredAt> all{height(12.5, -60),
                                      height(12.4996, -60),
                                      height(12.5006, -60),
                                      height(0, -60),
                                      height(-0.0001, -60),
                                      {deck, Quantity::gap, "", "front", {}},
                                      {deck, Quantity::gap, "", "front", {1, 2}}, // a line has no such place
                                      {deck, Quantity::gap, "", "rear", {}},
                                      {first, Quantity::size, "front", "upright", {}},
                                      {first, Quantity::size, "rear", "upright", {}},
                                      {first, Quantity::saddle, "front", "upright", {}},
                                      {second, Quantity::size, "front", "upright", {}}};
    for (const MeasuredAt& a : all)
        for (const MeasuredAt& b : all)
            EXPECT_EQ(is_same_place(a, b), a.key() == b.key()) << a.key() << " and " << b.key();
}

TEST(Drift, IsSpreadOverTheReadingsBetweenTwoChecks) {
    auto readings = taken({{2, 60.000}, {11, 60.010}, {12, 60.010}, {13, 60.010}, {21, 60.010}});
    spread_drift(readings, {{10, "bore gauge", 0.002}, {20, "bore gauge", 0.006}, {20, "another", 5}});
    EXPECT_EQ(readings[0].value, 60.000);
    EXPECT_NEAR(readings[1].value, 60.010 - 0.0015, 1e-12);
    EXPECT_NEAR(readings[2].value, 60.010 - 0.0030, 1e-12);
    EXPECT_NEAR(readings[3].value, 60.010 - 0.0045, 1e-12);
    EXPECT_EQ(readings[4].value, 60.010);
    EXPECT_NEAR(*readings[2].fixed, std::hypot(0.001, 0.006 / 2), 1e-12) << "half of the way";
    EXPECT_NEAR(*readings[4].fixed, 0.001, 1e-12);
}

TEST(Temperature, CountsOnlyWhereBothAreKnown) {
    auto readings = taken({{2, 100.0}, {3, 100.0}, {4, 100.0}});
    readings[0].reading.conditions = {{}, {}, 30.0, 30.0, ""};
    readings[1].reading.conditions = {{}, {}, 30.0, {}, ""};
    readings[2].reading.at.quantity = Quantity::saddle;
    readings[2].reading.conditions = readings[0].reading.conditions;
    bring_to_reference_temperature(readings, 10.5e-6);
    EXPECT_NEAR(readings[0].value, 100.001, 1e-9); // 100·(11.5e-6 − 10.5e-6)·10
    EXPECT_NEAR(readings[0].thermal_correction, 0.001, 1e-9);
    EXPECT_GT(*readings[0].fixed, 0.001);
    EXPECT_EQ(readings[1].value, 100.0);
    EXPECT_EQ(readings[2].value, 100.0) << "a difference of heights over one bar";
}

TEST(Instruments, KeepEverythingAndRefuseWhatCannotBe) {
    Instrument i;
    i.name = "gauge";
    i.standard_uncertainty = 0.001;
    i.resolution = 0.002;
    EXPECT_EQ(*read_instrument(instrument_json(i)), i);
    EXPECT_NEAR(*fixed_uncertainty(i), std::hypot(0.001, 0.002 / std::sqrt(12.0)), 1e-15);
    EXPECT_FALSE(fault_of(i));
    i.standard_uncertainty = 0.0;
    EXPECT_TRUE(fault_of(i));
    i.standard_uncertainty.reset();
    EXPECT_FALSE(fixed_uncertainty(i));
    i.name.clear();
    EXPECT_TRUE(fault_of(i));
    EXPECT_FALSE(read_instrument("{}"));
    EXPECT_FALSE(read_instrument(R"({"name":"x","kind":"crystal ball","resolution":0})"));
    for (const Instrument& usual : usual_instruments())
        EXPECT_FALSE(fault_of(usual)) << usual.name;
}
