// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/evaluation_uncertainty.h"
#include "block/state/fold.h"
#include "block/state/tunnel_state.h"
#include "planning/lifters/lifter_plan.h"

#include "row_block.h"

#include <gmock/gmock.h>

using namespace pallix;
using namespace pallix::block;
using namespace pallix::planning;
using metrology::Vec2;
using test::lifter_id;
using test::RowJob;

namespace {

/// Both lifters probed, off across by so much and leaning so much; the cam stands 100 above.
Folded probed(const RowJob& job, double v1, double v2, double lean_2 = 0, double diameter = 22.01,
              std::int64_t sequence = 1) {
    Folded s = job.state();
    EvaluationState e;
    e.sequence = sequence;
    e.standard_uncertainty = 0.002;
    e.evaluation.cam = CamResult{0, 100, 100, 0, 0};
    for (const auto& [n, v, lean] : {std::tuple(1, v1, 0.0), std::tuple(2, v2, lean_2)}) {
        const Vec2 top{100.0 * n, v}, bottom{100.0 * n, v - 100 * lean};
        HoleResult h = test::probed_bore(lifter_id(n), top, diameter, bottom, diameter);
        h.error = {0, v};
        h.v_cam = v;
        h.clean_blueprint = diameter + 2 * std::max(std::abs(top.y), std::abs(bottom.y));
        e.evaluation.lifters.push_back(h);
    }
    Uncertainties of_a_micrometre; // places by touches of 1 µm: half of one, and as much by the frame
    for (const char* value : {"lifters[0].u", "lifters[0].v", "lifters[1].u", "lifters[1].v"})
        of_a_micrometre.set(value, 0.0007);
    e.propagated = std::make_shared<const Propagated>(std::move(of_a_micrometre));
    if (!tunnel_of(s).as_found)
        tunnel_of(s).as_found = e;
    tunnel_of(s).latest = e;
    return s;
}

LifterPlanChosen plan() {
    LifterPlanChosen p;
    p.lifter = 21.975;
    p.clearance_least = 0.02;
    p.clearance_most = 0.05;
    p.base_radius = 15;
    p.roller_radius = 8.5;
    p.bush_outside = 24;
    p.interference = 0.03;
    return p;
}

} // namespace

TEST(LifterTiming, RollerByTheHandbooksNumbers) { // asin(0.38/23.5) = 0.927° at the cam, 1.853° at the crankshaft
    const double at_cam = roller_timing({0.38, 0, 90}, 23.5) / radians_per_degree;
    EXPECT_NEAR(at_cam, 0.927, 5e-4);
    EXPECT_NEAR(2 * at_cam, 1.853, 5e-4);
}

TEST(LifterTiming, IsTakenAtTheRollerNotAtTheTop) {
    // Its top stands 90 over the cam, the roller 23.5: 66.5 further down an axis that leans 0.002 it is 0.133 less.
    EXPECT_NEAR(v_at_roller({0.38, 0.002, 90}, 23.5), 0.247, 1e-12);
    EXPECT_NEAR(flat_timing({0.38, 0.002, 90}), std::atan(0.002), 1e-15) << "its place does not matter, its angle does";
}

TEST(LifterTiming, LateOrEarlyByTheWayTheCamTurns) {
    RowJob job;
    job.add(plan());
    const auto left = study_lifters(probed(job, 0.38, -0.38));
    ASSERT_TRUE(left);
    EXPECT_NEAR(*left->each[0].timing / radians_per_degree, -0.927, 5e-4)
        << "+v lies on the side its top comes from: early";
    EXPECT_NEAR(left->before->spread() / radians_per_degree, 2 * 0.927, 1e-3);
    auto p = plan();
    p.cam_turns_left = false;
    job.add(p);
    EXPECT_NEAR(*study_lifters(probed(job, 0.38, -0.38))->each[0].timing / radians_per_degree, 0.927, 5e-4);
}

TEST(LifterPlan, LeaveHoneOrBush) {
    RowJob job;
    job.add(plan());
    const auto in = study_lifters(probed(job, 0.05, 0.05));
    EXPECT_EQ(in->each[0].choice, LifterChoice::leave);
    EXPECT_EQ(in->each[0].reason, LifterReason::in_limits);
    EXPECT_NEAR(*in->each[0].clearance, 0.035, 1e-9);
    EXPECT_EQ(study_lifters(probed(job, 0, 0, 0, 21.985))->each[0].choice, LifterChoice::hone) << "0.010 of clearance";
    EXPECT_EQ(study_lifters(probed(job, 0, 0, 0, 22.04))->each[0].choice, LifterChoice::bush) << "0.065";
    auto p = plan();
    p.position = 0.1;
    job.add(p);
    const auto off = study_lifters(probed(job, 0.38, 0.05));
    EXPECT_EQ(off->each[0].reason, LifterReason::off_place);
    EXPECT_EQ(off->each[1].choice, LifterChoice::leave);
    EXPECT_EQ(*off->each[0].timing_planned, 0) << "bushed on its place";
    p.school = LifterSchool::bush_all;
    job.add(p);
    EXPECT_EQ(study_lifters(probed(job, 0.05, 0.05))->each[1].choice, LifterChoice::bush);
    job.add(LifterDecided{lifter_id(2), LifterChoice::leave, "customer's wish"});
    EXPECT_EQ(study_lifters(probed(job, 0.05, 0.05))->each[1].reason, LifterReason::decided);
}

// Within the guard band of its limit nobody can say that it lies where it should, nor that it does not: probed again
// before anything is cut, and after three logs it is somebody's to decide.
TEST(LifterPlan, NearTheLimitOfItsPlaceItIsProbedAgain) {
    RowJob job;
    auto p = plan();
    p.position = 0.1;
    job.add(p);
    for (const double v : {0.0995, 0.1005}) {
        const Folded s = probed(job, v, 0.02);
        const auto study = study_lifters(s);
        EXPECT_EQ(study->each[0].reason, LifterReason::near_limit) << v;
        EXPECT_EQ(study->each[0].choice, LifterChoice::leave) << "no metal on a doubt";
        const LifterBoard board = lifter_board(s, *study);
        EXPECT_EQ(board.step, LifterStep::prove);
        EXPECT_EQ(board.lifter, lifter_id(1));
        EXPECT_EQ(board.each[0].state, LifterState::near_limit);
        EXPECT_NEAR(*board.each[0].position, v, 1e-12);
    }
    Folded often = probed(job, 0.1005, 0.02);
    for (const std::int64_t log : {1, 5, 6})
        tunnel_of(often).logs.push_back({{log}, {lifter_id(1), lifter_id(2)}});
    EXPECT_EQ(lifter_board(often, *study_lifters(often)).step, LifterStep::cannot_be_told);
    job.add(LifterDecided{lifter_id(1), LifterChoice::leave, "a street engine"});
    const Folded decided = probed(job, 0.1005, 0.02);
    EXPECT_EQ(lifter_board(decided, *study_lifters(decided)).step, LifterStep::done);
}

// Tight on its lifter and near the limit of its place: what is honed now may have to be bushed.
TEST(LifterPlan, ADoubtOfItsPlaceComesBeforeTheHone) {
    RowJob job;
    auto p = plan();
    p.position = 0.1;
    job.add(p);
    const Folded s = probed(job, 0.1005, 0.02, 0, 21.985); // 0.010 of clearance
    const LifterBoard board = lifter_board(s, *study_lifters(s));
    EXPECT_EQ(board.step, LifterStep::prove);
    EXPECT_EQ(board.each[0].state, LifterState::near_limit);
    EXPECT_EQ(board.each[1].state, LifterState::to_cut);
}

TEST(LifterPlan, SaysWhetherTheBushCoversTheMove) {
    RowJob job;
    auto p = plan();
    p.school = LifterSchool::bush_all;
    job.add(p);
    // Seat 23.97; an old bore of 22.01 that stands 0.9 off needs 23.81, one that stands 1.1 off needs 24.21.
    const auto study = study_lifters(probed(job, 0.9, 1.1));
    EXPECT_NEAR(*study->each[0].seat, 23.97, 1e-9);
    EXPECT_EQ(study->each[0].covers, true);
    EXPECT_EQ(study->each[1].covers, false);
    EXPECT_NEAR(*study->each[1].bush_needed, 24.24, 1e-9);
    EXPECT_EQ(lifter_board(probed(job, 0.9, 1.1), *study).step, LifterStep::bush_too_small);
}

TEST(LifterPlan, InterferenceHasNoDefault) {
    RowJob job;
    LifterPlanChosen p = plan();
    p.school = LifterSchool::bush_all;
    p.interference.reset();
    job.add(p);
    const Folded s = probed(job, 0.1, 0.1);
    const auto study = study_lifters(s);
    EXPECT_THAT(study->missing, testing::ElementsAre("interference of the bushes"));
    EXPECT_EQ(lifter_board(s, *study).step, LifterStep::give_numbers);
}

TEST(LifterBoard, AfterACutOfTheTunnelTheyAreMeasuredAnew) {
    RowJob job;
    job.add(plan());
    Folded s = probed(job, 0.05, 0.05);
    EXPECT_EQ(lifter_board(s, *study_lifters(s)).step, LifterStep::done);
    tunnel_of(s).tunnel_cut = 5; // later than the log
    EXPECT_EQ(lifter_board(s, *study_lifters(s)).step, LifterStep::measure);
}

TEST(LifterBoard, SeatIsReachedInFourGoes) { // 10 thou, 5 thou, 1 thou short of it, then honed
    const auto steps = seat_steps(23.97);
    ASSERT_EQ(steps.size(), 4U);
    EXPECT_NEAR(steps[0].to, 23.716, 1e-9);
    EXPECT_EQ(steps[0].operation, BoreOperation::rough);
    EXPECT_NEAR(steps[1].to, 23.843, 1e-9);
    EXPECT_NEAR(steps[2].to, 23.9446, 1e-9);
    EXPECT_EQ(steps[3].operation, BoreOperation::hone);
}

TEST(LifterBoard, OneToolGoesThroughTheRowBeforeTheNext) {
    RowJob job;
    job.add(plan());
    for (const int n : {1, 2})
        job.add(LifterDecided{lifter_id(n), LifterChoice::bush, "both"});
    const auto now = [&] {
        const Folded s = probed(job, 0.38, 0.38);
        return lifter_board(s, *study_lifters(s));
    };
    std::vector<std::string> done;
    for (int go = 0; go < 40 && now().step != LifterStep::prove; ++go) {
        const LifterBoard b = now();
        const auto p = std::ranges::find(b.each, *b.lifter, &LifterProgress::id);
        const std::string which = std::to_string(b.lifter->number);
        if (b.step == LifterStep::cut) {
            done.push_back(which + (p->inside ? "i" : std::to_string(p->tool)));
            job.add(BoreCut{*b.lifter, p->next->operation, p->next->to, {}, false, 0, "", {}, ""});
            job.add(test::size_reading(b.lifter->text(), "top", "across", p->next->to));
        } else {
            ASSERT_EQ(b.step, LifterStep::press);
            done.push_back(which + "p");
            job.add(InsertFitted{*b.lifter, 0, 0.5, 12.0, ""});
        }
    }
    EXPECT_THAT(done, testing::ElementsAre("10", "20", "11", "21", "12", "22", "13", "23", "1p", "2p", "1i", "2i"));
}

TEST(LifterBoard, LeadsFromTheOldBoreToTheProvenBush) {
    RowJob job;
    auto p = plan();
    p.position = 0.1;
    job.add(p); // entry 2
    const auto board = [&](const JobState& s) { return lifter_board(s, *study_lifters(s)); };
    const auto now = [&] { return board(probed(job, 0.38, 0.02)); };
    LifterBoard b = now();
    EXPECT_EQ(b.step, LifterStep::cut);
    EXPECT_EQ(b.lifter, lifter_id(1));
    EXPECT_EQ(b.each[1].state, LifterState::left_alone);
    for (const LifterCutStep& s : seat_steps(23.97)) {
        b = now();
        ASSERT_EQ(b.step, LifterStep::cut);
        EXPECT_NEAR(b.each[0].next->to, s.to, 1e-9);
        job.add(BoreCut{lifter_id(1), s.operation, s.to, {}, false, 0, "", {}, ""});
        if (s.operation != BoreOperation::rough) {
            EXPECT_EQ(now().step, LifterStep::measure_cut);
        }
        job.add(test::size_reading("lifter.C.1", "top", "across", s.to));
    }
    EXPECT_EQ(now().step, LifterStep::press);
    job.add(InsertFitted{lifter_id(1), 0, 0.5, 12.0, ""});
    b = now();
    EXPECT_EQ(b.step, LifterStep::cut) << "its inside";
    EXPECT_NEAR(b.each[0].next->to, 22.01, 1e-9);
    job.add(BoreCut{lifter_id(1), BoreOperation::hone, 22.01, {}, false, 0, "", {}, ""});
    job.add(test::size_reading("lifter.C.1", "top", "across", 22.011));
    EXPECT_EQ(now().step, LifterStep::prove);
    // Probed again after the last cut: on its place.
    Folded s = probed(job, 0.38, 0.02);
    tunnel_of(s).latest = tunnel_of(probed(job, 0.01, 0.02, 0, 22.011, 99)).latest;
    b = board(s);
    EXPECT_EQ(b.step, LifterStep::done);
    EXPECT_EQ(b.each[0].state, LifterState::proven);
    ASSERT_TRUE(b.after);
    EXPECT_NEAR(b.after->spread(), std::asin(0.02 / 23.5) - std::asin(0.01 / 23.5), 1e-12);
    tunnel_of(s).latest = tunnel_of(probed(job, 0.2, 0.02, 0, 22.011, 99)).latest;
    EXPECT_EQ(board(s).step, LifterStep::off_place);
    bores_of(s).bores.at(lifter_id(1)).lifter_decided = {98, {lifter_id(1), LifterChoice::leave, "the owner knows"}};
    EXPECT_EQ(board(s).each[0].state, LifterState::answered) << "left so since it was cut";
    bores_of(s).bores.at(lifter_id(1)).lifter_decided.reset();
    // 0.099 of 0.1 allowed, four touches of 0.002: 0.0014 on the centre, and twice that is too near.
    tunnel_of(s).latest = tunnel_of(probed(job, 0.099, 0.02, 0, 22.011, 99)).latest;
    EXPECT_EQ(board(s).step, LifterStep::prove) << "can't tell yet";
    tunnel_of(s).latest = tunnel_of(probed(job, 0.01, 0.02, 0, 22.011, 99)).latest;
    tunnel_of(s).latest->standard_uncertainty.reset();
    EXPECT_EQ(board(s).step, LifterStep::prove) << "nobody said how sure a touch is";
}
