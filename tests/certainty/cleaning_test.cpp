// SPDX-License-Identifier: GPL-3.0-or-later
// What is called to clean up with 95 % certainty: all places together.
#include "block/small_block.h"
#include "block/true_mains.h"
#include "certainty/coverage.h"
#include "metrology/uncertainty.h"
#include "planning/tunnel/tunnel_study.h"
#include "workshop/harbour.h"

#include <cmath>
#include <gmock/gmock.h>
#include <numbers>
#include <random>

using namespace pallix;
using namespace pallix::planning;
using metrology::Vec3;

namespace {

using test::Dice;

struct Ring {
    std::string feature, level;
    std::vector<Vec3> points;
};

/// The ferry's mains as they were torqued: too large by what a cap cut takes out, in line or not; its cam and its
/// dowel.
std::vector<Ring> rings_of(const block::Blueprint& b, const std::string& kind, int touches, Dice& dice) {
    std::normal_distribution<double> unit;
    std::vector<Ring> rings;
    const double bow = 0.01 * unit(dice);
    const auto middle = static_cast<double>(b.mains.size() - 1) / 2;
    for (std::size_t m = 0; m < b.mains.size(); ++m) {
        const bool each = kind == "each its own";
        const double far = (static_cast<double>(m) - middle) / middle, over = 0.02 + (each ? 0.006 * unit(dice) : 0),
                     off = each              ? 0.01 * unit(dice)
                           : kind == "bowed" ? bow * far * far
                                             : 0,
                     oval = kind == "oval" ? 0.006 : 0;
        for (const auto& [level, dx] : {std::pair("front", -8.0), std::pair("rear", 8.0)}) {
            Ring ring{b.mains[m].id.text(), level, {}};
            for (int i = 0; i < touches; ++i) {
                const double a = 2 * std::numbers::pi * (i + 0.3) / touches,
                             r = b.mains[m].diameter.middle() / 2 + over / 2 + oval * std::cos(2 * a);
                ring.points.push_back({b.mains[m].x + dx, r * std::sin(a), off + r * std::cos(a)});
            }
            rings.push_back(std::move(ring));
        }
    }
    const auto turn = [](int i) { return 2 * std::numbers::pi * (i + 0.3) / 8; };
    for (const block::MainBlueprint& bearing : b.cam->bearings) {
        Ring ring{bearing.id.text(), "", {}};
        for (int i = 0; i < 8; ++i)
            ring.points.push_back({bearing.x, b.cam->y + 25 * std::cos(turn(i)), b.cam->z + 25 * std::sin(turn(i))});
        rings.push_back(std::move(ring));
    }
    const auto dowel = std::ranges::find(b.dowels, *b.origin_dowel, &block::HoleBlueprint::id);
    const block::BankAxes axes(b.bank(dowel->id.bank)->angle);
    Ring ring{dowel->id.text(), "", {}};
    for (int i = 0; i < 8; ++i)
        ring.points.push_back((dowel->u + 5 * std::cos(turn(i))) * axes.u +
                              (dowel->v + 5 * std::sin(turn(i))) * axes.v + 200 * axes.w);
    rings.push_back(std::move(ring));
    return rings;
}

block::ProbeSet probe_of(const block::Blueprint& b, const std::vector<Ring>& rings, double noise, Dice& dice) {
    std::normal_distribution<double> scatter(0, noise);
    test::LogWriter log;
    for (const Ring& ring : rings)
        for (const Vec3& p : ring.points)
            log.touch(ring.feature, p + Vec3{scatter(dice), scatter(dice), scatter(dice)}, ring.level);
    return *block::read_probe_logs(std::vector<block::NamedText>{{"log", log.text()}}, b);
}

/// The true surface as it lies in the frame that was measured.
std::vector<Housing> true_mains(const std::vector<Ring>& rings, std::vector<Housing> as_measured,
                                const block::BlockFrame& frame) {
    for (Housing& h : as_measured) {
        h.points.clear();
        for (const Ring& ring : rings)
            if (ring.feature == h.id.text())
                for (const Vec3& p : ring.points)
                    h.points.push_back(frame.to_block(p));
    }
    return as_measured;
}

} // namespace

TEST(Coverage, OfTunnelsThatCleanUpAllRound) {
    const block::Blueprint b = workshop::ferry_v8();
    Dice dice(3);
    TunnelPolicy policy{.parting = 12 * block::radians_per_degree};
    for (const std::string kind : {"equal", "each its own", "bowed", "oval"})
        for (const auto caps : {block::CapCuts::each, block::CapCuts::equal}) {
            policy.caps = caps;
            test::Held held;
            for (std::size_t i = 0; i < test::tries(5); ++i) {
                const double noise = i % 3 == 0 ? 0.004 : 0.001;
                const std::vector<Ring> rings = rings_of(b, kind, i % 2 == 0 ? 8 : 16, dice);
                const block::ProbeSet probe = probe_of(b, rings, noise, dice);
                const auto e = block::evaluate(b, probe);
                ASSERT_TRUE(e);
                TunnelStudy study;
                study.policy = policy;
                study.housings = {HousingSource::probe, housings_of(b, *e, policy), noise, {}, {}};
                study.plan = plan_hone(study.housings.mains, policy, hone_line(study.housings.mains, policy));
                std::vector<std::vector<Housing>> drawn;
                block::Evaluation one = *e;
                for (auto& mains : block::draw_mains(b, probe, *e, noise, 300)) {
                    one.mains = std::move(mains);
                    drawn.push_back(housings_of(b, one, policy));
                }
                explain(study, drawn);
                ASSERT_TRUE(study.sure && study.sure->feasible);
                const std::vector<Housing> truth = true_mains(rings, study.housings.mains, e->frame);
                // The hone follows the middles as they truly are. How much deeper than somebody would have to cut who
                // knows where the surface lies.
                const HoneLine followed = hone_line(truth, policy);
                TunnelPlan honed = *study.sure;
                std::vector<double> cuts;
                for (const CapCut& cut : honed.cuts)
                    cuts.push_back(cut.cut);
                honed.line = followed.with(cuts);
                held.add_promise(least_slack(truth, policy, honed) > -1e-6,
                                 study.sure->max_cap_cut - plan_hone(truth, policy, followed).max_cap_cut);
            }
            test::CertaintyTable::get().add(
                "tunnel cleans up, 95 %", kind + (caps == block::CapCuts::each ? ", caps each" : ", caps equal"), held);
            EXPECT_GE(held.share(), 0.95 - 2 * std::sqrt(0.05 * 0.95 / static_cast<double>(held.all))) << kind;
        }
}

// Bores and seats: the least size at which all touches together lie inside with 95 %, for one bore and for eight at
// once.
TEST(Coverage, OfBoresThatCleanUpTogether) {
    Dice dice(5);
    for (const int bores : {1, 8})
        for (const std::string kind : {"round", "oval", "worn"}) {
            test::Held held;
            for (std::size_t i = 0; i < test::tries(200); ++i) {
                constexpr double noise = 0.002;
                double largest = 0; // true radius anywhere, over nominal
                std::vector<double> touched;
                for (int k = 0; k < bores * 24; ++k) {
                    const double a = 2 * std::numbers::pi * k / 8;
                    const double over = kind == "oval"   ? 0.01 * std::cos(2 * a)
                                        : kind == "worn" ? std::max(0.0, 0.02 * std::cos(a))
                                                         : 0;
                    largest = std::max(largest, over);
                    touched.push_back(over + test::normal(dice, noise));
                }
                double radius = 0; // the least that is sure enough, to a tenth of a micrometre
                const auto rooms = [&](double r) {
                    std::vector<double> all;
                    for (const double t : touched)
                        all.push_back(r - t);
                    return all;
                };
                while (metrology::chance_of_all(rooms(radius), noise) < metrology::sure_enough)
                    radius += 0.0001;
                held.add_promise(radius >= largest, radius - largest);
            }
            test::CertaintyTable::get().add("bores clean up together, 95 %", kind + ", " + std::to_string(bores), held);
            EXPECT_GE(held.share(), 0.95 - 2 * std::sqrt(0.05 * 0.95 / static_cast<double>(held.all))) << kind;
        }
}
