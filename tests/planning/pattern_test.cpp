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
    EXPECT_EQ(read_pattern(bank({{0.2, 0}, {0.2, 0}})).kind, PatternKind::too_few) << "two holes are no row";
    EXPECT_EQ(read_pattern({}).kind, PatternKind::none);
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

// Holes that merely scatter, by normal and by even chance, whatever the size of it: a pattern is named in 5 % at most.
// 4,000 banks of each length; four standard errors of that many are 1.4 %.
TEST(Pattern, IsNamedInScatterAloneInFivePercentAtMost) {
    std::mt19937 random(20261126);
    std::normal_distribution<double> normal(0, 1);
    std::uniform_real_distribution<double> even(-1.7, 1.7);
    std::lognormal_distribution<double> size(-3, 1); // mm
    constexpr int banks = 4000;
    for (int holes = 3; holes <= 12; ++holes)
        for (const bool by_normal : {true, false}) {
            int named = 0;
            for (int i = 0; i < banks; ++i) {
                const double scale = std::max(0.02, size(random));
                std::vector<Vec2> errors;
                for (int k = 0; k < holes; ++k)
                    errors.push_back(by_normal ? Vec2{scale * normal(random), scale * normal(random)}
                                               : Vec2{scale * even(random), scale * even(random)});
                const PatternKind kind = read_pattern(bank(errors)).kind;
                named += kind != PatternKind::none && kind != PatternKind::too_few ? 1 : 0;
            }
            EXPECT_LE(named, banks * (0.05 + 0.014)) << holes << " holes" << (by_normal ? "" : ", even chance");
        }
}

// A shift that is there is named, or said to be more than so few holes can tell; hardly ever taken for something else.
TEST(Pattern, ACommonShiftIsNamedOrLeftOpen) {
    std::mt19937 random(5);
    std::normal_distribution<double> noise(0, 0.02);
    constexpr int banks = 2000;
    for (int holes = 3; holes <= 12; ++holes) {
        int shift = 0, other = 0;
        for (int i = 0; i < banks; ++i) {
            std::vector<Vec2> errors;
            for (int k = 0; k < holes; ++k)
                errors.push_back({0.1 + noise(random), -0.1 + noise(random)}); // seven times the scatter
            const PatternKind kind = read_pattern(bank(errors)).kind;
            shift += kind == PatternKind::shift ? 1 : 0;
            other += kind != PatternKind::shift && kind != PatternKind::too_few ? 1 : 0;
        }
        EXPECT_GE(shift, banks * (holes == 3 ? 0.85 : 0.9)) << holes << " holes";
        EXPECT_LE(other, banks * 0.08) << holes << " holes";
    }
}

TEST(SizeDrift, NeedsASizeAsWellAsAnOrder) {
    EXPECT_TRUE(read_size_drift({{0, 22.000}, {100, 22.005}, {200, 22.010}, {300, 22.016}}).told);
    EXPECT_FALSE(read_size_drift({{0, 22.0000}, {100, 22.0005}, {200, 22.0010}, {300, 22.0015}}).told)
        << "a thousandth and a half is no wear";
    EXPECT_FALSE(read_size_drift({{0, 22.00}, {100, 22.03}, {200, 22.00}, {300, 22.03}}).told);
    // Scatter alone, eight lifters of one bank.
    std::mt19937 random(8);
    std::normal_distribution<double> noise(0, 0.01);
    int told = 0;
    constexpr int banks = 4000;
    for (int i = 0; i < banks; ++i) {
        std::vector<Vec2> sizes;
        for (int k = 0; k < 8; ++k)
            sizes.push_back({50.0 * k, 22 + noise(random)});
        told += read_size_drift(sizes).told ? 1 : 0;
    }
    EXPECT_LE(told, banks * (0.05 + 0.014));
    EXPECT_GE(told, banks * 0.02) << "by Student's t it is 5 % of those that reach the size";
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
