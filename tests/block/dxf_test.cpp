// SPDX-License-Identifier: GPL-3.0-or-later
// Drawings of a deck that an independent library wrote (tests/tools/write_dxf.py says what stands in them).
#include "block/drawing/dxf_engine.h"
#include "block/drawing/dxf_writer.h"
#include "block/number_text.h"

#include "block/probe_log.h"
#include "block/read_file.h"

#include <atomic>
#include <cmath>
#include <cstdlib>
#include <filesystem>
#include <gmock/gmock.h>
#include <unistd.h>

using namespace pallix::block;
using pallix::metrology::Vec2;
using testing::HasSubstr;

namespace {

std::string written(const std::string& kind, const std::string& version = "R2010") {
    const std::string file = testing::TempDir() + "pallix_" + kind + version + std::to_string(getpid()) + ".dxf";
    const std::string command =
        std::string("/usr/bin/python3 ") + PALLIX_TOOLS + "/write_dxf.py " + kind + " " + version + " " + file;
    EXPECT_EQ(std::system(command.c_str()), 0) << command; // NOLINT(concurrency-mt-unsafe)
    const auto text = read_file(file, file);
    EXPECT_TRUE(text);
    std::filesystem::remove(file);
    return text ? text->text : std::string();
}

Result<DxfTaken> taken(const std::string& text, DxfPlacing placing = {}, const Recipe& base = {}) {
    return read_dxf(text, "deck.dxf").and_then([&](const DxfDrawing& drawing) {
        return recipe_from_dxf(drawing, dxf_groups(drawing), placing, base, "deck.dxf");
    });
}

double number(const DxfTaken& t, const char* key) {
    const auto found = t.recipe.figures.find(key);
    EXPECT_NE(found, t.recipe.figures.end()) << key;
    return found == t.recipe.figures.end() ? 0 : *finite_number(found->second);
}

/// The invented deck, whatever the drawing was like. The front bore is put at half a pitch.
void expect_the_deck(const Result<DxfTaken>& t, double across = 1) {
    ASSERT_TRUE(t) << t.error().front().text();
    EXPECT_EQ(t->recipe.figures.at("cylinders"), "4");
    EXPECT_NEAR(number(*t, "pitch"), 94, 1e-4);
    EXPECT_NEAR(number(*t, "bore"), 82, 1e-4);
    EXPECT_EQ(t->recipe.figures.at("dowels"), "2");
    EXPECT_NEAR(number(*t, "dowel_size"), 12, 1e-4);
    EXPECT_NEAR(number(*t, "dowel_first"), 47 - 30, 1e-4);
    EXPECT_NEAR(number(*t, "dowel_apart"), 330, 1e-4);
    EXPECT_NEAR(number(*t, "dowel_across"), -40 * across, 1e-4);
    EXPECT_EQ(t->recipe.origins.at("pitch").source, FigureSource::drawing);
    // Corners lie on the outline: area of the rounded oblong, less what chords cut off.
    Recipe whole = t->recipe;
    whole.figures.insert({{"deck_height", "200"}, {"main_size", "60"}, {"clocking", "decks"}});
    const auto b = draw(whole, "deck");
    ASSERT_TRUE(b) << b.error().front().text();
    double twice = 0;
    const auto& outline = b->banks[0].deck_outline;
    for (std::size_t i = 0; i < outline.size(); ++i)
        twice += cross(outline[i], outline[(i + 1) % outline.size()]);
    const double true_area = 392 * 130 - (4 - 3.14159265358979) * 15 * 15;
    EXPECT_NEAR(std::abs(twice / 2), true_area, 12);
    EXPECT_GE(outline.size(), 12U);
}

} // namespace

TEST(Dxf, ReadsEveryVersionAndEveryWayToDrawAnOutline) {
    for (const char* version : {"R12", "R2000", "R2010"})
        for (const char* kind : {"lines", "polyline", "inserted", "halves"}) {
            if (std::string(kind) == "halves" && std::string(version) == "R12")
                continue; // it has no light polylines
            SCOPED_TRACE(std::string(kind) + " " + version);
            // R12 has no word for its unit.
            const bool says = std::string(version) != "R12";
            expect_the_deck(taken(written(kind, version), {says ? std::nullopt : std::optional(Unit::mm)}));
        }
}

TEST(Dxf, TakesInchesFromTheFileOrFromAPerson) {
    expect_the_deck(taken(written("inch")));
    const auto silent = taken(written("no_unit"));
    ASSERT_FALSE(silent);
    EXPECT_THAT(silent.error().front().what, HasSubstr("does not say its unit; the cylinders stand 94 apart"));
    expect_the_deck(taken(written("no_unit"), {Unit::mm}));
    expect_the_deck(taken(written("no_unit"), {std::nullopt, "94"}));
    const auto other = taken(written("lines"), {std::nullopt, "3.7 in"}); // 93.98 mm: the same within a half per cent
    EXPECT_TRUE(other);
    const auto wrong = taken(written("lines"), {std::nullopt, "108"});
    ASSERT_FALSE(wrong);
    EXPECT_THAT(wrong.error().front().what, HasSubstr("the pitch would be 94 mm, not 108"));
    const auto in_inches = taken(written("no_unit"), {Unit::inch, "94"});
    ASSERT_FALSE(in_inches) << "94 inches are no pitch of 94 mm";
}

// Seen from below, as a gasket may be drawn: mirrored back it is the deck; as it stands its dowels are on the other
// side.
TEST(Dxf, TurnsAndMirrorsADeckBack) {
    const std::string below = written("mirrored");
    const auto as_it_stands = taken(below, {.other_end = true});
    ASSERT_TRUE(as_it_stands) << as_it_stands.error().front().text();
    EXPECT_NEAR(std::abs(number(*as_it_stands, "dowel_across")), 40, 1e-4);
    EXPECT_NEAR(number(*as_it_stands, "dowel_first"), 17, 1e-4);
    const auto back = taken(below, {.other_end = true, .mirrored = true});
    ASSERT_TRUE(back);
    EXPECT_NEAR(number(*back, "dowel_across"), -number(*as_it_stands, "dowel_across"), 1e-4);
    const auto from_behind = taken(written("lines"), {.other_end = true});
    ASSERT_TRUE(from_behind);
    EXPECT_NEAR(number(*from_behind, "dowel_first"), 47 + 282 - 300, 1e-4) << "the rear dowel is the front one now";
}

// Layers as drawings have them: cylinders and dowels on one, what is not the deck on another, an insertion on a third.
TEST(Dxf, PassesOverTheLayersThatAreSwitchedOff) {
    const auto entity = [](const char* kind, const char* layer, const std::string& more) {
        return std::string("0\n") + kind + "\n8\n" + layer + "\n" + more;
    };
    const auto circle = [&](const char* layer, double x, double y, double r) {
        return entity("CIRCLE", layer,
                      "10\n" + std::to_string(x) + "\n20\n" + std::to_string(y) + "\n40\n" + std::to_string(r) + "\n");
    };
    std::string text = "0\nSECTION\n2\nBLOCKS\n0\nBLOCK\n8\n0\n2\nbolt\n10\n0\n20\n0\n" + circle("0", 0, 0, 5) +
                       "0\nENDBLK\n0\nENDSEC\n0\nSECTION\n2\nENTITIES\n";
    for (int i = 0; i < 3; ++i) {
        text += circle("DECK", 100 * i, 0, 45);
        text += circle("HEAD", 100 * i, 0, 48); // as large as no bore is
        text += entity("INSERT", "BOLTS", "2\nbolt\n10\n" + std::to_string(100 * i) + "\n20\n60\n");
    }
    text += "0\nENDSEC\n0\nEOF\n";
    const auto all = read_dxf(text, "deck.dxf");
    ASSERT_TRUE(all) << all.error().front().text();
    EXPECT_EQ(all->layers, (std::map<std::string, std::size_t>{{"BOLTS", 3}, {"DECK", 3}, {"HEAD", 3}}));
    EXPECT_EQ(all->circles.size(), 9U);
    const auto deck = read_dxf(text, "deck.dxf", nullptr, {"HEAD", "BOLTS"});
    ASSERT_TRUE(deck);
    EXPECT_EQ(deck->circles.size(), 3U);
    EXPECT_EQ(deck->layers.size(), 3U) << "what is switched off can be switched on";
    const auto taken =
        recipe_from_dxf(*deck, dxf_groups(*deck), {Unit::mm, {}, false, false, false, {}, {}}, {}, "deck.dxf");
    ASSERT_TRUE(taken) << taken.error().front().text();
    EXPECT_EQ(taken->recipe.figures.at("bore"), "90");
}

// A row of three on its side: the front is at the end that is pointed at, right is where a person says it is, the datum
// is a dowel that is named by its number from the front.
TEST(Dxf, TakesFrontSideAndDatumByPointing) {
    DxfDrawing d;
    d.mm_per_unit = 1;
    for (int i = 0; i < 3; ++i)
        d.circles.push_back({{0, 100.0 * i}, 45, {}});
    d.circles.push_back({{60, -30}, 6, {}});
    d.circles.push_back({{60, 230}, 6, {}});
    const auto groups = dxf_groups(d);
    EXPECT_FALSE(front_at_other_end(d, groups, 0));
    EXPECT_TRUE(front_at_other_end(d, groups, 2));
    // From above, going from the front at y 0 to the rear at y 200, the hand that is right seen from the rear is at the
    // left of the way: x < 0.
    EXPECT_FALSE(drawn_from_below(d, groups, false, {-60, 100}));
    EXPECT_TRUE(drawn_from_below(d, groups, false, {60, 100}));
    EXPECT_FALSE(drawn_from_below(d, groups, true, {60, 100}));
    for (const auto& [other_end, wanted] : {std::pair(false, "dowel.C.2"), {true, "dowel.C.1"}}) {
        const auto t = recipe_from_dxf(d, groups, {{}, {}, other_end, false, false, {}, 4}, {}, "deck.dxf");
        ASSERT_TRUE(t) << t.error().front().text();
        EXPECT_EQ(t->recipe.figures.at("origin"), wanted);
    }
}

TEST(Dxf, GoesOverWhatStandsAlreadyAndLeavesTheRest) {
    Recipe base;
    base.unit = Unit::inch;
    base.figures = {{"name", "a four"}, {"bore", "3.228 +.0008 0"}, {"first_bore", "2"}, {"deck_height", "8"}};
    const auto t = taken(written("lines"), {}, base);
    ASSERT_TRUE(t) << t.error().front().text();
    EXPECT_EQ(t->recipe.figures.at("bore"), "3.228 +.0008 0") << "it has limits, a drawing has not";
    EXPECT_EQ(t->recipe.figures.at("deck_height"), "8");
    EXPECT_NEAR(number(*t, "pitch"), 94 / 25.4, 1e-5);
    EXPECT_NEAR(number(*t, "dowel_first"), 2 - 30 / 25.4, 1e-5);
    const auto gasket = taken(written("lines"), {.gasket = true});
    ASSERT_TRUE(gasket);
    EXPECT_FALSE(gasket->recipe.figures.contains("bore")) << "its holes are wider than the bores";
}

TEST(Dxf, ListsWhatItDidNotUnderstand) {
    const auto t = taken(written("polyline"));
    ASSERT_TRUE(t);
    EXPECT_THAT(t->understood, testing::Contains("passed over: 1 of TEXT"));
    EXPECT_THAT(t->understood, testing::Contains("4 cylinders of 82, 94 apart"));
}

TEST(Dxf, ReadsFiftyThousandEntitiesWithProgressAndEndsWhenTold) {
    const std::string many = written("many");
    double share = 0;
    std::atomic<bool> stop = false;
    const ReadWatch watch{[&](double s) { share = s; }, &stop};
    const auto drawing = read_dxf(many, "many.dxf", &watch);
    ASSERT_TRUE(drawing) << drawing.error().front().text();
    EXPECT_EQ(share, 1);
    EXPECT_EQ(drawing->open_runs, 50000U);
    EXPECT_EQ(drawing->circles.size(), 16U);
    const ReadWatch ended{[&](double) { stop = true; }, &stop};
    const auto none = read_dxf(many, "many.dxf", &ended);
    ASSERT_FALSE(none);
    EXPECT_THAT(none.error().front().what, HasSubstr("ended"));
}

TEST(Dxf, DamagedOnesEndInOneMessageOrInLess) {
    EXPECT_FALSE(read_dxf("", "e.dxf"));
    EXPECT_FALSE(read_dxf("feature,x,y,z\n", "e.dxf"));
    EXPECT_FALSE(read_dxf(std::string("AutoCAD Binary DXF\r\n\x1a\0", 22), "e.dxf"));
    EXPECT_FALSE(taken(written("empty")));
    const std::string whole = written("polyline");
    for (std::size_t at = 0; at < whole.size(); at += whole.size() / 97) {
        const auto cut = taken(whole.substr(0, at)); // must come back, one way or the other
        if (!cut) {
            EXPECT_FALSE(cut.error().front().what.empty());
        }
    }
    // A block that holds itself.
    const auto endless =
        read_dxf("0\nSECTION\n2\nBLOCKS\n0\nBLOCK\n2\nA\n10\n0\n20\n0\n0\nINSERT\n2\nA\n10\n1\n20\n1\n0\nENDBLK\n0\n"
                 "ENDSEC\n0\nSECTION\n2\nENTITIES\n0\nINSERT\n2\nA\n10\n0\n20\n0\n0\nENDSEC\n0\nEOF\n",
                 "endless.dxf");
    ASSERT_FALSE(endless);
    EXPECT_THAT(endless.error().front().what, HasSubstr("without end"));
}

// What another library reads of a drawing of ours, and what we read of it ourselves.
TEST(DxfWriter, IsReadByAnotherLibraryAndByUs) {
    Recipe r;
    r.unit = Unit::inch;
    r.figures = {{"layout", "inline"},    {"clocking", "decks"},    {"cylinders", "4"},       {"bore", "3.5 +.001 0"},
                 {"pitch", "4"},          {"deck_height", "8.5"},   {"main_size", "2.2"},     {"dowels", "2"},
                 {"dowel_size", "0.5"},   {"dowel_apart", "14"},    {"dowel_across", "-1.9"}, {"outline_ends", "2.4"},
                 {"outline_side", "2.6"}, {"outline_corner", "0.4"}};
    const auto b = draw(r, "four");
    ASSERT_TRUE(b) << b.error().front().text();
    const std::string file = testing::TempDir() + "pallix_out" + std::to_string(getpid()) + ".dxf",
                      told = file + ".txt";
    ASSERT_TRUE(write_dxf(*b, file));
    const std::string command = std::string("/usr/bin/python3 ") + PALLIX_TOOLS + "/read_dxf.py " + file + " > " + told;
    ASSERT_EQ(std::system(command.c_str()), 0); // NOLINT(concurrency-mt-unsafe)
    const std::string seen = read_file(told, told)->text;
    EXPECT_THAT(seen, HasSubstr("unit 1\nerrors 0\n"));
    EXPECT_THAT(seen, HasSubstr("circle CYLINDERS 2.0 -2.6 1.75\n"));
    EXPECT_THAT(seen, HasSubstr("circle DOWELS 14.0 -4.5 0.25\n"));
    EXPECT_THAT(seen, HasSubstr("text 3.5 +0.001 0\n"));
    const auto again =
        taken(read_file(file, file)->text, {}, {.unit = Unit::inch, .figures = {}, .origins = {}, .accepted = {}});
    ASSERT_TRUE(again) << again.error().front().text();
    for (const char* key : {"pitch", "dowel_apart", "dowel_across"})
        EXPECT_NEAR(number(*again, key), *finite_number(r.figures.at(key)), 1e-4) << key;
    std::filesystem::remove(file);
    std::filesystem::remove(told);
    EXPECT_FALSE(write_dxf(*b, "/nowhere/at/all.dxf"));
}
