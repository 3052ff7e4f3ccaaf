// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/drawing/size_text.h"

#include <cmath>
#include <gtest/gtest.h>

using namespace pallix::block;

namespace {

struct Written {
    const char* text;
    Unit bench;
    double nominal; // mm
    std::optional<double> lower, upper;
};

class SizeText : public testing::TestWithParam<Written> {};

} // namespace

TEST_P(SizeText, IsReadAsItIsMeant) {
    const auto& [text, bench, nominal, lower, upper] = GetParam();
    const auto size = read_size(text, bench);
    ASSERT_TRUE(size) << text << ": " << size.error();
    EXPECT_NEAR(size->nominal, nominal, 1e-9) << text;
    ASSERT_EQ(size->lower.has_value(), lower.has_value()) << text;
    ASSERT_EQ(size->upper.has_value(), upper.has_value()) << text;
    EXPECT_NEAR(size->lower.value_or(0), lower.value_or(0), 1e-9) << text;
    EXPECT_NEAR(size->upper.value_or(0), upper.value_or(0), 1e-9) << text;
    // What it is written as is read as the same.
    const auto again = read_size(size_text(*size, bench), bench);
    ASSERT_TRUE(again) << size_text(*size, bench);
    EXPECT_NEAR(again->nominal, size->nominal, 1e-5);
    EXPECT_EQ(again->whole(), size->whole());
}

INSTANTIATE_TEST_SUITE_P(
    Ways, SizeText,
    testing::Values(Written{"58", Unit::mm, 58, {}, {}}, Written{" 58,5 ", Unit::mm, 58.5, {}, {}},
                    Written{"2.9370-2.9380", Unit::inch, 2.937 * 25.4, 0, 0.0254},
                    Written{"2.9380 – 2.9370", Unit::inch, 2.937 * 25.4, 0, 0.0254},
                    Written{"57.99 to 58.01 mm", Unit::mm, 57.99, 0, 0.02},
                    Written{"58 +0.018 0", Unit::mm, 58, 0, 0.018}, Written{"58 0 +0.018", Unit::mm, 58, 0, 0.018},
                    Written{"58 +.018/-.002", Unit::mm, 58, -0.002, 0.018},
                    Written{"58 -0,02 -0,05", Unit::mm, 58, -0.05, -0.02}, Written{"58 +0.018", Unit::mm, 58, 0, 0.018},
                    Written{"58 −0.018", Unit::mm, 58, -0.018, 0}, Written{"215 ±0.05", Unit::mm, 215, -0.05, 0.05},
                    Written{"215 +/- .05", Unit::mm, 215, -0.05, 0.05},
                    Written{"215+-0.05", Unit::mm, 215, -0.05, 0.05},
                    Written{"4 in +.5 thou 0", Unit::mm, 101.6, 0, 0.0127},
                    Written{"101.6 mm +12 µm 0", Unit::inch, 101.6, 0, 0.012}, Written{"58 H6", Unit::mm, 58, 0, 0.019},
                    Written{"58H6", Unit::mm, 58, 0, 0.019}, Written{"64 H7", Unit::mm, 64, 0, 0.030},
                    Written{"90 H7", Unit::mm, 90, 0, 0.035}, Written{"58 JS7", Unit::mm, 58, -0.015, 0.015},
                    Written{"2 in H7", Unit::mm, 50.8, 0, 0.030}));

TEST(SizeTextFaults, SayWhatIsExpected) {
    for (const char* text :
         {"", "H6", "58 0.018", "58 +0.018 0 +0.01", "58 Q6", "58 H12", "58 H1111111111111111111111", "58 H6 +1",
          "0 ±0.1", "-58", "58 +18", "58-68", "58 ±0,5x", "600 H7", "58 +", "58 to", "58 cm"})
        EXPECT_FALSE(read_size(text, Unit::mm)) << text;
    EXPECT_NE(read_size("58 +18 0", Unit::mm).error().find("hundredth"), std::string::npos) << "ten times off, or more";
}

// ISO 286-1 from memory: i = 0.45·∛D + 0.001·D µm, D the geometric mean of the step, IT5 to IT11 are 7, 10, 16, 25, 40,
// 64 and 100 of it; the standard rounds what comes out, by 0.7 µm or 3 % at the most.
TEST(StandardTolerance, IsTheFormulaRoundedAsTheStandardRounds) {
    constexpr std::array ends{3.0, 6.0, 10.0, 18.0, 30.0, 50.0, 80.0, 120.0, 180.0, 250.0, 315.0, 400.0, 500.0};
    constexpr std::array multiples{7.0, 10.0, 16.0, 25.0, 40.0, 64.0, 100.0};
    for (std::size_t s = 1; s < ends.size(); ++s) {
        const double d = std::sqrt(ends[s - 1] * ends[s]), i = 0.45 * std::cbrt(d) + 0.001 * d;
        for (std::size_t g = 0; g < multiples.size(); ++g) {
            const auto width = standard_tolerance(5 + static_cast<int>(g), ends[s]);
            ASSERT_TRUE(width);
            const double formula = multiples[g] * i;
            EXPECT_LE(std::abs(*width * 1000 - formula), std::max(0.7, 0.03 * formula)) << ends[s] << " IT" << 5 + g;
        }
    }
    // Rows as fits are worked out by, 18 to 250 mm.
    constexpr std::array it6{13, 16, 19, 22, 25, 29}, it7{21, 25, 30, 35, 40, 46};
    for (std::size_t k = 0; k < it6.size(); ++k) {
        EXPECT_NEAR(*standard_tolerance(6, ends[k + 4]), it6[k] / 1000.0, 1e-12);
        EXPECT_NEAR(*standard_tolerance(7, ends[k + 4]), it7[k] / 1000.0, 1e-12);
    }
    EXPECT_EQ(*standard_tolerance(6, 50), 0.016) << "up to and including";
    EXPECT_EQ(*standard_tolerance(6, 50.001), 0.019) << "over";
    EXPECT_FALSE(standard_tolerance(6, 0));
    EXPECT_FALSE(standard_tolerance(3, 50));
    EXPECT_FALSE(standard_tolerance(6, 501));
}
