// SPDX-License-Identifier: GPL-3.0-or-later
// Roughness parameters from one trace of 5.6 mm, against the same bore traced a hundred times as far.
#include "certainty/coverage.h"
#include "planning/cylinders/texture.h"

#include <array>
#include <cmath>
#include <gmock/gmock.h>

using namespace pallix;
using test::Dice;
using test::normal;

namespace {

/// A wall: noise with a length of correlation, cut off above to a plateau, and scratches across it.
block::ProfileTrace wall(const std::string& kind, int points, Dice& dice) {
    block::ProfileTrace t;
    t.profile.step = 0.001;
    const double kept = std::exp(-t.profile.step / 0.012);
    double z = 0;
    for (int i = 0; i < points; ++i) {
        z = kept * z + std::sqrt(1 - kept * kept) * normal(dice, 0.0006);
        t.profile.heights.push_back(kind == "plateau" ? std::min(z, 0.0003) : z);
    }
    if (kind != "random")
        for (int scratch = 0; scratch < points / 120; ++scratch) {
            const auto at = static_cast<int>(test::even(dice, 10, points - 10));
            const double depth = test::even(dice, 0.0005, 0.003);
            for (int k = -8; k <= 8; ++k)
                if (at + k >= 0 && at + k < points)
                    t.profile.heights[static_cast<std::size_t>(at + k)] -= depth * (1 - std::abs(k) / 9.0);
        }
    return t;
}

} // namespace

/// Honed unevenly: every place of the bore has a roughness of its own.
TEST(Coverage, OfRoughnessFromTracesAtSeveralPlaces) {
    Dice dice(81);
    for (const double uneven : {0.0, 0.12, 0.3}) {
        const auto trace = [&dice, uneven](int points) {
            block::ProfileTrace t = wall("scratched", points, dice);
            const double coarse = std::exp(normal(dice, uneven));
            for (double& z : t.profile.heights)
                z *= coarse;
            return t;
        };
        std::array<double, 7> truth{};
        constexpr int places = test::fewer(200);
        for (int i = 0; i < places; ++i) {
            const auto one = planning::judge_texture({trace(5600)}, {});
            ASSERT_TRUE(one);
            for (std::size_t k = 0; k < truth.size(); ++k)
                truth[k] += one->checks[k].value / places;
        }
        for (const std::size_t many : {2U, 5U}) {
            std::map<std::string, test::Held> held;
            for (std::size_t i = 0; i < test::tries(60); ++i) {
                std::vector<block::ProfileTrace> traces;
                for (std::size_t k = 0; k < many; ++k)
                    traces.push_back(trace(5600));
                const auto found = planning::judge_texture(traces, {});
                ASSERT_TRUE(found);
                for (std::size_t k = 0; k < found->checks.size(); ++k) {
                    const planning::TextureCheck& c = found->checks[k];
                    held[c.name].add(truth[k], c.value - 2 * *c.uncertainty, c.value + 2 * *c.uncertainty);
                }
            }
            for (const auto& [name, h] : held) {
                test::CertaintyTable::get().add("texture " + name,
                                                "places differ by " + std::to_string(std::lround(100 * uneven)) +
                                                    " %, " + std::to_string(many) + " traces",
                                                h);
                if (test::too_few_to_judge)
                    continue;
                // Two places that differ by more than is usual say little of a third.
                const double expected = uneven < 0.2 ? 0.93 : many == 2 ? 0.85 : 0.9;
                EXPECT_GE(h.share(), expected - 3 * std::sqrt(0.05 * 0.95 / static_cast<double>(h.all)))
                    << many << " " << name;
            }
        }
    }
}

TEST(Coverage, OfRoughnessFromOneTrace) {
    Dice dice(8);
    for (const std::string kind : {"random", "scratched", "plateau"}) {
        std::array<double, 7> truth{};
        constexpr int many = test::fewer(10);
        for (int i = 0; i < many; ++i) {
            const auto longer = planning::judge_texture({wall(kind, 56'000, dice)}, {});
            ASSERT_TRUE(longer);
            for (std::size_t k = 0; k < truth.size(); ++k)
                truth[k] += longer->checks[k].value / many;
        }
        std::map<std::string, test::Held> held;
        for (std::size_t i = 0; i < test::tries(60); ++i) {
            const auto found = planning::judge_texture({wall(kind, 5600, dice)}, {});
            ASSERT_TRUE(found);
            for (std::size_t k = 0; k < found->checks.size(); ++k) {
                const planning::TextureCheck& c = found->checks[k];
                ASSERT_TRUE(c.uncertainty);
                held[c.name].add(truth[k], c.value - 2 * *c.uncertainty, c.value + 2 * *c.uncertainty);
            }
        }
        for (const auto& [name, h] : held) {
            test::CertaintyTable::get().add("texture " + name, kind, h);
            if (test::too_few_to_judge)
                continue;
            // The peaks that a plateau has left are few and uneven: of them one trace tells less than it seems to.
            const double expected = kind == "plateau" && name == "Rpk" ? 0.8 : 0.93;
            const double by_chance = 3 * std::sqrt(0.05 * 0.95 / static_cast<double>(h.all)); // 21 shares are looked at
            EXPECT_GE(h.share(), expected - by_chance) << kind << " " << name;
        }
    }
}
