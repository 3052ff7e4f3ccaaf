// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/ledger.h"
#include "block/state/deck_state.h"
#include "block/state/fold.h"
#include "block/state/tunnel_state.h"
#include "planning/readings/gauge_findings.h"

#include "block/small_block.h"
#include "planning/common/assessment.h"

#include <gmock/gmock.h>
#include <numbers>

using namespace pallix;
using namespace pallix::block;
using namespace pallix::planning;
using metrology::Verdict;
using test::height_reading;
using test::size_reading;

namespace {

class MeasuredJob {
  public:
    explicit MeasuredJob(std::string blueprint = test::small_blueprint()) {
        add(JobOpened{"small", "", "b.json", std::move(blueprint)});
    }
    void add(Payload payload) {
        entries_.push_back({static_cast<std::int64_t>(entries_.size() + 1), "", "", std::move(payload)});
    }
    void read(const std::string& feature, Quantity quantity, const std::string& direction, double value,
              std::optional<double> upper = {}) {
        Reading r = size_reading(feature, "", direction, value);
        r.at.quantity = quantity;
        r.upper = upper;
        add(r);
    }
    void main_sizes(const char* main, double upright, double side, std::optional<double> u = 0.001) {
        for (const char* end : {"front", "rear"}) {
            add(size_reading(main, end, "upright", upright, u));
            add(size_reading(main, end, "60 left", side, u));
            add(size_reading(main, end, "60 right", side, u));
        }
    }
    Folded state() const { return fold(entries_); }
    GaugeFindings findings() const { return gauge_findings(state()); }

  private:
    std::vector<Entry> entries_;
};

/// The small block with a third main between, so that saddles can bow.
std::string three_mains() {
    std::string text = test::small_blueprint();
    const std::string second = "{ \"id\": \"main.2\", \"x\": 120";
    text.replace(text.find(second), second.size(),
                 R"({ "id": "main.2", "x": 70, "diameter": { "nominal": 60, "lower": 0, "upper": 0.02 } },
            { "id": "main.3", "x": 120)");
    return text;
}

} // namespace

TEST(GaugeSizes, AreHeldAgainstTheirWindow) { // 60.000 to 60.020, u 0.001: proven from 60.002 to 60.018
    MeasuredJob job;
    job.main_sizes("main.1", 60.010, 60.006);
    job.main_sizes("main.2", 60.019, 60.010);
    job.add(size_reading("bore.C.1", "top", "across", 60.08));
    job.add(size_reading("bore.C.1", "bottom", "across", 60.03));
    const GaugeFindings f = job.findings();
    ASSERT_EQ(f.mains.size(), 2U);
    EXPECT_EQ(f.mains[0].verdict, Verdict::meets);
    EXPECT_NEAR(f.mains[0].out_of_round, 0.004, 1e-12);
    EXPECT_NEAR(f.mains[0].taper, 0, 1e-12);
    EXPECT_EQ(f.mains[1].verdict, Verdict::cannot_tell);
    EXPECT_EQ(f.mains[1].sizes[0].settling.by, metrology::SettledBy::better_gauge);
    EXPECT_NEAR(f.mains[1].sizes[0].settling.gauge_uncertainty, 0.0005, 1e-9);
    ASSERT_EQ(f.cylinders.size(), 1U);
    EXPECT_EQ(f.cylinders[0].verdict, Verdict::fails);
    EXPECT_NEAR(f.cylinders[0].taper, 0.05, 1e-12);
    EXPECT_EQ(assess(job.state()).stages[static_cast<std::size_t>(planning::Stage::tunnel)].mark,
              StageMark::cannot_tell)
        << "the tunnel by gauge alone";
}

TEST(GaugeSizes, WithoutAStatedUncertaintyProveNothing) {
    MeasuredJob job;
    job.main_sizes("main.1", 60.010, 60.010, std::nullopt);
    EXPECT_EQ(job.findings().mains[0].verdict, Verdict::cannot_tell);
}

TEST(GaugeSizes, AMainInSizeEverywhereMayStillBeTapered) { // 60.000 to 60.020: taper within 0.010
    MeasuredJob job;
    for (const char* way : {"upright", "60 left", "60 right"}) {
        job.add(size_reading("main.1", "front", way, 60.003, 0.0005));
        job.add(size_reading("main.1", "rear", way, 60.017, 0.0005));
    }
    const GaugeFindings f = job.findings();
    for (const SizeFinding& size : f.mains[0].sizes)
        EXPECT_EQ(size.verdict, Verdict::meets);
    EXPECT_NEAR(f.mains[0].taper, 0.014, 1e-12);
    EXPECT_EQ(f.mains[0].verdict, Verdict::fails);
}

TEST(Saddles, BowIsTakenFromTheLineThroughTheEnds) {
    MeasuredJob job(three_mains());
    job.read("main.1", Quantity::saddle, "", 0.010);
    job.read("main.2", Quantity::saddle, "", 0.045); // 0.030 over the line, which stands at 0.015 here
    EXPECT_FALSE(job.findings().saddles) << "two saddles always lie on a line";
    job.read("main.3", Quantity::saddle, "", 0.020);
    const auto s = job.findings().saddles;
    ASSERT_TRUE(s);
    EXPECT_NEAR(s->saddles[1].off, 0.030, 1e-12);
    EXPECT_NEAR(s->straightness, 0.030, 1e-8);
    EXPECT_EQ(s->verdict, Verdict::fails) << "0.030 against a thou";
}

// The usual caution of a lever indicator: at 15° it reads 3.5 % long.
TEST(Sweep, HalvesTheDifferencesAndCorrectsTheLever) {
    MeasuredJob job;
    for (const auto& [clock, value] :
         {std::pair("12", 0.06), std::pair("6", 0.02), std::pair("3", -0.01), std::pair("9", 0.05)}) {
        Reading r = size_reading("main.1", "", clock, value);
        r.at.quantity = Quantity::sweep;
        r.instrument.contact_angle = 15 * radians_per_degree; // reads 3.5 % long: true = reading × 0.966
        job.add(r);
    }
    const auto sweeps = job.findings().sweeps;
    ASSERT_EQ(sweeps.size(), 1U);
    EXPECT_NEAR(sweeps[0].up, 0.02 * 0.9659258, 1e-8);
    EXPECT_NEAR(sweeps[0].towards_3, -0.03 * 0.9659258, 1e-8);
}

TEST(Feelers, SayAtLeastAndAtMostAlongTheirLines) {
    MeasuredJob job;
    job.read("deck.C", Quantity::gap, "middle", 0.03, 0.04);
    job.read("deck.C", Quantity::gap, "right side", 0, 0.03);
    FeelerFinding f = job.findings().feelers.at(0);
    EXPECT_EQ(f.at_least, 0.03);
    EXPECT_EQ(f.at_most, 0.04);
    EXPECT_EQ(f.where, "middle");
    EXPECT_EQ(f.lines, 2U);
    EXPECT_EQ(f.verdict, Verdict::cannot_tell) << "lines are no surface";
    job.read("deck.C", Quantity::gap, "left side", 0.05, 0.06); // the blueprint allows 0.04
    EXPECT_EQ(job.findings().feelers.at(0).verdict, Verdict::fails);
}

TEST(Pistons, AreTheMeanOfBothRocks) {
    MeasuredJob job;
    job.read("bore.C.1", Quantity::piston, "one side of the pin", 0.25);
    EXPECT_TRUE(job.findings().clearances.empty());
    job.read("bore.C.1", Quantity::piston, "the other side of the pin", 0.35);
    const auto c = job.findings().clearances.at(0);
    EXPECT_NEAR(c.clearance, 0.30, 1e-12);
    EXPECT_NEAR(c.rock, 0.10, 1e-12);
    EXPECT_NEAR(*c.uncertainty, 0.001 / std::numbers::sqrt2, 1e-12);
}

TEST(Walls, TheThinnestIsNamed) {
    MeasuredJob job;
    for (const auto& [side, value] : {std::pair("front", 6.1), std::pair("right", 4.2), std::pair("rear", 5.5)}) {
        Reading r = size_reading("bore.C.1", "top", side, value);
        r.at.quantity = Quantity::wall;
        job.add(r);
    }
    EXPECT_EQ(job.findings().walls.at(0).thinnest, 4.2);
    EXPECT_EQ(job.findings().walls.at(0).where, "top, right");
}

TEST(Disagreement, IsNamedBeyondTheUncertaintyOfBoth) {
    MeasuredJob job;
    job.add(ProbeLogTaken{"log.csv", "", test::small_log(200.03).text(), 0.001, false}); // mains 60.010 all round
    for (const char* way : {"upright", "60 left", "60 right"})
        job.add(size_reading("main.1", "front", way, 60.0115));
    EXPECT_TRUE(job.findings().disagreements.empty()) << "1.5 µm apart; twice √(1² + 0.7²) = 2.45 µm allowed";
    for (const char* way : {"upright", "60 left", "60 right"})
        job.add(size_reading("main.2", "rear", way, 60.0150));
    ASSERT_EQ(job.findings().disagreements.size(), 1U);
    const Disagreement d = job.findings().disagreements[0];
    EXPECT_EQ(d.at.feature.number, 2);
    EXPECT_NEAR(d.by_gauge, 60.015, 1e-9);
    EXPECT_NEAR(d.by_probe, 60.010, 1e-6);
    // One of two places: beyond it lies half of what lies beyond twice the uncertainty.
    const double u = std::hypot(0.001, 2 * 0.001 / std::sqrt(8.0));
    EXPECT_NEAR(std::erfc(d.allowed / u / std::numbers::sqrt2), std::erfc(std::numbers::sqrt2) / 2, 1e-9);
    const auto place = deck_places(test::read_small_blueprint().banks[0])[0].place;
    job.add(height_reading(place, 200.031));
    EXPECT_EQ(job.findings().disagreements.size(), 1U);
    job.add(height_reading(deck_places(test::read_small_blueprint().banks[0])[1].place, 200.04));
    EXPECT_EQ(job.findings().disagreements.size(), 2U);
}

TEST(Conditions, OfOneBoreMustAgree) {
    MeasuredJob job;
    Reading with = size_reading("bore.C.1", "top", "across", 60.01),
            without = size_reading("bore.C.1", "bottom", "across", 60.01);
    with.conditions.plate_on = true;
    without.conditions.plate_on = false;
    job.add(with);
    EXPECT_TRUE(job.findings().warnings.empty());
    job.add(without);
    ASSERT_EQ(job.findings().warnings.size(), 1U);
    EXPECT_THAT(job.findings().warnings[0].words, testing::HasSubstr("torque plate"));
}

TEST(Stale, TunnelCutTakesHeightsSizesAndPositions) {
    MeasuredJob job;
    job.add(ProbeLogTaken{"log.csv", "", test::small_log(200.03).text(), 0.001, false});
    job.main_sizes("main.1", 60.010, 60.010);
    job.add(size_reading("bore.C.1", "top", "across", 60.01));
    job.add(TunnelCut{TunnelMethod::hone, ""});
    const Folded s = job.state();
    EXPECT_TRUE(tunnel_of(s).probe_stale());
    EXPECT_TRUE(decks_of(s).deck("C").from_other_tunnel());
    EXPECT_TRUE(decks_of(s).deck("C").stale());
    const Assessment a = assess(s);
    EXPECT_TRUE(a.gauge.mains[0].stale);
    EXPECT_FALSE(a.gauge.cylinders[0].stale) << "a bore's own size does not hang on the tunnel";
    EXPECT_EQ(a.gauge.measure_again.size(), 6U);
    EXPECT_EQ(a.steps.now()->id, "main.1/measure/front/upright") << "the tunnel, by the gauge that read it last";
    EXPECT_EQ(a.stages[static_cast<std::size_t>(planning::Stage::tunnel)].mark, StageMark::stale);
    EXPECT_TRUE(a.bank("C")->passes.empty()) << "nothing is cut from heights that no longer hold";
    job.main_sizes("main.1", 60.010, 60.010);
    const Assessment after = assess(job.state());
    EXPECT_EQ(after.decks.kind, DeckStep::measure_again);
    EXPECT_EQ(after.decks.bank, "C");
    EXPECT_TRUE(after.gauge.disagreements.empty()) << "the old log is not held against it";
    job.add(ProbeLogTaken{"again.csv", "", test::small_log(200.02).text(), 0.001, false});
    EXPECT_FALSE(decks_of(job.state()).deck("C").stale());
    EXPECT_NEAR(decks_of(job.state()).deck("C").as_found->result.height_mean, 200.02, 1e-6) << "found anew";
}

TEST(Stale, DeckCutTakesItsHeightsFeelersAndPistons) {
    MeasuredJob job;
    job.add(ProbeLogTaken{"log.csv", "", test::small_log(200.03).text(), 0.001, false});
    job.read("deck.C", Quantity::gap, "middle", 0.03, 0.04);
    job.read("bore.C.1", Quantity::piston, "one side of the pin", 0.25);
    job.main_sizes("main.1", 60.010, 60.010);
    job.add(DeckCut{"C", PassKind::pass, 0.02, true, {}});
    const GaugeFindings f = job.findings();
    EXPECT_EQ(f.measure_again.size(), 1U) << "the feelers; a piston's crown stays where it is";
    EXPECT_TRUE(f.feelers.empty());
    EXPECT_FALSE(f.mains[0].stale);
}

TEST(RolledBlock, AsksForTheDowelPairOfEveryBank) {
    std::string text = test::small_blueprint();
    const std::string dowel = R"("dowels": [ )";
    text.replace(
        text.find(dowel), dowel.size(),
        R"("dowels": [ { "id": "dowel.C.2", "bank": "C", "u": 140, "v": -40, "diameter": { "nominal": 10, "lower": 0, "upper": 0.02 } },
   )");
    const auto assessed = [&](const std::string& log) {
        MeasuredJob job(text);
        job.add(ProbeLogTaken{"log.csv", "", log, 0.001, false});
        return assess(job.state()).unconfirmed_banks;
    };
    const std::string log = test::small_log().text(),
                      rolled = "# setup.a.rotation_deg: 0\n# setup.b.rotation_deg: 30\n" + log;
    EXPECT_TRUE(assessed(log).empty()) << "one clamping confirms itself";
    EXPECT_EQ(assessed(rolled), std::vector<std::string>{"C"});
    EXPECT_TRUE(assessed("# setup.b.rotation_deg: 30\n# setup.a.rotation_deg: 0\n" +
                         test::small_log().ring_z("dowel.C.2", {140, -40, 195}, 5.004).text())
                    .empty());
}
