// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/ledger.h"
#include "block/state/fold.h"
#include "planning/readings/log_doubts.h"

#include "block/small_block.h"
#include <gmock/gmock.h>

using namespace pallix;
using namespace pallix::block;
using planning::doubts_about_blueprint;
using planning::doubts_about_log;
using test::small_log;
using testing::HasSubstr;

namespace {

std::vector<Entry> job(std::vector<Payload> payloads) {
    std::vector<Entry> entries{{1, "t", "p", JobOpened{"small", "", "small.json", test::small_blueprint()}}};
    for (Payload& payload : payloads)
        entries.push_back({static_cast<std::int64_t>(entries.size() + 1), "t", "p", std::move(payload)});
    return entries;
}

ProbeLogTaken log_of(const std::string& text) {
    return {"log.csv", "", text, 0.001, false};
}

/// What is asked about when the last entry of a job is a log.
Faults asked(std::vector<Payload> payloads) {
    const std::vector<Entry> entries = job(std::move(payloads));
    return doubts_about_log(fold({entries.begin(), entries.end() - 1}), fold(entries), "log.csv");
}

} // namespace

TEST(LogDoubts, APlausibleLogIsNotAskedAbout) {
    EXPECT_TRUE(asked({log_of(small_log(200.03).text())}).empty());
    EXPECT_TRUE(asked({log_of(small_log(200.1).text()), log_of(small_log(200.1).text())}).empty());
    EXPECT_TRUE(asked({log_of(small_log(200.6).text()), DeckCut{"C", PassKind::pass, 0.5, true, {}},
                       log_of(small_log(200.1).text())})
                    .empty())
        << "it was cut between";
}

TEST(LogDoubts, MillimetresReadAsInchAreAskedAbout) {
    std::string inch = small_log(200).text();
    const auto at = inch.find("unit: mm");
    ASSERT_NE(at, std::string::npos);
    inch.replace(at, 8, "unit: in");
    const Faults doubts = asked({log_of(inch)});
    ASSERT_FALSE(doubts.empty());
    // 60.01 mm taken for inches: 60.01 × 25.4
    EXPECT_EQ(doubts.front().text(),
              "log.csv: main.1 measures 1524.254 mm, expected about 60.000 mm by the blueprint; is "
              "the unit of the log right?");
}

TEST(LogDoubts, ATouchThatAgreesWithNoOtherIsAskedAbout) {
    test::LogWriter w = small_log(200.03); // eight touches of main 1 at 30.005
    const std::string text = w.touch("main.1", {20, 30.085, 0}).text();
    const Faults doubts = asked({log_of(text)});
    ASSERT_EQ(doubts.size(), 1U);
    EXPECT_THAT(doubts.front().what, HasSubstr("touch 9 of main.1"));
    EXPECT_THAT(doubts.front().what, HasSubstr("0.080 mm off"));
    EXPECT_TRUE(asked({log_of(text), log_of(text)}).empty()) << "asked about once";
}

TEST(LogDoubts, AnotherEnginesDeckIsAskedAbout) {
    const Faults doubts = asked({log_of(small_log(236).text())});
    ASSERT_EQ(doubts.size(), 1U);
    EXPECT_EQ(doubts.front().text(),
              "log.csv: deck.C stands at 236.000 mm, expected about 200.000 mm by the blueprint");
}

TEST(LogDoubts, ADeckThatMovedWithoutACutIsAskedAbout) {
    const Faults doubts = asked({log_of(small_log(200.4).text()), log_of(small_log(200.1).text())});
    ASSERT_EQ(doubts.size(), 1U);
    EXPECT_THAT(
        doubts.front().text(),
        HasSubstr("deck.C stands at 200.100 mm, and nothing was cut since the log before, expected 200.400 mm"));
}

TEST(LogDoubts, ABlueprintInTheWrongUnitIsAskedAbout) {
    EXPECT_TRUE(doubts_about_blueprint(test::read_small_blueprint(), "b.json").empty());
    Blueprint inches = test::read_small_blueprint();
    for (MainBlueprint& main : inches.mains)
        main.diameter.nominal /= 25.4;
    for (BankBlueprint& bank : inches.banks)
        bank.deck_height.nominal *= 25.4;
    const Faults doubts = doubts_about_blueprint(inches, "b.json");
    ASSERT_EQ(doubts.size(), 3U);
    EXPECT_EQ(doubts[0].text(),
              "b.json: main.1 has a diameter of 2.362 mm, expected 15.000 mm to 400.000 mm; is the unit "
              "of the blueprint right?");
    EXPECT_EQ(doubts[2].text(), "b.json: deck C has a height of 5080.000 mm, expected 50.000 mm to 1500.000 mm; is the "
                                "unit of the blueprint right?");
}
