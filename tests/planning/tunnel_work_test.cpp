// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/ledger.h"
#include "block/state/fold.h"
#include "block/state/intake_state.h"
#include "block/state/readings_state.h"
#include "block/state/tunnel_state.h"
#include "planning/tunnel/bar_passes.h"
#include "planning/tunnel/tunnel_consequences.h"
#include "planning/tunnel/tunnel_work.h"

#include "block/small_block.h"
#include "planning/common/assessment.h"
#include "story.h"

#include <gmock/gmock.h>

using namespace pallix;
using namespace pallix::block;
using namespace pallix::planning;
using test::size_reading;

namespace {

class TunnelJob {
  public:
    TunnelJob() {
        add(JobOpened{"small", "", "b.json", test::small_blueprint()});
        torque();
    }
    void add(Payload payload) {
        entries_.push_back({static_cast<std::int64_t>(entries_.size() + 1), "", "", std::move(payload)});
    }
    /// Both mains, both ends, three ways; window 60.000 to 60.020.
    void sizes(double upright, double side) {
        for (const char* main : {"main.1", "main.2"})
            for (const char* end : {"front", "rear"}) {
                add(size_reading(main, end, "upright", upright, 0.0005));
                add(size_reading(main, end, "60 left", side, 0.0005));
                add(size_reading(main, end, "60 right", side, 0.0005));
            }
    }
    void torque() {
        Conditions c;
        c.caps_torqued = true;
        add(ConditionsStated{c});
    }
    TunnelWork work(const TunnelVerdict* probed = nullptr) const {
        const Folded s = fold(entries_);
        TunnelWork work = tunnel_work(s, gauge_findings(s), probed);
        if (!work.study)
            work.study = study_tunnel(s);
        if (work.study)
            explain(*work.study);
        return work;
    }

  private:
    std::vector<Entry> entries_;
};

} // namespace

TEST(Chain, LengthAndSagByPitchCircles) { // handbook case; dL/dC by hand: 2·cos α
    const ChainDrive chain{20, 40, 9.525};
    EXPECT_NEAR(chain_length(chain, 115.0), 523.7907, 5e-5);
    const ChainSlack s = chain_slack(chain, chain_length(chain, 115.0), 115.0 - 0.127);
    EXPECT_NEAR(s.excess, 0.2450, 5e-5);
    EXPECT_NEAR(s.sag, 3.19, 5e-3);
    EXPECT_EQ(chain_slack(chain, chain_length(chain, 115.0), 115.1).sag, 0) << "a chain that is too short does not sag";
    // Round the very arcs of the pitch circles (2πR instead of N pitches) a loop would be 705.6572 long, worked out
    // apart from this formula; by the polygon formula of chain handbooks 74.026753 links. Ours counts whole pitches on
    // the wheels.
    const ChainDrive other{21, 42, 9.525};
    EXPECT_NEAR((705.657225737 - chain_length(other, 200.0)) / other.pitch, 0.057, 1e-3);
    EXPECT_NEAR(chain_length(other, 200.0) / other.pitch, 74.026753, 2e-3);
}

TEST(Gears, LoseBacklashByTwiceTheTangent) { // 20°, 0.127 closer: 0.0924
    EXPECT_NEAR(backlash_change(0.127, 20 * radians_per_degree), -0.0924, 5e-5);
    EXPECT_NEAR(backlash_change(-0.127, 20 * radians_per_degree), 0.0924, 5e-5);
}

TEST(Tools, ProtrusionAndClearanceByHand) {
    EXPECT_NEAR(cutter_protrusion(74.006, 50.0), 12.003, 1e-12);
    EXPECT_NEAR(bearing_clearance(74.006, 2.480, 69.000), 0.046, 1e-12);
}

TEST(Consequences, FollowTheLine) { // cam 100 above, deck upright: all by the rise
    auto b = test::read_small_blueprint();
    b.cam_drive = CamDrive{20, 40, 9.525, {}, 0};
    const std::vector<Housing> mains{{b.mains[0].id, {{20, 0, 30}}, 60, 0}, {b.mains[1].id, {{120, 0, 30}}, 60, 0}};
    const auto c = consequences_of(b, nullptr, mains, {0.02, 0, 0.05, 0});
    EXPECT_NEAR(c.cam_distance_change, -0.05, 1e-12);
    EXPECT_NEAR(c.decks[0].height_change, -0.05, 1e-12);
    EXPECT_NEAR(c.decks[0].side_change, -0.02, 1e-12);
    ASSERT_TRUE(c.chain);
    EXPECT_NEAR(
        c.chain->excess,
        0.05 * 2 *
            std::cos(std::asin(
                (9.525 / 2 / std::sin(std::numbers::pi / 40) - 9.525 / 2 / std::sin(std::numbers::pi / 20)) / 100)),
        1e-4);
    b.cam_drive = CamDrive{0, 0, 0, {}, 20 * radians_per_degree};
    EXPECT_NEAR(*consequences_of(b, nullptr, mains, {0, 0, 0.127, 0}).backlash_change, -0.0924, 5e-5);
}

TEST(Blueprint, ReadsItsCamDrive) {
    const auto with = [](const std::string& drive) {
        std::string text = test::small_blueprint();
        text.insert(text.find(" \"workshop_note\""), "\"cam_drive\": " + drive + ",\n");
        return read_blueprint(text, "b");
    };
    EXPECT_EQ(with(R"({"teeth_crank":20,"teeth_cam":40,"pitch":9.525})")->cam_drive->teeth_cam, 40);
    EXPECT_NEAR(with(R"({"pressure_angle_deg":20})")->cam_drive->pressure_angle, 20 * radians_per_degree, 1e-12);
    EXPECT_FALSE(with(R"({"teeth_crank":20})"));
    EXPECT_FALSE(with(R"({"pressure_angle_deg":60})"));
}

TEST(TunnelWork, FromGaugesAloneByHand) {
    TunnelJob job; // upright 0.010 over the aim of 60.010, in line: 60° off just at the aim
    job.add(TunnelPolicy{.parting = 12 * radians_per_degree});
    job.sizes(60.020, 60.010);
    const TunnelWork w = job.work();
    ASSERT_TRUE(w.study);
    EXPECT_EQ(w.study->housings.source, HousingSource::gauge);
    EXPECT_EQ(w.study->housings.mains[0].points.size(), 12U) << "two ends of three sizes";
    ASSERT_TRUE(w.study->plan.feasible);
    // The saddle's top stands on the line, so the housing's middle is 0.005 low, and the hone follows it: upright it is
    // 0.005 too large on radius. A cap cut by c gains c/2 at cap and saddle alike, and lifts the middle by c/2.
    EXPECT_NEAR(w.study->plan.max_cap_cut, 0.010, 1e-6);
    EXPECT_NEAR(w.study->plan.rise, 0, 1e-6);
    EXPECT_EQ(w.step, TunnelStep::settle) << "60.020 is the largest that is allowed: nobody can tell";
    EXPECT_EQ(w.study->schools.size(), 4U);
    ASSERT_TRUE(w.study->sure);
    EXPECT_GT(w.study->sure->max_cap_cut, 0.010);
    EXPECT_THAT(w.study->loosened,
                testing::Contains(testing::Field(&LoosenedLimit::limit, TunnelLimit::target_diameter)));
    // A bar keeps its line whatever a cap loses: main by main a reading saves something. A hone's two mains lead
    // together.
    job.add(TunnelPolicy{.method = TunnelMethod::bore, .parting = 12 * radians_per_degree});
    EXPECT_FALSE(job.work().study->readings.empty());
}

// Until somebody chooses: two thou on diameter in each of the three ways. At 60° off, where a cap cut by c takes c/2
// off the size, there is none yet: c = 4 thou; upright 2·(0.005 mm + 1 thou) would do.
TEST(TunnelWork, TakesTwoThouInTheTightestWay) {
    TunnelJob job;
    job.sizes(60.020, 60.010);
    const TunnelWork w = job.work();
    for (const CapCut& cut : w.study->plan.cuts)
        EXPECT_NEAR(cut.cut, 4 * mm_per_thou, 1e-4);
    EXPECT_NEAR(w.study->plan.rise, 2 * mm_per_thou - 0.005, 1e-4);
    ASSERT_TRUE(w.study->ideal);
    for (const HoneForecast& f : w.study->forecast)
        EXPECT_NEAR(f.cap, f.saddle, 1e-4) << "cap and saddle alike";
}

// Five mains, the middle one low: a line that could be chosen might leave it behind, a hone is pulled down by it. By
// hand: the middle of the third stands 0.020 low, so the line through all five lies 0.004 lower and the third 0.016
// below it.
TEST(TunnelWork, AHoneDoesNotChooseItsLine) {
    std::vector<Housing> mains;
    for (int m = 0; m < 5; ++m) {
        Housing h{{FeatureKind::main, "", m + 1}, {}, 60.010, 0};
        for (const double end : {-8.0, 8.0})
            for (int i = 0; i < 12; ++i) {
                const double a = std::numbers::pi * (i + 0.5) / 6;
                h.points.push_back({100.0 * m + end, 30 * std::sin(a), 30 * std::cos(a) - (m == 2 ? 0.020 : 0)});
            }
        mains.push_back(std::move(h));
    }
    TunnelPolicy policy{.parting = 12 * radians_per_degree};
    const HoneLine line = hone_line(mains, policy);
    EXPECT_NEAR(line.uncut.z(0), -0.004, 1e-9);
    EXPECT_NEAR(line.uncut.z(400), -0.004, 1e-9);
    EXPECT_NEAR(line.with({0.1, 0.1, 0.1, 0.1, 0.1}).z(123), 0.046, 1e-9) << "half of what all caps lose";
    EXPECT_NEAR(line.with({0, 0, 0.1, 0, 0}).z(200), 0.006, 1e-9) << "one of five";

    // Each place gains half of what its cap loses; at the third's cap the bottom is 0.016 − 0.005 outside, so 12 places
    // round, the lowest 15° off the bottom: cos 15°·0.016 − 0.005 = cos 15°·c/2.
    policy.caps = CapCuts::equal;
    const TunnelPlan plan = plan_hone(mains, policy, line);
    ASSERT_TRUE(plan.feasible);
    const double cos15 = std::cos(15 * radians_per_degree);
    EXPECT_NEAR(plan.max_cap_cut, 2 * (cos15 * 0.016 - 0.005) / cos15, 1e-5);
    // The caps are not the only ones to be moved: the third alone, the line lifted by a tenth of its cut.
    policy.caps = CapCuts::each;
    EXPECT_LE(plan_hone(mains, policy, line).max_cap_cut, plan.max_cap_cut + 1e-9);
    policy.replaced = {mains[0].id, mains[1].id, mains[3].id, mains[4].id};
    EXPECT_FALSE(hone_line(mains, policy).leads()) << "one main leads nobody";
}

TEST(TunnelWork, StepsFromCapsToDone) {
    TunnelJob job;
    EXPECT_EQ(job.work().step, TunnelStep::measure);
    job.sizes(60.024, 60.012);
    EXPECT_EQ(job.work().step, TunnelStep::cut_caps);
    const FeatureId one{FeatureKind::main, "", 1}, two{FeatureKind::main, "", 2};
    job.add(CapsCut{{{one, 0.020}, {two, 0.020}}});
    EXPECT_EQ(job.work().step, TunnelStep::torque_caps);
    job.torque();
    EXPECT_EQ(job.work().step, TunnelStep::measure_caps);
    // Upright shrinks by the cut, 60° off by half of it.
    TunnelWork w = job.work();
    ASSERT_EQ(w.predictions.size(), 12U);
    for (const CapPrediction& p : w.predictions)
        EXPECT_NEAR(p.predicted, p.at.direction == "upright" ? 60.004 : 60.002, 1e-9);
    job.sizes(60.004, 60.002); // in size, but not yet cut true: honed to the aim
    w = job.work();
    EXPECT_TRUE(std::ranges::none_of(w.predictions, &CapPrediction::disagrees));
    EXPECT_EQ(w.step, TunnelStep::machine);
    EXPECT_NEAR(w.dwell->left, 0.008, 1e-9);
    job.add(TunnelPass{TunnelPassKind::strokes, 20, {}, false});
    EXPECT_EQ(job.work().step, TunnelStep::measure_work);
    EXPECT_TRUE(std::ranges::all_of(job.work().board, &StockLeft::stale));
    job.sizes(60.008, 60.006); // 0.004 in 20 strokes, 0.004 left at most: 20 more
    w = job.work();
    EXPECT_EQ(w.step, TunnelStep::log_finished);
    ASSERT_TRUE(w.forecast);
    EXPECT_NEAR(w.forecast->per_stroke, 0.0002, 1e-9);
    EXPECT_NEAR(w.forecast->strokes_left, 20, 1e-6);
    job.add(TunnelPass{TunnelPassKind::strokes, 200, {}, false});
    job.sizes(60.025, 60.02);
    EXPECT_EQ(job.work().step, TunnelStep::read_again) << "nobody decides on one reading";
    job.sizes(60.025, 60.02);
    EXPECT_EQ(job.work().step, TunnelStep::too_large);
}

// The first go took 0.004 in 20 strokes, and nobody knows whether the stones met the bore at its beginning or in its
// last two or three; a second one of the same says so.
TEST(TunnelWork, DoesNotTrustTheFirstStrokes) {
    TunnelJob job;
    job.sizes(60.024, 60.012);
    job.add(CapsCut{{{{FeatureKind::main, "", 1}, 0.080}, {{FeatureKind::main, "", 2}, 0.080}}});
    job.torque();
    job.sizes(59.944, 59.972);
    job.add(TunnelPass{TunnelPassKind::strokes, 20, {}, false});
    job.sizes(59.948, 59.972);
    const double unsure = 2 * std::numbers::sqrt2 * 0.0005; // of the difference of two readings
    TunnelWork w = job.work();
    EXPECT_NEAR(w.forecast->strokes_left, 0.062 / 0.0002, 1e-6);
    EXPECT_EQ(w.forecast->at_once, std::floor(0.062 / (8 * (0.004 + unsure) / 20))) << "at eight times the rate";
    job.add(TunnelPass{TunnelPassKind::strokes, 20, {}, false});
    job.sizes(59.952, 59.972);
    w = job.work();
    EXPECT_EQ(w.forecast->at_once, 40) << "borne out: twice the last go";
    job.add(TunnelPass{TunnelPassKind::strokes, 2, {}, false});
    job.sizes(59.9525, 59.972); // less than two readings may differ by
    w = job.work();
    ASSERT_TRUE(w.forecast) << "two strokes alone tell too little, with those before them they do";
    EXPECT_NEAR(w.forecast->per_stroke, 0.0045 / 22, 1e-9);
}

TEST(TunnelWork, NamesWhatIsNotAsCut) {
    TunnelJob job;
    job.sizes(60.024, 60.012);
    job.add(CapsCut{{{{FeatureKind::main, "", 1}, 0.020}, {{FeatureKind::main, "", 2}, 0.020}}});
    job.torque();
    job.sizes(60.010, 60.004); // upright should be 60.004
    const TunnelWork w = job.work();
    EXPECT_EQ(std::ranges::count_if(w.predictions, &CapPrediction::disagrees), 12)
        << "upright by 0.006, 60° off by 0.002: each more than 2√2 · 0.5 µm";
}

TEST(TunnelWork, ANewCutterAsksForTheEstablishingPassAgain) {
    TunnelJob job;
    job.sizes(60.004, 60.002);
    TunnelPolicy bore;
    bore.method = TunnelMethod::bore;
    job.add(bore);
    EXPECT_TRUE(job.work().establishing_due);
    job.add(TunnelPass{TunnelPassKind::establishing, 0, 5.0, false});
    EXPECT_FALSE(job.work().establishing_due);
    job.sizes(60.006, 60.006);
    EXPECT_NEAR(*job.work().next_protrusion, 5.0 + 0.004 / 2, 1e-9) << "t2 = t1 + (wanted − measured)/2";
    job.add(TunnelPass{TunnelPassKind::caps_only, 0, 5.0, true});
    EXPECT_TRUE(job.work().establishing_due);
}

TEST(TunnelWork, AReplacedCapDoesNotCount) {
    TunnelJob job;
    job.sizes(60.040, 60.020);
    TunnelPolicy policy{.parting = 12 * radians_per_degree};
    policy.replaced = {{FeatureKind::main, "", 1}, {FeatureKind::main, "", 2}};
    job.add(policy);
    EXPECT_NEAR(job.work().study->plan.max_cap_cut, 0, 1e-9);
}

TEST(Jacks, AreMovedOnTheLineThroughBothSweeps) { // mains at 20 and 120; jacks at −30 and 170
    const auto b = test::read_small_blueprint();
    const std::vector<SweepFinding> sweeps{{b.mains[0].id, 0.02, -0.01, {}}, {b.mains[1].id, 0.04, 0.01, {}}};
    const auto moves = jack_moves(b, sweeps, {-30, 170});
    ASSERT_EQ(moves.size(), 2U);
    EXPECT_NEAR(moves[0].up, 0.01, 1e-12);
    EXPECT_NEAR(moves[0].towards_3, -0.02, 1e-12);
    EXPECT_NEAR(moves[1].up, 0.05, 1e-12);
    EXPECT_NEAR(moves[1].towards_3, 0.02, 1e-12);
    EXPECT_TRUE(jack_moves(b, {sweeps[0]}, {0}).empty()) << "one sweep gives no line";
}

TEST(TunnelSteps, MainToMainIsHeldAgainstHalfAThou) {
    const auto b = test::read_small_blueprint();
    const auto e = test::evaluate_small(test::small_log().text(), b);
    EvaluationState state{1, 0.001, {}, *e, ""};
    EXPECT_NEAR(judge_tunnel(b, state).step, 0, 1e-7);
    state.evaluation.mains[1].centre.z += 0.012; // u of a step: 2·0.001/√8 = 0.7 µm, twice that is 1.4
    EXPECT_EQ(judge_tunnel(b, state).step_verdict, metrology::Verdict::cannot_tell);
    state.evaluation.mains[1].centre.z += 0.003;
    EXPECT_EQ(judge_tunnel(b, state).step_verdict, metrology::Verdict::fails);
}

/// Five mains at 20, 70, 120, 170, 220.
std::string five_mains() {
    std::string text = test::small_blueprint();
    const std::size_t from = text.find("\"mains\""), to = text.find("\"cam\": {");
    std::string mains;
    for (int n = 1; n <= 5; ++n)
        mains += (n > 1 ? ", " : "") + std::string("{ \"id\": \"main.") + std::to_string(n) +
                 "\", \"x\": " + std::to_string(50 * n - 30) +
                 ", \"diameter\": { \"nominal\": 60, \"lower\": 0, \"upper\": 0.02 } }";
    return text.replace(from, to - from, "\"mains\": [ " + mains + " ],\n ");
}

// Five saddles at +0.04 on an indicator that was not set to 0, main 3 not read: it counted as 0, 0.04 low, and the plan
// took 0.0135 off cap 3.
TEST(TunnelWork, ASaddleThatWasNotReadIsNotZero) {
    std::vector<Entry> entries;
    const auto add = [&entries](Payload payload) {
        entries.push_back({static_cast<std::int64_t>(entries.size() + 1), "", "", std::move(payload)});
    };
    const auto saddle = [](const std::string& main) {
        Reading r = size_reading(main, "", "", 0.04, 0.0005);
        r.at.quantity = Quantity::saddle;
        return r;
    };
    add(JobOpened{"five", "", "b.json", five_mains()});
    add(ConditionsStated{{true, {}, {}, {}, ""}});
    for (int n = 1; n <= 5; ++n)
        for (const char* end : {"front", "rear"})
            for (const char* way : {"upright", "60 left", "60 right"})
                add(size_reading("main." + std::to_string(n), end, way, 60.010, 0.0005));
    for (const char* main : {"main.1", "main.2", "main.4", "main.5"})
        add(saddle(main));
    Folded s = fold(entries);
    ASSERT_TRUE(intake_of(s).troubles.empty()) << intake_of(s).troubles.front().words;
    TunnelWork work = tunnel_work(s, gauge_findings(s), nullptr);
    EXPECT_FALSE(study_tunnel(s)) << "no line is known";
    EXPECT_TRUE(work.to_cut.empty());
    EXPECT_EQ(work.step, TunnelStep::read);
    ASSERT_EQ(work.to_read.size(), 1U);
    EXPECT_EQ(work.to_read.front().feature.text(), "main.3");
    ASSERT_EQ(work.saddles_missing.size(), 1U);
    EXPECT_EQ(work.saddles_missing.front().text(), "main.3");
    ASSERT_TRUE(gauge_findings(s).saddles);
    EXPECT_EQ(gauge_findings(s).saddles->verdict, metrology::Verdict::cannot_tell) << "four in line do not prove five";
    add(saddle("main.3"));
    s = fold(entries);
    work = tunnel_work(s, gauge_findings(s), nullptr);
    ASSERT_TRUE(study_tunnel(s));
    EXPECT_EQ(work.step, TunnelStep::good) << "all alike: a straight line, whatever the indicator was set to";
    EXPECT_EQ(gauge_findings(s).saddles->verdict, metrology::Verdict::meets);
}

TEST(TunnelWork, CuttingACapLeavesTheSaddlesWhereTheyStood) {
    std::vector<Entry> entries;
    const auto add = [&entries](Payload payload) {
        entries.push_back({static_cast<std::int64_t>(entries.size() + 1), "", "", std::move(payload)});
    };
    add(JobOpened{"five", "", "b.json", five_mains()});
    Reading r = size_reading("main.3", "", "", 0.04, 0.0005);
    r.at.quantity = Quantity::saddle;
    add(r);
    add(size_reading("main.3", "front", "upright", 60.010, 0.0005));
    add(CapsCut{{{{FeatureKind::main, "", 3}, 0.02}}});
    const Folded s = fold(entries);
    EXPECT_FALSE(readings_of(s).readings[0].stale());
    EXPECT_TRUE(readings_of(s).readings[1].stale()) << "the size is the cap's too";
}

TEST(TunnelWork, AGoodTunnelIsLeftAlone) {
    TunnelJob job;
    job.add(ProbeLogTaken{"log.csv", "", test::small_log().text(), 0.0005, false}); // mains 60.010, in line
    const TunnelWork unjudged = job.work();
    EXPECT_NE(unjudged.step, TunnelStep::good) << "nobody has judged it yet";
    TunnelVerdict verdict;
    verdict.overall = metrology::Verdict::meets;
    EXPECT_EQ(job.work(&verdict).step, TunnelStep::good);
    verdict.overall = metrology::Verdict::cannot_tell;
    EXPECT_NE(job.work(&verdict).step, TunnelStep::good);
}

namespace {

/// The story's block without the limits that follow these words.
test::Story without_limits_of(const std::string& words) {
    std::string text = test::story_blueprint();
    for (std::size_t at = text.find(words); at != std::string::npos; at = text.find(words, at + 1)) {
        const std::size_t from = text.find(",\"lower\"", at), to = text.find('}', at);
        text.erase(from, to - from);
    }
    test::Story s(text);
    s.add(block::StepDone{"washed"}).add(block::StepDone{"inspected for cracks"}).caps(true);
    return s;
}

} // namespace

// A main with no limits is neither good nor bad: it is measured, and then the limits are asked for, not more readings.
TEST(NoLimits, OfTheMainsAreAskedForOnceTheyAreMeasured) {
    test::Story s = without_limits_of("\"nominal\":60");
    s.probed(30.005);
    EXPECT_EQ(s.called(), "tunnel/limits");
    EXPECT_TRUE(s.metal().empty());
    EXPECT_NE(s.mark(block::Stage::tunnel), StageMark::meets);
    s.add(block::GatePassed{block::Rule::tunnel_first, "tunnel", "its papers say it is good"});
    EXPECT_NE(s.called(), "tunnel/limits");
    EXPECT_NE(s.mark(block::Stage::tunnel), StageMark::meets) << "a reason proves nothing";
    test::Story known;
    known.add(block::StepDone{"washed"}).add(block::StepDone{"inspected for cracks"}).caps(true).probed(30.005);
    EXPECT_EQ(known.mark(block::Stage::tunnel), StageMark::meets);
}

TEST(NoLimits, OfAMainThatWasWorkedOnAllTheSame) {
    test::Story s = without_limits_of("\"nominal\":60");
    s.sizes(60, 60).saddles().strokes(20);
    EXPECT_EQ(s.called(), "tunnel/limits");
    EXPECT_TRUE(s.now().tunnel_work.board.empty()) << "no stock without an aim";
}

TEST(NoLimits, OfADecksHeightAreAskedForAfterItIsCut) {
    test::Story s = without_limits_of("\"nominal\":200");
    s.probed(30.005, 0, 200.03);
    s.add(block::DeckTargetChosen{block::TargetSchool::height, true, 200.03});
    s.deck(block::PassKind::witness, 0.0001);
    s.log(test::log_of(30.005, 0, 200.03));
    EXPECT_EQ(s.called(), "deck.C/limits");
    EXPECT_NE(s.mark(block::Stage::decks), StageMark::meets);
    s.add(block::GatePassed{block::Rule::sign_off, "deck.C", "as the customer wants it"});
    EXPECT_NE(s.called(), "deck.C/limits");
}
