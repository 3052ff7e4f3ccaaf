// SPDX-License-Identifier: GPL-3.0-or-later
// A block that is not there, from the empty shop to the reckoning, by keys: once done well, once badly.
#include "bench_fixture.h"
#include "block/state/card_state.h"
#include "block/state/readings_state.h"
#include "planning/common/assessment.h"
#include "planning/tunnel/tunnel_study.h"
#include "reporting/report.h"
#include "ui/dialogs/school_dialog.h"
#include "ui/dialogs/school_drawing.h"
#include "ui/passport/passport_view.h"
#include "ui/shop/shop_view.h"
#include "workshop/harbour.h"
#include "workshop/practice/own_exercise.h"

#include <QComboBox>
#include <QPlainTextEdit>
#include <QTextBrowser>

using namespace pallix;

namespace {

class PracticeJourney : public test::BenchFixture {
  protected:
    /// The first exercise of the page, by keys.
    void begin() {
        key(Qt::Key_B, Qt::ControlModifier | Qt::AltModifier);
        ASSERT_EQ(window_->shop().shown(), ui::ShopView::Page::practice);
        key(Qt::Key_Down);
        key(Qt::Key_Return);
        ASSERT_TRUE(session_.has_job());
        ASSERT_TRUE(practice_.running());
    }
    const planning::Step* now() { return session_.assessment().steps.now(); }
    void take() { key(Qt::Key_Space, Qt::ControlModifier); }
    /// Whatever is called, done as proposed, until that holds or nothing is called any more.
    template <class Until>
    void follow(Until until) {
        for (int i = 0; i < 300 && now() && now()->task != planning::Task::open_truth && !until(*now()); ++i) {
            const std::size_t before = session_.entries().size();
            if (now()->place || now()->task == planning::Task::feel)
                take();
            else {
                for (const planning::Ask& asked : now()->asks)
                    if (asked.kind == planning::AskKind::text && asked.key == "reason")
                        ask("reason", QStringLiteral("as felt"));
                answer();
            }
            if (session_.entries().size() == before)
                take(); // asked about, and looked at again
            ASSERT_GT(session_.entries().size(), before)
                << now()->id << ": " << text_of("echo").toStdString() << " / " << text_of("call-echo").toStdString();
        }
    }
    /// By the call once nothing else is left, else by its keys, and then it is asked for sure.
    void open_truth() {
        if (now() && now()->task == planning::Task::open_truth) {
            answer();
        } else {
            in_dialog([](QDialog& dialog) { dialog.findChildren<QPushButton*>().first()->click(); });
            key(Qt::Key_U, Qt::ControlModifier | Qt::AltModifier);
        }
        practice_.insist();
    }
    QString said() { return text_of("practice-words"); }
    QString paper() { return find<QTextBrowser>("passport")->toPlainText(); }
    double score() { return card_of(session_.state()).truth_opened->payload.score; }
};

} // namespace

TEST_F(PracticeJourney, AnExerciseDoneWell) {
    open_window();
    EXPECT_FALSE(find<QWidget>("practice-strip")->isVisible());
    begin();
    EXPECT_TRUE(window_->windowTitle().contains(QStringLiteral("Practice")));
    EXPECT_TRUE(find<QWidget>("practice-strip")->isVisible());
    EXPECT_TRUE(said().contains(QStringLiteral("how flat"))) << "what is asked";
    window_->go_to(ui::Place::passport);
    window_->passport().show_paper(reporting::PaperKind::reckoning);
    EXPECT_TRUE(paper().contains(QStringLiteral("sealed"))) << paper().toStdString();
    window_->passport().show_paper(reporting::PaperKind::passport);
    EXPECT_TRUE(paper().contains(QStringLiteral("Practice, no block"))) << paper().toStdString();
    key(Qt::Key_F3);
    window_->go_to(ui::Place::block);
    bool explained = false;
    follow([&](const planning::Step&) {
        explained = explained || said().contains(QStringLiteral("Next:"));
        return false;
    });
    EXPECT_TRUE(explained) << "what a reading means";
    ASSERT_TRUE(now());
    EXPECT_EQ(now()->task, planning::Task::open_truth);
    EXPECT_EQ(find<QPushButton>("call-answer")->text(), QStringLiteral("Open the truth"));
    EXPECT_TRUE(practice_.running());
    open_truth();
    ASSERT_FALSE(practice_.running());
    EXPECT_GE(score(), 85);
    EXPECT_TRUE(paper().contains(QStringLiteral("of 100"))) << paper().toStdString();
    EXPECT_TRUE(paper().contains(QStringLiteral("How it truly is")));
    EXPECT_EQ(find<QComboBox>("papers")->currentText(), QStringLiteral("Reckoning"));
    EXPECT_EQ(headline(), QStringLiteral("The exercise is over")) << "no block to hand over";
    EXPECT_FALSE(session_.undo_target()) << "what was looked at was looked at";
    key(Qt::Key_B, Qt::ControlModifier | Qt::AltModifier);
    window_->grab();
}

TEST_F(PracticeJourney, AnExerciseDoneBadly) {
    open_window();
    begin();
    // A rule gone on against: nobody has looked for cracks.
    const auto looked_over = [](const planning::Step& step) { return step.task == planning::Task::inspect; };
    follow(looked_over);
    ASSERT_TRUE(session_.take(block::GatePassed{block::Rule::inspected, "deck.C", "no time"}));
    EXPECT_TRUE(said().contains(QStringLiteral("gone on though"))) << said().toStdString();
    const auto cuts = [](const planning::Step& step) { return step.task == planning::Task::cut_deck; };
    follow(cuts);
    ASSERT_TRUE(now() && now()->number);
    window_->go_to(ui::Place::decks);
    ask("depth", QString::number(*now()->number + 0.4, 'f', 3) + QStringLiteral(" mm"));
    answer();
    EXPECT_TRUE(said().contains(QStringLiteral("more than was called for"))) << said().toStdString();
    // One pass more than anything called for.
    ASSERT_TRUE(session_.take(block::DeckCut{"C", block::PassKind::pass, 0.1, true, {}}));
    follow([](const planning::Step&) { return false; });
    open_truth();
    ASSERT_FALSE(practice_.running());
    EXPECT_LT(score(), 75);
    const auto result = practice_.result();
    ASSERT_TRUE(result);
    EXPECT_GT(result->player.score(), score() + 15) << "the player, on the same block";
    EXPECT_TRUE(paper().contains(QStringLiteral("What to do better")));
    EXPECT_TRUE(paper().contains(QStringLiteral("more came off than had to"))) << paper().toStdString();
    EXPECT_TRUE(paper().contains(QStringLiteral("(5 points)"))) << "the rule gone on against, and what it cost";
}

TEST_F(PracticeJourney, LookingBeforehandEndsItAndTheCoachCanBeSilent) {
    open_window();
    preferences_.set_coach(planning::CoachDepth::silent);
    begin();
    ASSERT_TRUE(session_.take(block::GatePassed{block::Rule::inspected, "deck.C", "no time"}));
    EXPECT_FALSE(said().contains(QStringLiteral("gone on though")));
    in_dialog([](QDialog& dialog) { dialog.reject(); });
    key(Qt::Key_U, Qt::ControlModifier | Qt::AltModifier);
    EXPECT_TRUE(practice_.running()) << "asked first";
    open_truth();
    EXPECT_FALSE(practice_.running());
    const std::size_t entries = session_.entries().size();
    take();
    EXPECT_EQ(session_.entries().size(), entries) << "no gauge sends anything any more";
    EXPECT_LT(score(), 60);
    EXPECT_FALSE(now()) << "it asks for nothing more";
    EXPECT_EQ(headline(), QStringLiteral("The exercise is over"));
}

TEST_F(PracticeJourney, AnExerciseOfTheShopsOwnComesInAsAFile) {
    open_window();
    workshop::OwnExercise own{"Spare",
                              "It lay in the shed.",
                              "See what it is good for.",
                              3,
                              1,
                              {block::Stage::tunnel},
                              write_blueprint(workshop::tender_inline_four()),
                              {"main.2 up 0.03"}};
    window_->take_files({QString::fromStdString(write("spare.pallix-exercise.json", own_exercise_json(own)))});
    ASSERT_TRUE(practice_.running());
    EXPECT_TRUE(said().contains(QStringLiteral("It lay in the shed.")));
    EXPECT_TRUE(window_->windowTitle().contains(QStringLiteral("Practice: Spare")));
    const auto job = session_.job();
    own.errors = {"main.9 up 0.03"};
    in_dialog([](QDialog& dialog) { dialog.reject(); });
    window_->take_files({QString::fromStdString(write("bad.pallix-exercise.json", own_exercise_json(own)))});
    EXPECT_EQ(session_.job(), job);
}

TEST_F(PracticeJourney, AnExerciseIsMadeByTypingAndByPulling) {
    open_window();
    ASSERT_TRUE(session_.new_job(QStringLiteral("Tender"), {},
                                 {"b.json", write_blueprint(workshop::tender_inline_four())}, true));
    in_dialog([&](QDialog& dialog) {
        auto* begin = in<QPushButton>(dialog, "exercise-begin");
        auto* errors = in<QPlainTextEdit>(dialog, "exercise-errors");
        auto* told = in<QLabel>(dialog, "exercise-told");
        EXPECT_FALSE(begin->isEnabled()) << "it has no name";
        in<QLineEdit>(dialog, "exercise-title")->setText(QStringLiteral("The bent one"));
        EXPECT_TRUE(begin->isEnabled());
        errors->setPlainText(QStringLiteral("main.2 up 0.03\nmain.9 up 0.01"));
        EXPECT_TRUE(told->text().startsWith(QStringLiteral("Line 2: \"main.9\" is not on this block")))
            << told->text().toStdString();
        EXPECT_FALSE(begin->isEnabled());
        errors->setPlainText(QStringLiteral("main.2 up 0.03"));
        EXPECT_TRUE(told->text().contains(QStringLiteral("tunnel")));
        auto* drawing = in<QWidget>(dialog, "exercise-truth");
        drawing->grab(); // laid out
        drawing->setFocus();
        QTest::keyClick(drawing, Qt::Key_Right); // main 1, from the side
        QTest::keyClick(drawing, Qt::Key_Down, Qt::ShiftModifier);
        EXPECT_EQ(errors->toPlainText(), QStringLiteral("main.2 up 0.03\nmain.1 up -0.050"));
        QTest::keyClick(drawing, Qt::Key_Up, Qt::ShiftModifier);
        EXPECT_EQ(errors->toPlainText(), QStringLiteral("main.2 up 0.03"));
        drawing->grab();
        const QPoint middle(drawing->width() / 4, drawing->height() / 12); // within the first panel
        QTest::mousePress(drawing, Qt::LeftButton, Qt::NoModifier, middle);
        const QPoint lower = middle + QPoint(0, 150);
        QMouseEvent move(QEvent::MouseMove, lower, drawing->mapToGlobal(lower), Qt::NoButton, Qt::LeftButton, {});
        QApplication::sendEvent(drawing, &move);
        QTest::mouseRelease(drawing, Qt::LeftButton, Qt::NoModifier, middle + QPoint(0, 150));
        EXPECT_TRUE(errors->toPlainText().contains(QStringLiteral(" up -"))) << errors->toPlainText().toStdString();
        errors->setPlainText(QStringLiteral("main.2 up 0.03"));
        begin->click();
    });
    key(Qt::Key_X, Qt::ControlModifier | Qt::AltModifier);
    ASSERT_TRUE(practice_.running());
    EXPECT_TRUE(window_->windowTitle().contains(QStringLiteral("The bent one")));
    const auto truth = workshop::hidden_truth(session_.state());
    ASSERT_TRUE(truth);
    EXPECT_EQ(truth->block.mains[1].up, 0.03);
}

TEST_F(PracticeJourney, OtherWaysAreTriedBeforeTheMetalIsTouched) {
    open_window();
    const workshop::SimulatedBlock block(workshop::tender_inline_four(), 12);
    metrology::Deviates draw(5, 1);
    ASSERT_TRUE(session_.new_job(QStringLiteral("Tender"), {}, {"b.json", write_blueprint(block.blueprint())}, true));
    ASSERT_TRUE(session_.take(block::ScopeChosen{{block::Stage::tunnel}, "the tunnel alone"}));
    in_dialog([](QDialog& dialog) { dialog.reject(); }); // nothing was measured
    key(Qt::Key_O, Qt::ControlModifier | Qt::AltModifier);
    ASSERT_TRUE(session_.take_probe_logs({{"l.csv", block.probe(0.001, draw)}}, 0.001, true));
    const block::TunnelPolicy planned = planning::tunnel_policy_of(session_.state());
    in_dialog([&](QDialog& dialog) {
        auto& schools = dynamic_cast<ui::SchoolDialog&>(dialog);
        EXPECT_FALSE(in<QPushButton>(dialog, "schools-plan")->isEnabled()) << "it is planned so";
        while (schools.work().blocks() == 0)
            QApplication::processEvents(QEventLoop::WaitForMoreEvents);
        EXPECT_TRUE(in<QLabel>(dialog, "schools-told")->text().contains(QStringLiteral(" of 10 blocks")));
        auto* drawing = in<ui::SchoolDrawing>(dialog, "schools");
        drawing->grab();
        QTest::keyClick(drawing, Qt::Key_Down);
        const auto spoken = drawing->spoken();
        EXPECT_EQ(spoken[0].name, QStringLiteral("as planned"));
        EXPECT_TRUE(spoken[1].marked);
        EXPECT_TRUE(spoken[1].value.contains(QStringLiteral("good"))) << spoken[1].value.toStdString();
        QTest::keyClick(drawing, Qt::Key_Return); // the button that is set off
    });
    key(Qt::Key_O, Qt::ControlModifier | Qt::AltModifier);
    EXPECT_NE(planning::tunnel_policy_of(session_.state()), planned);
    EXPECT_FALSE(practice_.is_practice()) << "the job itself is planned otherwise";
    in_dialog([&](QDialog& dialog) { in<QPushButton>(dialog, "schools-copy")->click(); });
    key(Qt::Key_O, Qt::ControlModifier | Qt::AltModifier);
    EXPECT_TRUE(practice_.running()) << "and a copy is worked on";
}

// What is measured is whoever's choice who measures: the call goes on asking for the mains.
TEST_F(PracticeJourney, TheTemperaturesOfAHotBlockAreTakenFirst) {
    open_window();
    const workshop::Exercise hot = workshop::exercise_of(workshop::Theme::hot_block, 2, 1);
    ASSERT_TRUE(practice_.begin(hot));
    ASSERT_TRUE(session_.take(block::StepDone{"washed"}));
    ASSERT_TRUE(session_.take(block::StepDone{"inspected for cracks, threads, caps and registers"}));
    window_->go_to(ui::Place::tunnel);
    auto* what = find<QComboBox>("what-to-measure");
    what->setCurrentText(QStringLiteral("temperatures"));
    Q_EMIT what->activated(what->currentIndex());
    take();
    EXPECT_FALSE(readings_of(session_.state()).conditions.part_c) << "so far off is asked about";
    take(); // looked at again, it is so
    take();
    const block::Conditions& now = readings_of(session_.state()).conditions;
    ASSERT_TRUE(now.part_c && now.gauge_c)
        << text_of("echo").toStdString() << " / " << text_of("reading-place").toStdString();
    EXPECT_NEAR(*now.part_c, hot.truth.gauges.part_c, 1);
    EXPECT_NEAR(*now.gauge_c, hot.truth.gauges.gauge_c, 1);
    EXPECT_GT(*now.part_c - *now.gauge_c, 8);
}
