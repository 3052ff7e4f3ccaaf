// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/ledger.h"
#include "block/state/deck_state.h"
#include "block/state/fold.h"
#include "block/state/intake_state.h"
#include "block/state/tunnel_state.h"

#include "small_block.h"

using namespace pallix::block;
using pallix::test::height_reading;
using pallix::test::LogWriter;
using pallix::test::small_log;

namespace {

/// A job in the making.
class Ledger {
  public:
    Ledger() { add(JobOpened{"small", "nobody", "small.json", pallix::test::small_blueprint()}); }
    std::int64_t add(Payload payload) {
        entries_.push_back(
            {static_cast<std::int64_t>(entries_.size() + 1), "2026-03-02T09:41:00Z", "Marit", std::move(payload)});
        return entries_.back().sequence;
    }
    std::int64_t log(const std::string& text, std::optional<double> u = 0.002, bool continues = false) {
        return add(ProbeLogTaken{"log.csv", "", text, u, continues});
    }
    void read_all(double height, std::optional<double> u = 0.001) {
        for (const DeckPlace& place : deck_places(pallix::test::read_small_blueprint().banks[0]))
            add(pallix::test::height_reading(place.place, height, u));
    }
    Folded state() const { return fold(entries_); }

  private:
    std::vector<Entry> entries_;
};

DeckCut cut(double depth, PassKind kind = PassKind::pass) {
    return {"C", kind, depth, true, {}};
}

} // namespace

TEST(JobState, StartsWithTheBlueprintAlone) {
    const Folded s = Ledger().state();
    EXPECT_EQ(intake_of(s).title, "small");
    ASSERT_TRUE(intake_of(s).blueprint);
    EXPECT_FALSE(tunnel_of(s).as_found);
    EXPECT_FALSE(decks_of(s).deck("C").latest);
    EXPECT_TRUE(intake_of(s).troubles.empty());
}

TEST(JobState, AProbeLogIsAsFoundAndLatest) {
    Ledger job;
    const auto sequence = job.log(small_log(200.03).text());
    const Folded s = job.state();
    ASSERT_TRUE(tunnel_of(s).as_found && tunnel_of(s).latest);
    EXPECT_EQ(tunnel_of(s).latest->sequence, sequence);
    EXPECT_EQ(tunnel_of(s).latest->standard_uncertainty, 0.002);
    EXPECT_NEAR(decks_of(s).deck("C").latest->result.height_mean, 200.03, 1e-8);
    EXPECT_FALSE(decks_of(s).deck("C").stale());
}

TEST(JobState, CutsAddUpAndMakeTheDeckStale) {
    Ledger job;
    const auto measured = job.log(small_log(200.03).text());
    job.add(cut(0.02, PassKind::witness));
    job.add(cut(0.03));
    const Folded s = job.state();
    EXPECT_NEAR(decks_of(s).deck("C").depth_in_all(), 0.05, 1e-12);
    EXPECT_NEAR(decks_of(s).deck("C").depth_since(measured), 0.05, 1e-12);
    EXPECT_TRUE(decks_of(s).deck("C").stale());
}

TEST(JobState, MeasuringAgainKeepsWhatWasFound) {
    Ledger job;
    job.log(small_log(200.03).text());
    job.add(cut(0.05));
    const auto again = job.log(small_log(199.98).text());
    const Folded s = job.state();
    EXPECT_FALSE(decks_of(s).deck("C").stale());
    EXPECT_NEAR(decks_of(s).deck("C").as_found->result.height_mean, 200.03, 1e-8);
    EXPECT_NEAR(decks_of(s).deck("C").latest->result.height_mean, 199.98, 1e-8);
    EXPECT_EQ(decks_of(s).deck("C").depth_since(again), 0);
    EXPECT_NEAR(tunnel_of(s).as_found->evaluation.decks[0].height_mean, 200.03, 1e-8);
}

TEST(JobState, ALogOfTheDeckAloneLiesInTheFrameOfTheOneBefore) {
    Ledger job;
    job.log(small_log(200.03).text());
    job.add(cut(0.05));
    job.log(LogWriter().deck(199.98).text());
    const Folded s = job.state();
    EXPECT_TRUE(intake_of(s).troubles.empty());
    EXPECT_NEAR(decks_of(s).deck("C").latest->result.height_mean, 199.98, 1e-8);
    EXPECT_EQ(tunnel_of(s).latest->remark, "datum features from log.csv");
}

TEST(JobState, LogsThatContinueAreReadTogether) {
    const std::string text = small_log().text();
    const std::size_t split = text.find("a,dowel");
    Ledger job;
    job.log(text.substr(0, split));
    job.log("setup,feature,level,x,y,z\n" + text.substr(split), 0.004, true);
    const Folded s = job.state();
    EXPECT_TRUE(intake_of(s).troubles.empty()) << intake_of(s).troubles.front().words;
    ASSERT_TRUE(tunnel_of(s).latest);
    EXPECT_EQ(tunnel_of(s).latest->standard_uncertainty, 0.004) << "the larger of both counts";
}

TEST(JobState, FourReadingsMakeAMeasurement) {
    Ledger job;
    job.log(small_log(200.03).text());
    job.add(cut(0.03));
    const auto places = deck_places(pallix::test::read_small_blueprint().banks[0]);
    ASSERT_EQ(places.size(), 4U);
    for (std::size_t i = 0; i < 3; ++i)
        job.add(height_reading(places[i].place, 200.0 + 0.001 * static_cast<double>(i)));
    EXPECT_TRUE(decks_of(job.state()).deck("C").stale());
    EXPECT_EQ(decks_of(job.state()).deck("C").readings.size(), 3U);
    job.add(height_reading(places[1].place, 200.005, 0.002)); // read again: the mean of both counts
    job.add(height_reading(places[3].place, 200.0));
    const Folded s = job.state();
    ASSERT_FALSE(decks_of(s).deck("C").stale());
    EXPECT_EQ(decks_of(s).deck("C").latest->source, DeckSource::readings);
    EXPECT_NEAR(decks_of(s).deck("C").latest->result.height_max, 200.003, 1e-12);
    // The larger of the two gauges, and the spread of two readings 0.004 apart: s = 0.004/√2, of their mean 0.002.
    EXPECT_NEAR(*decks_of(s).deck("C").latest->standard_uncertainty, std::hypot(0.002, 0.002), 1e-12);
    EXPECT_EQ(decks_of(s).deck("C").latest->sureness.taken, 2U);
    EXPECT_NEAR(decks_of(s).deck("C").latest->sureness.of_one, 0.004 / std::numbers::sqrt2, 1e-12);
}

TEST(JobState, AReadingWithoutUncertaintyLeavesTheSetWithout) {
    Ledger job;
    job.read_all(200.0, std::nullopt);
    ASSERT_TRUE(decks_of(job.state()).deck("C").latest);
    EXPECT_FALSE(decks_of(job.state()).deck("C").latest->standard_uncertainty);
    EXPECT_TRUE(decks_of(job.state()).deck("C").as_found) << "a shop without a probe starts from readings";
}

TEST(JobState, ACutEndsAnUnfinishedSetOfReadings) {
    Ledger job;
    job.log(small_log().text());
    job.add(height_reading(deck_places(pallix::test::read_small_blueprint().banks[0])[0].place, 200));
    job.add(cut(0.01));
    EXPECT_TRUE(decks_of(job.state()).deck("C").readings.empty());
}

TEST(JobState, StruckEntriesHaveNoPart) {
    Ledger job;
    job.log(small_log(200.03).text());
    const auto wrong = job.add(cut(0.5));
    job.add(Strike{wrong, "thou taken for tenths"});
    EXPECT_EQ(decks_of(job.state()).deck("C").depth_in_all(), 0);
    EXPECT_FALSE(decks_of(job.state()).deck("C").stale());
}

TEST(JobState, WhatCannotBeUsedIsSaidAndLeftOut) {
    Ledger job;
    job.log("feature,x,y,z\nmain.1,1,2,three\n");
    job.add(DeckCut{"R", PassKind::pass, 0.1, true, {}});
    job.add(UnknownPayload{"bore_honed", 1, "{}"});
    const Folded s = job.state();
    ASSERT_EQ(intake_of(s).troubles.size(), 2U);
    EXPECT_NE(intake_of(s).troubles[0].words.find("three"), std::string::npos);
    EXPECT_NE(intake_of(s).troubles[1].words.find("bank \"R\""), std::string::npos);
    EXPECT_FALSE(tunnel_of(s).latest);
}

TEST(DeckPlaces, LieInsideTheOutline) {
    for (const DeckPlace& p : deck_places(pallix::test::read_small_blueprint().banks[0])) {
        EXPECT_NEAR(p.place.x, p.rear ? 138 : 12, 1e-12); // 8 % of 150
        EXPECT_NEAR(p.place.y, p.positive_v ? 42 : -42, 1e-12);
    }
}
