// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/frame.h"

#include <gtest/gtest.h>
#include <random>

using namespace pallix::block;
using pallix::metrology::unit;
using pallix::metrology::Vec3;

namespace {

void expect_equal(Vec3 a, Vec3 b, double tolerance = 1e-12) {
    EXPECT_NEAR(a.x, b.x, tolerance);
    EXPECT_NEAR(a.y, b.y, tolerance);
    EXPECT_NEAR(a.z, b.z, tolerance);
}

} // namespace

TEST(BankAxes, AreRightHandedAndPointAsDefined) {
    for (const double angle : {0.0, 0.5, -0.5, 0.7854, -1.2}) {
        const BankAxes bank(angle);
        expect_equal(bank.w, {0, std::sin(angle), std::cos(angle)});
        expect_equal(cross(bank.w, bank.u), bank.v);
        expect_equal(cross(bank.u, bank.v), bank.w);
    }
    expect_equal(BankAxes(0).v, {0, 1, 0}); // inline: +v is right, as seen from the rear
    EXPECT_GT(BankAxes(0.5).v.y, 0);        // right bank: +v is away from the valley
    EXPECT_LT(BankAxes(0.5).v.z, 0);
}

TEST(BlockFrame, ThereAndBackIsNowhere) {
    std::mt19937 bits(5);
    std::normal_distribution<double> n(0, 100);
    for (int i = 0; i < 200; ++i) {
        const Vec3 x = unit({n(bits), n(bits), n(bits)});
        const Vec3 z = unit(perpendicular({n(bits), n(bits), n(bits)}, x));
        const BlockFrame frame{{n(bits), n(bits), n(bits)}, x, cross(z, x), z};
        const Vec3 p{n(bits), n(bits), n(bits)}, q{n(bits), n(bits), n(bits)};
        expect_equal(frame.to_machine(frame.to_block(p)), p, 1e-10);
        EXPECT_NEAR(norm(frame.to_block(p) - frame.to_block(q)), norm(p - q), 1e-10) << "distances are kept";
    }
}

TEST(ClockingDirection, PutsADirectionAtItsAngleFromZ) {
    const Vec3 x{1, 0, 0};
    for (const double angle : {0.3, -0.9, 1.4}) {
        const Vec3 direction{0, std::sin(angle), std::cos(angle)}; // stands at the angle from +z towards +y
        expect_equal(z_from_direction(direction, angle, x), {0, 0, 1});
    }
}
