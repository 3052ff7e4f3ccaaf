// SPDX-License-Identifier: GPL-3.0-or-later
// Figures that plans stand on: read as they are typed, each making the one entry that it belongs to.
#include "planning/common/figures.h"

#include "block/state/bore_state.h"
#include "block/state/deck_state.h"
#include "story.h"

#include <gmock/gmock.h>
#include <numbers>

using namespace pallix;
using namespace pallix::block;
using namespace pallix::planning;
using test::Story;
using testing::HasSubstr;

namespace {

const FeatureId third = *FeatureId::parse("bore.C.3");

template <class Entry>
Entry set(const Story& s, const char* address, const char* typed, Unit bench = Unit::mm) {
    const auto made = set_figure(s.state(), address, third, typed, bench);
    EXPECT_TRUE(made) << (made ? "" : made.error().front().text());
    return made ? std::get<Entry>(*made) : Entry{};
}

std::string refused(const Story& s, const char* address, const char* typed) {
    const auto made = set_figure(s.state(), address, third, typed, Unit::mm);
    return made ? "" : made.error().front().text();
}

} // namespace

TEST(Figures, ALengthIsReadInTheBenchsUnitAndTheRestOfItsEntryStays) {
    Story s;
    PistonsStated pistons;
    pistons.size = 79.95;
    pistons.largest_cut = 1.5;
    s.add(pistons);
    const auto made = set<PistonsStated>(s, "pistons/clearance_mm", "2.5 thou", Unit::inch);
    EXPECT_NEAR(*made.clearance, 0.0635, 1e-12);
    EXPECT_EQ(made.size, 79.95);
    EXPECT_EQ(made.largest_cut, 1.5);
    EXPECT_FALSE(set<PistonsStated>(s, "pistons/size_mm", "").size) << "what need not be stated can be taken back";
}

TEST(Figures, ASizeIsReadInShorthandAndAskedAboutWhereItIsFarFromWhatStands) {
    Story s;
    PistonsStated pistons;
    pistons.size = 79.95;
    s.add(pistons);
    EXPECT_NEAR(*set<PistonsStated>(s, "pistons/size_mm", "+20 µm").size, 79.97, 1e-12);
    EXPECT_THAT(refused(s, "pistons/size_mm", "8.0"), HasSubstr("Once more if it is meant"));
    const auto sure = set_figure(s.state(), "pistons/size_mm", third, "70", Unit::mm, true);
    ASSERT_TRUE(sure);
    EXPECT_NEAR(*std::get<PistonsStated>(*sure).size, 70, 1e-12);
}

TEST(Figures, AStarStandsForTheMarkedBore) {
    Story s;
    PistonsStated pistons;
    pistons.sizes[*FeatureId::parse("bore.C.1")] = 79.9;
    s.add(pistons);
    const auto made = set<PistonsStated>(s, "pistons/sizes_mm.*", "79.95");
    EXPECT_EQ(made.sizes.size(), 2U);
    EXPECT_NEAR(made.sizes.at(third), 79.95, 1e-12);
    EXPECT_NEAR(made.sizes.at(*FeatureId::parse("bore.C.1")), 79.9, 1e-12);
    s.add(made);
    EXPECT_EQ(set<PistonsStated>(s, "pistons/sizes_mm.*", "").sizes.size(), 1U);
}

TEST(Figures, AnglesVolumesRoughnessAndSharesAreTypedAsTheShopSaysThem) {
    const Story s;
    EXPECT_NEAR(*set<EngineFigures>(s, "engine_figures/manifold_face_rad", "10°").manifold_face,
                10 * std::numbers::pi / 180, 1e-12);
    EXPECT_NEAR(*set<EngineFigures>(s, "engine_figures/chamber_mm3", "66 cm³").chamber, 66000, 1e-9);
    EXPECT_NEAR(set<GasketChosen>(s, "gasket/ra_at_most_mm", "1,2").ra_at_most, 0.0012, 1e-15);
    EXPECT_NEAR(*set<TextureLimits>(s, "texture_limits/rvk.least", "0.9").rvk.least, 0.0009, 1e-15);
    EXPECT_NEAR(*set<TextureLimits>(s, "texture_limits/mr2.most", "85").mr2.most, 0.85, 1e-12);
    EXPECT_EQ(set<PassPlanChosen>(s, "pass_plan/spring_passes", "2").spring_passes, 2);
}

TEST(Figures, ListsGritsAndTheChainAreTypedAsAWhole) {
    Story s;
    EXPECT_THAT(set<CylinderPlanChosen>(s, "cylinder_plan/oversizes_mm", "0.5, 0, 0.25").oversizes,
                testing::ElementsAre(0, 0.25, 0.5));
    const auto plan = set<HonePlanChosen>(s, "hone_plan/steps", "150 stone 0.04; 400 stone 0.003; brush 0");
    ASSERT_EQ(plan.steps.size(), 3U);
    EXPECT_EQ(plan.steps[1].grit, "400 stone");
    EXPECT_EQ(plan.steps[2].abrasive, Abrasive::brush);
    EXPECT_THAT(refused(s, "hone_plan/steps", "150 stone"), HasSubstr("each grit with what it leaves"));
    const auto figures = set<EngineFigures>(s, "engine_figures/overhead_chain", "20 40 9.525 180");
    ASSERT_TRUE(figures.overhead_chain);
    EXPECT_EQ(figures.overhead_chain->teeth_cam, 40);
    EXPECT_THAT(refused(s, "engine_figures/overhead_chain", "20 40"), HasSubstr("teeth of crank and cam"));
    s.add(figures);
    EXPECT_FALSE(set<EngineFigures>(s, "engine_figures/overhead_chain", "").overhead_chain);
}

TEST(Figures, AChoiceIsMadeByItsPlaceAndAnotherGasketWantsAnotherFace) {
    const Story s;
    const auto school = choose_figure(s.state(), "deck_target/school", {}, 2);
    ASSERT_TRUE(school);
    EXPECT_EQ(std::get<DeckTargetChosen>(*school).school, TargetSchool::height);
    const auto usual = std::get<GasketChosen>(*standing(s.state(), "gasket"));
    const auto steel = choose_figure(s.state(), "gasket/gasket", {}, 1);
    ASSERT_TRUE(steel);
    EXPECT_EQ(std::get<GasketChosen>(*steel).kind, GasketKind::multilayer_steel);
    EXPECT_LT(std::get<GasketChosen>(*steel).ra_at_most, usual.ra_at_most);
    EXPECT_FALSE(choose_figure(s.state(), "pistons/size_mm", {}, 1));
}

TEST(Figures, WhatCannotBeReadOrIsNoFigureIsSaid) {
    const Story s;
    EXPECT_NE(refused(s, "pistons/hone_stock_mm", "much"), "");
    EXPECT_THAT(refused(s, "pistons/colour", "1"), HasSubstr("is no figure of this job"));
    EXPECT_THAT(refused(s, "deck_cut/depth_mm", "1"), HasSubstr("is no figure of this job")) << "done, not planned";
    EXPECT_FALSE(figure_at(s.state(), "insert_measured/inside_mm")) << "of which bore?";
}

// "_rad" stands in a radius too: 15.2 on a base circle was taken for degrees.
TEST(Figures, ARadiusIsALengthAndNoAngle) {
    Story s;
    for (const char* address :
         {"lifter_plan/base_radius_mm", "lifter_plan/roller_radius_mm", "cutter/nose_radius_mm"}) {
        const auto figure = figure_at(s.state(), address);
        ASSERT_TRUE(figure) << address;
        EXPECT_EQ(figure->unit, FigureUnit::length) << address;
    }
    EXPECT_NEAR(*set<LifterPlanChosen>(s, "lifter_plan/base_radius_mm", "15.2").base_radius, 15.2, 1e-12);
    EXPECT_NEAR(set<CutterFitted>(s, "cutter/nose_radius_mm", "0.047", Unit::inch).nose_radius, 0.047 * 25.4, 1e-12);
    EXPECT_EQ(figure_at(s.state(), "tunnel_plan/parting_rad")->unit, FigureUnit::angle);
}
