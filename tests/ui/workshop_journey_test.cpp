// SPDX-License-Identifier: GPL-3.0-or-later
// From the telephone to the hand-over, by keys.
#include "bench_fixture.h"

#include "block/state/card_state.h"
#include "block/state/intake_state.h"
#include "block/state/readings_state.h"
#include "planning/common/assessment.h"
#include "planning/steps/work_sheet.h"
#include "session/shop_model.h"
#include "ui/block/block_view.h"
#include "ui/frame/line_drawing.h"
#include "ui/shop/shop_view.h"

#include <QComboBox>
#include <QListWidget>
#include <QTableWidget>
#include <gmock/gmock.h>

using namespace pallix;
using ui::BlockView;
using ui::Place;
using ui::ShopView;

namespace {

class WorkshopJourney : public test::BenchFixture {
  protected:
    WorkshopJourney() {
        at_ = "2026-03-02T08:00:00Z";
        follows_preferences_ = true;
    }

    void pass(int minutes) { // the clock on the wall
        const auto now = block::read_time(at_);
        ASSERT_TRUE(now);
        at_ = block::time_text(*now + std::chrono::minutes(minutes));
    }
    /// Fills the line of the card that is marked, and goes on to the next gap.
    void fill(const char* key_of_ask, const char* words) {
        key(Qt::Key_Return); // into the panel
        ask(key_of_ask, QString::fromUtf8(words));
        answer();
    }
    QString marked_line() { return window_->block().card().marked_line(); }
    void mark_line(const char* id) {
        window_->block().card().setFocus();
        window_->block().card().mark_line(QString::fromLatin1(id));
    }
    /// The tunnel is good, the deck a tenth too high, and a height is wanted.
    void probed_to_be_decked() {
        block::Conditions caps;
        caps.caps_torqued = true;
        ASSERT_TRUE(session_.take(block::ConditionsStated{caps, false}));
        take_log(test::small_log(200.1).text());
        ASSERT_TRUE(session_.take(block::DeckTargetChosen{block::TargetSchool::height, true, 200.0}));
    }
    [[nodiscard]] const block::CardState& card() const { return card_of(session_.state()); }
    QLineEdit* search() { return find<QLineEdit>("shop-search"); }
};

} // namespace

TEST_F(WorkshopJourney, FromTheTelephoneToTheHandOver) {
    auto people = book_->people();
    ASSERT_TRUE(people.keep(QStringLiteral("Marit"), block::Role::owner));
    ASSERT_TRUE(people.set_code(QStringLiteral("Marit"), QStringLiteral("1907")));
    ASSERT_TRUE(people.keep(QStringLiteral("Mira"), block::Role::learner));
    preferences_.set_person(QStringLiteral("Marit"));
    open_small_job();
    open_window();

    // The telephone: the card, gap by gap.
    key(Qt::Key_C, Qt::ControlModifier | Qt::ShiftModifier);
    EXPECT_EQ(window_->block().shown(), BlockView::Page::card);
    key(Qt::Key_Down);
    EXPECT_EQ(marked_line(), QStringLiteral("received/any/block"));
    fill("identity", "casting 118 B");
    EXPECT_EQ(card().card.identity, "casting 118 B");
    EXPECT_EQ(marked_line(), QStringLiteral("received/any/complaint")) << "the customer stands there already";
    EXPECT_EQ(headline(), QStringLiteral("Job card: complaint, history"));
    ask("complaint", QStringLiteral("keeps losing gaskets"));
    ask("history", QStringLiteral("sleeved once"));
    answer();
    mark_line("received/any/promised");
    fill("promised", "14 days");
    EXPECT_EQ(card().card.promised, "2026-03-16");
    mark_line("received/any/part");
    key(Qt::Key_Return);
    ask("part", QStringLiteral("gasket set"));
    ask("due", QStringLiteral("1 day"));
    find<QAbstractButton>("ask-waiting-decks")->click();
    answer();
    ASSERT_EQ(card().parts.size(), 1u);

    // A soak that rings, though another job is open.
    mark_line("cleaned/any/soak");
    fill("minutes", "60");
    EXPECT_EQ(headline(), QStringLiteral("Wash the block"));
    EXPECT_EQ(text_of("call-number"), QStringLiteral("1 h 00 left"));
    EXPECT_EQ(session_.assessment().steps.find("cleaned/wash")->state, planning::StepState::waits);
    const auto small = *session_.job();
    session_.close_job();
    pass(61);
    Q_EMIT session_.entries_added(0); // somebody does something: the clocks are looked at
    EXPECT_TRUE(find<QWidget>("bell")->isVisible());
    EXPECT_TRUE(text_of("bell-words").contains(QStringLiteral("small: soak is over")))
        << text_of("bell-words").toStdString();
    key(Qt::Key_H, Qt::ControlModifier | Qt::ShiftModifier);
    EXPECT_FALSE(find<QWidget>("bell")->isVisible());
    window_->open_job(small);

    // Washed, looked over for cracks.
    EXPECT_EQ(headline(), QStringLiteral("Wash the block"));
    answer();
    EXPECT_EQ(headline(), QStringLiteral("Look it over for cracks"));
    answer();

    // A learner comes by two keys.
    key(Qt::Key_2, Qt::ControlModifier);
    EXPECT_EQ(preferences_.person(), QStringLiteral("Mira"));
    ASSERT_TRUE(card().learner_at_bench());
    probed_to_be_decked();

    // The part is due, and then overdue: nothing is cut before it is here.
    EXPECT_EQ(session_.assessment().steps.now(), nullptr);
    pass(2 * 24 * 60);
    key(Qt::Key_F2);
    auto* jobs = find<QListView>("jobs");
    EXPECT_EQ(jobs->model()->index(0, 0).data(session::ShopModel::group_role).toString(), QStringLiteral("for a part"));
    EXPECT_TRUE(jobs->model()->index(0, 0).data(session::ShopModel::overdue_role).toBool());
    key(Qt::Key_C, Qt::ControlModifier | Qt::ShiftModifier);
    mark_line(("received/any/part/" + std::to_string(card().parts[0].sequence)).c_str());
    key(Qt::Key_Return);
    EXPECT_EQ(headline(), QStringLiteral("It has come: gasket set"));
    answer();

    // She is stopped before the first cut; the owner signs.
    key(Qt::Key_F5);
    EXPECT_EQ(headline(), QStringLiteral("Stop, fetch somebody: cutting a deck"));
    ask("by", QStringLiteral("Marit"));
    ask("code", QStringLiteral("1908"));
    answer();
    EXPECT_TRUE(text_of("call-echo").contains(QStringLiteral("not the code"))) << text_of("call-echo").toStdString();
    EXPECT_TRUE(card().signed_off.empty());
    ask("code", QStringLiteral("1907"));
    answer();
    ASSERT_EQ(card().signed_off.size(), 1u);
    EXPECT_TRUE(headline().startsWith(QStringLiteral("Deck: "))) << headline().toStdString();

    // The owner goes on; by code.
    in_dialog([](QDialog& dialog) {
        auto* code = dialog.findChild<QLineEdit*>();
        EXPECT_EQ(code->echoMode(), QLineEdit::Password);
        QTest::keyClicks(code, QStringLiteral("1907"));
        QTest::keyClick(code, Qt::Key_Return);
    });
    key(Qt::Key_1, Qt::ControlModifier);
    EXPECT_EQ(preferences_.person(), QStringLiteral("Marit"));
    EXPECT_FALSE(card().learner_at_bench());

    // Another block that needs the same set-up.
    const auto again =
        session_.new_job(QStringLiteral("second"), QStringLiteral("nobody"), {"small.json", test::small_blueprint()});
    ASSERT_TRUE(again) << again.error().front().text();
    ASSERT_TRUE(session_.take(block::StepDone{"washed"}));
    ASSERT_TRUE(session_.take(block::StepDone{"inspected for cracks, threads, caps and registers"}));
    probed_to_be_decked();
    key(Qt::Key_J, Qt::ControlModifier | Qt::ShiftModifier);
    EXPECT_EQ(window_->shop().shown(), ShopView::Page::machines);
    QStringList machines;
    for (const auto& part : find<ui::LineDrawing>("machines")->spoken())
        machines << part.name + QStringLiteral(": ") + part.value;
    EXPECT_TRUE(machines.join(QLatin1Char('\n')).contains(QStringLiteral("two decks wait for the same set-up: ")))
        << machines.join(QLatin1Char('\n')).toStdString();

    // Handed over as it is, and found again by its casting.
    window_->open_job(small);
    key(Qt::Key_A, Qt::ControlModifier | Qt::ShiftModifier);
    type(QStringLiteral("hand the block"));
    key(Qt::Key_Return);
    EXPECT_EQ(headline(), QStringLiteral("Hand the block over as it is"));
    window_->go_to(Place::passport);
    window_->call().speak_of("passport/any/hand_over");
    ask("to", QStringLiteral("its owner"));
    answer();
    ASSERT_TRUE(card().delivered);
    EXPECT_EQ(headline(), QStringLiteral("Delivered to its owner"));
    key(Qt::Key_F2);
    EXPECT_EQ(jobs->model()->rowCount(), 1);
    key(Qt::Key_F, Qt::ControlModifier);
    ASSERT_TRUE(search()->hasFocus());
    type(QStringLiteral("118 B"));
    EXPECT_EQ(jobs->model()->rowCount(), 1);
    key(Qt::Key_Return);
    EXPECT_EQ(session_.job(), small);
}

// Whoever has no learner and no list types the first reading of a new job as before.
TEST_F(WorkshopJourney, NotOneKeyMoreToTheFirstReading) {
    open_small_job();
    open_window();
    key(Qt::Key_F4);
    key(Qt::Key_R, Qt::ControlModifier);
    type(QStringLiteral("60.010"));
    key(Qt::Key_Return);
    EXPECT_EQ(readings_of(session_.state()).places.size(), 1u);
}

// The dialog: somebody is kept, with role and code; the owner's code guards the list.
TEST_F(WorkshopJourney, PeopleAreKeptByKeys) {
    open_window();
    in_dialog([](QDialog& dialog) {
        auto* name = test::in<QLineEdit>(dialog, "person-name");
        name->setText(QStringLiteral("Marit"));
        test::in<QComboBox>(dialog, "person-role")->setCurrentIndex(0);
        test::in<QLineEdit>(dialog, "person-code")->setText(QStringLiteral("1907"));
        test::in<QPushButton>(dialog, "person-keep")->click();
        EXPECT_EQ(test::in<QListWidget>(dialog, "people")->count(), 1);
        name->setText(QStringLiteral("Jorun"));
        test::in<QComboBox>(dialog, "person-role")->setCurrentIndex(1);
        test::in<QPushButton>(dialog, "person-keep")->click();
        EXPECT_EQ(test::in<QListWidget>(dialog, "people")->count(), 2);
        name->setText(QStringLiteral("Jorun"));
        dialog.accept();
    });
    key(Qt::Key_W, Qt::ControlModifier | Qt::ShiftModifier);
    EXPECT_EQ(preferences_.person(), QStringLiteral("Jorun"));
    in_dialog([](QDialog& dialog) {
        test::in<QLineEdit>(dialog, "person-name")->setText(QStringLiteral("Mira"));
        test::in<QPushButton>(dialog, "person-keep")->click();
        EXPECT_EQ(test::in<QListWidget>(dialog, "people")->count(), 2) << "a machinist does not change who is who";
        dialog.reject();
    });
    key(Qt::Key_W, Qt::ControlModifier | Qt::ShiftModifier);
}

// The order of the stages is moved by keys, and new jobs of the shop begin with it.
TEST_F(WorkshopJourney, TheRouteIsMovedByKeys) {
    open_small_job();
    open_window();
    in_dialog([](QDialog& dialog) {
        auto* order = test::in<QListWidget>(dialog, "route-order");
        EXPECT_EQ(order->item(0)->text(), QStringLiteral("cleaned"));
        order->setCurrentRow(3); // the decks
        EXPECT_EQ(order->currentItem()->text(), QStringLiteral("decks"));
        order->setFocus();
        QTest::keyClick(order, Qt::Key_Up, Qt::AltModifier);
        test::in<QCheckBox>(dialog, "route-shop")->setChecked(true);
        dialog.accept();
    });
    key(Qt::Key_O, Qt::ControlModifier | Qt::ShiftModifier);
    ASSERT_TRUE(intake_of(session_.state()).route);
    const auto& route = intake_of(session_.state()).route->payload;
    ASSERT_EQ(route.order.size(), 10u);
    EXPECT_EQ(route.order[3], block::Stage::decks);
    EXPECT_EQ(route.order[4], block::Stage::tunnel);
    EXPECT_EQ(route.order.back(), block::Stage::passport);
    const auto next =
        session_.new_job(QStringLiteral("next"), QStringLiteral("nobody"), {"small.json", test::small_blueprint()});
    ASSERT_TRUE(next);
    ASSERT_TRUE(intake_of(session_.state()).route) << "begun with";
    EXPECT_EQ(intake_of(session_.state()).route->payload, route);
}

TEST_F(WorkshopJourney, ASheetIsTypedInByItsLetters) {
    open_small_job();
    open_window();
    in_dialog([this](QDialog& dialog) {
        auto* line = test::in<QLineEdit>(dialog, "tick-line");
        const auto enter = [line](const std::string& text) {
            line->setText(QString::fromStdString(text));
            QTest::keyClick(line, Qt::Key_Return);
        };
        enter("zzzz");
        EXPECT_TRUE(test::in<QLabel>(dialog, "tick-echo")->text().contains(QStringLiteral("zzzz")));
        enter(planning::sheet_code("cleaned/wash"));
        EXPECT_EQ(session_.assessment().steps.find("cleaned/wash")->state, planning::StepState::done);
        enter(planning::sheet_code("cleaned/inspect"));
        EXPECT_EQ(test::in<QListWidget>(dialog, "tick-taken")->count(), 2);
        enter(planning::sheet_code("cleaned/wash"));
        EXPECT_TRUE(test::in<QLabel>(dialog, "tick-echo")->text().contains(QStringLiteral("done already")));
        dialog.accept();
    });
    key(Qt::Key_T, Qt::ControlModifier | Qt::AltModifier);
}

TEST_F(WorkshopJourney, UsualTimesAreTypedUntilTheShopHasItsOwn) {
    open_window();
    in_dialog([](QDialog& dialog) {
        auto* table = test::in<QTableWidget>(dialog, "usual-minutes");
        ASSERT_EQ(table->item(0, 0)->text(), QStringLiteral("wash"));
        table->item(0, 2)->setText(QStringLiteral("a while"));
        dialog.accept();
        EXPECT_TRUE(dialog.isVisible()) << "it is asked about";
        table->item(0, 2)->setText(QStringLiteral("25"));
        dialog.accept();
    });
    QAction* action = nullptr;
    for (QAction* one : window_->findChildren<QAction*>())
        if (one->text().contains(QStringLiteral("work takes")))
            action = one;
    ASSERT_NE(action, nullptr);
    action->trigger();
    EXPECT_EQ(book_->usual().minutes(), (std::map<std::string, double>{{"wash", 25}}));
}

TEST_F(WorkshopJourney, ALearnerIsToldToStopAndWhenItIsEnough) {
    ASSERT_TRUE(book_->people().keep(QStringLiteral("Mira"), block::Role::learner));
    preferences_.set_person(QStringLiteral("Mira"));
    open_small_job();
    open_window();
    key(Qt::Key_F4);
    key(Qt::Key_R, Qt::ControlModifier);
    const auto enter = [this](const char* typed) {
        find<QLineEdit>("reading")->setText(QString::fromLatin1(typed));
        QTest::keyClick(find<QLineEdit>("reading"), Qt::Key_Return);
    };
    enter("61.010"); // a millimetre off: a slip
    EXPECT_TRUE(text_of("echo").startsWith(QStringLiteral("Stop, fetch somebody."))) << text_of("echo").toStdString();
    EXPECT_TRUE(readings_of(session_.state()).places.empty());
    enter("60.010");
    enter("60.011");
    EXPECT_FALSE(text_of("echo").contains(QStringLiteral("Enough")));
    key(Qt::Key_R, Qt::ControlModifier | Qt::ShiftModifier); // once more
    enter("60.010");
    EXPECT_TRUE(text_of("echo").contains(QStringLiteral("Enough: three readings within 0.001 mm")))
        << text_of("echo").toStdString();
}
