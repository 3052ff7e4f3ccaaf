// SPDX-License-Identifier: GPL-3.0-or-later
// The drawing board: what is drawn before all is stated, what is asked about, what comes next.
#include "planning/common/board.h"

#include <gmock/gmock.h>

using namespace pallix;
using namespace pallix::block;
using planning::Board;
using testing::HasSubstr;

namespace {

constexpr FigureSource sheet = FigureSource::sheet;

Board inline_four() {
    Board board;
    for (const auto& [key, text] :
         std::initializer_list<std::pair<const char*, const char*>>{{"name", "a four"},
                                                                    {"layout", "inline"},
                                                                    {"cylinders", "4"},
                                                                    {"bore", "82 H8"},
                                                                    {"pitch", "94"},
                                                                    {"deck_height", "208.5 ±0.05"},
                                                                    {"main_size", "58 H6"},
                                                                    {"clocking", "decks"}})
        board.type(key, text, sheet);
    return board;
}

std::vector<std::string> ids(const Board& board) {
    std::vector<std::string> all;
    for (const planning::BoardQuestion& q : board.questions())
        all.push_back(q.id);
    return all;
}

} // namespace

TEST(Board, DrawsFromTheFirstFigureOn) {
    Board board;
    EXPECT_FALSE(board.whole());
    EXPECT_EQ(board.sketch().blueprint.bores.size(), 4U) << "something to point at";
    EXPECT_TRUE(board.questions().empty()) << "nobody stated anything";
    board.type("bore", "100", sheet);
    EXPECT_FALSE(board.needed("bore"));
    EXPECT_TRUE(board.needed("pitch"));
    EXPECT_NEAR(board.sketch().blueprint.bores[1].u - board.sketch().blueprint.bores[0].u, 115, 1e-9)
        << "in proportion to the bore";
    EXPECT_EQ(board.origin("bore").source, sheet);
    EXPECT_TRUE(inline_four().whole());
}

// Found by spoiling seeds: what stands in for others hung on a bore that no block has, and nothing was drawn for ever.
TEST(Board, AFigureThatNoBlockHasIsSaidAndStillDrawn) {
    Board board;
    board.type("layout", "v", sheet);
    board.type("bore", "8999999999999999999990", sheet);
    EXPECT_FALSE(board.sketch().wrong.empty());
    EXPECT_FALSE(board.sketch().blueprint.bores.empty()) << "something to point at";
}

TEST(Board, LeadsFromOneMissingFigureToTheNextAndThenRoundTheSheet) {
    Board board;
    EXPECT_EQ(board.next_missing(""), "layout");
    EXPECT_EQ(board.next_missing("layout"), "cylinders");
    EXPECT_EQ(board.next_missing("cylinders", false), "layout");
    board = inline_four();
    EXPECT_EQ(board.next_missing("pitch"), "first_bore") << "nothing is missing: the next of all";
    board.type("lifters", "2", sheet);
    EXPECT_EQ(board.next_missing("name"), "cam") << "lifters in the cam's plane need a cam";
    EXPECT_EQ(board.next_missing("cam"), "lifter_size");
}

TEST(Board, LeavesOutWhatCannotBeReadAndSaysWhy) {
    Board board = inline_four();
    board.type("deck_height", "high", sheet);
    EXPECT_THAT(board.wrong("deck_height"), HasSubstr("high"));
    EXPECT_FALSE(board.whole());
    EXPECT_EQ(board.sketch().blueprint.bores.size(), 4U);
    board.type("deck_height", "208.5", sheet);
    EXPECT_TRUE(board.whole());
    // Mains out of their order are nobody's single figure.
    board.type("main.2/along", "500", sheet);
    EXPECT_THAT(board.wrong(""), HasSubstr("does not lie behind"));
    board.type("main.2/along", "", sheet);
    EXPECT_TRUE(board.whole());
    board.type("engine_figures/stroke_mm", "long", sheet);
    EXPECT_THAT(board.wrong("engine_figures/stroke_mm"), HasSubstr("long"));
}

// Pitch 84 leaves 2 mm between bores of 82; a crown of 90/2 + 130 + 40 = 215 would stand 6.5 mm above 208.5.
TEST(Board, AsksAboutWhatLooksWrongUntilSomebodySaysWhyItIsRight) {
    Board board = inline_four();
    EXPECT_TRUE(board.questions().empty());
    board.type("pitch", "84", sheet);
    EXPECT_EQ(board.open_questions(), 3U);
    EXPECT_EQ(ids(board).front(), "thin_wall bore.C.1 bore.C.2");
    for (const std::string& id : ids(board))
        board.answer(id, "siamesed");
    EXPECT_EQ(board.open_questions(), 0U);
    EXPECT_EQ(board.questions().size(), 3U);
    board.type("engine_figures/stroke_mm", "90", sheet);
    board.type("engine_figures/rod_mm", "130", sheet);
    board.type("engine_figures/pin_height_mm", "40", sheet);
    EXPECT_EQ(board.open_questions(), 1U);
    EXPECT_EQ(ids(board).back(), "stack deck.C");
    EXPECT_NEAR(board.questions().back().doubt.by, -6.5, 1e-9);
    board.type("engine_figures/pin_height_mm", "33", sheet);
    EXPECT_EQ(board.open_questions(), 0U);
}

// 20 and 40 teeth of 9.525 at 120 mm: by the pitch-circle model 2C + p(N1+N2)/2 + p²(N2−N1)²/(4π²C) ≈ 533.4 mm.
TEST(Board, HoldsTheChainAgainstTheCamsDistance) {
    Board board = inline_four();
    for (const auto& [key, text] :
         std::initializer_list<std::pair<const char*, const char*>>{{"cam", "120"},
                                                                    {"cam_size", "50"},
                                                                    {"crank_teeth", "20"},
                                                                    {"cam_teeth", "40"},
                                                                    {"chain_pitch", "9.525"},
                                                                    {"chain_length", "533.4"}})
        board.type(key, text, sheet);
    ASSERT_TRUE(board.whole());
    EXPECT_TRUE(board.questions().empty()) << ids(board).front();
    board.type("cam", "130", sheet);
    ASSERT_EQ(ids(board), std::vector<std::string>{"chain cam.1"});
    EXPECT_LT(board.questions().front().doubt.by, -19);
}

TEST(Board, ChangesOneHoleAndTakesItBack) {
    Board board = inline_four();
    EXPECT_EQ(board.drawn("bore.C.3/along"), "235"); // 47 + 2·94
    board.type("bore.C.3/along", "240", FigureSource::measured);
    EXPECT_NEAR(board.sketch().blueprint.bores[2].u, 240, 1e-9);
    EXPECT_EQ(board.open_questions(), 2U) << "uneven on both sides";
    EXPECT_TRUE(board.undo());
    EXPECT_NEAR(board.sketch().blueprint.bores[2].u, 235, 1e-9);
    EXPECT_TRUE(board.redo());
    EXPECT_NEAR(board.sketch().blueprint.bores[2].u, 240, 1e-9);
    EXPECT_FALSE(board.redo());
    board.type("bore.C.3/along", "", sheet);
    EXPECT_FALSE(board.engine().recipe.figures.contains("bore.C.3/along"));
    EXPECT_EQ(board.origin("bore.C.3/along").source, FigureSource::unstated);
    board.type("bore.C.4/absent", "yes", sheet);
    EXPECT_EQ(board.sketch().blueprint.bores.size(), 3U);
    for (const std::string& key : Board::keys_of({FeatureKind::lifter, "R", 2}))
        EXPECT_FALSE(Board::words_of(key).empty());
}

TEST(Board, KnowsEveryFigureOfTheSheetByName) {
    for (const std::string& key : Board::keys()) {
        EXPECT_FALSE(Board::brief_of(key).empty()) << key;
        EXPECT_LE(Board::brief_of(key).size(), 20U) << key << ": it stands beside its number";
        EXPECT_NE(Board::words_of(key), key);
    }
    EXPECT_EQ(Board::choices_of("layout").size(), 3U);
    EXPECT_TRUE(Board::is_usual("pistons/alloy"));
    EXPECT_FALSE(Board::is_usual("bore.C.1/size"));
}
