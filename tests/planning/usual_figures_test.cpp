// SPDX-License-Identifier: GPL-3.0-or-later
// What an engine's jobs begin with.
#include "planning/common/usual_figures.h"

#include "block/small_block.h"
#include "block/state/bore_state.h"
#include "block/state/deck_state.h"
#include "block/state/fold.h"
#include "block/state/intake_state.h"

#include <gmock/gmock.h>

using namespace pallix;
using namespace pallix::block;
using testing::HasSubstr;

namespace {

Engine inch_engine() {
    Engine e;
    e.recipe.unit = Unit::inch;
    e.usual = {{"engine_figures/stroke_mm", "3.48"},           {"engine_figures/rod_mm", "145 mm"},
               {"engine_figures/chamber_mm3", "64"},           {"engine_figures/steel_rods", "no"},
               {"pistons/alloy", "low_silicon_forged"},        {"pistons/clearance_mm", "4.5 thou"},
               {"cylinder_plan/oversizes_mm", "0.030, 0.060"}, {"route/preset", "sleeves_first"}};
    return e;
}

std::vector<Entry> job_of(const Engine& engine) {
    const Blueprint b = pallix::test::read_small_blueprint();
    std::vector<Entry> entries{{1, "2026-03-02T09:41:00Z", "Marit", JobOpened{"a job", "", "b.json", b.source}}};
    const auto usual = planning::usual_entries(engine, b);
    EXPECT_TRUE(usual) << usual.error().front().text();
    for (const Payload& payload : usual.value_or(std::vector<Payload>{}))
        entries.push_back({static_cast<std::int64_t>(entries.size()) + 1, "2026-03-02T09:41:00Z", "Marit", payload});
    return entries;
}

} // namespace

TEST(UsualFigures, BecomeTheEntriesThatAJobBeginsWith) {
    const Folded state = fold(job_of(inch_engine()));
    EXPECT_TRUE(intake_of(state).troubles.empty());
    EXPECT_NEAR(*decks_of(state).figures.stroke, 3.48 * 25.4, 1e-9);
    EXPECT_NEAR(*decks_of(state).figures.rod, 145, 1e-9);
    EXPECT_NEAR(*decks_of(state).figures.chamber, 64000, 1e-9);
    EXPECT_FALSE(decks_of(state).figures.steel_rods);
    EXPECT_EQ(bores_of(state).pistons->payload.alloy, PistonAlloy::low_silicon_forged);
    EXPECT_NEAR(*bores_of(state).pistons->payload.clearance, 4.5 * 0.0254, 1e-9);
    ASSERT_EQ(bores_of(state).cylinder_plan->payload.oversizes.size(), 2U);
    EXPECT_NEAR(bores_of(state).cylinder_plan->payload.oversizes[1], 0.06 * 25.4, 1e-9);
    EXPECT_EQ(intake_of(state).route->payload.preset, RoutePreset::sleeves_first);
}

// What the shop worked out on a block becomes the engine's: there and back it is the same figures.
TEST(UsualFigures, AreTakenFromAJobAsTheyWereStated) {
    const std::vector<Entry> entries = job_of(inch_engine());
    const auto engine = planning::engine_of(entries);
    ASSERT_TRUE(engine) << engine.error().front().text();
    EXPECT_EQ(engine->recipe.figures.at("name"), "small block");
    const Folded again = fold(job_of(*engine)), first = fold(entries);
    EXPECT_EQ(decks_of(again).figures, decks_of(first).figures);
    EXPECT_EQ(bores_of(again).pistons->payload, bores_of(first).pistons->payload);
    EXPECT_NEAR(bores_of(again).cylinder_plan->payload.oversizes[1], 0.06 * 25.4, 1e-9);
    EXPECT_EQ(engine->usual.at("route/preset"), "sleeves_first");
    EXPECT_FALSE(engine->usual.contains("tunnel_plan/method")) << "nobody stated it";
}

TEST(UsualFigures, EachIsAFigureAndSomeAreChoices) {
    for (const planning::UsualFigure& figure : planning::usual_figures())
        if (const auto choices = planning::usual_choices(figure.address); !choices.empty()) {
            Engine e;
            for (const std::string& choice : choices) {
                e.usual[figure.address] = choice;
                EXPECT_TRUE(planning::usual_entries(e, pallix::test::read_small_blueprint()))
                    << figure.address << choice;
            }
        }
    EXPECT_EQ(planning::usual_choices("engine_figures/steel_rods"), (std::vector<std::string>{"no", "yes"}));
    EXPECT_FALSE(planning::usual_choices("gasket/gasket").empty());
    EXPECT_TRUE(planning::usual_choices("engine_figures/rod_mm").empty());
}

TEST(UsualFigures, NameTheFigureThatCannotBeRead) {
    Engine e;
    e.usual = {{"engine_figures/stroke_mm", "long"},
               {"pistons/alloy", "wood"},
               {"pistons/clearance_mm", "-3"},
               {"pistons/weight", "3"}};
    const auto usual = planning::usual_entries(e, pallix::test::read_small_blueprint());
    ASSERT_FALSE(usual);
    std::string all;
    for (const Fault& f : usual.error())
        all += f.file + ": " + f.what + "\n";
    EXPECT_THAT(all, HasSubstr("pistons/weight"));
    EXPECT_THAT(all, HasSubstr("engine_figures/stroke_mm: stroke: "));
    EXPECT_THAT(all, HasSubstr("pistons/alloy: what the pistons are made of: “wood” is none of them"));
    EXPECT_THAT(all, HasSubstr("pistons/clearance_mm: clearance of a piston: "));
}

// An engine's file may be an engine, a recipe, or a blueprint.
TEST(EngineFile, IsReadFromAnyOfThree) {
    const Engine e = [] {
        Engine made = inch_engine();
        made.recipe.figures = {{"name", "small"}, {"bore", "3.5"}};
        made.note = "a note";
        return made;
    }();
    EXPECT_EQ(*engine_from(write_engine(e), "e.json"), e);
    EXPECT_EQ(engine_from(write_recipe(e.recipe), "r.json")->recipe, e.recipe);
    const auto of_blueprint = engine_from(pallix::test::small_blueprint(), "b.json");
    ASSERT_TRUE(of_blueprint) << of_blueprint.error().front().text();
    EXPECT_EQ(of_blueprint->name(), "small block");
    EXPECT_FALSE(engine_from("{\"format\": \"pallix-engine\", \"version\": 1, \"recipe\": {}}", "e.json"));
    EXPECT_FALSE(engine_from("[]", "e.json"));
}
