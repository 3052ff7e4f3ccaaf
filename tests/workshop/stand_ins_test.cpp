// SPDX-License-Identifier: GPL-3.0-or-later
#include "workshop/stand_ins.h"

#include "block/evaluation_uncertainty.h"
#include "block/evaluation_values.h"
#include "block/gauge_protocol.h"
#include "workshop/harbour.h"
#include "workshop/practice_block.h"

#include <cmath>
#include <gtest/gtest.h>
#include <numbers>

using namespace pallix;
using namespace pallix::workshop;

TEST(GaugeStandIn, SpeaksTheProtocolTheSameEveryTime) {
    const GaugeStandIn gauge{"ring", "um", {1.5, -2}, 0.1, 4};
    const auto lines = lines_of(gauge);
    EXPECT_EQ(lines, lines_of(gauge));
    ASSERT_EQ(lines.size(), 4U);
    for (std::string line : lines) {
        line.pop_back();
        EXPECT_TRUE(block::read_gauge_line(line)) << line;
    }
    EXPECT_EQ(lines.front(), "pallix-gauge 1 ring\n");
    EXPECT_EQ(lines.back(), "bye\n");
    GaugeStandIn other = gauge;
    other.seed = 5;
    EXPECT_NE(lines_of(other), lines);
}

TEST(ProbeStandIn, PlaysALogLineForLine) {
    const std::string log = "# unit: mm\r\nfeature,x,y,z\nmain.1,1,2,3\nmain.1,4,5,6\n";
    const auto lines = lines_of_probe("probe", log);
    EXPECT_EQ(lines, (std::vector<std::string>{"pallix-gauge 1 probe\n", "log # unit: mm\n", "log feature,x,y,z\n",
                                               "touch 1 main.1,1,2,3\n", "touch 2 main.1,4,5,6\n", "end\n", "bye\n"}));
}

TEST(PracticeBlock, HolesAreFoundWhereTheyWereHidden) {
    PracticeBlock p{workboat_v6(), {}, 0, 0, 0, {}};
    p.decks["R"];
    p.decks["L"];
    p.holes[{block::FeatureKind::bore, "L", 2}] = {{0.05, -0.08}, {0.0002, -0.0001}, 0.03, 0.04, 0.02};
    p.holes[{block::FeatureKind::lifter, "R", 4}] = {{-0.03, 0.06}, {}, 0.01, 0, 0};
    ProbeJob job{.seed = 1, .noise = 0, .tip_radius = 2, .rolled = true};
    job.holes = true;
    const std::vector<block::NamedText> logs{{"p.csv", probe(p, job)}};
    const auto e = block::read_probe_logs(logs, p.blueprint).and_then([&](const auto& set) {
        return block::evaluate(p.blueprint, set);
    });
    ASSERT_TRUE(e) << e.error().front().text();
    ASSERT_EQ(e->bores.size(), 6U);
    ASSERT_EQ(e->lifters.size(), 12U);
    const block::HoleResult& bore = e->bores[4]; // three of the right bank stand before it
    EXPECT_EQ(bore.id.text(), "bore.L.2");
    constexpr double digits = 2e-4; // what the log's decimals carry
    EXPECT_NEAR(bore.error.x, 0.05, digits);
    EXPECT_NEAR(bore.error.y, -0.08, digits);
    EXPECT_NEAR(bore.lean.x, 0.0002, 4e-6);
    EXPECT_NEAR(bore.diameter(), 97.03, digits);
    EXPECT_NEAR(bore.levels[1].diameter, 97.03 + 0.04 * 4 * (48.0 / 103) * (55.0 / 103), digits);
    // An oval of ± 0.005 on radius, touched every 45° from 11.25° on: 2·0.005·cos 22.5°.
    EXPECT_NEAR(bore.levels[0].roundness_mz, 0.01 * std::cos(std::numbers::pi / 8), digits);
    EXPECT_NEAR(e->lifters[3].error.y, 0.06, digits);
    EXPECT_NEAR(*e->lifters[3].v_cam, 0.06, 1e-3);
}

// 2,000 simulated blocks with known truth, each touched with noise that the log states: the 95 % interval of each
// result (± 1.96 u as propagated) must hold the truth in 93 to 97 % of them.
TEST(Coverage, OfTheNinetyFivePercentInterval) {
    block::Blueprint b = tender_inline_four();
    b.mains.resize(3);
    b.bores.resize(1);
    b.clocking = block::Clocking::panrail;
    constexpr double sigma = 0.002; // large against the log's rounding
    PracticeBlock p{b, {}, 0, 0, 0, {}};
    p.decks["C"].offset = 0.08;
    p.holes[{block::FeatureKind::bore, "C", 1}] = {{0.05, -0.03}, {}, 0.04, 0, 0};
    // The stand-in errs along the surface normal: what hangs on touches along the crankshaft is left out here.
    const std::vector<std::pair<std::string, double>> truths{
        {"mains[0].diameter", 58.0065},         {"mains[5].diameter", 58.0065}, {"bores[0].diameter", 82.04},
        {"bores[0].levels[2].diameter", 82.04}, {"bores[0].taper", 0},          {"bores[0].dv", -0.03},
        {"dowels[1].diameter", 14.008}};
    std::vector<int> held(truths.size(), 0);
    std::optional<block::Uncertainties> u; // hangs on where it is touched, not on the noise
    constexpr int blocks = 2000;
    for (int i = 0; i < blocks; ++i) {
        ProbeJob job{
            .seed = static_cast<std::uint64_t>(1000 + i), .noise = sigma, .points_along = 3, .points_across = 2};
        job.holes = true;
        const std::vector<block::NamedText> logs{{"p.csv", probe(p, job)}};
        const auto set = block::read_probe_logs(logs, b);
        ASSERT_TRUE(set) << set.error().front().text();
        if (!u)
            u = block::propagate(b, *set, sigma);
        const auto e = block::evaluate(b, *set, block::Detail::without_zones);
        ASSERT_TRUE(e);
        block::each_value(*e, [&](const block::ValuePlace& place, const block::Field& field) {
            for (std::size_t k = 0; k < truths.size(); ++k)
                if (place.address(field.key) == truths[k].first)
                    held[k] += std::abs(field.value - truths[k].second) <= 1.96 * *u->of(truths[k].first) ? 1 : 0;
        });
    }
    for (std::size_t k = 0; k < truths.size(); ++k) {
        EXPECT_GE(held[k], 0.93 * blocks) << truths[k].first;
        EXPECT_LE(held[k], 0.97 * blocks) << truths[k].first;
    }
}
