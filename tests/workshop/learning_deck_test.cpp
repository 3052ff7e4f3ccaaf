// SPDX-License-Identifier: GPL-3.0-or-later
// The map's learning against practice decks whose truth is known.
#include "block/state/deck_state.h"
#include "block/state/fold.h"
#include "block/state/intake_state.h"
#include "metrology/monte_carlo.h"
#include "planning/decks/deck_belief.h"
#include "sanitized.h"
#include "workshop/harbour.h"
#include "workshop/practice_block.h"

#include <atomic>
#include <gtest/gtest.h>
#include <thread>

using namespace pallix;
using metrology::Vec2;
using metrology::Vec3;

namespace {

/// A worn deck, drawn: slope, tilt, twist and crown of a harbour engine, and a hollow somewhere.
workshop::DeckTruth worn_deck(metrology::Deviates& draw, const planning::DeckExtent& e) {
    workshop::DeckTruth t;
    t.offset = 0.1 * draw.uniform();
    t.rear_over_front = 0.05 * draw.normal();
    t.positive_over_negative = 0.04 * draw.normal();
    t.twist = 0.015 * draw.normal();
    t.crown = 0.012 * draw.normal();
    t.dip = {e.low.x + e.length() * draw.uniform(), e.low.y + e.width() * draw.uniform()};
    t.dip_depth = 0.008 + 0.03 * draw.uniform();
    t.dip_radius = 30 + 20 * draw.uniform();
    return t;
}

/// One job on one deck: probed, cut, painted.
class Practice {
  public:
    Practice(std::uint64_t number, int along, int across)
        : blueprint_(workshop::tender_inline_four()), bank_(blueprint_.banks.front()), draw_(20261, number) {
        const planning::DeckExtent e = planning::deck_extent(bank_);
        truth_ = worn_deck(draw_, e);
        constexpr int along_all = 84, across_all = 28; // to the very edges, near enough to 5 mm apart
        for (int i = 0; i <= along_all; ++i)
            for (int j = 0; j <= across_all; ++j) {
                const Vec2 p{e.low.x + 0.05 + (e.length() - 0.1) * i / along_all,
                             e.low.y + 0.05 + (e.width() - 0.1) * j / across_all};
                if (planning::on_metal(blueprint_, bank_, p))
                    places_.push_back(p);
            }
        std::vector<Vec3> touches;
        for (int i = 0; i < along; ++i)
            for (int j = 0; j < across; ++j) {
                const Vec2 p{e.low.x + 10 + (e.length() - 20) * i / (along - 1),
                             e.low.y + 8 + (e.width() - 16) * j / (across - 1)};
                if (planning::on_metal(blueprint_, bank_, p))
                    touches.push_back({p.x, p.y, height(p) + 0.0012 * draw_.normal()});
            }
        intake_of(state_).blueprint = blueprint_;
        block::DeckState& deck = decks_of(state_).decks["C"];
        deck.latest =
            block::DeckMeasurement{block::DeckSource::probe, 2, 0.0012, *block::evaluate_deck(bank_, touches), {}};
        deck.as_found = deck.latest;
    }

    [[nodiscard]] double height(Vec2 p) const { return bank_.deck_height.nominal + truth_.height(bank_, p); }
    [[nodiscard]] double lowest() const { return extreme(false); }
    [[nodiscard]] double highest() const { return extreme(true); }

    /// Cuts to a depth below first touch and paints what stayed dark, dab by dab.
    void cut(double depth, double moved = 0) {
        block::DeckState& deck = decks_of(state_).decks["C"];
        block::DeckCut cut{"C", block::PassKind::pass, depth - deck.depth_in_all(), false, {}, 8, true};
        const double at = highest() - depth - moved;
        for (const Vec2 p : places_)
            if (height(p) < at && std::ranges::none_of(cut.dark, [&](Vec2 d) { return norm(d - p) < 4; }))
                cut.dark.push_back(p);
        cut.clean = cut.dark.empty();
        cut.rest_bright = !cut.clean;
        deck.cuts.push_back({static_cast<std::int64_t>(3 + deck.cuts.size()), "", "", cut});
    }
    block::JobState& state() { return state_; }
    [[nodiscard]] planning::DeckBelief belief() const { return *planning::believe_deck(state_, "C"); }

  private:
    [[nodiscard]] double extreme(bool top) const {
        double found = height(places_.front());
        for (const Vec2 p : places_)
            found = top ? std::max(found, height(p)) : std::min(found, height(p));
        return found;
    }
    block::Blueprint blueprint_;
    block::BankBlueprint bank_;
    metrology::Deviates draw_;
    workshop::DeckTruth truth_;
    std::vector<Vec2> places_;
    block::Folded state_;
};

} // namespace

TEST(LearningDeck, TheStatedIntervalHoldsTheTrueLowestPlaceOfFiveHundredBlocks) {
    constexpr int blocks = test::sanitized ? 20 : 500;
    std::atomic<int> next = 0, held = 0, removal_held = 0;
    const auto work = [&] {
        for (int i = next++; i < blocks; i = next++) {
            Practice p(static_cast<std::uint64_t>(i), 10, 5);
            p.cut(0.03); // a witness cut and what it left dark
            const planning::DeckBelief b = p.belief();
            held += p.lowest() >= b.surface.lowest.low && p.lowest() <= b.surface.lowest.high;
            const double removal = p.highest() - p.lowest();
            removal_held += removal >= b.surface.removal.low && removal <= b.surface.removal.high;
        }
    };
    {
        std::vector<std::jthread> threads;
        for (unsigned t = 0; t < std::max(2U, std::thread::hardware_concurrency()); ++t)
            threads.emplace_back(work);
    }
    EXPECT_GE(held, 0.93 * blocks);
    EXPECT_LT(held, blocks) << "an interval that always holds says nothing";
    EXPECT_GE(removal_held, 0.90 * blocks);
}

TEST(LearningDeck, PaintNarrowsTheForecastAndLeavesItTrue) {
    double wide = 0, narrow = 0, before = 0, after = 0;
    for (std::uint64_t i = 0; i < static_cast<std::uint64_t>(test::fewer(40)); ++i) {
        Practice p(5000 + i, 5, 3); // few touches: there is much to learn
        const auto look = [&p](double& width, double& off) {
            const metrology::Interval lowest = p.belief().surface.lowest;
            width += lowest.high - lowest.low;
            off += std::abs(lowest.middle - p.lowest());
        };
        look(wide, before);
        p.cut(0.6 * (p.highest() - p.lowest()));
        p.cut(0.9 * (p.highest() - p.lowest()));
        look(narrow, after);
    }
    if (!test::sanitized) { // else too few to judge
        EXPECT_LT(narrow, 0.9 * wide);
        EXPECT_LT(after, 1.1 * before);
    }
}

TEST(LearningDeck, HonestPaintContradictsNothing) {
    for (std::uint64_t i = 0; i < static_cast<std::uint64_t>(test::fewer(10)); ++i) {
        Practice p(7000 + i, 10, 5);
        p.cut(0.03);
        EXPECT_TRUE(p.belief().contradictions.empty()) << i;
    }
}

TEST(LearningDeck, ACutDeeperThanLoggedIsFoundOut) {
    Practice p(42, 10, 5);
    p.cut(0.03, 0.025); // the machine went 25 µm deeper than the dial said
    const planning::DeckBelief b = p.belief();
    ASSERT_TRUE(b.suspicion);
    EXPECT_EQ(b.suspicion->suspect, planning::Suspect::wrong_depth);
    EXPECT_GT(b.suspicion->depth_error, 0.008) << "at least so much explains the paint";
    EXPECT_LT(b.suspicion->depth_error, 0.03);
}
