// SPDX-License-Identifier: GPL-3.0-or-later
#include "bench_fixture.h"
#include "block/digest.h"
#include "block/state/card_state.h"
#include "block/state/deck_state.h"
#include "block/state/intake_state.h"
#include "planning/common/assessment.h"
#include "planning/steps/steps.h"
#include "ui/cylinders/cylinders_view.h"
#include "ui/lifters/lifters_view.h"

#include "reference_data.h"
#include "ui/frame/drawing.h"
#include "ui/frame/route_panel.h"
#include "ui/screenshots.h"

#include <QComboBox>
#include <QDropEvent>
#include <QImage>
#include <QMenuBar>
#include <QMimeData>
#include <QScrollBar>
#include <QStackedWidget>
#include <QTableWidget>
#include <QTextBrowser>

using namespace pallix;
using test::in;

namespace {

class WindowTest : public test::BenchFixture {};

} // namespace

TEST_F(WindowTest, AnEmptyShopSaysWhatToDoFirst) {
    open_window();
    bool said = false;
    for (const QLabel* label : window_->findChildren<QLabel*>())
        said |= label->isVisible() && label->text().contains(QStringLiteral("Some forty figures from its sheet"));
    EXPECT_TRUE(said);
    EXPECT_EQ(text_of("call-headline"), QStringLiteral("Begin"));
    key(Qt::Key_F5);
    EXPECT_EQ(window_->place(), ui::Place::shop) << "there is nothing to go to yet";
}

TEST_F(WindowTest, AJobIsOpenedByKeys) {
    open_demo();
    auto* jobs = find<QListView>("jobs");
    ASSERT_TRUE(jobs->hasFocus());
    for (int i = 0; i < 4; ++i)
        QTest::keyClick(jobs, Qt::Key_Down);
    QTest::keyClick(jobs, Qt::Key_Return);
    ASSERT_TRUE(session_.has_job());
    EXPECT_EQ(intake_of(session_.state()).title, "Puffling, starboard engine");
    EXPECT_EQ(window_->place(), ui::Place::block);
    EXPECT_EQ(window_->windowTitle(), QStringLiteral("Puffling, starboard engine — Pallix"));
}

TEST_F(WindowTest, AnUnmeasuredJobSaysWhatToDoInEveryView) {
    open_demo();
    window_->open_job(demo_job(QStringLiteral("Lantern")));
    window_->go_to(ui::Place::tunnel);
    EXPECT_TRUE(text_of("tunnel-words").contains(QStringLiteral("Ctrl+I")));
    EXPECT_EQ(text_of("call-headline"), QStringLiteral("Wash the block"));
    auto* answer = find<QPushButton>("call-answer");
    EXPECT_EQ(answer->text(), QStringLiteral("Washed"));
    answer->click();
    EXPECT_EQ(answer->text(), QStringLiteral("Looked over"));
    answer->click();
    EXPECT_EQ(text_of("call-headline"), QStringLiteral("Take the probe log in"));
    EXPECT_EQ(answer->text(), QStringLiteral("Choose the log…")) << "a file is no tick";
}

TEST_F(WindowTest, WhatIsWantedIsChosenWithAReason) {
    open_small_job();
    open_window();
    in_dialog([](QDialog& d) {
        in<QCheckBox>(d, "wanted-tunnel")->setChecked(false);
        auto* reason = in<QLineEdit>(d, "scope-reason");
        QTest::keyClick(reason, Qt::Key_Return);
        EXPECT_TRUE(d.isVisible()) << "a stage is left out for a reason";
        QTest::keyClicks(reason, QStringLiteral("good by its papers"));
        auto* preset = in<QComboBox>(d, "route-preset");
        preset->setCurrentIndex(preset->findText(QStringLiteral("least metal")));
        QTest::keyClick(reason, Qt::Key_Return);
    });
    key(Qt::Key_O, Qt::ControlModifier | Qt::ShiftModifier);
    ASSERT_TRUE(intake_of(session_.state()).scope);
    EXPECT_EQ(intake_of(session_.state()).scope->payload.reason, "good by its papers");
    EXPECT_FALSE(planning::wanted(session_.state(), planning::Stage::tunnel));
    ASSERT_TRUE(intake_of(session_.state()).route);
    EXPECT_EQ(intake_of(session_.state()).route->payload.preset, block::RoutePreset::least_metal);
    for (const planning::Step& step : session_.assessment().steps.steps)
        EXPECT_NE(step.stage, planning::Stage::tunnel) << step.id;
}

TEST_F(WindowTest, ARuleIsPassedWithAReason) {
    open_small_job();
    take_log(test::small_log(200.1, 0.15).text(), std::nullopt); // nobody says how sure: the tunnel cannot be told
    open_window();
    EXPECT_EQ(text_of("call-headline"), QStringLiteral("The tunnel: can't tell yet"));
    window_->call().speak_of("deck.C/witness");
    EXPECT_TRUE(text_of("call-reasons").contains(QStringLiteral("Waits: the main tunnel first")));
    auto* gate = find<QPushButton>("call-gate");
    ASSERT_TRUE(gate->isVisible());
    gate->click();
    auto* reason = find<QLineEdit>("call-why");
    ASSERT_TRUE(reason->hasFocus());
    QTest::keyClick(reason, Qt::Key_Return);
    EXPECT_TRUE(intake_of(session_.state()).gates.empty()) << "not without a reason";
    EXPECT_FALSE(text_of("call-echo").isEmpty());
    QTest::keyClicks(reason, QStringLiteral("measured at the maker's"));
    QTest::keyClick(reason, Qt::Key_Return);
    ASSERT_EQ(intake_of(session_.state()).gates.size(), 1U);
    EXPECT_EQ(intake_of(session_.state()).gates.front().payload.rule, block::Rule::tunnel_first);
    EXPECT_TRUE(text_of("call-headline").startsWith(QStringLiteral("Deck: witness cut")));
}

TEST_F(WindowTest, FilesCanBeDropped) {
    open_small_job();
    open_window();
    QMimeData mime;
    mime.setUrls({QUrl::fromLocalFile(QString::fromStdString(write("dropped.csv", test::small_log().text())))});
    in_dialog([](QDialog& d) {
        QTest::keyClicks(in<QLineEdit>(d, "log-uncertainty"), QStringLiteral("2 µm"));
        QTest::keyClick(in<QLineEdit>(d, "log-uncertainty"), Qt::Key_Return);
    });
    QDragEnterEvent enter(QPoint(300, 300), Qt::CopyAction, &mime, Qt::LeftButton, Qt::NoModifier);
    QApplication::sendEvent(window_.get(), &enter);
    EXPECT_TRUE(enter.isAccepted());
    QDropEvent drop(QPointF(300, 300), Qt::CopyAction, &mime, Qt::LeftButton, Qt::NoModifier);
    QApplication::sendEvent(window_.get(), &drop);
    EXPECT_EQ(session_.entries().size(), 2U);
}

TEST_F(WindowTest, UnknownFilesAreRefusedPlainly) {
    open_window();
    QString said;
    in_dialog([&](QDialog& d) {
        said = in<QWidget>(d, "faults")->property("plainText").toString();
        d.reject();
    });
    window_->take_files({QStringLiteral("picture.png")});
    EXPECT_TRUE(said.contains(QStringLiteral("expected a .csv probe log")));
}

TEST_F(WindowTest, HelpKnowsTheView) {
    open_demo();
    open_demo_at("Puffling, port", ui::Place::decks);
    key(Qt::Key_F1);
    const QString help = find<QTextBrowser>("manual-text")->toPlainText();
    EXPECT_TRUE(help.contains(QStringLiteral("move the cut level")));
    EXPECT_TRUE(help.contains(QStringLiteral("Shift+F1")));
}

TEST_F(WindowTest, TheLedgerStrikesWithAReason) {
    open_demo();
    window_->open_job(demo_job(QStringLiteral("Puffling, starboard")));
    ASSERT_TRUE(card_of(session_.state()).serial) << "its last entry";
    const std::size_t before = session_.entries().size();
    in_dialog([&](QDialog& d) {
        QPushButton* strike = nullptr;
        for (QPushButton* button : d.findChildren<QPushButton*>())
            if (button->text().contains(QStringLiteral("trike")))
                strike = button;
        ASSERT_NE(strike, nullptr);
        QTest::mouseClick(strike, Qt::LeftButton);
        EXPECT_EQ(session_.entries().size(), before) << "not without a reason";
        QTest::keyClicks(in<QLineEdit>(d, "ledger-words"), QStringLiteral("wrong bank"));
        QTest::mouseClick(strike, Qt::LeftButton);
        d.accept();
    });
    key(Qt::Key_L, Qt::ControlModifier);
    EXPECT_EQ(session_.entries().size(), before + 1);
    EXPECT_FALSE(card_of(session_.state()).serial);
}

TEST_F(WindowTest, TheTunnelTableAndDrawingMarkTheSameMain) {
    open_demo();
    window_->open_job(demo_job(QStringLiteral("Puffling, port")));
    key(Qt::Key_F4);
    auto* drawing = find<ui::Drawing>("tunnel-drawing");
    ASSERT_TRUE(drawing->hasFocus());
    key(Qt::Key_Right);
    EXPECT_EQ(drawing->marked(), block::FeatureId::parse("main.1"));
    key(Qt::Key_Right);
    key(Qt::Key_T);
    auto* table = find<QTableWidget>("tunnel-drawing-table");
    EXPECT_EQ(table->rowCount(), 8);
    EXPECT_EQ(table->item(table->currentRow(), 0)->text(), QStringLiteral("main 2"));
    QTest::keyClick(table, Qt::Key_Up);
    EXPECT_EQ(drawing->marked(), block::FeatureId::parse("main.1"));
}

TEST_F(WindowTest, ThePassportShowsTheJob) {
    open_demo();
    window_->open_job(demo_job(QStringLiteral("Samphire")));
    key(Qt::Key_F8);
    EXPECT_TRUE(find<QTextBrowser>("passport")->toPlainText().contains(QStringLiteral("Decks, as left")));
}

TEST_F(WindowTest, NothingIsCutOffOrScrolledSidewaysAt1280By800) {
    open_demo();
    for (const char* title : {"Puffling, port", "Samphire", "Lantern"})
        for (const ui::Place place :
             {ui::Place::shop, ui::Place::block, ui::Place::tunnel, ui::Place::decks, ui::Place::passport}) {
            window_->open_job(demo_job(QString::fromLatin1(title)));
            window_->go_to(place);
            QApplication::processEvents();
            EXPECT_LE(window_->minimumSizeHint().width(), 1280) << title << " " << static_cast<int>(place);
            EXPECT_LE(window_->minimumSizeHint().height(), 800) << title << " " << static_cast<int>(place);
            EXPECT_EQ(window_->size(), QSize(1280, 800));
            for (const QAbstractScrollArea* area : window_->findChildren<QAbstractScrollArea*>())
                EXPECT_FALSE(area->isVisible() && area->horizontalScrollBar()->isVisible())
                    << area->objectName().toStdString();
            for (const QPushButton* button : window_->findChildren<QPushButton*>())
                EXPECT_TRUE(!button->isVisible() || button->width() >= button->minimumSizeHint().width())
                    << button->text().toStdString();
        }
}

TEST_F(WindowTest, EveryPageOfCylindersAndLiftersFits) {
    open_demo();
    const auto fits = [this](const char* what, int page) {
        QApplication::processEvents();
        const auto* stack = window_->cylinders().findChild<QStackedWidget*>();
        QString widths;
        for (int i = 0; i < stack->count(); ++i)
            widths += QStringLiteral(" %1x%2")
                          .arg(stack->widget(i)->minimumSizeHint().width())
                          .arg(stack->widget(i)->minimumSizeHint().height());
        EXPECT_LE(window_->minimumSizeHint().width(), 1280) << what << " " << page << widths.toStdString();
        EXPECT_LE(window_->minimumSizeHint().height(), 800) << what << " " << page << widths.toStdString();
        EXPECT_EQ(window_->size(), QSize(1280, 800)) << what << " " << page;
        for (const QPushButton* button : window_->findChildren<QPushButton*>())
            EXPECT_TRUE(!button->isVisible() || button->width() >= button->minimumSizeHint().width())
                << button->text().toStdString() << " on " << what << " " << page;
        for (const QLineEdit* edit : window_->findChildren<QLineEdit*>())
            EXPECT_TRUE(!edit->isVisible() || edit->width() >= 44) << edit->objectName().toStdString();
    };
    for (const char* title : {"Eider", "Gannet", "Puffling, port", "Lantern"})
        for (const block::Unit unit : {block::Unit::mm, block::Unit::inch}) {
            preferences_.set_unit(unit);
            window_->open_job(demo_job(QString::fromLatin1(title)));
            window_->go_to(ui::Place::cylinders);
            for (int page = 0; page < 6; ++page) {
                window_->cylinders().show_page(static_cast<ui::CylindersView::Page>(page));
                fits(title, page);
            }
            window_->go_to(ui::Place::lifters);
            for (int page = 0; page < 2; ++page) {
                window_->lifters().show_page(static_cast<ui::LiftersView::Page>(page));
                fits(title, 6 + page);
            }
        }
}

TEST_F(WindowTest, EveryControlHasAName) {
    open_demo();
    window_->open_job(demo_job(QStringLiteral("Puffling, port")));
    const auto all_named = [this] {
        for (const QWidget* widget : window_->findChildren<QWidget*>()) {
            if (!widget->isVisible() || widget->focusPolicy() == Qt::NoFocus || !widget->isEnabled())
                continue;
            const QVariant text = widget->property("text");
            const bool labelled = text.isValid() && widget->inherits("QAbstractButton") && !text.toString().isEmpty();
            EXPECT_TRUE(labelled || !widget->accessibleName().isEmpty() || widget->inherits("QMenuBar") ||
                        widget->inherits("QScrollBar"))
                << widget->metaObject()->className() << " " << widget->objectName().toStdString();
        }
    };
    all_named();
    window_->go_to(ui::Place::cylinders);
    for (int page = 0; page < 6; ++page) {
        window_->cylinders().show_page(static_cast<ui::CylindersView::Page>(page));
        all_named();
    }
    window_->go_to(ui::Place::lifters);
    window_->lifters().show_page(ui::LiftersView::Page::work);
    all_named();
}

TEST_F(WindowTest, MenuActionsHaveDistinctShortcuts) {
    open_window();
    QStringList seen;
    for (const QAction* action : window_->findChildren<QAction*>()) {
        const QString keys = action->shortcut().toString();
        if (keys.isEmpty())
            continue;
        EXPECT_FALSE(seen.contains(keys)) << keys.toStdString();
        seen << keys;
    }
    EXPECT_GE(seen.size(), 18);
}

TEST_F(WindowTest, TheTourWritesAPictureOfEveryMainView) {
    open_demo();
    const QString folder = folder_.filePath(QStringLiteral("pictures"));
    ASSERT_TRUE(ui::write_screenshots(*window_, context_, folder));
    for (const char* name : {"shop", "block", "tunnel", "decks-during", "cylinders-size", "cylinders-hone",
                             "cylinders-texture", "lifters-work-night", "passport", "paper-owner", "practice",
                             "reckoning", "engines-shelf", "engines-board", "job-card", "instrument-history"}) {
        const QImage image(folder + QLatin1Char('/') + QString::fromLatin1(name) + QStringLiteral(".png"));
        EXPECT_EQ(image.size(), QSize(1280, 800)) << name;
    }
    EXPECT_FALSE(ui::write_screenshots(*window_, context_, QStringLiteral("/proc/no/such")));
}

TEST_F(WindowTest, APaperIsHeldAgainstTheLedger) {
    open_demo();
    open_demo_at("Samphire", ui::Place::passport);
    const auto hold = [this](const QString& digest) {
        in_dialog([digest](QDialog& d) {
            auto* field = d.findChild<QLineEdit*>();
            field->setText(digest);
            QTest::keyClick(field, Qt::Key_Return);
        });
        key(Qt::Key_H, Qt::ControlModifier | Qt::AltModifier);
        return text_of("passport-echo");
    };
    const QString digest = QString::fromStdString(block::digest_of(session_.entries()));
    EXPECT_TRUE(hold(digest.left(16)).contains(QStringLiteral("unaltered up to entry")));
    EXPECT_TRUE(hold(QStringLiteral("0123456789abcdef")).contains(QStringLiteral("no entry of this ledger")));
}

TEST_F(WindowTest, GeometryIsRemembered) {
    open_window();
    window_->resize(1400, 900);
    window_->close();
    open_window();
    EXPECT_FALSE(preferences_.geometry().isEmpty());
}
