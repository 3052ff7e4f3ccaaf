// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/shop/kind_memory.h"

#include "story.h"

#include <cmath>
#include <gmock/gmock.h>
#include <random>

using namespace pallix;
using namespace pallix::block;
using namespace pallix::planning;

TEST(KindMemory, TraitsAreTakenFromTheBlockAsFound) {
    test::Story story;
    story.log(test::log_of(30.005, 0, 200.03, 0.012)); // the middle of five mains stands up
    const BlockTraits traits = traits_of(story.state());
    // The frame goes through all five by least squares; from the line of the two at the ends the middle one stands
    // 0.012, the two between 0: a third of it over the three.
    EXPECT_NEAR(traits.at({Trait::saddle_crown, ""}), 0.004, 1e-6);
    EXPECT_NEAR(traits.at({Trait::deck_slope, "deck.C"}), 0, 1e-6);
    EXPECT_NEAR(traits.at({Trait::deck_shape, "deck.C"}), 0, 1e-6);
    EXPECT_FALSE(traits.contains({Trait::clean_up, "deck.C"})) << "nothing was cut";
    EXPECT_TRUE(traits_of(Folded()).empty());
}

TEST(KindMemory, FewerThanFiveAreListedAndNoStatisticsMade) {
    const TraitOf crown{Trait::saddle_crown, ""};
    std::vector<BlockTraits> others{{{crown, 0.004}}, {{crown, 0.001}}, {{crown, 0.003}}, {{crown, 0.002}}};
    auto memory = remember_kind({{crown, 0.01}}, others);
    ASSERT_EQ(memory.size(), 1u);
    EXPECT_FALSE(memory[0].mean);
    EXPECT_FALSE(memory[0].unusual);
    EXPECT_THAT(memory[0].others, testing::ElementsAre(0.001, 0.002, 0.003, 0.004));
    others.push_back({{crown, 0.005}});
    memory = remember_kind({{crown, 0.01}}, others);
    EXPECT_NEAR(*memory[0].mean, 0.003, 1e-12);
    EXPECT_NEAR(*memory[0].spread, std::sqrt(2.5e-6), 1e-12) << "(4 + 1 + 0 + 1 + 4) millionths over four";
    EXPECT_EQ(memory[0].same_side, 3u) << "0.001 and 0.002 are within a needle's width";
    // t(0.975, 4) = 2.776 (tables): 0.003 + 2.776 · 0.001581 · √1.2 = 0.00781, and a needle's width 0.00254
    EXPECT_FALSE(remember_kind({{crown, 0.0103}}, others)[0].unusual);
    EXPECT_TRUE(remember_kind({{crown, 0.0104}}, others)[0].unusual);
    EXPECT_FALSE(remember_kind({}, others)[0].present);
}

// A block like the others is called unusual as rarely as is said: once in twenty.
TEST(KindMemory, OneInTwentyOfTheUsualIsCalledUnusual) {
    std::mt19937_64 random(7);
    std::normal_distribution<double> crown(0.4, 0.15); // wide beside a needle's width
    const TraitOf what{Trait::saddle_crown, ""};
    int called = 0;
    constexpr int shops = 8000;
    for (int shop = 0; shop < shops; ++shop) {
        std::vector<BlockTraits> others;
        for (int i = 0; i < 8; ++i)
            others.push_back({{what, crown(random)}});
        called += remember_kind({{what, crown(random)}}, others)[0].unusual;
    }
    EXPECT_NEAR(static_cast<double>(called) / shops, 0.05, 0.01);
}
