// SPDX-License-Identifier: GPL-3.0-or-later
// A real job copied into practice: a block that may be the one it was measured on.
#include "block/digest.h"
#include "block/entries/practice_entries.h"
#include "block/state/fold.h"
#include "sanitized.h"
#include "simulated_shop.h"
#include "workshop/practice/result.h"
#include "workshop/practice/school.h"

#include <cmath>
#include <gtest/gtest.h>

using namespace pallix;
using namespace pallix::workshop;

namespace {

/// A job whose mains, decks and cylinders were probed, and nothing else done.
std::vector<block::Entry> probed(const SimulatedBlock& block, double scatter) {
    metrology::Deviates draw(5, 1);
    const std::string text = block.probe(scatter, draw);
    test::Workshop shop;
    std::vector<block::Payload> payloads = test::opening(block.blueprint(), 1, shop);
    payloads.emplace_back(block::ProbeLogTaken{"l.csv", block::sha256_hex(text), text, scatter, false});
    std::vector<block::Entry> entries;
    for (block::Payload& p : payloads)
        entries.push_back(
            {static_cast<std::int64_t>(entries.size() + 1), "2026-03-02T09:00:00Z", "Marit", std::move(p)});
    return entries;
}

double main_size(const SimulatedBlock& block, int main) {
    return block.truth({{block::FeatureKind::main, "", main}, block::Quantity::size, "front", "upright", {}});
}

} // namespace

// Ten copies lie about the block that was measured, as far as it is not known.
TEST(School, ACopyIsABlockThatMayBeTheOne) {
    const SimulatedBlock block(tender_inline_four(), 11);
    const std::vector<block::Entry> entries = probed(block, 0.001);
    double sum = 0, squares = 0, decks = 0, bores = 0;
    constexpr int copies = 30;
    for (int i = 1; i <= copies; ++i) {
        const auto copy = copy_of(entries, i);
        ASSERT_TRUE(copy) << copy.error().front().text();
        const SimulatedBlock may_be(copy->blueprint, copy->truth.block, {}, 1);
        const double off = main_size(may_be, 3) - main_size(block, 3);
        sum += off;
        squares += off * off;
        decks += may_be.deck("C").needed - block.deck("C").needed;
        const block::MeasuredAt bore{{block::FeatureKind::bore, "C", 2}, block::Quantity::size, "top", "along", {}};
        bores += may_be.truth(bore) - block.truth(bore);
    }
    EXPECT_NEAR(sum / copies, 0, 0.004);
    EXPECT_GT(std::sqrt(squares / copies), 1e-5) << "they are not all the same";
    EXPECT_LT(std::sqrt(squares / copies), 0.01);
    EXPECT_NEAR(decks / copies, 0, 0.02);
    EXPECT_NEAR(bores / copies, 0, 0.04) << "how oval it is the copy takes as wear";
    EXPECT_EQ(hidden_json(copy_of(entries, 3)->truth), hidden_json(copy_of(entries, 3)->truth));
    EXPECT_NE(hidden_json(copy_of(entries, 3)->truth), hidden_json(copy_of(entries, 4)->truth));
}

TEST(School, ACopySaysWhatItTakesAsDrawn) {
    const SimulatedBlock block(tender_inline_four(), 11);
    std::vector<block::Entry> entries = probed(block, 0.001);
    EXPECT_EQ(copy_of(entries, 1)->told.story.find("Not measured"), std::string::npos) << "all of it was probed";
    entries.pop_back();
    for (const char* level : {"top", "middle", "bottom"}) {
        block::Reading r;
        r.at = {{block::FeatureKind::bore, "C", 1}, block::Quantity::size, level, "across", {}};
        r.words = level;
        r.value = block.truth(r.at);
        r.instrument.name = "bore gauge";
        entries.push_back({static_cast<std::int64_t>(entries.size() + 1), entries.back().time, "Marit", r});
    }
    const auto copy = copy_of(entries, 1);
    ASSERT_TRUE(copy) << copy.error().front().text();
    EXPECT_NE(copy->told.story.find("Not measured, and taken as drawn: the tunnel, deck C, some cylinders."),
              std::string::npos)
        << copy->told.story;
}

TEST(School, IsTriedBeforeTheMetalIsTouched) {
    const SimulatedBlock block(tender_inline_four(), 12);
    std::vector<block::Entry> entries = probed(block, 0.001);
    block::TunnelPolicy each = planning::usual_tunnel_policy(), equal = each;
    each.caps = block::CapCuts::each;
    equal.caps = block::CapCuts::equal;
    constexpr int times = test::sanitized ? 1 : 3;
    const auto one = try_school(entries, {each}, times), other = try_school(entries, {equal}, times);
    ASSERT_TRUE(one) << one.error().front().text();
    ASSERT_TRUE(other);
    for (const TriedOnce& once : *one)
        EXPECT_TRUE(once.finished);
    EXPECT_GT(spread_of(*one, &TriedOnce::cap_cut).middle, 0);
    EXPECT_GT(spread_of(*other, &TriedOnce::size).least, 0.2) << "the smallest size on offer, at least";
    const SchoolSpread s = spread_of({{.cap_cut = 3}, {.cap_cut = 1}, {.cap_cut = 2}}, &TriedOnce::cap_cut);
    EXPECT_EQ(s.least, 1);
    EXPECT_EQ(s.middle, 2);
    EXPECT_EQ(s.most, 3);
    entries.push_back({static_cast<std::int64_t>(entries.size() + 1), entries.back().time, "Marit",
                       block::DeckCut{"C", block::PassKind::pass, 0.05, false, {}}});
    EXPECT_EQ(copy_of(entries, 1).error().front().what,
              "metal has come off in entry " + std::to_string(entries.back().sequence));
    entries.resize(1);
    EXPECT_EQ(copy_of(entries, 1).error().front().what, "nothing was measured of it");
}
