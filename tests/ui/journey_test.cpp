// SPDX-License-Identifier: GPL-3.0-or-later
// From a blueprint file to a verdict, in the real window, by keys and mouse.
#include "bench_fixture.h"
#include "block/state/deck_state.h"
#include "block/state/tunnel_state.h"
#include "planning/common/assessment.h"
#include "ui/decks/deck_drawing.h"

#include <QComboBox>
#include <QPlainTextEdit>

using namespace pallix;
using test::in;
using test::small_log;

namespace {

class Journey : public test::BenchFixture {
  protected:
    void new_job_by_keys() {
        const QString blueprint = QString::fromStdString(write("small.pallix-blueprint.json", test::small_blueprint()));
        in_dialog([&](QDialog& d) {
            QTest::keyClicks(in<QLineEdit>(d, "job-title"), QStringLiteral("Heron, main engine"));
            QTest::keyClicks(in<QLineEdit>(d, "blueprint-file"), blueprint);
            QTest::keyClick(in<QLineEdit>(d, "blueprint-file"), Qt::Key_Return);
        });
        key(Qt::Key_N, Qt::ControlModifier);
    }
    /// @param asked what is asked about first, before it is taken all the same
    void import_by_keys(const std::string& log, const QString& uncertainty, const QString& asked = {}) {
        const QString file = QString::fromStdString(write("probe.csv", log));
        in_dialog([=](QDialog& d) {
            in<QLineEdit>(d, "log-files")->clear();
            QTest::keyClicks(in<QLineEdit>(d, "log-files"), file);
            QTest::keyClicks(in<QLineEdit>(d, "log-uncertainty"), uncertainty);
            QTest::keyClick(in<QLineEdit>(d, "log-uncertainty"), Qt::Key_Return);
            if (asked.isEmpty())
                return;
            EXPECT_TRUE(in<QPlainTextEdit>(d, "faults")->toPlainText().contains(asked));
            QTest::keyClick(in<QLineEdit>(d, "log-uncertainty"), Qt::Key_Return);
        });
        key(Qt::Key_I, Qt::ControlModifier);
    }
    /// Answers the pass as proposed.
    void log_proposed_pass(bool clean) {
        if (clean)
            tick("clean");
        answer();
    }
};

} // namespace

TEST_F(Journey, ImportPlanCutMeasureVerdict) {
    open_window();
    new_job_by_keys();
    ASSERT_TRUE(session_.has_job());
    EXPECT_EQ(headline().toStdString(), "Wash the block");

    import_by_keys(small_log(200.1, 0.15).text(), QStringLiteral("1 µm")); // 200.030 to 200.170
    EXPECT_EQ(tunnel_of(session_.state()).latest->standard_uncertainty, 0.001);
    key(Qt::Key_F5);
    EXPECT_EQ(headline().toStdString(), "Deck: witness cut, until it is clean");
    EXPECT_EQ(text_of("call-number"), QStringLiteral("0.025 mm"));

    // Drag the level to the target by keys: everything is clean there and not a step before.
    key(Qt::Key_D, Qt::ControlModifier);
    auto* level = find<QAbstractSlider>("cut-level");
    ASSERT_TRUE(level->hasFocus());
    for (int i = 0; i < 139; ++i)
        key(Qt::Key_Right);
    EXPECT_EQ(text_of("level-depth"), QStringLiteral("0.139 mm below the highest point  ·  height 200.031"));
    const double share = text_of("clean-share")
                             .split(QLatin1Char(' '))
                             .at(1)
                             .toDouble(); // by hand 99.1 %, on a map of half-millimetre cells
    EXPECT_GE(share, 98);
    EXPECT_LE(share, 99);
    for (int i = 0; i < 2; ++i)
        key(Qt::Key_Right);
    EXPECT_EQ(text_of("clean-share"), QStringLiteral("clean 100 %"));

    // The witness cut leaves the front dark: mark it with the mouse, log it by key.
    auto* deck = find<ui::DeckDrawing>("deck");
    QTest::mouseClick(deck, Qt::LeftButton, {}, deck->picture()->to_screen({8, 0}).toPoint());
    log_proposed_pass(false);
    const auto& witness = std::get<block::DeckCut>(session_.entries().back().payload);
    EXPECT_EQ(witness.kind, block::PassKind::witness);
    EXPECT_EQ(witness.dark.size(), 1U);
    EXPECT_FALSE(witness.clean);
    EXPECT_NEAR(decks_of(session_.state()).deck("C").depth_in_all(), 0.025, 1e-3);

    while (session_.assessment().decks.kind == planning::DeckStep::cut) {
        ASSERT_LT(session_.entries().size(), 20U);
        log_proposed_pass(session_.assessment().decks.passes_left == 4); // before the finishing cut; and so it stays
    }
    EXPECT_NEAR(decks_of(session_.state()).deck("C").depth_in_all(), 0.14 + 0.0254, 1e-3);
    EXPECT_EQ(headline().toStdString(), "Measure the deck again");

    // Four heights into the reading line, without the mouse.
    key(Qt::Key_R, Qt::ControlModifier);
    auto* reading = find<QLineEdit>("reading");
    ASSERT_TRUE(reading->hasFocus());
    state_uncertainty(planning::Measuring::deck_heights, 0.001);
    key(Qt::Key_H, Qt::ControlModifier); // it stands zeroed at its target
    for (const char* typed : {"200.005", "+1 µm", "20001", "-0.001"}) {
        QTest::keyClicks(reading, QString::fromUtf8(typed));
        EXPECT_TRUE(text_of("echo").startsWith(QStringLiteral("understood: 200.0"))) << text_of("echo").toStdString();
        QTest::keyClick(reading, Qt::Key_Return);
    }
    EXPECT_EQ(headline().toStdString(), "Read deck, edge right side") << "good in height, and four do not show it flat";
    for (int line = 0; line < 5; ++line) {
        QTest::keyClicks(reading, QStringLiteral("0 0.03"));
        QTest::keyClick(reading, Qt::Key_Return);
    }
    EXPECT_EQ(headline().toStdString(), "Print the passport");
    EXPECT_EQ(decks_of(session_.state()).deck("C").latest->source, block::DeckSource::readings);
    EXPECT_NEAR(decks_of(session_.state()).deck("C").latest->result.height_max, 200.010, 2e-3);

    // All of it is in the book.
    EXPECT_EQ(book_->entries(*session_.job())->size(), session_.entries().size());
}

TEST_F(Journey, MeasuringAgainByASecondLog) {
    open_small_job();
    open_window();
    take_log(small_log(200.1, 0.15).text());
    ASSERT_TRUE(session_.take(block::DeckCut{"C", block::PassKind::finish, 0.14, true, {}}));
    key(Qt::Key_F5);
    import_by_keys(test::LogWriter().deck(200.0305).text(), QString());
    EXPECT_EQ(headline().toStdString(), "Deck: can't tell yet") << "no uncertainty was stated";
    import_by_keys(test::LogWriter().deck(200.0305).text(), QStringLiteral("0.5 tenths"));
    EXPECT_EQ(headline().toStdString(), "Print the passport");
    import_by_keys(test::LogWriter().deck(199.9).text(), QStringLiteral("1 µm"),
                   QStringLiteral("deck.C stands at 199.900 mm, and nothing was cut since the log before"));
    EXPECT_EQ(headline().toStdString(), "Deck: under the blueprint's least height");
    key(Qt::Key_Z, Qt::ControlModifier);
    EXPECT_EQ(headline().toStdString(), "Print the passport") << "undo is a strike";
    key(Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
    EXPECT_EQ(headline().toStdString(), "Deck: under the blueprint's least height");
}

TEST_F(Journey, ASuspiciousReadingIsAskedAboutBeforeItCounts) {
    open_small_job();
    take_log(small_log(200.1, 0.15).text());
    ASSERT_TRUE(session_.take(block::DeckCut{"C", block::PassKind::finish, 0.14, true, {}}));
    open_window();
    key(Qt::Key_F5);
    key(Qt::Key_R, Qt::ControlModifier);
    auto* reading = find<QLineEdit>("reading");
    const std::size_t before = session_.entries().size();
    key(Qt::Key_H, Qt::ControlModifier); // zeroed at its target
    QTest::keyClicks(reading, QStringLiteral("-8 thou"));
    QTest::keyClick(reading, Qt::Key_Return);
    EXPECT_EQ(session_.entries().size(), before);
    EXPECT_TRUE(text_of("echo").contains(QStringLiteral("ten times more than expected")));
    QTest::keyClick(reading, Qt::Key_Return); // meant it
    EXPECT_EQ(session_.entries().size(), before + 1);
    QTest::keyClicks(reading, QStringLiteral("rubbish"));
    QTest::keyClick(reading, Qt::Key_Return);
    EXPECT_EQ(session_.entries().size(), before + 1);
    EXPECT_TRUE(text_of("echo").contains(QStringLiteral("is not a number")));
    QTest::keyClick(reading, Qt::Key_Escape);
    EXPECT_TRUE(reading->text().isEmpty());
    QTest::keyClick(reading, Qt::Key_PageUp); // strikes the reading just taken
    EXPECT_TRUE(decks_of(session_.state()).deck("C").readings.empty());
    QTest::keyClick(reading, Qt::Key_PageDown);
    QTest::keyClicks(reading, QStringLiteral("200.03"));
    QTest::keyClick(reading, Qt::Key_Return);
    EXPECT_EQ(std::get<block::Reading>(session_.entries().back().payload).words, "deck, front, left side")
        << "the first place was skipped";
    QTest::keyClicks(reading, QStringLiteral("7.8750")); // at a bench in mm, where some 200 is expected
    QTest::keyClick(reading, Qt::Key_Return);
    EXPECT_TRUE(text_of("echo").startsWith(QStringLiteral("7.8750 in? That would fit.")))
        << text_of("echo").toStdString();
    QTest::keyClick(reading, Qt::Key_Return); // yes
    EXPECT_NEAR(std::get<block::Reading>(session_.entries().back().payload).value, 7.8750 * 25.4, 1e-9);
}

TEST_F(Journey, ABadFileIsShownInPlaceAndNothingIsTaken) {
    open_small_job();
    open_window();
    const QString bad =
        QString::fromStdString(write("bad.csv", small_log().row("a,deck.C,,1,2,x").row("a,wheel.1,,1,2,3").text()));
    in_dialog([&](QDialog& d) {
        QTest::keyClick(in<QLineEdit>(d, "log-uncertainty"), Qt::Key_Return);
        auto* faults = in<QPlainTextEdit>(d, "faults");
        EXPECT_TRUE(faults->isVisible());
        EXPECT_TRUE(faults->toPlainText().contains(QStringLiteral("z is \"x\", expected a finite number")));
        EXPECT_TRUE(faults->toPlainText().contains(QStringLiteral("wheel.1")));
        QTest::keyClicks(in<QLineEdit>(d, "log-uncertainty"), QStringLiteral("much"));
        QTest::keyClick(in<QLineEdit>(d, "log-uncertainty"), Qt::Key_Return);
        EXPECT_TRUE(d.isVisible());
        d.reject();
    });
    window_->take_files({bad});
    EXPECT_EQ(session_.entries().size(), 1U);
}

TEST_F(Journey, ABadBlueprintKeepsTheDialogOpen) {
    open_window();
    const QString bad = QString::fromStdString(write("bad.pallix-blueprint.json", "{\n\"format\": \"x\"\n}"));
    in_dialog([&](QDialog& d) {
        QTest::keyClick(in<QLineEdit>(d, "job-title"), Qt::Key_Return);
        EXPECT_TRUE(in<QPlainTextEdit>(d, "faults")->toPlainText().contains(QStringLiteral("it has no name")));
        QTest::keyClicks(in<QLineEdit>(d, "job-title"), QStringLiteral("a job"));
        QTest::keyClick(in<QLineEdit>(d, "job-title"), Qt::Key_Return);
        EXPECT_TRUE(in<QPlainTextEdit>(d, "faults")
                        ->toPlainText()
                        .contains(QStringLiteral("bad.pallix-blueprint.json:2: format is \"x\"")));
        d.reject();
    });
    window_->take_files({bad});
    EXPECT_FALSE(session_.has_job());
}
