// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/state/fold.h"
#include "block/state/tunnel_state.h"
#include "planning/cylinders/cylinder_plan.h"
#include "planning/cylinders/size_choice.h"

#include "metrology/enclosing_circle.h"
#include "row_block.h"

#include <CGAL/Min_circle_2.h>
#include <CGAL/Min_circle_2_traits_2.h>
#include <CGAL/Simple_cartesian.h>
#include <gmock/gmock.h>
#include <random>

using namespace pallix;
using namespace pallix::block;
using namespace pallix::planning;
using metrology::Vec2;
using test::bore_id;
using test::RowJob;

namespace {

/// A job whose cylinders were probed: diameters at top and bottom, all on one offset across.
Folded probed(const RowJob& job, const std::vector<double>& tops, double v = 0, double worn = 0) {
    Folded s = job.state();
    EvaluationState e;
    e.sequence = 1;
    for (std::size_t i = 0; i < tops.size(); ++i) {
        const Vec2 at{100.0 * static_cast<double>(i) + 60, v};
        e.evaluation.bores.push_back(
            test::probed_bore(bore_id(static_cast<int>(i) + 1), at, tops[i], at, tops[i] + worn));
    }
    tunnel_of(s).latest = e;
    tunnel_of(s).as_found = e;
    return s;
}

CylinderPlanChosen plan_of(CentreSchool centre, std::optional<double> oversize = {}) {
    CylinderPlanChosen p;
    p.centre = centre;
    p.oversizes = {0, 0.25, 0.5, 0.75, 1.0};
    p.oversize = oversize;
    return p;
}

block::Reading wall(int bore, const std::string& level, const std::string& direction, double thickness) {
    block::Reading r = test::size_reading(bore_id(bore).text(), level, direction, thickness);
    r.at.quantity = Quantity::wall;
    return r;
}

} // namespace

TEST(EnclosingCircleOfABore, AgreesWithAnIndependentLibrary) { // CGAL
    using Traits = CGAL::Min_circle_2_traits_2<CGAL::Simple_cartesian<double>>;
    std::mt19937 random(11);
    std::normal_distribution<double> noise(0, 0.02);
    std::uniform_real_distribution<double> turn(0, 6.283185307179586);
    for (int trial = 0; trial < 200; ++trial) {
        std::vector<Vec2> points;
        std::vector<Traits::Point> theirs;
        for (int i = 0; i < 24; ++i) {
            const double a = turn(random), r = 40 + noise(random);
            points.push_back({160 + r * std::cos(a), 0.2 + r * std::sin(a)});
            theirs.emplace_back(points.back().x, points.back().y);
        }
        const CGAL::Min_circle_2<Traits> circle(theirs.begin(), theirs.end(), true);
        EXPECT_NEAR(metrology::enclosing_circle(points).radius, std::sqrt(circle.circle().squared_radius()), 1e-9);
    }
}

TEST(Oversize, IsSetByTheWorstAndNamedWithoutIt) {
    RowJob job;
    job.add(plan_of(CentreSchool::top));
    const auto study = study_cylinders(probed(job, {80.05, 80.05, 80.05, 80.60}), {});
    ASSERT_TRUE(study);
    const CommonSize* top = study->by(CentreSchool::top);
    ASSERT_TRUE(top);
    EXPECT_EQ(top->oversize, 0.75);
    EXPECT_EQ(top->set_by, bore_id(4));
    EXPECT_NEAR(top->needed_over, 0.60, 1e-9);
    EXPECT_EQ(top->without, 0.25) << "0.05 over fits +0.25";
    EXPECT_EQ(study->oversize, 0.75);
    EXPECT_EQ(study->order.front(), bore_id(4)) << "worst first: the others are not spoiled if it does not clean";
}

TEST(Oversize, PitsCountTwiceAndMarginOnce) {
    RowJob job;
    auto plan = plan_of(CentreSchool::top);
    plan.margin = 0.02;
    job.add(plan);
    job.add(BorePitted{bore_id(2), 0.3, "middle", "left", "rust"});
    job.add(BorePitted{bore_id(2), 0.1, "top", "right", ""});
    const auto study = study_cylinders(probed(job, {80.05, 80.05, 80.05, 80.05}), {});
    ASSERT_TRUE(study);
    EXPECT_NEAR(study->bore(bore_id(2))->by(CentreSchool::top)->needed, 80.05 + 0.6 + 0.02, 1e-9);
    EXPECT_EQ(study->by(CentreSchool::top)->oversize, 0.75);
    EXPECT_EQ(study->by(CentreSchool::top)->set_by, bore_id(2));
}

TEST(Oversize, ASleevedBoreSetsNone) {
    RowJob job;
    job.add(plan_of(CentreSchool::top));
    job.add(BoreDecided{bore_id(4), BoreChoice::sleeve, "window in the wall"});
    const auto study = study_cylinders(probed(job, {80.05, 80.05, 80.05, 83}), {});
    ASSERT_TRUE(study);
    EXPECT_EQ(study->oversize, 0.25);
    EXPECT_EQ(study->order.front(), bore_id(4)) << "its seat is bored first";
    RowJob undecided;
    undecided.add(plan_of(CentreSchool::top));
    const auto without = study_cylinders(probed(undecided, {80.05, 80.05, 80.05, 83}), {});
    EXPECT_FALSE(without->oversize) << "nothing in the list holds 83";
    EXPECT_EQ(without->by(CentreSchool::top)->without, 0.25);
}

TEST(Oversize, ABankShiftedAlikeCostsTheShiftTwiceAboutTheBlueprint) {
    RowJob job;
    job.add(plan_of(CentreSchool::blueprint));
    const auto study = study_cylinders(probed(job, {80.01, 80.01, 80.01, 80.01}, 0.2), {});
    ASSERT_TRUE(study);
    EXPECT_EQ(study->by(CentreSchool::top)->oversize, 0.25);
    const SchoolNeed* need = study->bore(bore_id(1))->by(CentreSchool::blueprint);
    EXPECT_NEAR(need->needed, 80.01 + 0.4, 1e-9);
    EXPECT_EQ(study->oversize, 0.5);
    EXPECT_NEAR(study->bore(bore_id(1))->centre->y, 0, 1e-12);
}

TEST(Oversize, AGaugeAloneTellsABracket) { // unworn 80.00, worn 80.12: all of it may lie on one side
    RowJob job;
    job.sizes(bore_id(1), 80.00);
    job.add(test::size_reading("bore.C.1", "middle", "across", 80.24));
    const auto study = study_cylinders(job.state(), {});
    ASSERT_TRUE(study);
    const SchoolNeed* need = study->bore(bore_id(1))->by(CentreSchool::top);
    EXPECT_NEAR(need->needed, 80.24, 1e-9);
    EXPECT_NEAR(need->needed_at_most, 80.48, 1e-9);
    EXPECT_EQ(need->oversize, 0.5);
    EXPECT_FALSE(study->by(CentreSchool::blueprint)) << "a gauge does not know where the blueprint is";
}

TEST(LimitedCentre, GoesAsFarAsTheSizeAllows) {
    // A round bore of 80 that stands 0.3 off: at 80.5 its far side allows 0.25 of the way.
    RowJob job;
    job.add(plan_of(CentreSchool::limited, 0.5));
    const auto study = study_cylinders(probed(job, {80, 80, 80, 80}, 0.3), {});
    ASSERT_TRUE(study);
    const auto& limited = study->bore(bore_id(2))->limited;
    ASSERT_TRUE(limited);
    EXPECT_NEAR(limited->moved, 0.25, 1e-9);
    EXPECT_NEAR(limited->left, 0.05, 1e-9);
    EXPECT_NEAR(limited->share, 5.0 / 6, 1e-9);
    EXPECT_NEAR(study->bore(bore_id(2))->centre->y, 0.05, 1e-9);
    EXPECT_EQ(limited->by, LimitedBy::size);
    // At 80.75 it gets there.
    const auto more = limited_centre(study->bore(bore_id(2))->found, 40.375, 0.375);
    ASSERT_TRUE(more);
    EXPECT_NEAR(more->left, 0, 1e-9);
    EXPECT_EQ(more->by, LimitedBy::nothing);
    // Below its own size nothing cleans up anywhere on the way.
    EXPECT_FALSE(limited_centre(study->bore(bore_id(2))->found, 39.99, 0));
}

TEST(LimitedCentre, GoesNoFurtherThanAWall) {
    // Left wall 4.0; at 80.5 the radius takes 0.25 everywhere and the move all of the rest down to 3.7: 0.05 of 0.3.
    RowJob job;
    auto plan = plan_of(CentreSchool::limited, 0.5);
    plan.wall_thrust = 3.7;
    plan.wall = 2.5;
    job.add(plan);
    job.add(wall(2, "top", "left", 4.0));
    job.add(wall(2, "top", "right", 4.0));
    job.add(wall(2, "top", "rear", 3.0));
    const auto study = study_cylinders(probed(job, {80, 80, 80, 80}, 0.3), {});
    ASSERT_TRUE(study);
    const CylinderNeed& n = *study->bore(bore_id(2));
    ASSERT_TRUE(n.limited);
    EXPECT_NEAR(n.limited->moved, 0.05, 1e-9);
    EXPECT_EQ(n.limited->by, LimitedBy::wall);
    EXPECT_EQ(n.limited->wall, "top, left");
    EXPECT_NEAR(n.found.walls[0].planned, 3.7, 1e-9);
    EXPECT_NEAR(n.found.walls[1].planned, 4.0 - 0.25 + 0.05, 1e-9) << "it moves away from the right";
    EXPECT_NEAR(n.found.walls[2].planned, 2.75, 1e-9);
    EXPECT_FALSE(n.thin());
    EXPECT_TRUE(n.found.walls[0].thrust);
    EXPECT_FALSE(n.found.walls[2].thrust);
}

TEST(LimitedCentre, WearBelowTheRimMayNeedTheMove) {
    // Worn 0.4 to the left below an unworn rim: about the rim it needs 80.4 + 0.4, a little to the left less.
    FoundCylinder f;
    f.top = Vec2{60, 0};
    f.blueprint = {60, -0.2};
    f.points = {{60, 40}, {60, -40.4}, {100, 0}, {20, 0}};
    EXPECT_FALSE(limited_centre(f, 40.15, 0.2)) << "no centre on the way";
    const auto at = limited_centre(f, 40.25, 0.2);
    ASSERT_TRUE(at);
    EXPECT_NEAR(at->share, 1, 1e-9) << "at the blueprint both sides are within 40.2";
}

// A wall already under its least let a place through that lay 0.2 outside the bore.
TEST(LimitedCentre, AThinWallDoesNotMakeTheBoreCleanUp) {
    FoundCylinder f;
    f.top = Vec2{60, 0};
    f.blueprint = {60, -0.2};
    f.points = {{60, 40.5}, {60, -40}, {100, 0}, {20, 0}}; // worn to the right, away from the blueprint
    EXPECT_FALSE(limited_centre(f, 40.3, 0.2)) << "0.2 outside at the top, more on the way";
    WallAt thin;
    thin.before = 3.0;
    thin.least = 3.5;
    thin.outwards = {0, -1};
    f.walls = {thin};
    EXPECT_FALSE(limited_centre(f, 40.3, 0.2)) << "and no thin wall changes that";
    const auto held = limited_centre(f, 40.6, 0.2);
    ASSERT_TRUE(held) << "where it does clean up it stays where it is";
    EXPECT_EQ(held->share, 0);
    EXPECT_EQ(held->by, LimitedBy::wall);
}

TEST(Walls, BeforeIsKeptBesideAfter) {
    RowJob job;
    auto plan = plan_of(CentreSchool::top, 0.5);
    plan.wall_thrust = 3.8;
    job.add(plan);
    job.add(wall(1, "top", "left", 3.9));
    const Folded before = probed(job, {80, 80, 80, 80});
    const auto study = study_cylinders(before, {});
    const WallAt& w = study->bore(bore_id(1))->found.walls.at(0);
    EXPECT_NEAR(w.planned, 3.65, 1e-9);
    EXPECT_TRUE(w.thin()) << "3.65 where 3.8 is wanted: stated, not refused";
    job.cut(1, BoreOperation::rough, 80.4);
    job.add(wall(1, "top", "left", 3.68));
    const auto after = study_cylinders(probed(job, {80, 80, 80, 80}), {});
    const WallAt& cut = after->bore(bore_id(1))->found.walls.at(0);
    EXPECT_NEAR(cut.before, 3.9, 1e-12);
    ASSERT_TRUE(cut.after);
    EXPECT_NEAR(*cut.after, 3.68, 1e-12);
}

// Cylinder 2 needs 0.40, the others 0.10; 0.25 and 0.50 are on offer, walls of 4.0 beside bores of 80.00.
TEST(SizeChoice, SaysWhatTheNextSizeCostsTheOthersAndWhatASleeveDoes) {
    RowJob job;
    for (int n = 1; n <= 4; ++n)
        job.sizes(bore_id(n), n == 2 ? 80.40 : 80.10);
    job.add(wall(1, "top", "left", 4.0));
    job.add(wall(2, "top", "left", 1.0));
    job.add(wall(3, "top", "left", 3.8));
    CylinderPlanChosen plan;
    plan.oversizes = {0.25, 0.5};
    plan.wall_thrust = 3.55;
    job.add(plan);
    const Folded s = job.state();
    const auto study = study_cylinders(s, {});
    EXPECT_NEAR(*study->oversize, 0.5, 1e-12);
    const SizeChoice c = size_choice(s, *study, bore_id(2));
    EXPECT_NEAR(*c.all_at, 0.5, 1e-12);
    EXPECT_NEAR(*c.stay_at, 0.25, 1e-12) << "without the one that sets it";
    EXPECT_NEAR(c.more_off, 0.25, 1e-12);
    EXPECT_EQ(c.others, 3U);
    EXPECT_NEAR(*c.wall, 3.8 - (80.5 - 80.10) / 2, 1e-9) << "of the others: its own does not count";
    EXPECT_EQ(c.wall_of, bore_id(3));
    EXPECT_EQ(c.beside, (std::vector{bore_id(1), bore_id(3)}));
    EXPECT_FALSE(c.thin);
    plan.wall_thrust = 3.65;
    job.add(plan);
    const Folded stricter = job.state();
    EXPECT_TRUE(size_choice(stricter, *study_cylinders(stricter, {}), bore_id(2)).thin);
    plan.oversizes = {0.25};
    job.add(plan);
    const Folded short_list = job.state();
    EXPECT_FALSE(size_choice(short_list, *study_cylinders(short_list, {}), bore_id(2)).all_at)
        << "none is large enough";
}
