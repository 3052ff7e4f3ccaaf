// SPDX-License-Identifier: GPL-3.0-or-later
// Two real windows at one job of a book that a server keeps.
#include "bench_fixture.h"
#include "planning/common/assessment.h"
#include "session/shop_line.h"
#include "storage/cut_line.h"
#include "storage/test_server.h"
#include "ui/dialogs/book_dialogs.h"
#include "ui/frame/top_bar.h"
#include "ui/shop/shop_view.h"

#include <gmock/gmock.h>

using namespace pallix;
using testing::HasSubstr;

namespace {

constexpr int patience = 60000; // ms: of a machine that has other things to do

/// A bench of the shop: its window, and who stands at it.
struct BenchOfShop {
    BenchOfShop(const QString& address, const char* name, const QString& settings, const QString& copies = {})
        : book(std::move(*storage::ShopBook::open(address, false, copies))), preferences(settings),
          session(*book, [this] { return preferences.person().toStdString(); }), instruments(*book, preferences),
          gauge(session), practice(session), context{session, preferences, instruments, gauge, practice} {
        preferences.set_person(QString::fromLatin1(name));
        preferences.set_unit(block::Unit::mm);
        window = std::make_unique<ui::BenchWindow>(context);
        window->resize(1280, 800);
        window->show();
        line = std::make_unique<session::ShopLine>(*book);
        window->listen(*line);
    }
    [[nodiscard]] std::string text(const char* label) const {
        return window->findChild<QLabel*>(QString::fromLatin1(label))->text().toStdString();
    }
    /// Answers what is called by its keys.
    void answer() const {
        window->activateWindow();
        ASSERT_TRUE(QTest::qWaitForWindowActive(window.get()));
        QTest::keyClick(window.get(), Qt::Key_Return, Qt::ControlModifier);
    }

    std::unique_ptr<storage::ShopBook> book;
    session::Preferences preferences;
    session::Session session;
    session::InstrumentRegister instruments;
    session::GaugeLink gauge;
    session::PracticeWork practice;
    ui::Context context;
    std::unique_ptr<ui::BenchWindow> window;
    std::unique_ptr<session::ShopLine> line;
};

class BenchesInWindows : public test::BenchFixture {
  protected:
    void SetUp() override {
        if (!own_.is_there())
            GTEST_SKIP() << "PostgreSQL is not installed: nothing of a server's book was tested";
        const QString address = own_.address();
        marit_ = std::make_unique<BenchOfShop>(address, "Marit", folder_.filePath(QStringLiteral("marit.ini")));
        ASSERT_TRUE(marit_->session.new_job(QStringLiteral("small"), {}, {"small.json", test::small_blueprint()}));
        ole_ = std::make_unique<BenchOfShop>(address, "Ole", folder_.filePath(QStringLiteral("ole.ini")));
        ole_->window->open_job(*marit_->session.job());
        ole_->window->go_to(ui::Place::block);
        marit_->window->go_to(ui::Place::block);
    }
    void TearDown() override {
        marit_.reset();
        ole_.reset();
    }

    test::OwnDatabase own_;
    std::unique_ptr<BenchOfShop> marit_, ole_;
};

} // namespace

TEST_F(BenchesInWindows, WhatIsDoneAtOneIsSeenAtTheOtherAndNobodyAnswersByAccident) {
    QTRY_COMPARE_WITH_TIMEOUT(marit_->text("line"), "at the shop, with Ole at this job", patience);
    ASSERT_EQ(ole_->window->call().step()->id, "cleaned/wash");
    marit_->answer();
    ASSERT_EQ(marit_->session.entries().size(), 2U);
    QTRY_COMPARE_WITH_TIMEOUT(ole_->session.entries().size(), 2U, patience);
    EXPECT_NE(ole_->window->call().step()->id, "cleaned/wash") << "without a hand on it";
    EXPECT_THAT(ole_->text("call-echo"), HasSubstr("Marit: "));
    const std::string called = ole_->window->call().step()->id;
    ole_->window->call().say_of_others(QStringLiteral("Marit: …"), true); // as it was a moment ago
    ole_->window->call().answer();                                        // he was about to answer the other one
    EXPECT_EQ(ole_->session.entries().size(), 2U) << called;
    ASSERT_TRUE(ole_->session.take(block::Note{"seen it"}));
    QTRY_COMPARE_WITH_TIMEOUT(marit_->session.entries().size(), 3U, patience);
    EXPECT_THAT(marit_->text("call-echo"), HasSubstr("Ole: "));
    EXPECT_EQ(marit_->session.undo_target()->sequence, 2) << "she takes back her own";
}

TEST_F(BenchesInWindows, ASecondAnswerIsAskedAboutWithBoth) {
    // Before the news comes through: the windows have not been at their events since.
    ASSERT_TRUE(marit_->session.answer("cleaned/wash", {{"done", true}}));
    std::string said;
    in_dialog([&](QDialog& d) {
        said = d.findChild<QLabel*>(QStringLiteral("qt_msgbox_label"))->text().toStdString();
        d.reject();
    });
    ole_->window->call().answer();
    QTRY_VERIFY_WITH_TIMEOUT(!said.empty(), patience);
    EXPECT_THAT(said, HasSubstr("Marit: "));
    EXPECT_THAT(said, HasSubstr("Ole: "));
    QTRY_VERIFY_WITH_TIMEOUT(!ole_->session.contradiction(), patience);
    EXPECT_EQ(ole_->session.entries().size(), 2U) << "it is left at hers";
    EXPECT_EQ(ole_->session.entries().back().person, "Marit");
}

TEST_F(BenchesInWindows, WhoElseHasTheJobOpenIsShown) {
    QTRY_COMPARE_WITH_TIMEOUT(ole_->text("line"), "at the shop, with Marit at this job", patience);
    ole_->preferences.set_person(QStringLiteral("Nora"));
    QTRY_COMPARE_WITH_TIMEOUT(marit_->text("line"), "at the shop, with Nora at this job", patience);
    ole_->session.close_job();
    QTRY_COMPARE_WITH_TIMEOUT(marit_->text("line"), "at the shop", patience);
    ole_->window->open_job(*marit_->session.job());
    QTRY_COMPARE_WITH_TIMEOUT(marit_->text("line"), "at the shop, with Nora at this job", patience);
    ole_.reset();
    QTRY_COMPARE_WITH_TIMEOUT(marit_->text("line"), "at the shop", patience);
}

TEST_F(BenchesInWindows, TheBoardAndTheRegisterFollow) {
    ole_->window->go_to(ui::Place::shop);
    block::Instrument gauge;
    gauge.name = "her bore gauge";
    ASSERT_TRUE(marit_->instruments.save(gauge));
    QTRY_VERIFY_WITH_TIMEOUT(ole_->instruments.find("her bore gauge") != nullptr, patience);
    ASSERT_TRUE(marit_->session.new_job(QStringLiteral("another"), {}, {"small.json", test::small_blueprint()}));
    auto* list = ole_->window->shop().findChild<QListView*>();
    QTRY_COMPARE_WITH_TIMEOUT(list->model()->rowCount(), 2, patience);
}

TEST_F(BenchesInWindows, TheShelfFollowsAndKeepsWhatIsChosen) {
    const auto keep = [this](const char* name) {
        block::Engine engine;
        engine.recipe.figures = {{"name", name}, {"bore", "80"}};
        ASSERT_TRUE(
            marit_->book->engines().keep(engine, QStringLiteral("2026-03-02T09:41:00Z"), QStringLiteral("Marit")));
    };
    keep("tender");
    ole_->window->go_to(ui::Place::engines);
    auto* shelf = ole_->window->findChild<QListView*>(QStringLiteral("engines"));
    QTRY_COMPARE_WITH_TIMEOUT(shelf->model()->rowCount(), 1, patience);
    EXPECT_EQ(shelf->currentIndex().row(), 0);
    keep("launch");
    QTRY_COMPARE_WITH_TIMEOUT(shelf->model()->rowCount(), 2, patience);
    EXPECT_EQ(shelf->currentIndex().row(), 1) << "the tender, which stands behind the launch now";
    ASSERT_TRUE(marit_->book->engines().retire(QStringLiteral("launch"), true));
    QTRY_COMPARE_WITH_TIMEOUT(shelf->model()->rowCount(), 1, patience);
}

TEST_F(BenchesInWindows, ThePasswordForAServerIsAskedForWhereNobodyHasIt) {
    const QString user = QStringLiteral("u") + QUuid::createUuid().toString(QUuid::Id128);
    ASSERT_TRUE(own_.run(QStringLiteral("CREATE ROLE %1 LOGIN SUPERUSER PASSWORD 'sild 42'").arg(user)));
    const QString address = own_.address().replace(QStringLiteral("pallix_keeper@"), user + QLatin1Char('@'));
    const auto press = [](const QDialog& d, const char* words) {
        for (QPushButton* b : d.findChildren<QPushButton*>())
            if (b->text().remove(QLatin1Char('&')) == QString::fromUtf8(words))
                return b->click();
        ADD_FAILURE() << words;
    };
    std::string asked;
    in_dialog([&](QDialog& refused) {
        press(refused, "Give the password…");
        in_dialog([&](QDialog& typed) {
            asked = typed.findChild<QLabel*>()->text().toStdString();
            typed.findChild<QLineEdit*>()->setText(QStringLiteral("sild 42"));
            typed.accept();
            in_dialog([&](QDialog& keep) { press(keep, "Ask again next time"); });
        });
    });
    const auto book = ui::open_book(address, false);
    ASSERT_TRUE(book);
    EXPECT_THAT(asked, HasSubstr(user.toStdString()));
    EXPECT_TRUE(ui::open_book(address, false)) << "it is known until the program ends";
}

TEST_F(BenchesInWindows, AWindowThatIsAloneGoesOnAndAsksWhenTheLineIsBack) {
    test::CutLine line(own_.address());
    BenchOfShop nora(line.address(), "Nora", folder_.filePath(QStringLiteral("nora.ini")),
                     folder_.filePath(QStringLiteral("copies")));
    nora.window->open_job(*marit_->session.job());
    nora.window->go_to(ui::Place::block);
    QTRY_VERIFY_WITH_TIMEOUT(nora.text("line").starts_with("at the shop"), patience);
    line.cut();
    nora.answer();
    ASSERT_EQ(nora.session.entries().size(), 2U) << "nobody waits for the line";
    QTRY_COMPARE_WITH_TIMEOUT(nora.text("line"), "alone, 1 not yet there", patience);
    ASSERT_TRUE(marit_->session.answer("cleaned/wash", {{"done", true}}));
    std::string said;
    QStringList ways;
    in_dialog([&](QDialog& d) {
        said = d.findChild<QLabel*>(QStringLiteral("qt_msgbox_label"))->text().toStdString();
        for (const auto* button : d.findChildren<QPushButton*>())
            ways << button->text().remove(QLatin1Char('&'));
        d.reject();
    });
    line.mend();
    QTRY_VERIFY_WITH_TIMEOUT(!said.empty(), patience);
    EXPECT_THAT(said, HasSubstr("Marit: "));
    EXPECT_THAT(said, HasSubstr("Nora: "));
    EXPECT_TRUE(ways.contains(QStringLiteral("Decide later"))) << "nothing is lost by a key";
    QTRY_VERIFY_WITH_TIMEOUT(nora.text("line").ends_with("1 not yet there"), patience);
    EXPECT_TRUE(nora.text("line").starts_with("at the shop"));
    std::string again;
    in_dialog([&](QDialog& d) {
        again = d.findChild<QLabel*>(QStringLiteral("qt_msgbox_label"))->text().toStdString();
        for (auto* button : d.findChildren<QPushButton*>())
            if (button->text().remove(QLatin1Char('&')) == QStringLiteral("Write mine as well"))
                button->click();
    });
    nora.window->open_job(*marit_->session.job());
    QTRY_VERIFY_WITH_TIMEOUT(!again.empty(), patience);
    QTRY_COMPARE_WITH_TIMEOUT(marit_->session.entries().size(), 3U, patience);
    EXPECT_EQ(marit_->session.entries().back().person, "Nora");
    QTRY_VERIFY_WITH_TIMEOUT(!nora.text("line").ends_with("not yet there"), patience);
}
