// SPDX-License-Identifier: GPL-3.0-or-later
// What somebody meets whose shop book is empty.
#include "bench_fixture.h"
#include "ui/frame/page_buttons.h"
#include "ui/shop/shop_view.h"
#include "workshop/harbour.h"

#include <QLocale>
#include <QSettings>

using namespace pallix;
using test::in;

namespace {

class FirstStartTest : public test::BenchFixture {
  protected:
    void press(const char* name, int button) {
        find<ui::PageButtons>(name)->findChildren<QPushButton*>().at(button)->click();
    }
};

} // namespace

TEST_F(FirstStartTest, OffersTheWaysToBeginUntilThereIsAJob) {
    open_window();
    EXPECT_EQ(headline(), QStringLiteral("Begin"));
    EXPECT_TRUE(find<QPushButton>("first-engine")->isVisible());
    press("first-unit", 0);
    EXPECT_EQ(preferences_.unit(), block::Unit::mm);
    press("first-unit", 1);
    EXPECT_EQ(preferences_.unit(), block::Unit::inch);
    press("first-paper", 1);
    EXPECT_EQ(preferences_.paper(), QStringLiteral("letter"));
    find<QPushButton>("first-practice")->click();
    EXPECT_EQ(window_->shop().shown(), ui::ShopView::Page::practice);
    window_->shop().show_page(ui::ShopView::Page::jobs);
    find<QPushButton>("first-engine")->click();
    EXPECT_EQ(window_->place(), ui::Place::engines);
    ASSERT_TRUE(session_.new_job(QStringLiteral("Tender"), {},
                                 {"b.json", write_blueprint(workshop::tender_inline_four())}, true));
    session_.close_job();
    window_->go_to(ui::Place::shop);
    EXPECT_EQ(headline(), QStringLiteral("Choose a job"));
    EXPECT_FALSE(find<QPushButton>("first-engine")->isVisible());
}

TEST_F(FirstStartTest, AFileIsChosenFromItsFirstPage) {
    open_window();
    const std::string file = write("four.pallix-blueprint.json", write_blueprint(workshop::tender_inline_four()));
    in_dialog([&](QDialog& files) { // the name is typed, as where no mouse is
        in_dialog_over(files, [&](QDialog& job) {
            EXPECT_NE(job.findChild<QLineEdit*>(QStringLiteral("job-title")), nullptr) << "a job of that blueprint";
            job.reject();
        });
        auto* name = in<QLineEdit>(files, "fileNameEdit");
        name->setText(QString::fromStdString(file));
        QTest::keyClick(name, Qt::Key_Return);
    });
    find<QPushButton>("first-file")->click();
    EXPECT_FALSE(session_.has_job());
}

// The menu takes another shop's book in: the jobs are on the board, and said.
TEST_F(FirstStartTest, AnotherShopBookIsTakenInFromTheMenu) {
    const QString other = folder_.filePath(QStringLiteral("other.shopbook"));
    {
        auto book = storage::ShopBook::open(other);
        ASSERT_TRUE(book);
        ASSERT_TRUE((*book)->create_job(
            {{1, "2026-03-02T09:41:00Z", "Marit", block::JobOpened{"theirs", "", "b.json", "{}"}}}));
    }
    open_window();
    QString said;
    in_dialog([&](QDialog& files) {
        in_dialog_over(files, [&](QDialog& told) {
            for (const QLabel* label : told.findChildren<QLabel*>())
                said += label->text();
            told.accept();
        });
        auto* name = in<QLineEdit>(files, "fileNameEdit");
        name->setText(other);
        QTest::keyClick(name, Qt::Key_Return);
    });
    for (QAction* action : window_->findChildren<QAction*>())
        if (action->text() == QStringLiteral("Take another shop book in…"))
            action->trigger();
    EXPECT_TRUE(said.contains(QStringLiteral("New: one job"))) << said.toStdString();
    const auto jobs = book_->jobs();
    ASSERT_TRUE(jobs);
    ASSERT_EQ(jobs->size(), 1U);
    EXPECT_EQ(jobs->front().title, QStringLiteral("theirs"));
}

TEST_F(FirstStartTest, TakesTheUsualLengthsOnceAndKeepsWhatWasChosen) {
    const QString file = folder_.filePath(QStringLiteral("own.ini"));
    const bool metric = QLocale::system().measurementSystem() == QLocale::MetricSystem;
    {
        session::Preferences own(file);
        own.begin_as_usual_here();
        EXPECT_EQ(own.unit(), metric ? block::Unit::mm : block::Unit::inch);
    }
    EXPECT_TRUE(QSettings(file, QSettings::IniFormat).contains(QStringLiteral("bench/unit"))) << "asked once";
    session::Preferences own(file);
    own.set_unit(metric ? block::Unit::inch : block::Unit::mm);
    own.begin_as_usual_here();
    EXPECT_EQ(own.unit(), metric ? block::Unit::inch : block::Unit::mm);
}

TEST_F(FirstStartTest, ASecondStartComesToTheFrontWithItsFiles) {
    open_window();
    const QString file = QString::fromStdString(
        write("b.pallix-exercise.json", std::string("no exercise"))); // told, and nothing else happens
    in_dialog([](QDialog& dialog) { dialog.reject(); });
    window_->showMinimized();
    window_->come_forward({file});
    EXPECT_FALSE(window_->isMinimized());
}
