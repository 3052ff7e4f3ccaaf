// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/state/deck_state.h"
#include "block/state/fold.h"
#include "block/state/intake_state.h"
#include "planning/decks/deck_belief.h"

#include "block/small_block.h"

using namespace pallix::planning;
using namespace pallix::block;
using pallix::metrology::Vec2;
using pallix::metrology::Vec3;

namespace {

/// A flat deck of the small block, 200.1 high, probed on a grid; cuts are added by hand.
class DeckBeliefTest : public testing::Test {
  protected:
    DeckBeliefTest() {
        intake_of(state_).blueprint = pallix::test::read_small_blueprint();
        std::vector<Vec3> points;
        for (const double u : {4.0, 40.0, 110.0, 146.0})
            for (const double v : {-46.0, -40.0, 40.0, 46.0})
                points.push_back({u, v, 200.1});
        set(points);
    }
    void set(const std::vector<Vec3>& points) {
        DeckState& deck = decks_of(state_).decks["C"];
        deck.latest = DeckMeasurement{
            DeckSource::probe, 2, 0.001, *evaluate_deck(intake_of(state_).blueprint->banks[0], points), {}};
    }
    void cut(double depth, std::vector<Vec2> dark, bool rest_bright) {
        DeckState& deck = decks_of(state_).decks["C"];
        deck.cuts.push_back({static_cast<std::int64_t>(3 + deck.cuts.size()), "", "",
                             DeckCut{"C", PassKind::pass, depth, dark.empty() && rest_bright, dark, 8, rest_bright}});
    }
    /// Dabs over a rectangle and all round it, as a person paints what is dark all over.
    [[nodiscard]] static std::vector<Vec2> painted(Vec2 from, Vec2 to) {
        std::vector<Vec2> dabs;
        for (double u = from.x - 9; u <= to.x + 9.5; u += 6)
            for (double v = from.y - 9; v <= to.y + 9.5; v += 6)
                dabs.push_back({u, v});
        return dabs;
    }
    /// Where passes ran, were the highest place exactly the deck's.
    [[nodiscard]] std::vector<double> heights() const {
        std::vector<double> at;
        double depth = 0;
        for (const TakenCut& c : decks_of(state_).deck("C").cuts)
            at.push_back(decks_of(state_).deck("C").latest->result.height_max - (depth += c.cut.depth));
        return at;
    }
    [[nodiscard]] std::vector<Contradiction> contradictions() const {
        return contradictions_of(state_, "C", heights(), 0.001);
    }
    [[nodiscard]] std::optional<pallix::planning::Suspicion> suspicion() const {
        return suspect_for(state_, "C", contradictions(), heights(), 0.001);
    }

    Folded state_;
};

} // namespace

TEST(TouchAt, PaintIsDarkTheRestBrightAndItsRimUnknown) {
    const DeckCut cut{"C", PassKind::pass, 0.02, false, {{50, 0}}, 8, true};
    EXPECT_EQ(touch_at(cut, {50, 4}), pallix::metrology::Touch::dark);
    EXPECT_EQ(touch_at(cut, {50, 7}), pallix::metrology::Touch::unknown) << "paint spills over";
    EXPECT_EQ(touch_at(cut, {50, 12}), pallix::metrology::Touch::unknown) << "a brush's edge is no contour";
    EXPECT_EQ(touch_at(cut, {50, 15}), pallix::metrology::Touch::unknown);
    EXPECT_EQ(touch_at(cut, {50, 30}), pallix::metrology::Touch::bright);
    const DeckCut unsaid{"C", PassKind::pass, 0.02, false, {{50, 0}}, 8, false};
    EXPECT_EQ(touch_at(unsaid, {50, 30}), pallix::metrology::Touch::unknown) << "nobody said the rest is bright";
    const DeckCut clean{"C", PassKind::pass, 0.02, true, {}};
    EXPECT_EQ(touch_at(clean, {50, 30}), pallix::metrology::Touch::bright);
}

TEST_F(DeckBeliefTest, AFlatDeckIsCleanAfterAThinCut) {
    const auto before = believe_deck(state_, "C");
    ASSERT_TRUE(before);
    EXPECT_GT(before->surface.lowest.low, 200.0);
    EXPECT_LT(before->surface.removal.middle, 0.03);
    EXPECT_GT(before->cleans_at(200.0), 0.97);
    EXPECT_LT(before->cleans_at(200.1), 0.2);
    cut(0.05, {}, true);
    const auto after = believe_deck(state_, "C");
    EXPECT_NEAR(after->still_to_cut().high, 0, 1e-9);
    EXPECT_NE(after->key, before->key);
}

TEST_F(DeckBeliefTest, NothingIsBelievedFromATunnelThatWasCut) {
    decks_of(state_).decks["C"].tunnel_cut = 5;
    EXPECT_FALSE(believe_deck(state_, "C"));
}

TEST_F(DeckBeliefTest, OneDabOverAMeasuredPlaceContradictsNothing) {
    cut(0.03, {{4, 43}}, true);
    EXPECT_TRUE(contradictions().empty()) << "a mark narrower than the brush may lie beside the touch";
}

TEST_F(DeckBeliefTest, DarkAllRoundWhereItWasMeasuredHighIsOneBadTouch) {
    set({{4, -46, 200.1}, {75, 10, 200.1}, {146, -46, 200.1}, {146, 46, 200.1}});
    cut(0.03, painted({75, 10}, {75, 10}), true);
    const auto found = contradictions();
    ASSERT_EQ(found.size(), 1U);
    EXPECT_TRUE(found[0].dark);
    EXPECT_NEAR(found[0].by, 0.03, 1e-9);
    const auto s = suspicion();
    ASSERT_TRUE(s);
    EXPECT_EQ(s->suspect, Suspect::bad_touch);
    EXPECT_NEAR(s->place->y, 10, 1e-9);
}

TEST_F(DeckBeliefTest, AllDarkIsAWrongDepth) {
    cut(0.03, painted({0, -50}, {150, 50}), true); // the machine never reached the deck
    const auto s = suspicion();
    ASSERT_TRUE(s);
    EXPECT_EQ(s->suspect, Suspect::wrong_depth);
    // The cut ran above 200.1: at least 0.03 less what is allowed shallower.
    EXPECT_LT(s->depth_error, -0.02);
}

TEST_F(DeckBeliefTest, OneEndDarkTheOtherTouchedIsAMovedBlock) {
    const std::vector<Vec2> front = painted({0, -50}, {55, 50});
    // By heights the whole deck stands 0.03 above the cut; the front stayed dark. The rear was cut, and a second pass
    // that should have missed nothing left the front dark again.
    cut(0.03, front, true);
    cut(0.02, front, true);
    const auto s = suspicion();
    ASSERT_TRUE(s);
    EXPECT_EQ(s->suspect, Suspect::moved_block);
    EXPECT_LT(s->along, 0) << "the cut runs higher at the front";
    EXPECT_NEAR(s->across, 0, 1e-4);
}

TEST_F(DeckBeliefTest, AForecastIsHeldAgainstWhatWasTaken) {
    EXPECT_FALSE(forecast_outcome(state_, "C"));
    decks_of(state_).forecasts.push_back({3, {"C", 0.02, 0.05, 200.0, 200.1, {4, 46}}});
    decks_of(state_).decks["C"].cuts.push_back({4, "", "", DeckCut{"C", PassKind::witness, 0.02, false, {}}});
    EXPECT_FALSE(forecast_outcome(state_, "C")->clean);
    decks_of(state_).decks["C"].cuts.push_back({5, "", "", DeckCut{"C", PassKind::pass, 0.02, true, {}}});
    const auto held = forecast_outcome(state_, "C");
    EXPECT_NEAR(held->taken, 0.04, 1e-15);
    EXPECT_TRUE(held->within());
    decks_of(state_).decks["C"].cuts.back().cut.depth = 0.05;
    EXPECT_FALSE(forecast_outcome(state_, "C")->within());
}
