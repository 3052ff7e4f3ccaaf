// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/ledger.h"
#include "block/state/deck_state.h"
#include "block/state/fold.h"
#include "planning/decks/deck_record.h"

#include "block/small_block.h"
#include "planning/common/assessment.h"

#include <algorithm>

using namespace pallix::planning;
using namespace pallix::block;
using pallix::metrology::Verdict;
using pallix::test::small_log;

namespace {

class DeckRecordTest : public testing::Test {
  protected:
    DeckRecordTest() {
        add(JobOpened{"t", "c", "b.json", pallix::test::small_blueprint()});
        probe(200.10);
    }
    void add(Payload payload) {
        entries_.push_back(
            {static_cast<std::int64_t>(entries_.size() + 1), "2026-03-02T08:00:00Z", "Marit", std::move(payload)});
    }
    void probe(double height) {
        add(ProbeLogTaken{"log.csv", std::to_string(height), small_log(height).text(), 0.001, false});
    }
    Folded state() { return fold(entries_); }
    std::vector<Entry> entries_;
};

} // namespace

TEST_F(DeckRecordTest, LedgerAndHeightsAgree) {
    EXPECT_FALSE(depth_held(state(), "C")) << "nothing was cut";
    add(DeckCut{"C", PassKind::witness, 0.02, false, {}});
    add(DeckCut{"C", PassKind::finish, 0.03, true, {}});
    EXPECT_FALSE(depth_held(state(), "C")) << "not measured since";
    probe(200.051);
    const auto held = depth_held(state(), "C");
    ASSERT_TRUE(held);
    EXPECT_NEAR(held->ledger, 0.05, 1e-12);
    EXPECT_NEAR(held->measured, 0.049, 1e-6);
    EXPECT_NEAR(held->allowed, 2 * std::sqrt(1e-6 + 1e-6 + 2 * 4e-6), 1e-12);
    EXPECT_FALSE(held->disagrees());
}

TEST_F(DeckRecordTest, ADifferenceIsNamedAndNotSpread) {
    add(DeckCut{"C", PassKind::pass, 0.05, true, {}});
    probe(200.03); // 0.07 came off
    const Folded s = state();
    const auto held = depth_held(s, "C");
    ASSERT_TRUE(held);
    EXPECT_TRUE(held->disagrees());
    EXPECT_NEAR(held->difference(), 0.02, 1e-6);
    EXPECT_NEAR(decks_of(s).deck("C").depth_in_all(), 0.05, 1e-12) << "the ledger stays what it was";
    EXPECT_NEAR(decks_of(s).deck("C").latest->result.height_mean, 200.03, 1e-6) << "and so do the heights";
}

TEST_F(DeckRecordTest, TheLedgerCountsFromWhereTheCutterFirstTouched) {
    // A saddle read at its edges: its top is believed 0.02 above the highest measured place, 200.10; 0.05 cut from
    // there leaves 200.07, so that heights alone would say that 0.03 came off.
    add(DeckForecastKept{"C", 0.04, 0.06, 200.06, 200.08, {75, 0}});
    add(DeckCut{"C", PassKind::pass, 0.05, true, {}});
    probe(200.07);
    const auto held = depth_held(state(), "C");
    ASSERT_TRUE(held);
    EXPECT_NEAR(held->measured, 0.03, 1e-6);
    ASSERT_TRUE(held->above);
    EXPECT_NEAR(*held->above, 0.02, 1e-6) << "middle of lowest and of removal: 200.07 + 0.05";
    EXPECT_NEAR(held->difference(), 0, 1e-6);
    EXPECT_NEAR(held->allowed, 2 * std::sqrt(0.005 * 0.005 + 1e-6 + 4e-6), 1e-12)
        << "a quarter of the interval's width";
    EXPECT_FALSE(held->disagrees());
}

TEST_F(DeckRecordTest, WithoutAForecastLessThanLoggedIsNotNamed) {
    add(DeckCut{"C", PassKind::pass, 0.05, true, {}});
    probe(200.07);
    const auto held = depth_held(state(), "C");
    ASSERT_TRUE(held);
    EXPECT_FALSE(held->above);
    EXPECT_LT(held->difference(), -held->allowed);
    EXPECT_FALSE(held->disagrees()) << "nobody knows where it was highest";
}

TEST_F(DeckRecordTest, FinishIsHeldAgainstItsGasket) {
    add(GasketChosen{GasketKind::multilayer_steel, 0.0008});
    add(FinishNoted{"C", CutterState::sharp, 0.0005, ""});
    EXPECT_FALSE(finish_held(state(), "C")) << "measured before any pass";
    add(DeckCut{"C", PassKind::finish, 0.02, true, {}});
    add(FinishNoted{"C", CutterState::sharp, 0.0006, ""});
    EXPECT_EQ(finish_held(state(), "C")->verdict, Verdict::meets);
    add(FinishNoted{"C", CutterState::dull, 0.00079, ""});
    EXPECT_EQ(finish_held(state(), "C")->verdict, Verdict::cannot_tell) << "within 10 % of the limit";
    add(FinishNoted{"C", CutterState::chatter, 0.0012, ""});
    EXPECT_EQ(finish_held(state(), "C")->verdict, Verdict::fails);
    add(DeckCut{"C", PassKind::spring, 0, true, {}});
    EXPECT_FALSE(finish_held(state(), "C")) << "another surface now";
    add(FinishNoted{"C", CutterState::sharp, 0.0006, ""});
    add(DeckCut{"C", PassKind::flush, 0.05, true, {}});
    EXPECT_FALSE(finish_held(state(), "C")) << "a sleeve was taken flush with it";
}

TEST_F(DeckRecordTest, DecksArePlannedFromTheTunnelAsItWillBe) {
    EXPECT_FALSE(assess(state()).tunnel_to_come);
    TunnelPolicy policy; // bored 0.04 larger than found, its height lifted until every saddle cleans up
    policy.method = TunnelMethod::bore;
    policy.target_diameter = 60.01;
    policy.stock = 0.02; // each saddle must give 0.02, and the size stays: the line rises by 0.02
    add(policy);
    const Folded s = state();
    const auto line = line_to_come(s);
    ASSERT_TRUE(line);
    const Assessment a = assess(s);
    EXPECT_TRUE(a.tunnel_to_come);
    const double rise = line->z(75);
    EXPECT_GT(rise, 0.015);
    ASSERT_TRUE(a.banks[0].to_come);
    EXPECT_NEAR(a.banks[0].plan.low, 200.10 - rise, 1e-6) << "a higher crankshaft stands nearer to the deck";
    EXPECT_NEAR(decks_of(s).deck("C").latest->result.height_min, 200.10, 1e-6) << "what was measured stays as it was";
    add(TunnelCut{TunnelMethod::bore, ""});
    EXPECT_FALSE(line_to_come(state())) << "once it is cut, it is measured";
}
