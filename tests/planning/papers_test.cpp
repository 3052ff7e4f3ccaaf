// SPDX-License-Identifier: GPL-3.0-or-later
// What papers tell of a block: places from the dowel, found and left, what is to be expected. Worked out by hand.
#include "block/state/deck_state.h"
#include "planning/common/coordinates.h"
#include "planning/common/outcomes.h"
#include "planning/shop/estimate.h"
#include "story.h"

#include <algorithm>
#include <cmath>

using namespace pallix;
using namespace pallix::block;
using namespace pallix::planning;
using metrology::Vec2;
using metrology::Verdict;

namespace {

/// The mains, the dowel off its place across by `dowel_v`, and cylinders of 80.03 off theirs by `off`.
std::string log_with_bores(const std::vector<Vec2>& off, double dowel_v = 0.03, double radius = 40.015) {
    test::LogWriter w;
    for (std::size_t i = 0; i < test::stations.size(); ++i)
        for (const char* level : {"front", "rear"})
            w.ring_x("main." + std::to_string(i + 1), {test::stations[i] + (level[0] == 'f' ? -8.0 : 8.0), 0, 0},
                     30.005, 12, level);
    w.ring_x("cam.1", {20, 0, 100}, 25).ring_x("cam.2", {220, 0, 100}, 25);
    w.ring_z("dowel.C.1", {0, dowel_v, 200.03}, 6);
    for (const double u : {5.0, 60.0, 120.0, 180.0, 235.0})
        for (const double v : {-45.0, 45.0})
            w.touch("deck.C", {u, v, 200.03});
    for (std::size_t n = 0; n < off.size(); ++n)
        for (int k = 0; k < 8; ++k) {
            const double angle = k * std::numbers::pi / 4;
            w.touch("bore.C." + std::to_string(n + 1),
                    {30 + 60.0 * static_cast<double>(n) + off[n].x + radius * std::cos(angle),
                     off[n].y + radius * std::sin(angle), 190},
                    "top");
        }
    return w.text();
}

const std::vector<Vec2> shifted{{0.02, -0.01}, {0.02, -0.01}, {0.02, -0.01}, {0.02, -0.01}};

CylinderPlanChosen plan_by(CentreSchool centre) {
    CylinderPlanChosen plan;
    plan.centre = centre;
    plan.oversizes = {0.25, 0.5};
    plan.oversize = 0.5;
    return plan;
}

void expect_place(const std::optional<Vec2>& is, double along, double across) {
    ASSERT_TRUE(is);
    EXPECT_NEAR(is->x, along, 1e-6);
    EXPECT_NEAR(is->y, across, 1e-6);
}

const Outcome* told(const std::vector<Outcome>& all, Told what) {
    const auto found = std::ranges::find(all, what, &Outcome::what);
    return found == all.end() ? nullptr : &*found;
}

bool may(const Estimate& e, MayTurnUp what) {
    return std::ranges::find(e.may_turn_up, what) != e.may_turn_up.end();
}

} // namespace

TEST(Coordinates, CountFromWhereTheDowelWasProbed) {
    test::Story s;
    s.log(log_with_bores(shifted)).add(plan_by(CentreSchool::blueprint));
    const auto sheets = coordinate_sheets(s.state(), s.now());
    ASSERT_EQ(sheets.size(), 1u);
    EXPECT_TRUE(sheets[0].origin_measured);
    ASSERT_EQ(sheets[0].holes.size(), 4u);
    for (std::size_t n = 0; n < 4; ++n) {
        const HoleCoordinates& hole = sheets[0].holes[n];
        const double u = 30 + 60.0 * static_cast<double>(n);
        expect_place(hole.blueprint, u, 0);
        expect_place(hole.found, u + 0.02, -0.01 - 0.03); // less the dowel's own place
        expect_place(hole.target, u, -0.03);              // the blueprint's place, from the dowel as it is
        EXPECT_FALSE(hole.as_left);
        EXPECT_NEAR(*hole.found_diameter, 80.03, 1e-6);
    }
}

TEST(Coordinates, OnTheUnwornTopTheTargetIsWhereItWasFound) {
    test::Story s;
    s.log(log_with_bores(shifted)).add(plan_by(CentreSchool::top));
    const auto sheets = coordinate_sheets(s.state(), s.now());
    expect_place(sheets.front().holes.front().target, 30.02, -0.04);
    expect_place(sheets.front().holes.front().found, 30.02, -0.04);
}

TEST(Coordinates, ALogThatComesBackIsHeldAgainstTheTarget) {
    test::Story s;
    s.log(log_with_bores(shifted)).add(plan_by(CentreSchool::blueprint));
    for (int n = 1; n <= 4; ++n)
        s.add(BoreCut{{FeatureKind::bore, "C", n}, BoreOperation::rough, 80.4, 80.4, false, 0, "", {}, "", {}});
    auto sheets = coordinate_sheets(s.state(), s.now());
    EXPECT_FALSE(sheets.front().holes.front().as_left) << "what was probed before the bar says nothing of after";
    s.log(log_with_bores({{0.003, -0.004}, {0, 0}, {0, 0}, {0, 0}}, 0.03, 40.2));
    sheets = coordinate_sheets(s.state(), s.now());
    const HoleCoordinates& hole = sheets.front().holes.front();
    expect_place(hole.found, 30.02, -0.04);
    expect_place(hole.as_left, 30.003, -0.034);
    expect_place(hole.off_target(), 0.003, -0.004);
}

TEST(Coordinates, WithoutADowelLogTheyCountFromTheBlueprints) {
    test::Story s;
    s.add(plan_by(CentreSchool::top));
    const auto sheets = coordinate_sheets(s.state(), s.now());
    ASSERT_EQ(sheets.size(), 1u);
    EXPECT_FALSE(sheets[0].origin_measured);
    EXPECT_FALSE(sheets[0].holes.front().found);
    EXPECT_FALSE(sheets[0].holes.front().target) << "nothing says where to go";
}

TEST(Outcomes, AsFoundIsWhatTheFirstLogSays) {
    test::Story s;
    s.log(test::log_of(30.005, 0, 200.03));
    const auto all = outcomes(s.state(), s.now());
    const Outcome* size = told(all, Told::main_size);
    ASSERT_TRUE(size && size->found);
    EXPECT_NEAR(size->found->least, 60.01, 1e-6);
    EXPECT_NEAR(size->found->most, 60.01, 1e-6);
    EXPECT_FALSE(size->left);
    EXPECT_FALSE(size->worked);
    EXPECT_EQ(size->verdict, Verdict::meets);
    EXPECT_NEAR(*size->limits.lower, 60.00, 1e-9);
    EXPECT_NEAR(*size->limits.upper, 60.02, 1e-9);
    const Outcome* height = told(all, Told::deck_height);
    ASSERT_TRUE(height && height->found);
    EXPECT_NEAR(height->found->most, 200.03, 1e-6);
    EXPECT_EQ(height->verdict, Verdict::meets);
    EXPECT_EQ(told(all, Told::bore_size), nullptr) << "nobody measured a cylinder";
}

TEST(Outcomes, WhatWasCutAndNotMeasuredIsUnproven) {
    test::Story s;
    s.log(test::log_of(30.005, 0, 200.03)).deck(PassKind::pass, 0.05);
    const auto all = outcomes(s.state(), s.now());
    const Outcome* height = told(all, Told::deck_height);
    ASSERT_TRUE(height);
    EXPECT_TRUE(height->unproven());
    EXPECT_FALSE(height->verdict) << "what it was before the cut is no verdict on it now";
    EXPECT_FALSE(told(all, Told::tunnel_line)->worked);
}

TEST(Outcomes, AsLeftIsWhatTheLastLogSays) {
    test::Story s;
    s.log(test::log_of(30.005, 0, 200.08)).deck(PassKind::pass, 0.06);
    s.log(test::log_of(30.005, 0, 200.02));
    const auto all = outcomes(s.state(), s.now());
    const Outcome* height = told(all, Told::deck_height);
    EXPECT_NEAR(height->found->most, 200.08, 1e-6);
    ASSERT_TRUE(height->left);
    EXPECT_NEAR(height->left->most, 200.02, 1e-6);
    EXPECT_EQ(height->verdict, Verdict::meets);
    EXPECT_FALSE(height->unproven());
}

TEST(Outcomes, CapsCutSinceTheLogTakeTheTunnelsVerdictAway) {
    test::Story s;
    s.log(test::log_of(30.005)).cut_caps(0.05);
    const auto all = outcomes(s.state(), s.now());
    const Outcome* line = told(all, Told::tunnel_line);
    ASSERT_TRUE(line && line->found);
    EXPECT_TRUE(line->unproven());
    EXPECT_FALSE(line->verdict);
    EXPECT_FALSE(told(all, Told::main_size)->verdict);
}

TEST(Outcomes, MainsByGaugeBeforeAndAfter) {
    test::Story s;
    s.caps(true).sizes(60.05, 60.05).saddles().cut_caps(0.04).sizes(60.01, 60.02);
    const auto all = outcomes(s.state(), s.now());
    const Outcome* size = told(all, Told::main_size);
    ASSERT_TRUE(size && size->found);
    EXPECT_NEAR(size->found->most, 60.05, 1e-9);
    ASSERT_TRUE(size->left);
    EXPECT_NEAR(size->left->least, 60.01, 1e-9);
    EXPECT_NEAR(size->left->most, 60.02, 1e-9);
}

TEST(Outcomes, FoundByProbeAndLeftByGauge) {
    test::Story s;
    s.log(test::log_of(30.002)).caps(true).cut_caps(0.04).strokes(10);
    const auto before = outcomes(s.state(), s.now());
    EXPECT_TRUE(told(before, Told::main_size)->unproven());
    s.sizes(60.01, 60.012).saddles(0.004);
    const auto all = outcomes(s.state(), s.now());
    const Outcome *size = told(all, Told::main_size), *line = told(all, Told::tunnel_line);
    EXPECT_NEAR(size->found->most, 60.004, 1e-6);
    ASSERT_TRUE(size->left) << "the gauge measured it since";
    EXPECT_NEAR(size->left->least, 60.01, 1e-9);
    EXPECT_NEAR(size->left->most, 60.012, 1e-9);
    EXPECT_EQ(size->verdict, Verdict::meets);
    ASSERT_TRUE(line->left);
    EXPECT_NEAR(line->left->most, 0.004, 1e-9) << "the middle saddle over the line through the ends";
    EXPECT_FALSE(line->unproven());
}

TEST(Estimate, SizesFollowFromWhatWasMeasured) {
    test::Story s;
    s.log(log_with_bores(shifted, 0.03, 40.1)); // 0.2 over: the next size on offer is 0.25
    CylinderPlanChosen plan = plan_by(CentreSchool::top);
    plan.oversize.reset();
    s.add(plan);
    const Estimate e = estimate(s.state(), s.now(), s.entries(), {});
    ASSERT_EQ(e.sizes.size(), 1u);
    EXPECT_DOUBLE_EQ(e.sizes[0].oversize, 0.25);
    EXPECT_NEAR(e.sizes[0].chance, 1, 0.01);
    EXPECT_EQ(e.blocks, 0);
    EXPECT_EQ(e.no_size, 0);
    EXPECT_FALSE(may(e, MayTurnUp::cylinders));
    EXPECT_TRUE(may(e, MayTurnUp::walls));
}

TEST(Estimate, NoSizeOnOfferIsSaid) {
    test::Story s;
    s.log(log_with_bores(shifted, 0.03, 40.4)); // 0.8 over, of 0.25 and 0.5
    CylinderPlanChosen plan = plan_by(CentreSchool::top);
    plan.oversize.reset();
    s.add(plan);
    const Estimate e = estimate(s.state(), s.now(), s.entries(), {});
    EXPECT_TRUE(e.sizes.empty());
    EXPECT_NEAR(e.no_size, 1, 0.01);
    EXPECT_TRUE(may(e, MayTurnUp::no_size_cleans));
}

// Student's t of 7 degrees at (0.25 − 0.15)/(0.05·√(1 + 1/8)) = 1.885618, its density integrated by Simpson's rule:
// 0.949337; four cylinders, each its own way: 0.812235.
TEST(Estimate, BeforeAnythingWasMeasuredTheKindsWearSpeaks) {
    test::Story s;
    Experience experience;
    experience.traits.push_back({Trait::wear, "", 0.15, 0.05, 8});
    s.add(experience);
    CylinderPlanChosen plan = plan_by(CentreSchool::top);
    plan.oversize.reset();
    s.add(plan);
    const Estimate e = estimate(s.state(), s.now(), s.entries(), {});
    ASSERT_TRUE(e.sizes_known);
    EXPECT_EQ(e.blocks, 8);
    ASSERT_FALSE(e.sizes.empty());
    EXPECT_DOUBLE_EQ(e.sizes[0].oversize, 0.25);
    EXPECT_NEAR(e.sizes[0].chance, 0.812235, 1e-5);
    EXPECT_TRUE(may(e, MayTurnUp::cylinders));
    EXPECT_TRUE(may(e, MayTurnUp::cracks));
}

TEST(Estimate, NothingIsSaidOfSizesNobodyKnowsAnythingOf) {
    test::Story s;
    const Estimate e = estimate(s.state(), s.now(), s.entries(), {});
    EXPECT_FALSE(e.sizes_known);
    EXPECT_TRUE(e.sizes.empty());
    EXPECT_FALSE(e.scope.empty());
}

TEST(Estimate, WhatWasLookedForCannotTurnUp) {
    test::Story s;
    s.add(Inspected{Inspection::cracks, "dye", ""});
    EXPECT_FALSE(may(estimate(s.state(), s.now(), s.entries(), {}), MayTurnUp::cracks));
}
