// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/cylinders/press_fit.h"

#include <gtest/gtest.h>

using namespace pallix::planning;
using pallix::block::InsertMeasured;
using pallix::metrology::Verdict;

// Lamé's rings in closed form, each of these checked against an axisymmetric finite-element solution apart from it.
TEST(PressFit, LameByClosedForm) {
    const PressStress s = press_stress({0.05, 100, 40, 200, 207000, 207000, 0.3, 0.3});
    EXPECT_NEAR(s.pressure, 33.9609375, 1e-9);
    EXPECT_NEAR(s.parent_hoop, 56.6015625, 1e-9);
    EXPECT_NEAR(s.insert_hoop, -46.8984375, 1e-9);
    EXPECT_NEAR(s.bore_hoop, -80.859375, 1e-9);
    EXPECT_NEAR(s.bore_closes / 2, 0.0078125, 1e-12) << "radially";
    EXPECT_NEAR(s.parent_grows / 2, 0.0109375, 1e-12);
}

TEST(PressFit, DrySleeveInIron) {
    const PressStress s = press_stress({0.06, 100, 94, 125, 110000, 110000, 0.26, 0.26});
    EXPECT_NEAR(s.pressure, 3.18261157755, 1e-9);
    EXPECT_NEAR(s.parent_hoop, 14.4985639, 1e-6);
    EXPECT_NEAR(s.bore_hoop, -54.6840477, 1e-6);
    EXPECT_NEAR(s.bore_closes / 2, 0.0233650022, 1e-9);
    EXPECT_NEAR(press_force(0.1, s.pressure, 100, 140), 13997.8568, 1e-3);
    EXPECT_NEAR(heating_needed(0.06, 0.03, 100, 11e-6), 81.818, 1e-3);
}

TEST(PressFit, SleeveOfTheHandbookAndAnInsertInAluminium) {
    const PressStress s = press_stress({0.03, 108, 102, 122, 110000, 110000, 0.26, 0.26});
    EXPECT_NEAR(s.pressure, 1.1862, 5e-5);
    EXPECT_NEAR(s.parent_hoop, 9.780, 5e-4);
    EXPECT_NEAR(press_force(0.12, s.pressure, 108, 140), 6760, 5);
    const PressStress alu = press_stress({0.12, 35, 28, 60, 200000, 71000, 0.29, 0.33});
    EXPECT_NEAR(alu.pressure, 62.8064806354, 1e-9);
    EXPECT_NEAR(alu.parent_hoop, 127.596324, 1e-6);
    EXPECT_NEAR(alu.parent_grows / 2, 0.0273759901, 1e-9);
}

TEST(Insert, SixReadingsSayWhetherItFits) {
    const InsertShape s = insert_shape({100.010, 100.012, 100.008, 100.010, 100.004, 100.006}, 0.03);
    EXPECT_NEAR(s.mean, 600.05 / 6, 1e-9);
    EXPECT_NEAR(s.spread, 0.008, 1e-9);
    EXPECT_NEAR(s.taper, 0.006, 1e-9);
    EXPECT_NEAR(s.oval, 0.002, 1e-9);
    EXPECT_EQ(s.verdict, Verdict::meets);
    EXPECT_EQ(insert_shape({100.02, 100, 100, 100, 100, 100}, 0.03).verdict, Verdict::cannot_tell);
    EXPECT_EQ(insert_shape({100.04, 100, 100, 100, 100, 100}, 0.03).verdict, Verdict::fails);
}

TEST(Insert, PlanFollowsFromItsReadings) {
    InsertMeasured i;
    i.outside = {108.03, 108.03, 108.03, 108.03, 108.03, 108.03};
    i.inside = 102;
    i.length = 140;
    i.interference = 0.03;
    i.parent_outside = 122;
    const auto p = plan_insert(i, 10.8e-6);
    ASSERT_TRUE(p);
    EXPECT_NEAR(p->seat, 108, 1e-12);
    EXPECT_NEAR(p->stress.pressure, 1.1862, 5e-5);
    EXPECT_NEAR(p->force, 6760, 5);
    EXPECT_NEAR(p->heat, 0.06 / (10.8e-6 * 108), 1e-9);
    EXPECT_NEAR(p->inside_then, 102 - p->stress.bore_closes, 1e-12);
    i.heated = true;
    EXPECT_EQ(plan_insert(i, 10.8e-6)->force, 0);
    i.parent_outside = 107;
    EXPECT_FALSE(plan_insert(i, 10.8e-6)) << "the metal that holds it cannot be smaller than it";
}
