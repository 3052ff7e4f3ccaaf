// SPDX-License-Identifier: GPL-3.0-or-later
// What good blocks teach, against the truth that simulated ones were made from.
#include "planning/common/taught.h"

#include "block/number_text.h"

#include "sanitized.h"
#include "workshop/harbour.h"
#include "workshop/practice_block.h"

#include <cmath>
#include <gmock/gmock.h>
#include <random>

using namespace pallix;
using namespace pallix::block;
using testing::HasSubstr;

namespace {

/// A block as a foundry makes them: places and sizes of its holes and the height of its deck off by a little, each by
/// itself and all together.
planning::GoodBlock good_block(const Blueprint& truth, std::mt19937& dice, unsigned seed) {
    std::normal_distribution<double> off(0, 1);
    workshop::PracticeBlock p{truth, {}, 0, 0, 0.004 * off(dice), {}};
    for (const BankBlueprint& bank : truth.banks)
        p.decks[bank.id].offset = 0.05 * off(dice);
    const double all = 0.006 * off(dice), along = 0.03 * off(dice);
    for (const HoleBlueprint& bore : truth.bores)
        p.holes[bore.id] = {{along + 0.02 * off(dice), 0.02 * off(dice)}, {}, all + 0.004 * off(dice), 0, 0};
    workshop::ProbeJob job;
    job.seed = seed;
    job.noise = 0.001;
    job.holes = true;
    job.points_along = 4;
    const std::string name = "block " + std::to_string(seed);
    return {name, {{name, workshop::probe(p, job)}}};
}

double typed(const planning::Taught& t, const char* key) {
    return *finite_number(t.recipe.figures.at(key));
}

} // namespace

// The number of times that the truth lies within the stated spread, over figures that hang on one another only a
// little.
TEST(Taught, HoldTheTruthWithinTheirStatedSpread) {
    Blueprint truth = workshop::tender_inline_four();
    truth.lifters.clear();
    for (HoleBlueprint& bore : truth.bores) // the middle of a hole is what is measured
        bore.diameter.lower = bore.diameter.upper = 0;
    const double pitch = truth.bores[1].u - truth.bores[0].u, first = truth.bores[0].u;
    std::mt19937 dice(20261126);
    unsigned seed = 0;
    for (const auto& [blocks, teams] :
         {std::pair(1, test::fewer(500)), {3, test::fewer(200)}, {10, test::fewer(200)}}) {
        int held = 0, told = 0;
        for (int team = 0; team < teams; ++team) {
            std::vector<planning::GoodBlock> logs;
            for (int i = 0; i < blocks; ++i)
                logs.push_back(good_block(truth, dice, ++seed));
            const auto t = planning::taught_by(logs, {});
            ASSERT_TRUE(t) << t.error().front().text();
            for (const auto& [key, meant] : {std::pair("pitch", pitch),
                                             {"first_bore", first},
                                             {"deck_height", truth.banks[0].deck_height.nominal},
                                             {"bore", truth.bores[0].diameter.nominal}}) {
                const FigureOrigin& origin = t->recipe.origins.at(key);
                EXPECT_EQ(origin.blocks, blocks);
                if (!origin.spread)
                    continue;
                ++told;
                held += std::abs(typed(*t, key) - meant) <= *origin.spread ? 1 : 0;
            }
        }
        EXPECT_GE(told, blocks == 1 ? teams : 4 * teams);
        if (test::sanitized)
            continue; // too few to judge
        const double share = static_cast<double>(held) / told;
        EXPECT_GE(share, 0.93) << blocks << " blocks";
        EXPECT_LE(share, 0.97) << blocks << " blocks";
    }
}

// The ferry's V8 from two blocks without a blueprint: banks, angle, stagger, numbers by the names in its logs.
TEST(Taught, TwoBanksFromNothingButTheirLogs) {
    Blueprint truth = workshop::ferry_v8();
    truth.lifters.clear();
    std::mt19937 dice(7);
    const auto t = planning::taught_by({good_block(truth, dice, 1), good_block(truth, dice, 2)}, {});
    ASSERT_TRUE(t) << t.error().front().text();
    EXPECT_EQ(t->recipe.figures.at("layout"), "v");
    EXPECT_NEAR(typed(*t, "angle"), 90, 0.01);
    EXPECT_EQ(t->recipe.figures.at("cylinders"), "4");
    EXPECT_EQ(t->recipe.figures.at("mains"), "5");
    EXPECT_NEAR(typed(*t, "pitch"), 108, 0.05);
    EXPECT_NEAR(typed(*t, "stagger"), -22, 0.15);
    EXPECT_NEAR(typed(*t, "main_size"), 68.006, 0.02);
    EXPECT_NEAR(typed(*t, "cam"), 122, 0.02);
    EXPECT_NEAR(typed(*t, "deck_height"), 228.6, 0.15);
    EXPECT_NEAR(typed(*t, "dowel_apart"), 427.68, 0.02);
    const auto b = draw(t->recipe, "taught");
    ASSERT_TRUE(b) << b.error().front().text();
    EXPECT_EQ(b->bores.size(), 8U);
}

// Lifters stand at an angle of their own, which two depths of each tell.
TEST(Taught, LiftersAndTheirAngleFromWhereTheyWereTouched) {
    const Blueprint truth = workshop::ferry_v8();
    std::mt19937 dice(11);
    Recipe base;
    base.figures["lifter_angle"] = "10"; // far off
    const auto t = planning::taught_by({good_block(truth, dice, 1), good_block(truth, dice, 2)}, base);
    ASSERT_TRUE(t) << t.error().front().text();
    EXPECT_EQ(t->recipe.figures.at("lifters"), "2");
    EXPECT_EQ(t->recipe.origins.at("lifter_angle").source, FigureSource::measured);
    const auto b = draw(t->recipe, "taught");
    ASSERT_TRUE(b) << b.error().front().text();
    ASSERT_EQ(b->lifters.size(), truth.lifters.size());
    for (const HoleBlueprint& meant : truth.lifters) {
        const HoleBlueprint* got = b->hole(meant.id);
        ASSERT_NE(got, nullptr);
        EXPECT_NEAR(*got->angle, *meant.angle, 0.01 * 3.14159265 / 180) << meant.id.text();
        EXPECT_NEAR(got->u - b->bores.front().u, meant.u - truth.bores.front().u, 0.2);
        EXPECT_NEAR(got->v, meant.v, 0.05);
        EXPECT_NEAR(got->diameter.nominal, meant.diameter.nominal, 0.02);
    }
}

TEST(Taught, OneBlockTightensNothingItCannotTell) {
    Blueprint truth = workshop::tender_inline_four();
    truth.lifters.clear();
    std::mt19937 dice(3);
    Recipe base;
    base.unit = Unit::inch;
    base.figures = {{"name", "tender"}, {"deck_flatness", "0.002"}};
    const auto t = planning::taught_by({good_block(truth, dice, 1)}, base);
    ASSERT_TRUE(t) << t.error().front().text();
    EXPECT_TRUE(t->recipe.origins.at("pitch").spread);
    EXPECT_FALSE(t->recipe.origins.at("deck_height").spread) << "there is nothing to compare it with";
    EXPECT_EQ(t->recipe.figures.at("deck_flatness"), "0.002");
    EXPECT_NEAR(typed(*t, "pitch") * 25.4, truth.bores[1].u - truth.bores[0].u, 0.1);
}

TEST(Taught, RefusesLogsThatDoNotAgree) {
    Blueprint truth = workshop::tender_inline_four();
    truth.lifters.clear();
    std::mt19937 dice(3);
    const NamedText whole = good_block(truth, dice, 1).logs.front();
    std::string without;
    for (std::size_t from = 0; from < whole.text.size();) {
        const auto end = whole.text.find('\n', from) + 1;
        const std::string line = whole.text.substr(from, end - from);
        if (line.find("bore.C.4") == std::string::npos)
            without += line;
        from = end;
    }
    const auto other = planning::taught_by({{"whole", {whole}}, {"other", {{"other", without}}}}, {});
    ASSERT_FALSE(other);
    EXPECT_THAT(other.error().front().text(), HasSubstr("other: it holds other features than block 1"));
    EXPECT_FALSE(planning::taught_by({}, {}));
    EXPECT_FALSE(planning::taught_by({{"empty", {{"empty", "feature,x,y,z\n"}}}}, {}));
}

// A shop's own jobs: blocks that were probed with their holes and one without are compared by what they have in common.
TEST(Taught, PassesOverWhatNotEveryBlockWasProbedFor) {
    Blueprint truth = workshop::tender_inline_four();
    truth.lifters.clear();
    std::mt19937 dice(5);
    const planning::GoodBlock holes = good_block(truth, dice, 1);
    workshop::ProbeJob job;
    job.seed = 9;
    const planning::GoodBlock plain{"plain", {{"plain", workshop::probe({truth, {{"C", {}}}, 0, 0, 0, {}}, job)}}};
    const auto t = planning::taught_by({holes, plain}, {});
    ASSERT_TRUE(t) << t.error().front().text();
    EXPECT_THAT(t->understood, testing::Contains(HasSubstr("passed over, as not every block was probed there: bore")));
    EXPECT_EQ(t->recipe.origins.at("main_pitch").blocks, 2);
    EXPECT_FALSE(t->recipe.origins.contains("pitch"));
}

TEST(Taught, TakesFromAJobTheLogsItsBlockWasFoundBy) {
    const auto log = [](const char* file, const char* text, bool continues) {
        ProbeLogTaken taken;
        taken.file = file;
        taken.text = std::string(text);
        taken.continues = continues;
        return taken;
    };
    JobOpened opened;
    opened.title = "Samphire";
    std::vector<Entry> entries{{1, "", "", opened}};
    EXPECT_FALSE(planning::as_found(entries));
    entries.push_back({2, "", "", log("wrong.csv", "w", false)});
    entries.push_back({3, "", "", Strike{2, "the wrong block"}});
    entries.push_back({4, "", "", log("mains.csv", "m", false)});
    entries.push_back({5, "", "", log("decks.csv", "d", true)});
    entries.push_back({6, "", "", log("after.csv", "a", false)});
    const auto found = planning::as_found(entries);
    ASSERT_TRUE(found);
    EXPECT_EQ(found->name, "Samphire");
    ASSERT_EQ(found->logs.size(), 2U);
    EXPECT_EQ(found->logs[0].text, "m");
    EXPECT_EQ(found->logs[1].file, "Samphire, decks.csv");
}
