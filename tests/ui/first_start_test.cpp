// SPDX-License-Identifier: GPL-3.0-or-later
// What somebody meets whose shop book is empty.
#include "bench_fixture.h"
#include "ui/frame/page_buttons.h"
#include "ui/shop/shop_view.h"
#include "workshop/harbour.h"

#include <QLocale>
#include <QSettings>

using namespace pallix;

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
