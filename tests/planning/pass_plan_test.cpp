// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/decks/pass_plan.h"

#include <gtest/gtest.h>
#include <numeric>

using namespace pallix::planning;
using pallix::block::PassKind;

namespace {

double sum(const std::vector<Pass>& passes) {
    return std::accumulate(passes.begin(), passes.end(), 0.0, [](double s, const Pass& p) { return s + p.depth; });
}

constexpr double thou = 0.0254;

} // namespace

TEST(PassPlan, WorkedExample) { // 6.5 thou: 1 witness, 4.5 in three passes of 1.5, 1 finishing, two spring passes
    const auto passes = plan_passes(6.5 * thou, usual_passes(), true);
    ASSERT_EQ(passes.size(), 7U);
    EXPECT_EQ(passes[0].kind, PassKind::witness);
    EXPECT_NEAR(passes[0].depth, thou, 1e-12);
    EXPECT_NEAR(passes[1].depth, 1.5 * thou, 1e-12);
    EXPECT_EQ(passes[4].kind, PassKind::finish);
    EXPECT_NEAR(passes[4].depth, thou, 1e-12);
    EXPECT_EQ(passes[6].kind, PassKind::spring);
}

TEST(PassPlan, TakesExactlyWhatIsAskedAndNeverTooDeep) {
    for (const bool first : {true, false})
        for (double remaining = 0.0006; remaining < 1.5; remaining *= 1.13) {
            const auto passes = plan_passes(remaining, usual_passes(), first);
            EXPECT_NEAR(sum(passes), remaining, 1e-12) << remaining;
            for (const Pass& p : passes) {
                EXPECT_GE(p.depth, 0);
                const double most = remaining > roughing_from ? roughing_pass : 2 * thou;
                EXPECT_LE(p.depth, most + 1e-9) << remaining;
            }
        }
}

TEST(PassPlan, RoughsWhileMuchMustComeOff) {
    const auto passes = plan_passes(40 * thou, usual_passes(), true);
    EXPECT_GT(passes[1].depth, 8 * thou);
    EXPECT_LE(passes[passes.size() - 4].depth, 2 * thou) << "the last passes are light again";
}

TEST(PassPlan, NothingToCutIsNoPass) {
    EXPECT_TRUE(plan_passes(0, usual_passes(), true).empty());
    EXPECT_TRUE(plan_passes(-0.1, usual_passes(), false).empty());
}

TEST(PassPlan, ChosenFiguresCount) {
    const auto passes = plan_passes(0.2, {0, 0.1, 0, 0}, true);
    ASSERT_EQ(passes.size(), 2U);
    EXPECT_NEAR(passes[0].depth, 0.1, 1e-12);
    EXPECT_EQ(passes[0].kind, PassKind::pass);
}

// 6.5 thou in all, clean somewhere in the last three before the finish: two of 1.25 and a witness, three of a thou.
TEST(PassPlan, GoesInHalfPassesWhereItMayBeCleanAlready) {
    const auto passes = plan_passes(6.5 * thou, usual_passes(), true, 3 * thou);
    std::vector<double> depths;
    for (const Pass& p : passes)
        if (p.kind != PassKind::spring)
            depths.push_back(p.depth / thou);
    const std::vector<double> expected{1, 1.5, 1, 1, 1, 1};
    ASSERT_EQ(depths.size(), expected.size());
    for (std::size_t i = 0; i < depths.size(); ++i)
        EXPECT_NEAR(depths[i], expected[i], 1e-9) << i;
}