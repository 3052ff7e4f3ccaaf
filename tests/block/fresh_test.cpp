// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/state/fresh.h"

#include "block/entry_samples.h"
#include "block/ledger.h"
#include "block/state/bore_state.h"
#include "block/state/fold.h"
#include "block/state/readings_state.h"
#include "block/state/tunnel_state.h"

#include <gtest/gtest.h>
#include <map>
#include <set>

using namespace pallix::block;

namespace {

const FeatureId main2{FeatureKind::main, "", 2}, bore1{FeatureKind::bore, "C", 1}, bore2{FeatureKind::bore, "C", 2},
    bore3{FeatureKind::bore, "C", 3}, other_bank{FeatureKind::bore, "L", 2}, deck{FeatureKind::deck, "C", 0},
    lifter2{FeatureKind::lifter, "C", 2};

/// Everything that can be read, by a short name.
const std::map<std::string, MeasuredAt>& places() {
    static const std::map<std::string, MeasuredAt> all{
        {"main", {main2, Quantity::size, "front", "upright", {}}},
        {"saddle", {main2, Quantity::saddle, "", "", {}}},
        {"sweep", {main2, Quantity::sweep, "", "12", {}}},
        {"height", {deck, Quantity::height, "", "", {10, 20}}},
        {"gap", {deck, Quantity::gap, "", "middle", {}}},
        {"piston", {bore2, Quantity::piston, "", "one side", {}}},
        {"bore 1", {bore1, Quantity::size, "top", "across", {}}},
        {"bore 2", {bore2, Quantity::size, "top", "across", {}}},
        {"bore 3", {bore3, Quantity::size, "top", "across", {}}},
        {"wall 2", {bore2, Quantity::wall, "top", "left", {}}},
        {"bore L2", {other_bank, Quantity::size, "top", "across", {}}},
        {"lifter 2", {lifter2, Quantity::size, "top", "across", {}}},
        {"temperature", {{FeatureKind::panrail, "", 0}, Quantity::temperature, "", "block", {}}}};
    return all;
}

using Names = std::set<std::string>;

/// What an entry makes stale.
Names ended_by(const Payload& entry, const Folded& before = {}) {
    Names names;
    for (const RoundEnd& round : rounds_ended_by(entry, before))
        for (const auto& [name, at] : places())
            if (round.touches(at))
                names.insert(name);
    return names;
}

Folded with_caps(std::optional<bool> torqued) {
    Folded state;
    readings_of(state).conditions.caps_torqued = torqued;
    return state;
}

ConditionsStated caps(std::optional<bool> torqued, bool also_before = false) {
    ConditionsStated stated;
    stated.conditions.caps_torqued = torqued;
    stated.also_before = also_before;
    return stated;
}

} // namespace

TEST(Fresh, CutsEndWhatWasReadOfWhatTheyCut) {
    EXPECT_EQ(ended_by(DeckCut{"C", PassKind::pass, 0.05, false, {}}), (Names{"gap", "height", "piston"}));
    EXPECT_EQ(ended_by(DeckCut{"L", PassKind::pass, 0.05, false, {}}), Names{});
    EXPECT_EQ(ended_by(BoreCut{bore2, BoreOperation::rough, {}, {}, false, 0, "", {}, ""}),
              (Names{"bore 2", "wall 2"}));
    EXPECT_EQ(ended_by(BoreCut{lifter2, BoreOperation::rough, {}, {}, false, 0, "", {}, ""}), Names{"lifter 2"});
}

TEST(Fresh, ASaddleStandsWhereItStoodWhenCapsAreCut) {
    EXPECT_EQ(ended_by(CapsCut{{{main2, 0.05}}}), (Names{"main", "sweep"}));
    EXPECT_EQ(ended_by(TunnelPass{TunnelPassKind::strokes, 20, {}, false}), (Names{"main", "saddle", "sweep"}));
}

TEST(Fresh, WhatIsPressedInPushesItsNeighbours) {
    EXPECT_EQ(ended_by(InsertFitted{bore2, 0, {}, {}, ""}), (Names{"bore 1", "bore 2", "bore 3", "wall 2"}));
    EXPECT_EQ(ended_by(InsertFitted{lifter2, 0, {}, {}, ""}), Names{"lifter 2"}) << "a bush pushes no cylinder";
}

TEST(Fresh, CapsThatComeOffEndTheMainsRoundAndStatementsDoNot) {
    const Names mains{"main", "saddle", "sweep"};
    EXPECT_EQ(ended_by(caps(false), with_caps(true)), mains);
    EXPECT_EQ(ended_by(caps(false), with_caps({})), mains);
    EXPECT_EQ(ended_by(caps(false), with_caps(false)), Names{}) << "they were off already";
    EXPECT_EQ(ended_by(caps(true), with_caps({})), Names{}) << "only said";
    EXPECT_EQ(ended_by(caps(true), with_caps(true)), Names{});
    EXPECT_EQ(ended_by(caps(false, true), with_caps({})), Names{}) << "it was so all along";
}

TEST(Fresh, ATunnelThatWasWorkedOnAndReadIsAsLeftWhenItIsDone) {
    EXPECT_EQ(ended_by(TunnelCut{TunnelMethod::hone, ""}), (Names{"height", "main", "piston", "saddle", "sweep"}))
        << "done elsewhere: nothing is known of it";
    Folded worked;
    tunnel_of(worked).tunnel_passes.push_back({7, {}});
    EXPECT_EQ(ended_by(TunnelCut{TunnelMethod::hone, ""}, worked), (Names{"height", "piston"}));
}

TEST(Fresh, ARestEndsWhatWasReadWarm) {
    Folded honed;
    bores_of(honed).bores[bore2].cuts.push_back(
        {5, {bore2, BoreOperation::hone, {}, {}, false, 40, "220 stone", {}, ""}});
    bores_of(honed).bores[bore3].cuts.push_back({6, {bore3, BoreOperation::rough, {}, {}, false, 0, "", {}, ""}});
    EXPECT_EQ(ended_by(RestBegun{40, "2026-03-02T10:45:00Z"}, honed), Names{"bore 2"});
}

TEST(Fresh, RoundsAreOpenedByHandAndByMovingTheBlock) {
    EXPECT_EQ(ended_by(RoundOpened{round_of_mains, "from the start"}), (Names{"main", "saddle", "sweep"}));
    EXPECT_EQ(ended_by(RoundOpened{round_of_sweep, "knocked"}), Names{"sweep"});
    EXPECT_EQ(ended_by(RoundOpened{"bore.C.2", "slipped"}), (Names{"bore 2", "piston", "wall 2"}));
    EXPECT_EQ(ended_by(RoundOpened{"deck.C", "wiped since"}), (Names{"gap", "height"}));
    for (const char* words : {"screws turned", "jacks turned", "block moved", "block rolled", "block levelled"})
        EXPECT_EQ(ended_by(StepDone{words}), Names{"sweep"}) << words;
    EXPECT_EQ(ended_by(StepDone{"caps deburred"}), Names{});
}

TEST(Fresh, DecisionsFiguresAndNotesEndNothing) {
    const Names ends{"deck_cut", "tunnel_cut", "caps_cut", "tunnel_pass", "bore_cut", "insert_fitted", "rest", "round"};
    int looked = 0;
    for (const Payload& entry : pallix::test::one_of_each()) {
        if (ends.contains(kind_of(entry)) || kind_of(entry) == "conditions")
            continue;
        EXPECT_EQ(ended_by(entry), Names{}) << kind_of(entry);
        ++looked;
    }
    EXPECT_GT(looked, 35);
}

TEST(Fresh, AReadingTakesTheConditionsThatWereStatedAndKeepsItsOwn) {
    std::vector<Entry> entries;
    const auto add = [&entries](Payload payload) {
        entries.push_back({static_cast<std::int64_t>(entries.size() + 1), "", "", std::move(payload)});
    };
    std::vector<Payload> samples = pallix::test::one_of_each();
    add(samples.front()); // the job, with its blueprint
    Reading reading{{{FeatureKind::main, "", 1}, Quantity::size, "front", "upright", {}},
                    "main 1",
                    60.01,
                    {},
                    "60.01",
                    false,
                    {},
                    {}};
    add(reading);
    add(caps(true));
    add(reading);
    Reading off = reading;
    off.conditions.caps_torqued = false;
    add(off);
    Folded state = fold(entries);
    ASSERT_EQ(readings_of(state).readings.size(), 3U);
    EXPECT_FALSE(readings_of(state).readings[0].reading.conditions.caps_torqued) << "nobody had said so then";
    EXPECT_EQ(readings_of(state).readings[1].reading.conditions.caps_torqued, true);
    EXPECT_EQ(readings_of(state).readings[2].reading.conditions.caps_torqued, false);
    add(caps(true, true));
    state = fold(entries);
    EXPECT_EQ(readings_of(state).readings[0].reading.conditions.caps_torqued, true)
        << "said afterwards, for what was there";
    EXPECT_EQ(readings_of(state).readings[2].reading.conditions.caps_torqued, false) << "what was said of one stands";
    add(CapsCut{{{{FeatureKind::main, "", 1}, 0.02}}});
    EXPECT_FALSE(readings_of(fold(entries)).conditions.caps_torqued) << "cut caps are not on";
}
