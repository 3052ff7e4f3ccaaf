// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/shop/instrument_care.h"

#include <cmath>
#include <gtest/gtest.h>

using namespace pallix;
using namespace pallix::block;
using namespace pallix::planning;

namespace {

Instrument bore_gauge() {
    Instrument i;
    i.name = "bore gauge";
    i.resolution = 0.002;
    i.standard_uncertainty = 0.0015;
    i.zero = 73.99;
    i.zero_time = "2026-03-02T08:00:00Z";
    i.zero_c = 20;
    return i;
}

InstrumentEvent event(InstrumentHappening what, const std::string& time) {
    InstrumentEvent e;
    e.instrument = "bore gauge";
    e.what = what;
    e.time = time;
    return e;
}
InstrumentEvent check(double error, const std::string& time) {
    InstrumentEvent e = event(InstrumentHappening::checked, time);
    e.size = 73.99;
    e.reading = 73.99 + error;
    return e;
}

std::optional<ZeroDoubt> doubt(const Instrument& i, const std::string& now, const InstrumentHistory& history = {},
                               std::optional<double> gauge_c = {}) {
    Conditions conditions;
    conditions.gauge_c = gauge_c;
    return doubt_zero(i, conditions, now, {}, history);
}

} // namespace

TEST(Zero, IsGoodForAShiftAndThenAskedFor) {
    EXPECT_FALSE(doubt(bore_gauge(), "2026-03-02T16:00:00Z"));
    EXPECT_EQ(doubt(bore_gauge(), "2026-03-02T17:00:00Z"), (ZeroDoubt{ZeroDoubted::old, 9}));
    LimitsChosen night_shift;
    night_shift.zero_hours = 12;
    EXPECT_FALSE(doubt_zero(bore_gauge(), {}, "2026-03-02T17:00:00Z", night_shift, {})) << "the shop says how long";
    Instrument before = bore_gauge();
    before.zero_time.clear();
    EXPECT_FALSE(doubt(before, "2026-03-09T08:00:00Z")) << "set before anybody wrote down when";
    EXPECT_EQ(doubt(before, "2026-03-02T19:00:00Z", {event(InstrumentHappening::zeroed, "2026-03-02T09:00:00Z")}),
              (ZeroDoubt{ZeroDoubted::old, 10}))
        << "its history knows";
    Instrument micrometer = bore_gauge();
    micrometer.kind = InstrumentKind::inside_micrometer;
    EXPECT_FALSE(doubt(micrometer, "2026-03-09T08:00:00Z")) << "reads whole sizes";
}

TEST(Zero, AWarmerGaugeIsZeroedAgain) {
    EXPECT_FALSE(doubt(bore_gauge(), "2026-03-02T09:00:00Z", {}, 21.9));
    const auto warm = doubt(bore_gauge(), "2026-03-02T09:00:00Z", {}, 23.5);
    ASSERT_TRUE(warm);
    EXPECT_EQ(warm->why, ZeroDoubted::warmed);
    EXPECT_NEAR(warm->by, 3.5, 1e-12);
    Instrument unknown = bore_gauge();
    unknown.zero_c.reset();
    EXPECT_FALSE(doubt(unknown, "2026-03-02T09:00:00Z", {}, 30)) << "nobody said how warm it was";
}

TEST(Zero, ACheckThatFoundItOffAsksForItUntilItIsSet) {
    // Twice √(0.0015² + 0.002²/12) = 0.00321 is more than its step.
    EXPECT_FALSE(doubt(bore_gauge(), "2026-03-02T09:00:00Z", {check(0.0032, "2026-03-02T08:30:00Z")}));
    const auto off = doubt(bore_gauge(), "2026-03-02T09:00:00Z", {check(-0.0033, "2026-03-02T08:30:00Z")});
    ASSERT_TRUE(off);
    EXPECT_EQ(off->why, ZeroDoubted::drifted);
    EXPECT_NEAR(off->by, -0.0033, 1e-9);
    EXPECT_FALSE(doubt(bore_gauge(), "2026-03-02T09:00:00Z", {check(0.01, "2026-03-02T07:30:00Z")})) << "set since";
    EXPECT_FALSE(doubt(bore_gauge(), "2026-03-02T09:00:00Z",
                       {check(0.01, "2026-03-02T08:20:00Z"), check(0, "2026-03-02T08:30:00Z")}))
        << "the last one counts";
    InstrumentEvent struck = check(0.01, "2026-03-02T08:30:00Z");
    struck.struck = true;
    EXPECT_FALSE(doubt(bore_gauge(), "2026-03-02T09:00:00Z", {struck}));
}

TEST(Zero, ARepairMakesItWorthless) {
    const auto repaired =
        doubt(bore_gauge(), "2026-03-02T09:00:00Z", {event(InstrumentHappening::repaired, "2026-03-02T08:30:00Z")});
    ASSERT_TRUE(repaired);
    EXPECT_EQ(repaired->why, ZeroDoubted::repaired);
    EXPECT_FALSE(
        doubt(bore_gauge(), "2026-03-02T09:00:00Z", {event(InstrumentHappening::repaired, "2026-03-01T08:30:00Z")}));
}

TEST(Zero, IsInOneHandAtATimeInAShopOfSeveralBenches) {
    InstrumentEvent hers = event(InstrumentHappening::zeroed, "2026-03-02T08:00:00Z"), his = hers;
    hers.person = "Marit";
    his.person = "Ole";
    his.time = "2026-03-02T08:30:00Z";
    const auto here = [](const InstrumentHistory& history, const char* person) {
        return doubt_zero(bore_gauge(), {}, "2026-03-02T09:00:00Z", {}, history, person);
    };
    EXPECT_FALSE(here({hers}, "Marit"));
    EXPECT_EQ(here({hers, his}, "Marit"), (ZeroDoubt{ZeroDoubted::taken, 0, "Ole"}));
    EXPECT_FALSE(here({hers, his}, "Ole"));
    EXPECT_FALSE(here({hers, his}, "")) << "of one bench it is everybody's";
}

TEST(InstrumentRecord, ComesToWhatItsChecksSay) {
    InstrumentHistory history{check(0.001, "2026-01-05T08:00:00Z"), check(0.003, "2026-02-05T08:00:00Z"),
                              check(0.002, "2026-03-01T08:00:00Z")};
    Instrument i = bore_gauge();
    i.check_days = 30;
    InstrumentRecord record = record_of(i, history, "2026-03-02T09:00:00Z");
    EXPECT_EQ(record.last_check, "2026-03-01");
    EXPECT_EQ(record.due, "2026-03-31");
    EXPECT_FALSE(record.overdue);
    EXPECT_EQ(record.checks, 3u);
    EXPECT_NEAR(*record.error, 0.002, 1e-9);
    EXPECT_NEAR(*record.usual_error, 0.002, 1e-9);
    EXPECT_NEAR(*record.error_spread, 0.001, 1e-9) << "√((1 + 1 + 0)/2) µm";
    EXPECT_FALSE(record_of(i, history, "2026-03-31T09:00:00Z").overdue) << "on the day itself there is time";
    EXPECT_TRUE(record_of(i, history, "2026-04-01T09:00:00Z").overdue);

    // A repair makes it another instrument: only what came after it counts.
    history.push_back(event(InstrumentHappening::repaired, "2026-03-03T08:00:00Z"));
    record = record_of(i, history, "2026-03-04T09:00:00Z");
    EXPECT_EQ(record.checks, 0u);
    EXPECT_FALSE(record.error);
    history.push_back(check(0, "2026-03-04T08:00:00Z"));
    EXPECT_EQ(record_of(i, history, "2026-03-04T09:00:00Z").checks, 1u);
}

TEST(InstrumentRecord, NobodyHasCheckedWhatIsToBeChecked) {
    Instrument i = bore_gauge();
    EXPECT_FALSE(record_of(i, {}, "2026-03-02T09:00:00Z").overdue) << "nobody asked for it";
    i.check_days = 90;
    EXPECT_TRUE(record_of(i, {}, "2026-03-02T09:00:00Z").overdue);
    i.last_check = "2026-02-28"; // as its card had it before there was a history
    const InstrumentRecord record = record_of(i, {}, "2026-03-02T09:00:00Z");
    EXPECT_EQ(record.due, "2026-05-29");
    EXPECT_FALSE(record.overdue);
}

TEST(InstrumentEvent, ReadsBackWhatWasWrittenAndRefusesWhatSaysNothing) {
    InstrumentEvent e = check(0.002, "");
    e.words = "ring 74";
    e.celsius = 21.5;
    const auto back = read_instrument_event(instrument_event_json(e));
    ASSERT_TRUE(back);
    EXPECT_EQ(*back, e);
    EXPECT_FALSE(fault_of(e));
    e.reading.reset();
    EXPECT_TRUE(fault_of(e)) << "a check without what it read";
    EXPECT_TRUE(fault_of(event(InstrumentHappening::repaired, ""))) << "a repair of which nobody says what";
    EXPECT_FALSE(read_instrument_event("{\"instrument\": 7}"));
    EXPECT_FALSE(read_instrument_event("no json"));
}
