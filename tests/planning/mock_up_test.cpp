// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/ledger.h"
#include "block/small_block.h"
#include "block/state/deck_state.h"
#include "block/state/fold.h"
#include "planning/common/assessment.h"
#include "planning/decks/compression.h"
#include "planning/decks/deck_consequences.h"
#include "planning/decks/milling.h"

#include <numbers>

using namespace pallix::planning;
using namespace pallix::block;
using pallix::test::LogWriter;
using pallix::test::small_blueprint;
using pallix::test::small_log;

namespace {

/// 4.000 by 3.480 in, chamber 64 cm³, gasket 103.0 × 1.0, dish 6.
CylinderVolumes trade_example() {
    return {101.6, 88.4, 64'000, 103.0, 1.0, 6'000, 0};
}

class MockUpTest : public testing::Test {
  protected:
    MockUpTest() {
        add(JobOpened{"t", "c", "b.json", small_blueprint()});
        const std::string log = small_log(200.10).text();
        add(ProbeLogTaken{"log.csv", "sum", log, 0.001, false});
    }
    void add(Payload payload) {
        entries_.push_back(
            {static_cast<std::int64_t>(entries_.size() + 1), "2026-03-02T08:00:00Z", "Marit", std::move(payload)});
    }
    void read_piston(const char* side, double below) {
        Reading r = pallix::test::height_reading({}, below, 0.004);
        r.at = {*FeatureId::parse("bore.C.1"), Quantity::piston, "", side, {}};
        add(r);
    }
    EngineFigures figures() {
        EngineFigures f;
        f.stroke = 60;
        f.chamber = 20'000;
        f.gasket_bore = 62;
        f.gasket_thickness = 1;
        return f;
    }
    Folded state() { return fold(entries_); }

    std::vector<Entry> entries_;
};

} // namespace

TEST(Compression, TheTradesExample) { // the handbook's check of section 7
    const CylinderVolumes v = trade_example();
    EXPECT_NEAR(v.swept() / 1000, 716.687, 5e-4);
    EXPECT_NEAR(v.clearance_volume(0.36) / 1000, 81.2509, 5e-5);
    EXPECT_NEAR(v.ratio(0.36), 9.8207, 5e-5);
    EXPECT_NEAR(v.clearance_for(10.0), 0.1603, 5e-5);
    EXPECT_NEAR(0.36 - v.clearance_for(10.0), 0.1997, 5e-5);
}

TEST(Compression, OtherWorkedFigures) { // plain arithmetic, done in Python with exact fractions of π
    const CylinderVolumes v{86, 86, 46'500, 87, 0.75, 6'000, 0}; // dish of 6 takes the place of a dome of −6
    EXPECT_NEAR(v.swept() / 1000, 499.557214218, 1e-8);
    EXPECT_NEAR(v.clearance_volume(0.20) / 1000, 58.120269987, 1e-8);
    EXPECT_NEAR(v.ratio(0.20), 9.595232168, 1e-8);
    EXPECT_NEAR(v.ratio(0.10), 9.682004076, 1e-8);
    EXPECT_NEAR(v.ratio(-0.25), 10.000007996, 1e-8) << "a piston that stands proud";
    EXPECT_NEAR(0.20 - v.clearance_for(9.8), 0.232819793, 1e-8);
    EXPECT_NEAR(0.20 - v.clearance_for(9.5), -0.112099993, 1e-8) << "would need adding";
    const CylinderVolumes flat{102.362, 88.392, 64'000, 105.41, 1.0414, 0, 0};
    EXPECT_NEAR(flat.clearance_volume(0.635) / 1000, 78.313717609, 1e-8);
    EXPECT_NEAR(flat.ratio(0.635), 10.288434582, 1e-8);
}

TEST(Consequences, TheManifoldSinksAsTheTradeHasIt) { // rule of thumb of the trade: 1.23 and 1.73 for 45° and 55°
    const auto rad = radians_per_degree;
    const ManifoldFit fit = manifold_fit(1, 45 * rad, 55 * rad);
    EXPECT_NEAR(fit.sinks, 1.7170, 5e-5);
    EXPECT_NEAR(fit.off_face, 1.2328, 5e-5);
    EXPECT_NEAR(manifold_fit(1, -45 * rad, 55 * rad).sinks, fit.sinks, 1e-15) << "either bank";
}

TEST(Consequences, TheManifoldStillFitsByGeometry) {
    // Independent of the formula: ports line up again when the head's face, moved down the bank by c, and the
    // manifold's face, moved down by h and in by m along its normal, coincide, and the port's height along the face
    // agrees.
    for (const double beta_deg : {30.0, 45.0})
        for (const double tau_deg : {40.0, 55.0, 70.0}) {
            const double b = beta_deg * radians_per_degree, t = tau_deg * radians_per_degree, c = 0.4;
            const ManifoldFit fit = manifold_fit(c, b, t);
            // End view, right bank: across y, up z. The head moves down its bank by c. Its face leans outward going up,
            // along (sin τ, cos τ); its normal towards the valley is (−cos τ, sin τ).
            const double move_y = -std::sin(b) * c, move_z = -std::cos(b) * c;
            const double along_head = std::sin(t) * move_y + std::cos(t) * move_z;
            EXPECT_NEAR(along_head, -fit.sinks * std::cos(t), 1e-12) << "ports line up";
            const double nearer = (-std::cos(t) * move_y + std::sin(t) * move_z) - (-fit.sinks * std::sin(t));
            EXPECT_NEAR(nearer, fit.off_face, 1e-12) << "what stands in the way comes off";
        }
}

TEST(Consequences, ACamInTheHeadRunsLate) { // two sprockets 21/42, pitch 9.525, centres 200: solved exactly elsewhere
    const ChainDrive chain{21, 42, 9.525};
    EXPECT_NEAR(cam_retard(chain, 200, 0.1) / radians_per_degree, 0.088762354, 2e-8);
    EXPECT_NEAR(cam_retard(chain, 200, 0.5) / radians_per_degree, 0.443800241, 2e-8);
}

TEST_F(MockUpTest, BothSidesOfThePinMakeTheCrown) {
    read_piston("one side of the pin", 0.35);
    read_piston("the other side of the pin", 0.29);
    const auto crowns = piston_crowns(state());
    ASSERT_EQ(crowns.size(), 1U);
    EXPECT_EQ(crowns[0].source, CrownSource::read);
    EXPECT_NEAR(crowns[0].crown, 200.10 - 0.32, 1e-6);
    EXPECT_NEAR(crowns[0].rock, 0.06, 1e-9);
}

TEST_F(MockUpTest, OneSideIsSaidToBeOne) {
    read_piston("one side of the pin", 0.35);
    EXPECT_EQ(piston_crowns(state())[0].source, CrownSource::one_side);
}

TEST_F(MockUpTest, TheCrownStaysWhenTheDeckIsCut) {
    read_piston("one side of the pin", 0.35);
    read_piston("the other side of the pin", 0.29);
    add(DeckCut{"C", PassKind::pass, 0.05, true, {}});
    const Folded s = state();
    EXPECT_NEAR(piston_crowns(s)[0].crown, 199.78, 1e-6);
    EXPECT_NEAR(*height_now(decks_of(s).deck("C"), {75, 0}), 200.05, 1e-6);
    // Read again on the cut deck, its crown is the same.
    read_piston("one side of the pin", 0.30);
    read_piston("the other side of the pin", 0.24);
    EXPECT_NEAR(piston_crowns(state())[0].crown, 199.78, 1e-6);
    add(TunnelCut{TunnelMethod::hone, ""});
    EXPECT_TRUE(decks_of(state()).crowns.empty()) << "the crankshaft lies elsewhere now";
}

TEST_F(MockUpTest, WithoutReadingsTheFiguresSayWhereItStands) {
    EngineFigures f = figures();
    f.rod = 120;
    f.pin_height = 49.6;
    add(f);
    const auto crowns = piston_crowns(state());
    ASSERT_EQ(crowns.size(), 1U);
    EXPECT_EQ(crowns[0].source, CrownSource::from_figures);
    EXPECT_NEAR(crowns[0].crown, 30 + 120 + 49.6, 1e-12);
}

TEST_F(MockUpTest, AZeroDeckIsPlannedFromThePistons) {
    add(DeckTargetChosen{TargetSchool::clearance, true, {}, 0.0, {}});
    EXPECT_EQ(assess(state()).decks.kind, DeckStep::read_pistons);
    read_piston("one side of the pin", 0.13);
    read_piston("the other side of the pin", 0.07);
    const Assessment a = assess(state());
    ASSERT_EQ(a.banks.size(), 1U);
    EXPECT_NEAR(a.banks[0].plan.target, 200.0, 1e-6);
    EXPECT_NEAR(a.banks[0].plan.cut, 0.10, 1e-6);
}

TEST_F(MockUpTest, ARatioNeedsVolumesAndGivesAHeight) {
    add(DeckTargetChosen{TargetSchool::ratio, true, {}, {}, 8.5});
    read_piston("one side of the pin", 0.43);
    read_piston("the other side of the pin", 0.37);
    EXPECT_EQ(assess(state()).decks.kind, DeckStep::give_figures);
    add(figures());
    const Folded s = state();
    const Assessment a = assess(s);
    ASSERT_EQ(a.banks.size(), 1U);
    // By hand: Vs = π/4·60.01²·60, Vc = 20 000 + π/4·62²·1 + π/4·60.01²·c, (Vs + Vc)/Vc = 8.5.
    const double disc = std::numbers::pi / 4 * 60.01 * 60.01;
    const double clearance = (disc * 60 / 7.5 - 20'000 - std::numbers::pi / 4 * 62 * 62) / disc;
    EXPECT_NEAR(a.banks[0].plan.target, 200.10 - 0.40 + clearance, 1e-6);
    const auto after = deck_consequences(s, a.crowns, "C", a.banks[0].plan.target, a.banks[0].plan.cut);
    ASSERT_EQ(after.cylinders.size(), 1U);
    EXPECT_NEAR(*after.cylinders[0].ratio, 8.5, 1e-9);
    EXPECT_NEAR(*after.least_quench, 1 + clearance, 1e-6);
}

// Bored 0.75 over, a cylinder sweeps more, and the deck must go less low for the same ratio.
TEST_F(MockUpTest, ARatioIsReckonedWithTheBoreThatWillBe) {
    add(DeckTargetChosen{TargetSchool::ratio, true, {}, {}, 8.5});
    read_piston("one side of the pin", 0.43);
    read_piston("the other side of the pin", 0.37);
    add(figures());
    const double drawn = assess(state()).banks.at(0).plan.target;
    CylinderPlanChosen plan;
    plan.oversizes = {0.5, 0.75};
    plan.oversize = 0.75;
    add(plan);
    const Assessment a = assess(state());
    EXPECT_NEAR(a.crowns.at(0).diameter, 60.75, 1e-9);
    // By hand, as above, with 60.75 for the bore: swept and clearance both are of it.
    const double disc = std::numbers::pi / 4 * 60.75 * 60.75;
    const double clearance = (disc * 60 / 7.5 - 20'000 - std::numbers::pi / 4 * 62 * 62) / disc;
    EXPECT_NEAR(a.banks.at(0).plan.target, 200.10 - 0.40 + clearance, 1e-6);
    EXPECT_GT(a.banks.at(0).plan.target, drawn + 0.1);
}

TEST_F(MockUpTest, WorkOnTheHeadEntersTheSameSums) {
    EngineFigures f = figures();
    f.valve_intake = 1.5;
    add(f);
    read_piston("one side of the pin", 0.40);
    add(HeadWork{"C", 0.03, 0.04, 0.0, {}});
    add(HeadWork{"C", {}, {}, 0.2, {}});
    Folded s = state();
    HeadState head = head_state(s, "C");
    EXPECT_FALSE(head.gap_low) << "the face is another one after the cut";
    EXPECT_NEAR(head.cut, 0.2, 1e-15);
    const double loss = chamber_loss(60.01, 0.2);
    EXPECT_NEAR(loss, std::numbers::pi / 4 * 60.01 * 60.01 * 0.2, 1e-9);
    EXPECT_NEAR(volumes_of(s, piston_crowns(s).at(0))->chamber, 20'000 - loss, 1e-9);
    const auto c = deck_consequences(s, piston_crowns(s), "C", 200.0, 0.1);
    EXPECT_NEAR(*c.valve_intake, 1.5 - 0.1 - 0.2, 1e-12) << "deck and head both";
    add(HeadWork{"C", {}, {}, 0, 19'300});
    s = state();
    EXPECT_NEAR(volumes_of(s, piston_crowns(s).at(0))->chamber, 19'300, 1e-9) << "measured beats reckoned";
}

// Chambers, valves and the head's face are read like anything else, and hold until metal comes off them.
TEST_F(MockUpTest, ChambersValvesAndTheHeadsFaceAreRead) {
    const FeatureId bore = *FeatureId::parse("bore.C.1"), deck{FeatureKind::deck, "C", 0};
    const auto read = [this](const MeasuredAt& at, double value, std::optional<double> upper = {}) {
        Reading r = pallix::test::height_reading({}, value, 0.004);
        r.at = at;
        r.upper = upper;
        add(r);
    };
    EngineFigures f = figures();
    f.chamber = std::nullopt;
    f.valve_exhaust = 2.5;
    add(f);
    read_piston("one side of the pin", 0.40);
    EXPECT_EQ(missing_figures(state()), std::vector<std::string>{"chamber volume"});
    EXPECT_FALSE(volumes_of(state(), piston_crowns(state()).at(0)));
    read({bore, Quantity::volume, "", "", {}}, 20.5);
    read({bore, Quantity::valve, "intake", "", {}}, 1.8);
    read({deck, Quantity::head_gap, "", "middle", {}}, 0.04, 0.05);
    read({deck, Quantity::head_gap, "", "left side", {}}, 0.02, 0.06);
    EXPECT_TRUE(missing_figures(state()).empty());
    EXPECT_NEAR(volumes_of(state(), piston_crowns(state()).at(0))->chamber, 20'500, 1e-9);
    EXPECT_EQ(head_state(state(), "C").gap_low, 0.04);
    EXPECT_EQ(head_state(state(), "C").gap_high, 0.06) << "the worst line";
    auto c = deck_consequences(state(), piston_crowns(state()), "C", 200.0, 0.1);
    EXPECT_NEAR(*c.valve_intake, 1.7, 1e-12);
    EXPECT_NEAR(*c.valve_exhaust, 2.4, 1e-12) << "as it was told";

    add(DeckCut{"C", PassKind::witness, 0.03, true, {}}); // valves come nearer, the head stays what it is
    EXPECT_EQ(head_state(state(), "C").gap_low, 0.04);
    EXPECT_NEAR(*deck_consequences(state(), piston_crowns(state()), "C", 200.0, 0.1).valve_intake, 1.7, 1e-12)
        << "read before: all of the 0.1 comes off it";
    read({bore, Quantity::valve, "intake", "", {}}, 1.77); // 0.03 is off already, 0.07 more will be
    c = deck_consequences(state(), piston_crowns(state()), "C", 200.0, 0.1);
    EXPECT_NEAR(*c.valve_intake, 1.70, 1e-12);

    add(HeadWork{"C", {}, {}, 0.2, {}});
    EXPECT_FALSE(head_state(state(), "C").gap_low) << "the face is another one";
    EXPECT_NEAR(volumes_of(state(), piston_crowns(state()).at(0))->chamber, 20'500 - chamber_loss(60.01, 0.2), 1e-9);
    add(HeadWork{"C", {}, {}, 0, 19'300});
    EXPECT_NEAR(volumes_of(state(), piston_crowns(state()).at(0))->chamber, 19'300, 1e-9) << "told after it was read";
    read({bore, Quantity::volume, "", "", {}}, 19.4);
    EXPECT_NEAR(volumes_of(state(), piston_crowns(state()).at(0))->chamber, 19'400, 1e-9)
        << "and read after it was told";
}

TEST(Milling, SpeedsAndFinish) { // machining tables: 100 ft/min on 1 in is 382 rev/min
    const CutterFitted inch{25.4, 1, 0.8, 30.48, 0.2, 30.48, 0.1, false};
    EXPECT_NEAR(milling_for(inch, PassKind::pass, 100).rpm, 381.97, 0.005);
    const CutterFitted c{250, 1, 1.2, 250, 0.2, 320, 0.1, false};
    const MillingData rough = milling_for(c, PassKind::witness, 350);
    EXPECT_NEAR(rough.rpm, 318.309886, 1e-6);
    EXPECT_NEAR(rough.rt * 1000, 4.17, 0.005); // f²/8r
    EXPECT_NEAR(rough.ra * 1000, 1.07, 0.005); // f²/(18√3 r)
    EXPECT_NEAR(rough.minutes, (350 + 250) / (0.2 * 318.309886), 1e-6);
    const MillingData fine = milling_for(c, PassKind::spring, 350);
    EXPECT_NEAR(fine.ra, rough.ra / 4, 1e-9) << "half the feed, a quarter of the marks";
    EXPECT_GT(fine.rpm, rough.rpm);
    const CutterFitted eight{250, 8, 1.2, 250, 0.12, 250, 0.12, false};
    EXPECT_NEAR(milling_for(eight, PassKind::pass, 1).feed_rate, 305.577491, 1e-5);
}
