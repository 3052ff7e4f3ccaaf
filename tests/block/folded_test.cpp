// SPDX-License-Identifier: GPL-3.0-or-later
// The state of a job as a value: whoever holds a copy, or looks at one that takes another's place, is not misled.
#include "block/small_block.h"
#include "block/state/fold.h"
#include "block/state/intake_state.h"
#include "block/state/tunnel_state.h"

using namespace pallix::block;

namespace {

std::vector<Entry> entries_of(const std::string& title) {
    return {{1, "2026-03-02T09:00:00Z", "Marit", JobOpened{title, "", "b.json", pallix::test::small_blueprint()}},
            {2, "2026-03-02T09:10:00Z", "Marit",
             ProbeLogTaken{"l.csv", "", pallix::test::small_log(200.1).text(), 0.001, false}}};
}

} // namespace

TEST(Folded, ACopyIsItsOwn) {
    Folded one = fold(entries_of("one"));
    const Folded copy = one;
    intake_of(one).title = "changed";
    tunnel_of(one).latest.reset();
    EXPECT_EQ(intake_of(copy).title, "one");
    EXPECT_TRUE(tunnel_of(copy).latest);
}

TEST(Folded, WhatItIsMovedFromIsAJobThatNothingWasSaidOf) {
    Folded one = fold(entries_of("one"));
    const Folded two = std::move(one);
    EXPECT_EQ(intake_of(two).title, "one");
    EXPECT_FALSE(intake_of(one).blueprint); // NOLINT(bugprone-use-after-move): what is promised
    EXPECT_FALSE(tunnel_of(one).latest);
}

TEST(Folded, WhoLooksAtOneGoesOnLookingAtWhatTakesItsPlace) {
    Folded shown = fold(entries_of("one"));
    const IntakeState& looked_at = intake_of(shown);
    shown = fold(entries_of("two"));
    EXPECT_EQ(looked_at.title, "two");
    const Folded three = fold(entries_of("three"));
    shown = three;
    EXPECT_EQ(looked_at.title, "three");
}

TEST(Folded, KnowsWhichLogsHoldWhat) {
    auto entries = entries_of("one");
    const std::string log = pallix::test::small_log(200.1).text();
    entries.push_back({3, "2026-03-02T09:20:00Z", "Marit", ProbeLogTaken{"a.csv", "", log, 0.001, false}});
    entries.push_back({4, "2026-03-02T09:21:00Z", "Marit", ProbeLogTaken{"b.csv", "", log, 0.001, true}});
    const Folded job = fold(entries);
    const auto& logs = tunnel_of(job).logs;
    ASSERT_EQ(logs.size(), 2U) << "what continues a log is read with it";
    EXPECT_EQ(logs[0].sequences, std::vector<std::int64_t>{2});
    EXPECT_EQ(logs[1].sequences, (std::vector<std::int64_t>{3, 4}));
    for (const char* probed : {"main.1", "main.2", "deck.C", "dowel.C.1"})
        EXPECT_TRUE(std::ranges::binary_search(logs[0].features, *FeatureId::parse(probed))) << probed;
    EXPECT_FALSE(std::ranges::binary_search(logs[0].features, *FeatureId::parse("lifter.C.1")));
}
