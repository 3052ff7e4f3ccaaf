// SPDX-License-Identifier: GPL-3.0-or-later
// Where a line hone goes and what it cleans, against a simulated one that nobody tells a line: a stiff mandrel, sprung
// stones, wear in proportion to pressure (workshop/line_hone.h).
#include "certainty/coverage.h"
#include "planning/tunnel/hone_line.h"
#include "planning/tunnel/tunnel_study.h"
#include "workshop/line_hone.h"

#include <cmath>
#include <gmock/gmock.h>
#include <numbers>

using namespace pallix;
using namespace pallix::planning;

namespace {

using test::Dice;
using test::even;
using test::normal;

/// Mains of 70 mm, a hundred apart, read at both ends; as worn tunnels are.
std::vector<Housing> worn_tunnel(const std::string& kind, std::size_t count, Dice& dice) {
    constexpr double finished = 70, apart = 100, half = 9;
    constexpr int touches = 24;
    std::vector<Housing> mains;
    const double middle = static_cast<double>(count - 1) / 2, bow = normal(dice, 0.012);
    for (std::size_t m = 0; m < count; ++m) {
        Housing h{{block::FeatureKind::main, "", static_cast<int>(m + 1)}, {}, finished, 0};
        const double far = (static_cast<double>(m) - middle) / middle, spread = kind == "scattered" ? 0.008 : 0.002,
                     up = normal(dice, spread) + (kind == "bowed" ? bow * (1 - far * far) : 0),
                     side = normal(dice, spread / 2), lean = normal(dice, 0.001),
                     oval = kind == "oval" ? normal(dice, 0.008) : normal(dice, 0.002),
                     turn = even(dice, 0, std::numbers::pi), over = std::abs(normal(dice, 0.006));
        for (const double end : {-1.0, 1.0})
            for (int i = 0; i < touches; ++i) {
                const double a = 2 * std::numbers::pi * (i + 0.5) / touches,
                             r = (finished + over) / 2 + oval * std::cos(2 * (a - turn));
                h.points.push_back({apart * static_cast<double>(m) + end * half, side + r * std::sin(a),
                                    up + end * lean + r * std::cos(a)});
            }
        mains.push_back(std::move(h));
    }
    if (kind == "one low")
        for (metrology::Vec3& p : mains[count / 2].points)
            p.z -= 0.03;
    return mains;
}

std::vector<Housing> touched(std::vector<Housing> mains, double noise, Dice& dice) {
    for (Housing& h : mains)
        for (metrology::Vec3& p : h.points)
            p = p + metrology::Vec3{0, normal(dice, noise), normal(dice, noise)};
    return mains;
}

std::vector<Housing> with_caps_cut(std::vector<Housing> mains, const std::vector<CapCut>& cuts) {
    for (std::size_t i = 0; i < mains.size(); ++i)
        for (metrology::Vec3& p : mains[i].points)
            if (p.z < 0)
                p.z += cuts[i].cut;
    return mains;
}

/// No stone is as sharp as the next.
workshop::LineHone worn_stones(std::size_t mains, Dice& dice) {
    workshop::LineHone hone;
    for (std::size_t i = 0; i < 2 * mains; ++i)
        hone.sharpness.push_back(even(dice, 0.5, 1.5));
    return hone;
}

} // namespace

// Five hundred tunnels in the long run (PALLIX_CERTAINTY=25).
TEST(Coverage, OfTheLineThatAHoneWillFollow) {
    constexpr double noise = 0.0008;
    Dice dice(11);
    test::Held all;
    for (const std::string kind : {"plain", "bowed", "scattered", "oval", "one low"})
        for (const auto caps : {block::CapCuts::equal, block::CapCuts::each}) {
            test::Held lines, cleaned;
            for (std::size_t i = 0; i < test::tries(2); ++i) {
                const std::vector<Housing> truth = worn_tunnel(kind, i % 2 == 0 ? 5 : 4, dice);
                TunnelStudy study;
                study.policy = usual_tunnel_policy();
                study.policy.caps = caps;
                study.housings = {HousingSource::probe, touched(truth, noise, dice), noise, {}, {}};
                std::vector<std::vector<Housing>> drawn;
                for (int k = 0; k < 40; ++k)
                    drawn.push_back(touched(study.housings.mains, noise, dice));
                study.plan =
                    plan_hone(study.housings.mains, study.policy, hone_line(study.housings.mains, study.policy));
                ASSERT_TRUE(study.plan.feasible) << kind;
                explain(study, drawn);
                const workshop::HonedTunnel honed =
                    workshop::hone(worn_stones(truth.size(), dice), with_caps_cut(truth, study.plan.cuts));
                for (const HoneForecast& f : study.forecast) {
                    const double x = truth[static_cast<std::size_t>(f.main.number) - 1].mean_x(), u = *f.uncertainty;
                    lines.add(honed.line.z(x), f.rise - 2 * u, f.rise + 2 * u);
                    lines.add(honed.line.y(x), f.side - 2 * u, f.side + 2 * u);
                }
                bool clean = true;
                for (std::size_t m = 0; m < truth.size(); ++m)
                    for (std::size_t k = 0; k < honed.took[m].size(); ++k) {
                        const metrology::Vec3 p = truth[m].points[k];
                        if (std::abs(std::atan2(p.z, std::abs(p.y))) >= study.policy.parting)
                            clean = clean && honed.took[m][k] > 0;
                    }
                cleaned.add_promise(clean, 0);
            }
            const std::string row = kind + (caps == block::CapCuts::each ? ", caps each" : ", caps equal");
            test::CertaintyTable::get().add("line of the hone", row, lines);
            test::CertaintyTable::get().add("line of the hone", "all", lines);
            test::CertaintyTable::get().add("places cleaned by the called caps and the hone", row, cleaned);
            EXPECT_TRUE(test::too_few_to_judge || cleaned.share() >= 0.95) << row << ": " << cleaned.share();
            all += lines;
        }
    EXPECT_GE(all.share(), 0.93 - 2 * std::sqrt(0.07 * 0.93 / static_cast<double>(all.all)));
}
