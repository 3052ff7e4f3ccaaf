// SPDX-License-Identifier: GPL-3.0-or-later
#include "wording/readings/care_words.h"
#include "wording/shop/memory_words.h"

#include "block/small_block.h"
#include "block/state/fold.h"

#include <gtest/gtest.h>

using namespace pallix;
using namespace pallix::block;
using namespace pallix::planning;

namespace {

const wording::LengthText in_mm(Unit::mm), in_inch(Unit::inch);

} // namespace

TEST(CareWords, AZeroIsDoubtedInWords) {
    EXPECT_EQ(wording::zero_doubt_words({ZeroDoubted::old, 9.2}, in_mm), "Its zero was set 9 hours ago");
    EXPECT_EQ(wording::zero_doubt_words({ZeroDoubted::warmed, -3.5}, in_mm),
              "The gauge is 3.5 °C colder than when its zero was set");
    EXPECT_EQ(wording::zero_doubt_words({ZeroDoubted::drifted, 0.0046}, in_mm),
              "The last check found it reading 0.0046 mm too much");
    EXPECT_EQ(wording::zero_doubt_words({ZeroDoubted::drifted, -0.00254}, in_inch),
              "The last check found it reading 0.00010 in too little");
    EXPECT_EQ(wording::zero_doubt_words({ZeroDoubted::repaired, 0}, in_mm), "It was repaired since its zero was set");
    EXPECT_EQ(wording::zero_doubt_words({ZeroDoubted::taken, 0, "Ole"}, in_mm),
              "Ole has set its zero, at another bench");
}

TEST(CareWords, ALineOfAHistory) {
    InstrumentEvent e;
    e.what = InstrumentHappening::zeroed;
    e.size = 58.006;
    e.words = "micrometer";
    e.celsius = 18.5;
    EXPECT_EQ(wording::event_words(e, in_mm), "zeroed at 58.006 mm on micrometer, the gauge at 18.5 °C");
    e = {};
    e.what = InstrumentHappening::checked;
    e.size = 58;
    e.reading = 57.998;
    EXPECT_EQ(wording::event_words(e, in_mm), "checked on 58.000 mm: reads 0.0020 mm too little");
    e.struck = true;
    EXPECT_EQ(wording::event_words(e, in_mm), "checked on 58.000 mm: reads 0.0020 mm too little (struck)");
    e = {};
    e.what = InstrumentHappening::repeated;
    e.spread = 0.0009;
    e.count = 8;
    EXPECT_EQ(wording::event_words(e, in_mm), "one reading scatters by 0.0009 mm (s of 8)");
}

TEST(CareWords, WhatAHistoryComesTo) {
    InstrumentRecord r;
    EXPECT_EQ(wording::record_sentence(r, in_mm), "Nobody has checked it.");
    r.last_check = "2026-01-12";
    r.error = 0.001;
    r.checks = 3;
    r.usual_error = 0.002;
    r.error_spread = 0.001;
    r.repaired = "2025-11-05";
    r.due = "2026-04-12";
    EXPECT_EQ(wording::record_sentence(r, in_mm),
              "Last checked 2026-01-12: it read 0.0010 mm too much. Of 3 checks since it was repaired it usually reads "
              "0.0020 mm too much, more or less by 0.0010 mm. Check due 2026-04-12.");
    r.overdue = true;
    EXPECT_EQ(wording::due_words(r), "check overdue since 2026-04-12");
    r.due.clear();
    EXPECT_EQ(wording::due_words(r), "to be checked, and never was");
}

TEST(CareWords, HowForecastsHeld) {
    EXPECT_EQ(wording::widened_words({}), "");
    EXPECT_EQ(wording::widened_words(ForecastRecord{ForecastKind::removal, "", "", 40, 39, 1}), "");
    EXPECT_EQ(wording::widened_words(ForecastRecord{ForecastKind::removal, "deck bridge", "", 14, 9, 1.6}),
              ", 1.6 times as wide as the readings have it: of 14 such forecasts here with deck bridge 9 held");
    EXPECT_EQ(wording::widened_words(ForecastRecord{ForecastKind::removal, "", "Mira", 6, 3, 2}),
              ", 2.0 times as wide as the readings have it: of 6 such forecasts here by Mira's readings 3 held");
    EXPECT_EQ(wording::record_words({ForecastKind::removal, "", "", 40, 39, 1}), "39 of 40 held, 38 should");
    EXPECT_EQ(wording::record_words({ForecastKind::removal, "", "", 14, 9, 1.6}),
              "9 of 14 held, 14 should; new jobs have 1.6 times the readings' own width");
}

TEST(CareWords, WhatIsUsualOfAKind) {
    const Folded job =
        fold({{1, "2026-03-02T09:00:00Z", "Marit", JobOpened{"t", "c", "b.json", test::small_blueprint()}}});
    EXPECT_EQ(wording::usual_words(job, {Trait::wear, "bore.C.1", 0.031, 0.004, 9}, in_mm),
              "usually 0.031 mm over, by 9 blocks of this kind");
    EXPECT_EQ(wording::usual_words(job, {Trait::saddle_crown, "", -0.006, 0.004, 7}, in_mm),
              "usually 0.006 mm proud of the line, by 7 blocks of this kind");
}
