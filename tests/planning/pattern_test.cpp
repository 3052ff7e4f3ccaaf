// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/readings/pattern.h"

#include "block/small_block.h"

#include <cmath>
#include <random>

using namespace pallix::planning;
using pallix::block::FeatureId;
using pallix::block::FeatureKind;
using pallix::metrology::Vec2;

namespace {

/// Four bores 100 apart with these errors.
std::vector<PositionError> bank(const std::vector<Vec2>& errors) {
    std::vector<PositionError> out;
    for (std::size_t i = 0; i < errors.size(); ++i)
        out.push_back(
            {{FeatureKind::bore, "R", static_cast<int>(i + 1)}, {100.0 * static_cast<double>(i), 0}, errors[i]});
    return out;
}

} // namespace

TEST(Pattern, ACommonShiftIsNamed) {
    const Pattern p = read_pattern(bank({{0.11, -0.2}, {0.09, -0.2}, {0.11, -0.2}, {0.09, -0.2}}));
    EXPECT_EQ(p.kind, PatternKind::shift);
    EXPECT_NEAR(p.shift.x, 0.10, 1e-12);
    EXPECT_NEAR(p.shift.y, -0.20, 1e-12);
    // By hand: what is left is 4·0.01² of 4·(0.05) + 4·0.01² in all.
    EXPECT_NEAR(p.explained, 1 - 4e-4 / (4 * 0.05 + 4e-4), 1e-12);
}

TEST(Pattern, ARotationGrowsSidewaysAlongTheBank) { // 1 mrad: across by 0.1 more from bore to bore
    const Pattern p = read_pattern(bank({{0.02, -0.15}, {0.02, -0.05}, {0.02, 0.05}, {0.02, 0.15}}));
    EXPECT_EQ(p.kind, PatternKind::rotation);
    EXPECT_NEAR(p.rotation, 0.001, 1e-12);
    EXPECT_NEAR(p.shift.x, 0.02, 1e-12);
    EXPECT_NEAR(p.explained, 1, 1e-9);
}

TEST(Pattern, ADriftGrowsAlongTheBank) {
    const Pattern p = read_pattern(bank({{-0.06, 0}, {-0.02, 0}, {0.02, 0}, {0.06, 0}}));
    EXPECT_EQ(p.kind, PatternKind::drift);
    EXPECT_NEAR(p.drift, 0.4, 1e-9) << "mm per m: 0.04 over 100 mm";
}

TEST(Pattern, OneOddHoleStandsOut) {
    const Pattern p = read_pattern(bank({{0.01, 0.0}, {0.0, 0.01}, {0.21, -0.3}, {0.01, 0.01}}));
    EXPECT_EQ(p.kind, PatternKind::outlier);
    EXPECT_EQ(p.odd.number, 3);
    EXPECT_NEAR(p.odd_by.x, 0.21 - 0.02 / 3, 1e-12);
    EXPECT_GT(p.explained, 0.99);
}

TEST(Pattern, WanderingOrTinyErrorsAreNone) {
    EXPECT_EQ(read_pattern(bank({{0.1, 0.1}, {-0.1, 0.1}, {0.1, -0.1}, {-0.1, -0.1}})).kind, PatternKind::none);
    EXPECT_EQ(read_pattern(bank({{0.002, 0}, {0.002, 0}, {0.002, 0}})).kind, PatternKind::none)
        << "below what is measured";
    EXPECT_EQ(read_pattern(bank({{0.2, 0}, {0.2, 0}})).kind, PatternKind::none) << "two holes are no row";
}

TEST(Pattern, IsFoundAgainUnderScatter) { // each kind hidden in noise of 0.01, a hundred times
    std::mt19937 random(3);
    std::normal_distribution<double> noise(0, 0.01);
    const std::vector<std::pair<PatternKind, std::vector<Vec2>>> truths{
        {PatternKind::shift, {{0.1, -0.1}, {0.1, -0.1}, {0.1, -0.1}, {0.1, -0.1}, {0.1, -0.1}, {0.1, -0.1}}},
        {PatternKind::rotation, {{0, -0.25}, {0, -0.15}, {0, -0.05}, {0, 0.05}, {0, 0.15}, {0, 0.25}}},
        {PatternKind::drift, {{-0.25, 0}, {-0.15, 0}, {-0.05, 0}, {0.05, 0}, {0.15, 0}, {0.25, 0}}},
        {PatternKind::outlier, {{0, 0}, {0, 0}, {0, 0}, {0.1, 0.2}, {0, 0}, {0, 0}}}};
    for (const auto& [kind, errors] : truths) {
        int right = 0;
        for (int i = 0; i < 100; ++i) {
            auto noisy = errors;
            for (Vec2& e : noisy)
                e = e + Vec2{noise(random), noise(random)};
            right += read_pattern(bank(noisy)).kind == kind ? 1 : 0;
        }
        EXPECT_GE(right, 85) << static_cast<int>(kind);
    }
}

TEST(SizeDrift, OfALineByHand) {
    const SizeDrift d = read_size_drift({{0, 22.00}, {100, 22.01}, {200, 22.02}, {300, 22.03}});
    EXPECT_NEAR(d.per_m, 0.1, 1e-9);
    EXPECT_NEAR(d.explained, 1, 1e-9);
    EXPECT_EQ(read_size_drift({{0, 22}, {100, 22}}).explained, 0);
}

TEST(DowelPair, IsHeldAgainstTheBlueprintsPair) {
    using namespace pallix::block;
    Blueprint b;
    b.dowels = {{{FeatureKind::dowel, "R", 1}, {}, {}, 0, -70, {}},
                {{FeatureKind::dowel, "R", 2}, {}, {}, 300, -70, {}}};
    std::vector<DowelResult> measured{{{FeatureKind::dowel, "R", 2}, 300.04, -69.7, 12, 0.04, 0.3},
                                      {{FeatureKind::dowel, "R", 1}, 0, -70, 12, 0, 0}};
    const auto pair = dowel_pair(b, measured, "R");
    ASSERT_TRUE(pair);
    EXPECT_EQ(pair->first.number, 1);
    EXPECT_NEAR(pair->rotation, std::atan2(0.3, 300.04), 1e-12);
    EXPECT_NEAR(pair->distance_error, std::hypot(300.04, 0.3) - 300, 1e-12);
    EXPECT_FALSE(dowel_pair(b, {measured[0]}, "R"));
    EXPECT_FALSE(dowel_pair(b, measured, "L"));
}
