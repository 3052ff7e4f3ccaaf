// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/number_text.h"
#include "block/state/bore_state.h"
#include "block/state/fold.h"
#include "block/state/tunnel_state.h"
#include "planning/cylinders/honing.h"

#include "planning/common/sources.h"
#include "planning/cylinders/cylinder_work.h"
#include "planning/cylinders/texture.h"
#include "row_block.h"

#include <gmock/gmock.h>

using namespace pallix;
using namespace pallix::block;
using namespace pallix::planning;
using metrology::Verdict;
using test::bore_id;
using test::rough_bored;
using test::RowJob;

namespace {

HoneBoard hone_board(const RowJob& job) {
    const Folded s = job.state();
    return hone_board(s, *study_cylinders(s, {}));
}

void hone(RowJob& job, double size, const std::string& time = "2026-03-02T09:00:00Z",
          const std::string& grit = "220 stone") {
    BoreCut c{bore_id(1), BoreOperation::hone, 80.5, {}, false, 40, grit, 45.0, ""};
    job.add(c);
    job.sizes(bore_id(1), size, time);
}

void state_plate(RowJob& job, bool on, std::optional<double> part_c = {}) {
    Conditions c;
    c.plate_on = on;
    c.caps_torqued = true;
    c.part_c = part_c;
    job.add(ConditionsStated{c});
}

void read(RowJob& job, const char* level, const char* way, double size) {
    job.add(test::size_reading("bore.C.1", level, way, size, 0.0005));
}

} // namespace

TEST(CrossHatch, ByHandAndBackwards) { // π·100·170 = 53407 mm/min; there and back 2·150·110 = 33000: 2·atan = 63.4°
    const HoneMotion m{100, 170, 150, 110, true};
    EXPECT_NEAR(cross_hatch(m) / radians_per_degree, 63.42, 5e-3);
    EXPECT_NEAR(rate_for_cross_hatch(m, cross_hatch(m)), 110, 1e-9);
    HoneMotion one_way = m;
    one_way.there_and_back = false;
    EXPECT_NEAR(std::tan(cross_hatch(one_way) / 2), std::tan(cross_hatch(m) / 2) / 2, 1e-12);
    // Bore 86 at 150 rev/min runs at 40.5265 m/min; 45° asks for 16.7866 m/min along it.
    const double rate = rate_for_cross_hatch({86, 150, 100, 0, true}, 45 * radians_per_degree);
    EXPECT_NEAR(rate * 2 * 100 / 1000, 16.786644671, 1e-8);
    // 20 along, 34.641016 round: 60°.
    EXPECT_NEAR(cross_hatch({34.641016 / std::numbers::pi, 1, 10, 1, true}) / radians_per_degree, 60, 1e-6);
}

// Seen at 45 where speed and strokes make 63.42: the machine goes slower up and down than it says, by
// tan 22.5° / tan 31.71°; so many more strokes a minute would make them.
TEST(CrossHatch, SeenOnTheWallItTellsWhatTheMachineDoes) {
    const HoneMotion m{100, 170, 150, 110, true};
    const HatchSeen slow = hatch_seen(m, 45 * radians_per_degree);
    EXPECT_TRUE(slow.off());
    EXPECT_NEAR(slow.rate, 110 * 0.617896 / 0.414214, 0.02);
    EXPECT_FALSE(slow.counted_twice);
    EXPECT_FALSE(hatch_seen(m, 60 * radians_per_degree).off()) << "nobody reads it nearer than that";
    // A stroke counted one way only halves the axial speed: 2·atan(tan 31.71° / 2) = 34.34°.
    EXPECT_TRUE(hatch_seen(m, 35 * radians_per_degree).counted_twice);
}

TEST(HoneBoard, ShowsStockLeftAndTheStep) {
    RowJob job = rough_bored();
    HoneBoard b = hone_board(job);
    ASSERT_EQ(b.bores.size(), 1U);
    EXPECT_NEAR(b.bores[0].most, 0.1, 1e-9);
    EXPECT_EQ(b.bores[0].step, 0U) << "the coarse stone: more is left than it leaves";
    EXPECT_EQ(b.step, HoneStep::hone);
    hone(job, 80.48); // 0.02 left: the second step leaves 0.015
    EXPECT_EQ(hone_board(job).bores[0].step, 1U);
    hone(job, 80.49); // 0.010: the third
    EXPECT_EQ(hone_board(job).bores[0].step, 2U);
    hone(job, 80.4985); // 0.0015: the brush
    EXPECT_EQ(hone_board(job).bores[0].step, 3U);
    hone(job, 80.5049);
    b = hone_board(job);
    EXPECT_EQ(b.step, HoneStep::hone) << "in size after the last stone: the brush is still to come";
    EXPECT_EQ(b.bores[0].step, 3U);
    hone(job, 80.505, "2026-03-02T09:00:00Z", "brush");
    b = hone_board(job);
    EXPECT_FALSE(b.bores[0].step);
    EXPECT_EQ(b.bores[0].verdict, Verdict::meets);
    EXPECT_EQ(b.step, HoneStep::dress);
    EXPECT_THAT(b.steps_left, testing::SizeIs(3));
    for (const std::string& step : bore_steps())
        job.add(BoreStepDone{bore_id(1), step, {}, "looked at"});
    EXPECT_EQ(hone_board(job).step, HoneStep::done);
}

TEST(HoneBoard, AsksForThePlateFirst) {
    RowJob job = rough_bored();
    job.add(ConditionsStated{});
    EXPECT_EQ(hone_board(job).step, HoneStep::put_plate_on);
    Conditions without;
    without.plate_on = false; // decided: no plate
    job.add(ConditionsStated{without});
    EXPECT_EQ(hone_board(job).step, HoneStep::put_plate_on) << "and the caps?";
    without.caps_torqued = true;
    job.add(ConditionsStated{without});
    EXPECT_EQ(hone_board(job).step, HoneStep::measure) << "it was read with one";
    job.sizes(bore_id(1), 80.4);
    EXPECT_EQ(hone_board(job).step, HoneStep::hone);
}

TEST(HoneBoard, ABoreReadWithoutItsPlateGivesNoStock) {
    RowJob job = rough_bored();
    state_plate(job, false);
    job.sizes(bore_id(1), 80.41);
    state_plate(job, true);
    EXPECT_FALSE(hone_board(job).bores[0].measured) << "as last read it stood free";
    EXPECT_EQ(hone_board(job).step, HoneStep::measure);
    job.sizes(bore_id(1), 80.405);
    EXPECT_EQ(hone_board(job).step, HoneStep::hone);
}

TEST(HoneBoard, NothingIsHonedWithoutThePlateThatItWasReadWith) {
    RowJob job = rough_bored();
    ASSERT_EQ(hone_board(job).step, HoneStep::hone);
    state_plate(job, false);
    EXPECT_EQ(hone_board(job).step, HoneStep::put_plate_on) << "off for the night, or for good?";
    EXPECT_TRUE(hone_board(job).bores[0].plate_off);
    RowJob on_again = job;
    state_plate(on_again, true);
    EXPECT_EQ(hone_board(on_again).step, HoneStep::hone) << "what was read with it stands";
    RowJob warmer = job;
    state_plate(warmer, false, 22.0);
    EXPECT_EQ(hone_board(warmer).step, HoneStep::put_plate_on) << "what was said is the temperature";
    state_plate(job, false);
    EXPECT_EQ(hone_board(job).step, HoneStep::measure) << "for good: as it stands now nobody has read it";
    job.sizes(bore_id(1), 80.41);
    EXPECT_EQ(hone_board(job).step, HoneStep::hone);
    EXPECT_NEAR(hone_board(job).bores[0].most, 0.09, 1e-9) << "80.50 − 80.41: not the mean with 80.40";
}

TEST(HoneBoard, ABoreThatIsDoneStaysDoneWithoutItsPlate) {
    RowJob job = rough_bored();
    hone(job, 80.505, "2026-03-02T09:00:00Z", "brush");
    ASSERT_EQ(hone_board(job).step, HoneStep::dress);
    for (int said = 0; said < 2; ++said) {
        state_plate(job, false);
        EXPECT_EQ(hone_board(job).step, HoneStep::dress);
        EXPECT_EQ(hone_board(job).bores[0].verdict, Verdict::meets);
    }
    Conditions free;
    free.plate_on = free.caps_torqued = false;
    job.add(ConditionsStated{free});
    EXPECT_EQ(hone_board(job).step, HoneStep::dress) << "nothing is left that caps matter to";
}

TEST(HoneBoard, NothingIsHonedWithTheCapsOff) {
    RowJob job = rough_bored();
    Conditions c;
    c.plate_on = true;
    c.caps_torqued = false;
    job.add(ConditionsStated{c});
    EXPECT_EQ(hone_board(job).step, HoneStep::put_plate_on);
}

TEST(HoneBoard, NamesTheShapeAndWhereToDwell) {
    const auto shape_of = [](std::array<double, 6> sizes) { // top across, top along, middle…, bottom…
        RowJob job = rough_bored();
        BoreCut c{bore_id(1), BoreOperation::hone, 80.5, {}, false, 40, "", {}, ""};
        job.add(c);
        std::size_t i = 0;
        for (const char* level : {"top", "middle", "bottom"})
            for (const char* way : {"across", "along"})
                read(job, level, way, sizes[i++]);
        return hone_board(job).bores.at(0);
    };
    EXPECT_EQ(shape_of({80.46, 80.46, 80.46, 80.46, 80.46, 80.46}).shape, BoreShape::even);
    const HoneBore taper = shape_of({80.47, 80.47, 80.46, 80.46, 80.45, 80.45});
    EXPECT_EQ(taper.shape, BoreShape::tight_bottom);
    EXPECT_EQ(taper.dwell, "bottom");
    EXPECT_NEAR(taper.shape_by, 0.02, 1e-9);
    EXPECT_EQ(shape_of({80.44, 80.44, 80.46, 80.46, 80.46, 80.46}).dwell, "top");
    const HoneBore barrel = shape_of({80.46, 80.46, 80.48, 80.48, 80.46, 80.46});
    EXPECT_EQ(barrel.shape, BoreShape::barrel);
    EXPECT_EQ(barrel.dwell, "") << "lighter, and let it rest: no dwelling mends it";
    const HoneBore waist = shape_of({80.47, 80.47, 80.45, 80.45, 80.47, 80.47});
    EXPECT_EQ(waist.shape, BoreShape::waist);
    EXPECT_EQ(waist.dwell, "middle");
    const HoneBore oval = shape_of({80.47, 80.45, 80.47, 80.45, 80.47, 80.45});
    EXPECT_EQ(oval.shape, BoreShape::oval);
    EXPECT_NEAR(oval.shape_by, 0.02, 1e-9);
}

TEST(HoneBoard, TooLargeIsSaidAtOnce) {
    RowJob job = rough_bored();
    hone(job, 80.52);
    EXPECT_EQ(hone_board(job).step, HoneStep::too_large);
    EXPECT_EQ(hone_board(job).bores[0].verdict, Verdict::fails);
}

TEST(Rest, AnAluminiumBlockIsRestedAndMeasuredAgain) {
    RowJob job = rough_bored("aluminium");
    hone(job, 80.505, "2026-03-02T10:00:00Z", "brush");
    HoneBoard b = hone_board(job);
    EXPECT_TRUE(b.aluminium);
    EXPECT_EQ(b.step, HoneStep::rest) << "in size, but warm";
    job.add(RestBegun{40, "2026-03-02T10:45:00Z"}, "2026-03-02T10:05:00Z");
    b = hone_board(job);
    EXPECT_THAT(b.again, testing::ElementsAre(bore_id(1)));
    EXPECT_EQ(b.step, HoneStep::check_again);
    job.sizes(bore_id(1), 80.500, "2026-03-02T10:30:00Z"); // too early
    EXPECT_EQ(hone_board(job).step, HoneStep::check_again);
    job.sizes(bore_id(1), 80.503, "2026-03-02T10:46:00Z");
    EXPECT_EQ(hone_board(job).step, HoneStep::dress);
    EXPECT_NEAR(hone_board(job).bores[0].most, -0.003, 1e-9) << "only what was read at rest counts";
    EXPECT_FALSE(hone_board(rough_bored()).aluminium);
}

TEST(Texture, IsHeldAgainstWhatTheRingsWant) {
    block::ProfileTrace t;
    t.profile.step = 0.001;
    for (int i = 0; i < 5600; ++i)
        t.profile.heights.push_back(0.001 * std::sin(2 * std::numbers::pi * i * 0.001 / 0.05));
    TextureLimits limits;
    limits.ra = {0.0005, 0.0007};
    limits.rz = {{}, 0.0015};
    const auto f = judge_texture({t}, limits);
    ASSERT_TRUE(f);
    EXPECT_NEAR(f->roughness.ra, 0.001 * 2 / std::numbers::pi, 2e-6) << "a short wave passes the filter whole";
    EXPECT_EQ(f->checks[0].verdict, Verdict::meets);
    EXPECT_EQ(f->checks[1].verdict, Verdict::fails) << "2 µm from crest to trough, 1.5 wanted";
    EXPECT_EQ(f->short_wave, 0.0025) << "that goes with 0.8 mm";
    EXPECT_TRUE(f->ends_whole);
    ASSERT_TRUE(f->checks[0].uncertainty);
    EXPECT_LT(*f->checks[0].uncertainty, 1e-8) << "every cutoff length shows the same";
    EXPECT_EQ(usual_texture_limits().size(), 3U);
    // Rougher towards one end: what one length shows says little of the next, and 0.0007 is not proven kept.
    for (std::size_t i = 0; i < 5600; ++i)
        t.profile.heights[i] *= 0.4 + 1.2 * static_cast<double>(i) / 5600;
    EXPECT_EQ(judge_texture({t}, limits)->checks[0].verdict, Verdict::cannot_tell);
    t.profile.heights.resize(2000); // two and a half cutoffs: one and a half are left
    EXPECT_EQ(judge_texture({t}, limits)->checks[0].verdict, Verdict::cannot_tell) << "too short to tell its spread";
    EXPECT_FALSE(judge_texture({t}, limits)->ends_whole);
    t.profile.heights.assign(5600, 0.0);
    EXPECT_FALSE(judge_texture({t}, limits));
}

namespace {
block::ProfileTrace sine_of(double amplitude) {
    block::ProfileTrace t;
    t.profile.step = 0.001;
    for (int i = 0; i < 5600; ++i)
        t.profile.heights.push_back(amplitude * std::sin(2 * std::numbers::pi * i * 0.001 / 0.05));
    return t;
}
} // namespace

TEST(Texture, TracesOfOneWallAreOneStatement) { // Student with 2 + 2 degrees of freedom: 2.776
    const auto f = judge_texture({sine_of(0.0009), sine_of(0.0010), sine_of(0.0011)}, {});
    ASSERT_TRUE(f);
    EXPECT_EQ(f->traces, 3U);
    EXPECT_NEAR(f->checks[0].value, 0.001 * 2 / std::numbers::pi, 2e-6);
    ASSERT_TRUE(f->checks[0].uncertainty);
    // Squares of what they scatter, 2 of 0.0001², and twice a tenth of 0.001, squared: all as of 4.
    const double of_one = std::sqrt((2 * 1e-8 + 2 * 1e-8) / 4);
    EXPECT_NEAR(2 * *f->checks[0].uncertainty, 2.7764 * of_one * 2 / std::numbers::pi / std::sqrt(3), 1e-6);
    block::ProfileTrace other = sine_of(0.005);
    other.cutoff = 0.25;
    const auto without = judge_texture({other, sine_of(0.001)}, {});
    EXPECT_EQ(without->traces, 1U);
    EXPECT_EQ(without->left_out, 1U);
    EXPECT_NEAR(without->checks[0].value, 0.001 * 2 / std::numbers::pi, 2e-6);
}

TEST(Texture, OfAWallThatWasCutSinceSaysNothingOfTheWallAsItIs) {
    const auto trace_of = [](double amplitude) {
        std::string text = "# pallix-trace: 1\nx,z\n";
        const block::ProfileTrace wave = sine_of(amplitude);
        for (std::size_t i = 0; i < wave.profile.heights.size(); ++i)
            text += block::short_number(static_cast<double>(i) * 0.001) + "," +
                    block::short_number(wave.profile.heights[i] * 1000) + "\n";
        return TraceTaken{bore_id(1), "wall.trace.csv", "", text};
    };
    RowJob job;
    EXPECT_FALSE(texture_of(bores_of(job.state()), bore_id(1)));
    job.add(trace_of(0.002));
    EXPECT_FALSE(texture_of(bores_of(job.state()), bore_id(1))->before_cut);
    BoreCut stroke;
    stroke.bore = bore_id(1);
    stroke.operation = BoreOperation::hone;
    stroke.strokes = 10;
    job.add(stroke);
    const auto stale = texture_of(bores_of(job.state()), bore_id(1));
    ASSERT_TRUE(stale);
    EXPECT_TRUE(stale->before_cut);
    job.add(trace_of(0.001));
    const auto now = texture_of(bores_of(job.state()), bore_id(1));
    EXPECT_FALSE(now->before_cut);
    EXPECT_EQ(now->traces, 1U) << "the one from before the strokes is not averaged with it";
    EXPECT_NEAR(now->checks[0].value, 0.001 * 2 / std::numbers::pi, 2e-6);
}

TEST(CylinderWork, PlacesByAProbeAreMeasuredAnewOnceTheTunnelIsCut) {
    RowJob job;
    CylinderPlanChosen plan;
    plan.oversizes = {0, 0.25};
    job.add(plan);
    Folded s = job.state();
    EvaluationState e;
    e.sequence = 1;
    for (int n = 1; n <= 4; ++n)
        e.evaluation.bores.push_back(
            test::probed_bore(bore_id(n), {100.0 * n - 40, 0.01}, 80.02, {100.0 * n - 40, 0.01}, 80.02));
    tunnel_of(s).as_found = tunnel_of(s).latest = e;
    EXPECT_EQ(cylinder_work(s, {})->step, CylinderStep::bore);
    tunnel_of(s).tunnel_cut = 5;
    EXPECT_EQ(cylinder_work(s, {})->step, CylinderStep::measure);
}

TEST(CylinderWork, PistonsThatDoNotCleanABoreUpAreAskedAbout) {
    RowJob job;
    for (int n : {1, 2, 3, 4})
        job.sizes(bore_id(n), n == 2 ? 80.40 : 80.02);
    PistonsStated p;
    p.clearance = 0.05;
    p.size = 80.20; // finish 80.25
    job.add(p);
    EXPECT_EQ(cylinder_work(job.state(), {})->step, CylinderStep::decide_size);
    EXPECT_EQ(cylinder_work(job.state(), {})->bore, bore_id(2));
    p.sizes[bore_id(2)] = 80.45; // one of its own
    job.add(p);
    EXPECT_EQ(cylinder_work(job.state(), {})->step, CylinderStep::bore);
}

TEST(CylinderWork, GoesFromRuinToProofByWayOfASleeve) {
    RowJob job;
    for (int n : {1, 2, 3, 4})
        job.sizes(bore_id(n), n == 3 ? 82.5 : 80.02);
    CylinderPlanChosen plan;
    plan.oversizes = {0, 0.25, 0.5};
    job.add(plan);
    const auto work = [&job] { return *cylinder_work(job.state(), {}); };
    EXPECT_EQ(work().step, CylinderStep::decide_size);
    EXPECT_EQ(work().bore, bore_id(3)) << "the one that no size holds";
    job.add(BoreDecided{bore_id(3), BoreChoice::sleeve, "cracked rim"});
    EXPECT_EQ(work().step, CylinderStep::measure_sleeve);
    InsertMeasured i;
    i.bore = bore_id(3);
    i.outside = {84.08, 84.0, 84.03, 84.03, 84.03, 84.03};
    i.inside = 78;
    i.length = 140;
    i.interference = 0.03;
    i.parent_outside = 100;
    job.add(i);
    EXPECT_EQ(work().step, CylinderStep::refuse_sleeve) << "0.08 of spread on 0.03 of interference";
    i.outside.fill(84.03);
    job.add(i);
    EXPECT_EQ(work().step, CylinderStep::bore);
    EXPECT_EQ(work().bore, bore_id(3));
    job.cut(3, BoreOperation::rough, 84, 84);
    job.sizes(bore_id(3), 84);
    EXPECT_EQ(work().step, CylinderStep::press);
    job.add(InsertFitted{bore_id(3), 0.1, {}, {}, ""});
    EXPECT_EQ(work().step, CylinderStep::measure_neighbours);
    EXPECT_THAT(work().neighbours, testing::ElementsAre(bore_id(2), bore_id(4)));
    job.sizes(bore_id(2), 80.01);
    job.sizes(bore_id(4), 80.01);
    EXPECT_EQ(work().step, CylinderStep::bore);
    EXPECT_EQ(work().bore, bore_id(3)) << "the sleeve's own bore, still the worst";
    ASSERT_EQ(work().sleeves.size(), 1U);
    EXPECT_TRUE(work().sleeves[0].fitted);
    EXPECT_EQ(work().sleeves[0].proud, 0.1);
    const auto sources = sources_of(job.state(), bore_id(3));
    EXPECT_THAT(sources, testing::IsSupersetOf({27, 29, 30, 37}));
}

// Brushed, and by a micrometre too small: the finest stone goes again by what it is known to take, leaving nothing for
// a brush that was through already.
TEST(HoneBoard, ProposesTheStrokesOfAStoneThatFollowsTheBrush) {
    RowJob job = rough_bored();
    hone(job, 80.460, "2026-03-02T09:00:00Z", "400 stone"); // forty strokes, 0.060: 0.0015 a stroke
    hone(job, 80.499, "2026-03-02T09:00:00Z", "brush");
    const HoneBore b = hone_board(job).bores.front();
    ASSERT_TRUE(b.to_hone);
    ASSERT_TRUE(b.rate);
    ASSERT_TRUE(b.strokes) << "a person would take twenty, and be over";
    EXPECT_LE(*b.strokes, 3);
    EXPECT_GE(*b.strokes, 1);
}
