// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/blueprint.h"

#include "reference_data.h"
#include "small_block.h"

#include <nlohmann/json.hpp>
#include <regex>

using namespace pallix::block;
using pallix::test::small_blueprint;

namespace {

std::string replaced(std::string text, const std::string& from, const std::string& to) {
    const auto at = text.find(from);
    EXPECT_NE(at, std::string::npos) << from;
    return text.replace(at, from.size(), to);
}

int line_of(const std::string& text, const std::string& what) {
    return 1 + static_cast<int>(
                   std::count(text.begin(), text.begin() + static_cast<std::ptrdiff_t>(text.find(what)), '\n'));
}

struct BadFile {
    const char* name;
    const char* from;
    const char* to;
    const char* says;     ///< part of the message
    const char* expected; ///< part of what it expected
    const char* on_line;  ///< text that stands on the line to be named
};

void PrintTo(const BadFile& c, std::ostream* out) {
    *out << c.name;
}

} // namespace

TEST(Blueprint, IsReadInMillimetresAndRadians) {
    const auto b =
        read_blueprint(pallix::test::read_file(pallix::test::example("i4/block.pallix-blueprint.json")), "i4");
    ASSERT_TRUE(b);
    EXPECT_EQ(b->unit, Unit::inch);
    EXPECT_EQ(b->clocking, Clocking::panrail);
    ASSERT_EQ(b->mains.size(), 5U);
    EXPECT_NEAR(b->mains[1].x, 4.8086 * 25.4, 1e-12);
    EXPECT_NEAR(*b->banks[0].deck_height.smallest(), (11.5265 - 0.002) * 25.4, 1e-12);
    const auto v6 =
        read_blueprint(pallix::test::read_file(pallix::test::example("v6/block.pallix-blueprint.json")), "v6");
    ASSERT_TRUE(v6);
    EXPECT_NEAR(v6->bank("L")->angle, -0.5235987755982988, 1e-15);
    EXPECT_EQ(v6->hole(*FeatureId::parse("bore.R.2"))->cylinder, 3);
    EXPECT_TRUE(v6->lists(*FeatureId::parse("panrail")));
    EXPECT_FALSE(v6->lists(*FeatureId::parse("deck.C")));
}

TEST(Blueprint, DefaultsToMillimetresAndGreyIron) {
    const auto b = read_blueprint(replaced(small_blueprint(), "\"unit\": \"mm\", ", ""), "b");
    ASSERT_TRUE(b);
    EXPECT_EQ(b->unit, Unit::mm);
    EXPECT_EQ(b->material, Material::grey_iron);
}

TEST(Blueprint, UnknownKeysAndUntouchedNumbersSurviveARoundTrip) {
    const std::string text = pallix::test::read_file(pallix::test::example("i4/block.pallix-blueprint.json"));
    auto json = nlohmann::ordered_json::parse(text);
    json["oversizes"] = {0.01, 0.02};
    json["banks"][0]["gasket"] = {{"bore", 3.7}};
    json["mains"][2]["bolt"] = "studs";
    const auto b = read_blueprint(json.dump(), "b");
    ASSERT_TRUE(b);
    EXPECT_EQ(nlohmann::ordered_json::parse(write_blueprint(*b)), json) << "nothing changed, so nothing may differ";
}

TEST(Blueprint, WritesWhatHasChangedAndKeepsTheRest) {
    auto b = pallix::test::read_small_blueprint();
    b.mains[1].x = 121;
    b.banks[0].deck_height.nominal = 199.5;
    b.name = "renamed";
    const auto again = read_blueprint(write_blueprint(b), "b");
    ASSERT_TRUE(again);
    EXPECT_EQ(again->mains[1].x, 121);
    EXPECT_EQ(again->banks[0].deck_height.nominal, 199.5);
    EXPECT_EQ(again->name, "renamed");
    EXPECT_EQ(nlohmann::json::parse(write_blueprint(b))["workshop_note"]["gasket"], "copper");
}

TEST(Blueprint, WithoutASourceIsWrittenWhole) {
    auto b = pallix::test::read_small_blueprint();
    b.source.clear();
    const auto again = read_blueprint(write_blueprint(b), "b");
    ASSERT_TRUE(again) << again.error().front().text();
    EXPECT_EQ(again->bores.size(), 1U);
    EXPECT_EQ(again->banks[0].deck_outline.size(), 4U);
    EXPECT_NEAR(again->cam->z, 100, 1e-12);
}

class BadBlueprint : public testing::TestWithParam<BadFile> {};

TEST_P(BadBlueprint, IsRefusedWithLineAndExpectation) {
    const BadFile& bad = GetParam();
    const std::string text = replaced(small_blueprint(), bad.from, bad.to);
    const auto b = read_blueprint(text, "bad.json");
    ASSERT_FALSE(b);
    const Fault& fault = b.error().front();
    EXPECT_EQ(fault.file, "bad.json");
    EXPECT_NE(fault.what.find(bad.says), std::string::npos) << fault.text();
    EXPECT_NE(fault.expected.find(bad.expected), std::string::npos) << fault.text();
    EXPECT_EQ(fault.line, line_of(text, bad.on_line)) << fault.text();
}

INSTANTIATE_TEST_SUITE_P(
    Each, BadBlueprint,
    testing::Values(
        BadFile{"format", "pallix-blueprint", "other", "format is \"other\"", "pallix-blueprint", "other"},
        BadFile{"version", "\"version\": 1", "\"version\": 2", "version is 2", "number 1", "\"version\""},
        BadFile{"unit", "\"unit\": \"mm\"", "\"unit\": \"cm\"", "unit is \"cm\"", "\"mm\" or \"in\"", "\"cm\""},
        BadFile{"missing", "\"angle_deg\": 0, ", "", "banks[0] has no \"angle_deg\"", "angle", "deck_height"},
        BadFile{"type", "\"nominal\": 200", "\"nominal\": \"200\"", "nominal is \"200\"", "length greater than 0",
                "\"200\""},
        BadFile{"negative", "\"nominal\": 200", "\"nominal\": -200", "nominal is -200", "greater than 0", "-200"},
        BadFile{"limits", "\"lower\": -0.05", "\"lower\": 0.5", "greater than upper", "lower no greater", "0.5"},
        BadFile{"clocking", "\"clocking\": \"cam\"", "\"clocking\": \"bolt\"", "clocking is \"bolt\"", "panrail",
                "\"bolt\""},
        BadFile{"origin", "\"origin_dowel\": \"dowel.C.1\"", "\"origin_dowel\": \"dowel.C.7\"", "dowel.C.7",
                "listed dowel", "dowel.C.7"},
        BadFile{"order", "\"x\": 120", "\"x\": 12", "main.2 does not lie behind main.1", "front to rear", "\"x\": 12"},
        BadFile{"twice", "\"main.2\"", "\"main.1\"", "stands twice", "each id once", "\"x\": 120"},
        BadFile{"bank", "\"bank\": \"C\", \"u\": 0", "\"bank\": \"R\", \"u\": 0", "bank is \"R\"", "banks",
                "\"dowels\""},
        BadFile{"kind", "\"bore.C.1\"", "\"lifter.C.1\"", "lifter.C.1", "bore.R.1", "\"bores\""},
        BadFile{"outline", "[150, -50], [150, 50], [0, 50]", "[150, -50], [300, -50]", "encloses no area", "corners",
                "deck_outline"}),
    [](const auto& instance) { return std::string(instance.param.name); });

// Nothing is demanded that the job does not need: banks with a height, and two mains.
TEST(BareBlueprint, NeedsBanksAndMainsOnly) {
    const std::string bare = R"({ "format": "pallix-blueprint", "version": 1, "datum": { "clocking": "decks" },
 "banks": [ { "id": "C", "angle_deg": 0, "deck_height": { "nominal": 200, "lower": -0.05 } } ],
 "mains": [ { "id": "main.1", "x": 20, "diameter": { "nominal": 60 } }, { "id": "main.2", "x": 120, "diameter": { "nominal": 60 } } ] })";
    const auto b = read_blueprint(bare, "b.json");
    ASSERT_TRUE(b) << b.error().front().text();
    EXPECT_FALSE(b->origin_dowel);
    EXPECT_FALSE(b->mains[0].diameter.smallest());
    EXPECT_EQ(b->mains[0].diameter.middle(), 60);
    EXPECT_EQ(*b->banks[0].deck_height.smallest(), 199.95);
    EXPECT_FALSE(b->banks[0].deck_height.largest());
    EXPECT_TRUE(b->banks[0].outline_assumed);
    ASSERT_EQ(b->banks[0].deck_outline.size(), 4U) << "something to draw";
    const std::string written = write_blueprint(*b);
    for (const char* word : {"origin_dowel", "deck_outline", "upper"})
        EXPECT_EQ(written.find(word), std::string::npos) << word << " was never stated";
    const auto again = read_blueprint(written, "b.json");
    ASSERT_TRUE(again) << again.error().front().text();
    EXPECT_EQ(write_blueprint(*again), written);
}

// Two cylinders that nobody stated a place of: drawn at a quarter and three quarters of the mains' 100 mm.
TEST(BareBlueprint, DrawsHolesWithoutAPlaceEvenlyAlongTheMains) {
    std::string text = pallix::test::small_blueprint();
    const std::string placed =
        R"("cylinder": 1, "u": 75, "v": 0, "diameter": { "nominal": 60, "lower": 0, "upper": 0.02 } })";
    text.replace(text.find(placed), placed.size(), R"("diameter": { "nominal": 60 } },
            { "id": "bore.C.2", "bank": "C", "diameter": { "nominal": 60 } })");
    const auto b = read_blueprint(text, "b.json");
    ASSERT_TRUE(b) << b.error().front().text();
    EXPECT_NEAR(b->bores[0].u, 45, 1e-12);
    EXPECT_NEAR(b->bores[1].u, 95, 1e-12);
    EXPECT_TRUE(b->bores[0].place_assumed);
    EXPECT_FALSE(b->dowels[0].place_assumed);
    const auto again = read_blueprint(write_blueprint(*b), "b.json");
    ASSERT_TRUE(again) << again.error().front().text();
    EXPECT_TRUE(again->bores[0].place_assumed);
    EXPECT_NEAR(again->bores[0].u, 45, 1e-12);
    EXPECT_FALSE(read_blueprint(std::regex_replace(text, std::regex("\"u\": 0, \"v\": -40"), "\"u\": 0"), "b.json"))
        << "half a place is none";
}

TEST(BareBlueprint, DrawsABoxRoundItsBores) {
    std::string text = pallix::test::small_blueprint();
    const std::string outline = R"(,
   "deck_outline": [ [0, -50], [150, -50], [150, 50], [0, 50] ])";
    text.replace(text.find(outline), outline.size(), "");
    const auto b = read_blueprint(text, "b.json");
    ASSERT_TRUE(b) << b.error().front().text();
    // A bore of 60 at (75, 0), three quarters of its size to either side.
    EXPECT_EQ(b->banks[0].deck_outline[0].x, 30);
    EXPECT_EQ(b->banks[0].deck_outline[2].y, 45);
}

TEST(BadBlueprintFile, NamesTheLineOfBrokenJson) {
    const auto b = read_blueprint("{\n \"format\": \"pallix-blueprint\",\n \"version\" 1\n}", "b.json");
    ASSERT_FALSE(b);
    EXPECT_EQ(b.error().front().line, 3);
    EXPECT_NE(b.error().front().text().find("b.json:3: "), std::string::npos);
}

TEST(BadBlueprintFile, AllFaultsAreListed) {
    std::string text = replaced(small_blueprint(), "\"nominal\": 200", "\"nominal\": 0");
    text = replaced(text, "\"x\": 20, ", "");
    text = replaced(text, "\"u\": 75", "\"u\": null");
    const auto b = read_blueprint(text, "b.json");
    ASSERT_FALSE(b);
    EXPECT_EQ(b.error().size(), 3U);
    EXPECT_TRUE(std::is_sorted(b.error().begin(), b.error().end(),
                               [](const Fault& x, const Fault& y) { return x.line < y.line; }));
}

TEST(BadBlueprintFile, NothingAndNonsenseAreRefused) {
    for (const char* text : {"", "   ", "null", "[]", "42", "{", "\"text\"", "{\"format\": 1e999}", "\xff\xfe"})
        EXPECT_FALSE(read_blueprint(text, "b.json")) << text;
}
