// SPDX-License-Identifier: GPL-3.0-or-later
#include "bench_fixture.h"
#include "block/state/deck_state.h"
#include "block/state/intake_state.h"
#include "planning/common/assessment.h"

#include "ui/decks/cut_level_bar.h"
#include "ui/decks/deck_drawing.h"
#include "wording/common/sentences.h"

#include <QSignalSpy>

using namespace pallix;

namespace {

class DecksTest : public test::BenchFixture {
  protected:
    void open_engine(const QString& title) {
        open_demo();
        window_->open_job(demo_job(title));
        window_->go_to(ui::Place::decks);
    }
};

} // namespace

TEST_F(DecksTest, OpensOnTheBankOfTheCall) {
    open_engine(QStringLiteral("Puffling, starboard"));
    EXPECT_EQ(window_->decks().bank(), "L");
    open_demo_at("Puffling, port", ui::Place::decks);
    EXPECT_EQ(window_->decks().bank(), "R");
    key(Qt::Key_B, Qt::ControlModifier);
    EXPECT_EQ(window_->decks().bank(), "L");
}

TEST_F(DecksTest, DraggingTheLevelWithTheMouseMovesShareAndHeight) {
    open_engine(QStringLiteral("Puffling, port"));
    auto* bar = find<ui::CutLevelBar>("cut-level");
    EXPECT_EQ(text_of("clean-share"), QStringLiteral("clean 0 %"));
    const int y = bar->height() / 2;
    QTest::mousePress(bar, Qt::LeftButton, {}, QPoint(40, y));
    double share = -1;
    for (int x = 60; x < bar->width() - 28; x += 40) {
        QTest::mouseMove(bar, QPoint(x, y));
        const double now = text_of("clean-share").split(QLatin1Char(' ')).at(1).toDouble();
        EXPECT_GE(now, share);
        share = now;
    }
    QTest::mouseRelease(bar, Qt::LeftButton, {}, QPoint(bar->width() - 28, y));
    EXPECT_EQ(share, 100);
    EXPECT_GT(bar->depth(), 0.13);
}

TEST_F(DecksTest, ALevelThatWasMovedStaysUntilSomethingElseLiesUnderIt) {
    open_engine(QStringLiteral("Puffling, port"));
    auto* bar = find<ui::CutLevelBar>("cut-level");
    const double rests = bar->depth();
    bar->set_depth(rests + 0.1);
    const QString share = text_of("clean-share");
    ASSERT_TRUE(session_.take(block::Note{"it rings"}));
    Q_EMIT session_.belief_known(); // worked out beside the window
    Q_EMIT session_.certainty_known();
    EXPECT_NEAR(bar->depth(), rests + 0.1, 1e-3);
    EXPECT_EQ(text_of("clean-share"), share);
    key(Qt::Key_B, Qt::ControlModifier);
    key(Qt::Key_B, Qt::ControlModifier);
    EXPECT_NEAR(bar->depth(), rests, 1e-3) << "the other deck was under it";
}

TEST_F(DecksTest, PlacesAreMarkedByKeysAndTakenBack) {
    open_engine(QStringLiteral("Puffling, port"));
    auto* deck = find<ui::DeckDrawing>("deck");
    deck->setFocus();
    for (int i = 0; i < 9; ++i)
        QTest::keyClick(deck, Qt::Key_Up); // from the middle of a bore up to metal
    QTest::keyClick(deck, Qt::Key_Space);
    ASSERT_EQ(deck->dark().size(), 1U);
    EXPECT_NEAR(deck->dark()[0].x,
                planning::deck_extent(*intake_of(session_.state()).blueprint->bank("R")).low.x / 2 +
                    planning::deck_extent(*intake_of(session_.state()).blueprint->bank("R")).high.x / 2,
                1);
    EXPECT_GT(deck->dark()[0].y, 40);
    QTest::keyClick(deck, Qt::Key_Space);
    EXPECT_TRUE(deck->dark().empty());
    QTest::mouseClick(deck, Qt::LeftButton, {}, QPoint(2, 2));
    EXPECT_TRUE(deck->dark().empty()) << "beside the deck there is nothing to mark";
}

TEST_F(DecksTest, TheCallRefusesWhatItCannotReadAndKeepsAForecast) {
    open_engine(QStringLiteral("Puffling, port"));
    const std::size_t decided = session_.entries().size();
    tick("choice-watch"); // of the crack
    answer();
    const std::size_t before = session_.entries().size();
    EXPECT_EQ(before, decided + 1);
    EXPECT_EQ(find<QLineEdit>("ask-depth")->text(), QStringLiteral("0.025 mm")) << "filled with what is proposed";
    for (const char* typed : {"", "deep", "12", "-0.02"}) {
        ask("depth", QString::fromLatin1(typed));
        answer();
        EXPECT_EQ(session_.entries().size(), before) << typed;
        EXPECT_FALSE(text_of("call-echo").isEmpty()) << typed;
    }
    ask("depth", QStringLiteral("1.5 thou"));
    answer();
    ASSERT_EQ(session_.entries().size(), before + 2) << "the forecast is kept before the first pass";
    EXPECT_NEAR(std::get<block::DeckCut>(session_.entries().back().payload).depth, 0.0381, 1e-12);
}

TEST_F(DecksTest, WhatIsPaintedDarkGoesIntoTheAnswerAndIsNotClean) {
    open_engine(QStringLiteral("Puffling, port"));
    tick("choice-watch");
    answer();
    auto* deck = find<ui::DeckDrawing>("deck");
    deck->setFocus();
    for (int i = 0; i < 9; ++i)
        QTest::keyClick(deck, Qt::Key_Up);
    QTest::keyClick(deck, Qt::Key_Space);
    tick("clean");
    answer();
    const auto& cut = std::get<block::DeckCut>(session_.entries().back().payload);
    EXPECT_EQ(cut.dark.size(), 1U);
    EXPECT_FALSE(cut.clean);
    EXPECT_TRUE(cut.rest_bright);
    EXPECT_TRUE(deck->dark().empty()) << "it is in the ledger now";
}

TEST_F(DecksTest, TheTargetIsChosenWhereItStandsAndIsInTheLedger) {
    open_engine(QStringLiteral("Puffling, port"));
    const auto choose = [this](block::TargetSchool school) {
        choose_figure("deck_target/school", QString::fromStdString(wording::school_name(school)));
    };
    choose(block::TargetSchool::blueprint);
    EXPECT_EQ(decks_of(session_.state()).target.school, block::TargetSchool::blueprint);
    EXPECT_NEAR(session_.assessment().banks[0].plan.target, 241.3, 1e-9);
    choose(block::TargetSchool::height); // a gap in the sentence
    EXPECT_TRUE(line_with("deck_target/height_mm")->text().contains(QStringLiteral("____")));
    figure("deck_target/height_mm", QStringLiteral("241.35"));
    EXPECT_NEAR(*decks_of(session_.state()).target.height, 241.35, 1e-9);
    figure("deck_target/height_mm", QStringLiteral("24130")); // shorthand for what stands there
    EXPECT_NEAR(*decks_of(session_.state()).target.height, 241.30, 1e-9);
}

TEST_F(DecksTest, NumbersFollowTheUnit) {
    open_engine(QStringLiteral("Puffling, starboard"));
    EXPECT_TRUE(text_of("call-number").endsWith(QStringLiteral("mm")));
    key(Qt::Key_U, Qt::ControlModifier);
    EXPECT_TRUE(text_of("call-number").endsWith(QStringLiteral("in")));
    open_demo_at("Eider", ui::Place::decks); // which nobody has cut
    EXPECT_TRUE(text_of("level-depth").contains(QStringLiteral("0.0000 in")));
}
