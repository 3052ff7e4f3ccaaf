// SPDX-License-Identifier: GPL-3.0-or-later
#include "bench_fixture.h"
#include "block/state/deck_state.h"
#include "block/state/intake_state.h"
#include "planning/common/assessment.h"

#include "ui/decks/cut_level_bar.h"
#include "ui/decks/deck_drawing.h"

#include <QComboBox>
#include <QSignalSpy>

using namespace pallix;

namespace {

class DecksTest : public test::BenchFixture {
  protected:
    void open_engine(const QString& title) {
        open_demo();
        window_->open_job(demo_job(title));
    }
};

} // namespace

TEST_F(DecksTest, OpensOnTheBankOfTheCall) {
    open_engine(QStringLiteral("Puffling, starboard"));
    EXPECT_EQ(window_->decks().bank(), "L");
    window_->open_job(demo_job(QStringLiteral("Puffling, port")));
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
    EXPECT_FALSE(find<QCheckBox>("pass-clean")->isEnabled()) << "a pass with dark places is not clean";
    QTest::keyClick(deck, Qt::Key_Space);
    EXPECT_TRUE(deck->dark().empty());
    QTest::mouseClick(deck, Qt::LeftButton, {}, QPoint(2, 2));
    EXPECT_TRUE(deck->dark().empty()) << "beside the deck there is nothing to mark";
}

TEST_F(DecksTest, ThePassFormRefusesWhatItCannotRead) {
    open_engine(QStringLiteral("Puffling, port"));
    const std::size_t before = session_.entries().size();
    auto* depth = find<QLineEdit>("pass-depth");
    for (const char* typed : {"", "deep", "0", "-0.02"}) {
        depth->setText(QString::fromLatin1(typed));
        QTest::keyClick(depth, Qt::Key_Return);
        EXPECT_EQ(session_.entries().size(), before) << typed;
    }
    depth->setText(QStringLiteral("1.5 thou"));
    QTest::keyClick(depth, Qt::Key_Return);
    ASSERT_EQ(session_.entries().size(), before + 2) << "the forecast is kept before the first pass";
    EXPECT_NEAR(std::get<block::DeckCut>(session_.entries().back().payload).depth, 0.0381, 1e-12);
}

TEST_F(DecksTest, TheTargetIsChosenByKeysAndStandsInTheLedger) {
    open_engine(QStringLiteral("Puffling, port"));
    auto* school = find<QComboBox>("target-school");
    school->setFocus();
    QTest::keyClick(school, Qt::Key_Down); // blueprint height
    EXPECT_EQ(decks_of(session_.state()).target.school, block::TargetSchool::blueprint);
    EXPECT_NEAR(session_.assessment().banks[0].plan.target, 241.3, 1e-9);
    QTest::keyClick(school, Qt::Key_Down); // a given height asks for it first
    EXPECT_EQ(decks_of(session_.state()).target.school, block::TargetSchool::blueprint);
    auto* height = find<QLineEdit>("target-height");
    height->setText(QStringLiteral("24135"));
    QTest::keyClick(height, Qt::Key_Return);
    EXPECT_EQ(decks_of(session_.state()).target.school, block::TargetSchool::height);
    EXPECT_NEAR(*decks_of(session_.state()).target.height, 241.35, 1e-9);
}

TEST_F(DecksTest, NumbersFollowTheUnit) {
    open_engine(QStringLiteral("Eider"));
    EXPECT_TRUE(text_of("call-number").endsWith(QStringLiteral("mm")));
    key(Qt::Key_U, Qt::ControlModifier);
    EXPECT_TRUE(text_of("call-number").endsWith(QStringLiteral("in")));
    EXPECT_TRUE(text_of("level-depth").contains(QStringLiteral("0.0000 in")));
}
