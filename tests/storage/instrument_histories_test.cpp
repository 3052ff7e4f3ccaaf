// SPDX-License-Identifier: GPL-3.0-or-later
// What happens to instruments, across jobs: it only grows.
#include "book_fixture.h"

using namespace pallix;
using namespace pallix::block;
using namespace pallix::storage;
using InstrumentHistoriesTest = test::BookFixture;

namespace {

InstrumentEvent repair(const std::string& time, const std::string& words) {
    InstrumentEvent e;
    e.instrument = "bore gauge";
    e.what = InstrumentHappening::repaired;
    e.words = words;
    e.time = time;
    e.person = "Marit";
    return e;
}

} // namespace

TEST_F(InstrumentHistoriesTest, ComesFromAllLedgersAndFromOutsideOfThem) {
    auto book = open();
    const auto one = book->create_job({test::opened("one"), test::entry(2, RingCheck{"bore gauge", 73.99, 73.992}),
                                       test::entry(3, RingCheck{"another gauge", 73.99, 73.99})});
    const auto two = book->create_job(
        {test::opened("two"), test::entry(2, RepeatabilityTest{"bore gauge", "main 2", {73.99, 73.992, 73.988}}),
         test::entry(3, RingCheck{"bore gauge", 73.99, 74.5}), test::entry(4, Strike{3, "the wrong ring"}),
         test::entry(5, GaugeStudyBegun{"bore gauge", "cylinder_sizes C", {"a", "b"}, {"Marit", "Mira"}, 2})});
    ASSERT_TRUE(one && two);
    ASSERT_TRUE(book->instrument_histories().add(repair("2026-03-01T08:00:00Z", "new tips")));
    book.reset();
    book = open();
    const auto history = book->instrument_history("bore gauge");
    ASSERT_TRUE(history);
    ASSERT_EQ(history->size(), 5u);
    EXPECT_EQ((*history)[0].what, InstrumentHappening::repaired) << "by time: it was first";
    EXPECT_EQ((*history)[0].words, "new tips");
    EXPECT_EQ((*history)[0].job, 0);
    EXPECT_EQ((*history)[1].job, *one);
    EXPECT_NEAR(*(*history)[1].error(), 0.002, 1e-9);
    EXPECT_NEAR(*(*history)[2].spread, 0.002, 1e-9) << "−2, 0, 2 µm: s = √(8/2)";
    EXPECT_EQ((*history)[2].count, 3);
    EXPECT_TRUE((*history)[3].struck);
    EXPECT_EQ((*history)[4].what, InstrumentHappening::studied);
    EXPECT_EQ((*history)[4].sequence, 5);
    EXPECT_TRUE(book->instrument_history("a third")->empty());
}

TEST_F(InstrumentHistoriesTest, ALineNeverChangesAndIsNeverDeleted) {
    auto book = open();
    ASSERT_TRUE(book->instrument_histories().add(repair("2026-03-01T08:00:00Z", "new tips")));
    EXPECT_FALSE(run_sql(QStringLiteral("UPDATE instrument_event SET person = 'nobody'")));
    EXPECT_FALSE(run_sql(QStringLiteral("DELETE FROM instrument_event")));
    ASSERT_TRUE(allow("instrument_event_stays", "instrument_event"));
    ASSERT_TRUE(run_sql(QStringLiteral("UPDATE instrument_event SET person = 'nobody'")));
    EXPECT_TRUE(book->instrument_histories().of("bore gauge").empty()) << "it is not what was written";
    EXPECT_FALSE(book->instrument_histories().add(repair("2026-03-01T08:00:00Z", ""))) << "nobody says what was done";
}

TEST_F(InstrumentHistoriesTest, ACopyOfWhatIsSoundHasThem) {
    const QString to = folder_.filePath(QStringLiteral("copy.shopbook"));
    {
        auto book = open();
        ASSERT_TRUE(book->create_job({test::opened("one")}));
        ASSERT_TRUE(book->instrument_histories().add(repair("2026-03-01T08:00:00Z", "new tips")));
    }
    ASSERT_TRUE(copy_to(to));
    const auto copy = ShopBook::open(to);
    ASSERT_TRUE(copy);
    EXPECT_EQ((*copy)->instrument_histories().of("bore gauge"),
              (InstrumentHistory{repair("2026-03-01T08:00:00Z", "new tips")}));
}
