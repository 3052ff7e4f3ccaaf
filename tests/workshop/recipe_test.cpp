// SPDX-License-Identifier: GPL-3.0-or-later
// Blueprints drawn from recipes, against those that the harbour's engines were written down as.
#include "block/drawing/recipe.h"

#include "block/read_file.h"
#include "workshop/harbour.h"

#include <cmath>
#include <gtest/gtest.h>

using namespace pallix;
using namespace pallix::block;

namespace {

Recipe shipped(const std::string& name) {
    const std::string file = std::string(PALLIX_RECIPES) + "/" + name + ".pallix-recipe.json";
    const auto text = read_file(file, file);
    EXPECT_TRUE(text) << file;
    const auto recipe = read_recipe(text->text, name);
    EXPECT_TRUE(recipe) << recipe.error().front().text();
    return *recipe;
}

void expect_same(const Tolerance& drawn, const Tolerance& written, const std::string& of) {
    EXPECT_NEAR(drawn.nominal, written.nominal, 1e-9) << of;
    EXPECT_NEAR(*drawn.lower, *written.lower, 1e-9) << of;
    EXPECT_NEAR(*drawn.upper, *written.upper, 1e-9) << of;
}

void expect_same(const std::vector<HoleBlueprint>& drawn, const std::vector<HoleBlueprint>& written) {
    ASSERT_EQ(drawn.size(), written.size());
    for (const HoleBlueprint& w : written) {
        const auto d = std::ranges::find(drawn, w.id, &HoleBlueprint::id);
        ASSERT_NE(d, drawn.end()) << w.id.text();
        EXPECT_NEAR(d->u, w.u, 1e-9) << w.id.text();
        EXPECT_NEAR(d->v, w.v, 1e-9) << w.id.text();
        EXPECT_EQ(d->cylinder, w.cylinder) << w.id.text();
        EXPECT_NEAR(d->angle.value_or(0), w.angle.value_or(0), 1e-12) << w.id.text();
        expect_same(d->diameter, w.diameter, w.id.text());
    }
}

void expect_same(const std::vector<MainBlueprint>& drawn, const std::vector<MainBlueprint>& written) {
    ASSERT_EQ(drawn.size(), written.size());
    for (std::size_t i = 0; i < written.size(); ++i) {
        EXPECT_EQ(drawn[i].id, written[i].id);
        EXPECT_NEAR(drawn[i].x, written[i].x, 1e-9);
        expect_same(drawn[i].diameter, written[i].diameter, written[i].id.text());
    }
}

void expect_same(const Blueprint& drawn, const Blueprint& written) {
    EXPECT_EQ(drawn.name, written.name);
    EXPECT_EQ(drawn.material, written.material);
    EXPECT_EQ(drawn.clocking, written.clocking);
    EXPECT_EQ(drawn.origin_dowel, written.origin_dowel);
    ASSERT_EQ(drawn.banks.size(), written.banks.size());
    for (std::size_t i = 0; i < written.banks.size(); ++i) {
        const BankBlueprint &d = drawn.banks[i], &w = written.banks[i];
        EXPECT_EQ(d.id, w.id);
        EXPECT_NEAR(d.angle, w.angle, 1e-12);
        expect_same(d.deck_height, w.deck_height, "deck " + w.id);
        EXPECT_NEAR(*d.deck_flatness, *w.deck_flatness, 1e-9);
        ASSERT_EQ(d.deck_outline.size(), w.deck_outline.size());
        for (std::size_t k = 0; k < w.deck_outline.size(); ++k) {
            EXPECT_NEAR(d.deck_outline[k].x, w.deck_outline[k].x, 1e-9) << w.id << " corner " << k;
            EXPECT_NEAR(d.deck_outline[k].y, w.deck_outline[k].y, 1e-9) << w.id << " corner " << k;
        }
    }
    expect_same(drawn.mains, written.mains);
    ASSERT_EQ(drawn.cam.has_value(), written.cam.has_value());
    if (written.cam) {
        EXPECT_NEAR(drawn.cam->y, written.cam->y, 1e-9);
        EXPECT_NEAR(drawn.cam->z, written.cam->z, 1e-9);
        expect_same(drawn.cam->bearings, written.cam->bearings);
    }
    expect_same(drawn.dowels, written.dowels);
    expect_same(drawn.bores, written.bores);
    expect_same(drawn.lifters, written.lifters);
}

} // namespace

TEST(Recipe, DrawsTheHarboursEnginesToABillionthOfAMillimetre) {
    const std::array<std::pair<const char*, Blueprint>, 3> engines{
        {{"workboat-v6", workshop::workboat_v6()},
         {"tender-inline-four", workshop::tender_inline_four()},
         {"ferry-v8", workshop::ferry_v8()}}};
    for (const auto& [name, written] : engines) {
        const Recipe recipe = shipped(name);
        EXPECT_LE(recipe.figures.size(), 40U) << name;
        const auto drawn = draw(recipe, name);
        ASSERT_TRUE(drawn) << drawn.error().front().text();
        expect_same(*drawn, written);
        // A recipe survives being written.
        const auto again = read_recipe(write_recipe(recipe), name);
        ASSERT_TRUE(again);
        EXPECT_EQ(again->figures, recipe.figures);
    }
}

// By hand: a slant-less four with nothing but what it must have. Bores midway between mains of the bores' own pitch.
TEST(Recipe, NeedsSevenFiguresForAnInlineFour) {
    Recipe r;
    r.unit = Unit::inch;
    r.figures = {{"layout", "inline"}, {"clocking", "decks"}};
    EXPECT_EQ(lacking(r), (std::vector<std::string>{"cylinders", "bore", "pitch", "deck_height", "main_size"}));
    r.figures.insert({{"cylinders", "4"},
                      {"bore", "3.5 +.001 0"},
                      {"pitch", "100 mm"},
                      {"deck_height", "8.5"},
                      {"main_size", "2.2000-2.2007"}});
    EXPECT_TRUE(lacking(r).empty());
    const auto b = draw(r, "four");
    ASSERT_TRUE(b) << b.error().front().text();
    ASSERT_EQ(b->mains.size(), 5U);
    EXPECT_NEAR(b->mains[4].x, 400, 1e-9);
    EXPECT_NEAR(*b->mains[0].diameter.upper, 0.0007 * 25.4, 1e-9);
    EXPECT_NEAR(b->bores[0].u, 50, 1e-9);
    EXPECT_EQ(*b->bores[3].cylinder, 4);
    EXPECT_FALSE(b->banks[0].deck_height.lower) << "nobody stated it";
    EXPECT_FALSE(b->origin_dowel);
    EXPECT_TRUE(b->banks[0].outline_assumed);
}

// Mirrored across the middle plane: what is outboard on the right is outboard on the left.
TEST(Recipe, MirrorsABankAndCountsByEverySchool) {
    Recipe r = shipped("workboat-v6");
    r.figures.erase("dowel.L.1/across");
    r.figures.erase("dowel.L.2/across");
    const auto cylinders = [&] {
        std::vector<int> numbers;
        const auto b = draw(r, "v6");
        EXPECT_TRUE(b);
        for (const HoleBlueprint& bore : b->bores)
            numbers.push_back(*bore.cylinder);
        return numbers;
    };
    const auto b = draw(r, "v6");
    ASSERT_TRUE(b);
    EXPECT_EQ(b->hole({FeatureKind::dowel, "L", 1})->v, 64);
    EXPECT_EQ(cylinders(), (std::vector{1, 3, 5, 2, 4, 6}));
    r.figures["number_one"] = "front_left";
    EXPECT_EQ(cylinders(), (std::vector{2, 4, 6, 1, 3, 5}));
    r.figures["numbering"] = "bank_after_bank";
    EXPECT_EQ(cylinders(), (std::vector{4, 5, 6, 1, 2, 3}));
    r.figures["number_one"] = "rear_right";
    EXPECT_EQ(cylinders(), (std::vector{3, 2, 1, 6, 5, 4}));
    r.figures["bore.L.2/cylinder"] = "9"; // free
    EXPECT_EQ(cylinders(), (std::vector{3, 2, 1, 6, 9, 4}));
}

// Without a figure of its own a lifter stands in the plane through the cam: v = y·cos λ − z·sin λ (contract, section
// 1).
TEST(Recipe, PutsLiftersInThePlaneThroughTheCam) {
    Recipe r = shipped("workboat-v6");
    r.figures.erase("lifter_across");
    r.figures["cam_side"] = "5";
    const auto b = draw(r, "v6");
    ASSERT_TRUE(b) << b.error().front().text();
    const double rad = 3.14159265358979323846 / 180;
    for (const double side : {1.0, -1.0})
        EXPECT_NEAR(b->hole({FeatureKind::lifter, side > 0 ? "R" : "L", 1})->v, 128 * std::sin((5 - side * 24) * rad),
                    1e-9);
}

// Who states where the lifters stand, and clocks by the decks, needs no cam.
TEST(Recipe, AsksForACamOnlyWhereSomethingHangsOnIt) {
    Recipe r = shipped("workboat-v6");
    r.figures["clocking"] = "decks";
    r.figures.erase("cam");
    r.figures.erase("cam_size");
    EXPECT_TRUE(lacking(r).empty());
    const auto b = draw(r, "v6");
    ASSERT_TRUE(b) << b.error().front().text();
    EXPECT_FALSE(b->cam);
    EXPECT_EQ(b->hole({FeatureKind::lifter, "R", 1})->v, -52.062);
    r.figures.erase("lifter_across");
    EXPECT_EQ(lacking(r), std::vector<std::string>{"cam"});
}

// The other way round: what was written down by hand becomes a recipe that draws the same.
TEST(RecipeOf, DrawsEveryBlueprintThatWasWrittenByHandAgain) {
    for (const Blueprint& written : {workshop::workboat_v6(), workshop::tender_inline_four(), workshop::ferry_v8()}) {
        Blueprint bare = written;
        bare.source.clear();
        const auto recipe = recipe_of(bare);
        ASSERT_TRUE(recipe) << recipe.error().front().text();
        EXPECT_LE(recipe->figures.size(), 60U) << written.name;
        const auto drawn = draw(*recipe, "again");
        ASSERT_TRUE(drawn) << drawn.error().front().text();
        expect_same(*drawn, written);
    }
}

TEST(RecipeOf, NamesHoleByHoleWhatIsIrregular) {
    Blueprint b = workshop::ferry_v8();
    b.source.clear();
    b.unit = Unit::inch;
    b.bores[5].u += 0.75;
    b.bores[2].diameter.upper = 0.031;
    b.lifters[3].angle = 0.6;
    b.mains[2].x += 0.4;
    b.banks[1].deck_outline.push_back({20, 3});
    b.banks[1].deck_flatness.reset();
    b.dowels.pop_back();
    b.bores[0].cylinder = 17;
    b.bores[7].place_assumed = true;
    b.lifters[5].cylinder = 2;
    b.lifters[5].valve = Valve::exhaust;
    b.cam_drive = CamDrive{20, 40, 9.525, 1019.175, 0};
    b.main_bearing = MainBearing{1.5, 65};
    const auto recipe = recipe_of(b);
    ASSERT_TRUE(recipe) << recipe.error().front().text();
    for (const char* key : {"bore.L.2/along", "bore.R.3/size", "lifter.R.4/angle", "main.3/along", "deck.L/outline",
                            "deck.L/flatness", "dowel.L.2/absent", "bore.R.1/cylinder"})
        EXPECT_TRUE(recipe->figures.contains(key)) << key;
    const auto drawn = draw(*recipe, "again");
    ASSERT_TRUE(drawn) << drawn.error().front().text();
    expect_same(drawn->bores, b.bores);
    expect_same(drawn->lifters, b.lifters);
    expect_same(drawn->dowels, b.dowels);
    expect_same(drawn->mains, b.mains);
    EXPECT_EQ(drawn->banks[1].deck_outline.size(), b.banks[1].deck_outline.size());
    EXPECT_FALSE(drawn->banks[1].deck_flatness);
    EXPECT_TRUE(drawn->bores[7].place_assumed);
    EXPECT_EQ(drawn->lifters[5].cylinder, 2);
    EXPECT_EQ(drawn->lifters[5].valve, Valve::exhaust);
    EXPECT_FALSE(drawn->lifters[4].valve);
    EXPECT_EQ(read_blueprint(write_blueprint(b), "b")->lifters[5].valve, Valve::exhaust);
    EXPECT_FALSE(drawn->bores[6].place_assumed);
    EXPECT_EQ(drawn->cam_drive->teeth_cam, 40);
    EXPECT_NEAR(*drawn->cam_drive->chain_length, 1019.175, 1e-9);
    EXPECT_NEAR(drawn->main_bearing->journal, 65, 1e-9);
}

// A blueprint carries the recipe it was drawn from, as long as nobody has changed the one without the other.
TEST(RecipeOf, GoesAlongInTheBlueprintWithItsOrigins) {
    Recipe r = shipped("workboat-v6");
    r.origins["bore"] = {FigureSource::measured, 3, 0.004};
    r.origins["pitch"] = {FigureSource::sheet, 0, {}};
    r.accepted["thin_wall bore.R.1 bore.R.2"] = "it is that thin";
    const auto drawn = draw(r, "v6");
    ASSERT_TRUE(drawn);
    const auto again = recipe_of(*drawn);
    ASSERT_TRUE(again);
    EXPECT_EQ(*again, r);
    Blueprint other = *drawn;
    other.bores[0].u += 1;
    const auto changed = recipe_of(*read_blueprint(write_blueprint(other), "changed"));
    ASSERT_TRUE(changed) << changed.error().front().text();
    EXPECT_TRUE(changed->origins.empty()) << "they are of another block";
    EXPECT_TRUE(changed->figures.contains("bore.R.1/along"));
}

TEST(RecipeOf, SaysWhatNoRecipeDraws) {
    Blueprint b = workshop::tender_inline_four();
    b.source.clear();
    b.mains[3].id.number = 9;
    b.mains.pop_back();
    const auto recipe = recipe_of(b);
    ASSERT_FALSE(recipe);
    EXPECT_EQ(recipe.error().front().what, "main.9 is main 4 from the front");
}

// What is assumed for the drawing's sake gives no verdict: sizes have no limits, holes no place.
TEST(Recipe, JudgesNothingThatIsOnlyAssumed) {
    Recipe r = shipped("tender-inline-four");
    for (const char* key : {"bore", "deck_height", "deck_flatness", "pitch"})
        r.origins[key].source = FigureSource::assumed;
    const auto b = draw(r, "four");
    ASSERT_TRUE(b) << b.error().front().text();
    EXPECT_FALSE(b->bores[0].diameter.lower);
    EXPECT_FALSE(b->banks[0].deck_height.upper);
    EXPECT_FALSE(b->banks[0].deck_flatness);
    EXPECT_TRUE(b->bores[0].place_assumed);
    EXPECT_FALSE(b->dowels[0].place_assumed);
    EXPECT_TRUE(b->mains[0].diameter.whole());
}

TEST(RecipeFaults, NameTheFigureItsLineAndWhatIsExpected) {
    const std::string text = R"({ "format": "pallix-recipe", "version": 1,
 "figures": {
  "layout": "w",
  "cylinders": 3.5,
  "bore": "95 +95 0",
  "pitch": "wide",
  "bore.X.1/along": 3,
  "weight": "heavy",
  "main_size": "70 H6" } })";
    const auto recipe = read_recipe(text, "r.json");
    ASSERT_TRUE(recipe) << recipe.error().front().text();
    const auto b = draw(*recipe, "r.json");
    ASSERT_FALSE(b);
    std::string all;
    for (const Fault& f : b.error())
        all += f.text() + "\n";
    for (const char* words :
         {"r.json:3: layout", "r.json:4: cylinders", "r.json:5: bore", "r.json:6: pitch", "r.json:7: bore.X.1/along",
          "r.json:8: “weight”", "deck_height is missing", "none of inline, v, opposed"})
        EXPECT_NE(all.find(words), std::string::npos) << words << "\n" << all;
    EXPECT_FALSE(read_recipe(R"({"format": "pallix-recipe", "version": 1, "figures": []})", "r.json"));
    EXPECT_FALSE(read_recipe("{", "r.json"));
}
