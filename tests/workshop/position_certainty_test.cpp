// SPDX-License-Identifier: GPL-3.0-or-later
// How sure a fitted circle and a lifter's place are, against many probings of blocks whose truth is known.
#include "block/evaluation_uncertainty.h"
#include "block/state/tunnel_state.h"
#include "metrology/circle_fit.h"
#include "planning/common/fit_spread.h"
#include "planning/cylinders/placed.h"

#include "sanitized.h"
#include "workshop/harbour.h"
#include "workshop/practice_block.h"

#include <cmath>
#include <gmock/gmock.h>
#include <numbers>
#include <random>

using namespace pallix;
using namespace pallix::block;

// Rings of eight and quarters of one, fitted 4,000 times: a standard deviation of so many is known to 1.1 %.
TEST(FitSpread, IsThatOfCirclesFittedManyTimes) {
    std::mt19937 dice(20261126);
    std::normal_distribution<double> noise(0, 0.001);
    for (const double arc : {360.0, 180.0, 90.0}) {
        constexpr int touches = 8, fits = 4000;
        constexpr double radius = 30;
        MainResult main;
        main.diameter = 2 * radius;
        main.points = touches;
        for (int i = 0; i < touches; ++i) {
            const double t = arc * std::numbers::pi / 180 * i / (arc < 360 ? touches - 1 : touches);
            main.surface.push_back({0, radius * std::cos(t), radius * std::sin(t)});
        }
        double squares = 0;
        for (int k = 0; k < fits; ++k) {
            std::vector<metrology::Vec2> points;
            for (const metrology::Vec3 p : main.surface) {
                const double r = 1 + noise(dice) / radius;
                points.push_back({p.y * r, p.z * r});
            }
            const auto fit = metrology::fit_circle(points);
            ASSERT_TRUE(fit);
            squares += (2 * fit->radius - 2 * radius) * (2 * fit->radius - 2 * radius);
        }
        const double seen = std::sqrt(squares / fits) / 0.001, said = planning::fit_spread(main).diameter;
        EXPECT_NEAR(said / seen, 1, 0.045) << arc << " degrees";
        if (arc == 360) {
            EXPECT_NEAR(said, 2 / std::sqrt(8.0), 1e-9);
        }
        if (arc == 90) {
            EXPECT_GT(said, 5 * 2 / std::sqrt(8.0)) << "a ring's formula would be far too sure";
        }
    }
}

// 60 probings of a sound block: cylinders' and lifters' places lie within twice their uncertainty, the datum frame's
// share in it. Errors of one probing hang together through the frame, so the share may scatter by some 2 %.
TEST(PlaceProof, PlacesLieWithinTwiceTheirUncertainty) {
    const Blueprint truth = workshop::ferry_v8();
    struct Held {
        int all = 0, held = 0, alone = 0;
    } bores, lifters;
    for (std::uint64_t seed = 1; seed <= static_cast<std::uint64_t>(test::fewer(60)); ++seed) {
        workshop::PracticeBlock block{truth, {{"R", {}}, {"L", {}}}, 0, 0, 0, {}};
        workshop::ProbeJob job;
        job.seed = seed;
        job.noise = 0.002;
        job.holes = true;
        const auto probe = read_probe_logs(std::vector<NamedText>{{"log", workshop::probe(block, job)}}, truth);
        ASSERT_TRUE(probe);
        auto state = evaluate_on_top(truth, nullptr, *probe);
        ASSERT_TRUE(state) << state.error().front().text();
        state->standard_uncertainty = 0.002;
        const auto count = [&](const std::vector<HoleResult>& holes, Held& h) {
            for (const HoleResult& hole : holes) {
                const auto u = planning::place_uncertainty(*state, hole);
                ASSERT_TRUE(u);
                const double alone = 0.002 * planning::fit_spread(hole.levels.front()).centre;
                for (const auto& [off, sure] : {std::pair(hole.error.x, u->x), {hole.error.y, u->y}}) {
                    ++h.all;
                    h.held += std::abs(off) <= 2 * sure ? 1 : 0;
                    h.alone += std::abs(off) <= 2 * alone ? 1 : 0;
                }
            }
        };
        count(state->evaluation.bores, bores);
        count(state->evaluation.lifters, lifters);
    }
    for (const Held& h : {bores, lifters}) {
        EXPECT_GT(h.all, 0);
        if (test::sanitized)
            continue; // too few to judge
        EXPECT_GE(h.held, 0.93 * h.all);
        EXPECT_LE(h.held, 0.98 * h.all);
        EXPECT_LT(h.alone, 0.93 * h.all) << "by its own circle alone it would say too much";
    }
}
