// SPDX-License-Identifier: GPL-3.0-or-later
// Help where one stands: the manual opens at what is on screen, is searched and followed; words explain themselves.
#include "ui/dialogs/manual_window.h"

#include "bench_fixture.h"
#include "ui/frame/explained_label.h"
#include "ui/frame/page_buttons.h"
#include "ui/manual_help.h"

#include <QComboBox>
#include <QHelpEvent>
#include <QListWidget>
#include <QTextBlock>
#include <QTextBrowser>
#include <QToolTip>

using namespace pallix;
using test::in;
using ui::ManualWindow;
using ui::Place;

namespace {

class ManualJourney : public test::BenchFixture {
  protected:
    ManualWindow* manual() { return window_->findChild<ManualWindow*>(); }
    /// F1, and the section it opened at.
    QString f1() {
        key(Qt::Key_F1);
        return manual() && manual()->isVisible() ? manual()->section() : QString();
    }
};

TEST_F(ManualJourney, EveryPageHasItsParagraph) {
    open_demo();
    open_demo_at("Puffling, port", Place::shop);
    std::set<QString> pages;
    for (int place = 0; place < static_cast<int>(ui::place_keys.size()); ++place) {
        window_->go_to(static_cast<Place>(place));
        const auto buttons = window_->findChildren<ui::PageButtons*>();
        for (ui::PageButtons* row : buttons) {
            if (!row->isVisible())
                continue;
            const auto pages_of = row->findChildren<QPushButton*>();
            for (QPushButton* page : pages_of) {
                page->click();
                const QString id = f1();
                ASSERT_TRUE(ui::shipped_manual().find(id.toStdString()))
                    << page->text().toStdString() << ": " << id.toStdString();
                EXPECT_TRUE(id.startsWith(QStringLiteral("page-")) || id.startsWith(QStringLiteral("view-")))
                    << page->text().toStdString() << ": " << id.toStdString();
                EXPECT_TRUE(pages.insert(id).second) << "two pages share " << id.toStdString();
            }
        }
        const QString id = f1();
        EXPECT_NE(ui::shipped_manual().find("view-" + std::string(ui::place_keys[static_cast<std::size_t>(place)])),
                  nullptr);
        EXPECT_FALSE(id.isEmpty());
    }
    EXPECT_GE(pages.size(), 26U);
}

TEST_F(ManualJourney, F1InTheCallIsItsStep) {
    open_small_job();
    open_window();
    window_->go_to(Place::block);
    window_->call().take_focus();
    const auto step = window_->call().step();
    ASSERT_TRUE(step);
    EXPECT_EQ(f1().toStdString(), "step-" + std::string(planning::task_keys[static_cast<std::size_t>(step->task)]));
}

TEST_F(ManualJourney, F1OverADialogIsThatDialog) {
    open_small_job();
    open_window();
    QString section;
    in_dialog([&](QDialog& d) {
        in_dialog_over(d, [&](QDialog& over) {
            section = dynamic_cast<ManualWindow&>(over).section();
            over.reject();
        });
        QTest::keyClick(d.focusWidget() ? d.focusWidget() : &d, Qt::Key_F1);
        d.reject();
    });
    key(Qt::Key_G, Qt::ControlModifier);
    EXPECT_EQ(section, QStringLiteral("page-instruments"));
}

TEST_F(ManualJourney, IsSearchedByWordsAndByKeys) {
    open_small_job();
    open_window();
    f1();
    auto* search = in<QLineEdit>(*manual(), "manual-search");
    auto* list = in<QListWidget>(*manual(), "manual-list");
    const int contents = list->count();
    QTest::keyClicks(search, QStringLiteral("spring pass"));
    ASSERT_GT(list->count(), 0);
    EXPECT_EQ(manual()->section(), QStringLiteral("word-spring-pass")) << "a title before a text";
    EXPECT_TRUE(in<QTextBrowser>(*manual(), "manual-text")->toPlainText().contains(QStringLiteral("Spring pass")));
    QTest::keyClick(search, Qt::Key_Down);
    EXPECT_NE(manual()->section(), QStringLiteral("word-spring-pass"));
    search->setText(QStringLiteral("zeppelin"));
    EXPECT_EQ(list->item(0)->text(), QStringLiteral("Nothing has these words."));
    search->clear();
    EXPECT_EQ(list->count(), contents);
}

TEST_F(ManualJourney, IsPrinted) {
    open_small_job();
    open_window();
    f1();
    const QString paper = ui::manual_paper();
    for (const auto& section : ui::shipped_manual().sections())
        EXPECT_TRUE(paper.contains(QString::fromStdString(section.title).toHtmlEscaped())) << section.title;
    bool preview = false;
    in_dialog([&](QDialog& d) {
        preview = d.inherits("QPrintPreviewDialog");
        d.reject();
    });
    in<QPushButton>(*manual(), "manual-print")->click();
    EXPECT_TRUE(preview);
}

TEST_F(ManualJourney, LinksLeadOnAndBack) {
    open_small_job();
    open_window();
    ui::show_manual(window_.get(), QStringLiteral("call"));
    auto* text = in<QTextBrowser>(*manual(), "manual-text");
    EXPECT_TRUE(text->toHtml().contains(QStringLiteral("manual:rules")));
    Q_EMIT text->anchorClicked(QUrl(QStringLiteral("manual:rules")));
    EXPECT_EQ(manual()->section(), QStringLiteral("rules"));
    EXPECT_EQ(text->textCursor().block().text(), QStringLiteral("What stands in the way"));
    Q_EMIT text->anchorClicked(QUrl(QStringLiteral("file:///etc/passwd")));
    EXPECT_EQ(manual()->section(), QStringLiteral("rules")) << "nothing but the manual";
    QTest::keyClick(manual(), Qt::Key_Left, Qt::AltModifier);
    EXPECT_EQ(manual()->section(), QStringLiteral("call"));
}

// The dotted words of the call: each lies where it is painted, explains itself, and opens the manual.
TEST_F(ManualJourney, WordsOfTheCallExplainThemselves) {
    ui::ExplainedLabel label;
    label.resize(260, 200);
    label.setText(QStringLiteral("The saddle stands <b>proud</b> by 3 tenths.\n\nMind the caps."));
    label.show();
    for (const char* id : {"word-saddle", "word-proud", "word-tenth", "word-cap"}) {
        const QPoint at = label.place_of(QString::fromLatin1(id));
        EXPECT_EQ(label.explained_at(at), QString::fromLatin1(id)) << at.x() << "," << at.y();
    }
    EXPECT_GT(label.place_of(QStringLiteral("word-cap")).y(), label.place_of(QStringLiteral("word-saddle")).y());
    EXPECT_EQ(label.explained_at({255, 190}), QString());
    const QPoint at = label.place_of(QStringLiteral("word-tenth"));
    QHelpEvent help(QEvent::ToolTip, at, label.mapToGlobal(at));
    QCoreApplication::sendEvent(&label, &help);
    EXPECT_TRUE(QToolTip::text().contains(QStringLiteral("Tenth: A ten-thousandth of an inch")))
        << QToolTip::text().toStdString();
    QTest::mouseClick(&label, Qt::LeftButton, Qt::NoModifier, at);
    auto* manual = label.findChild<ManualWindow*>();
    ASSERT_TRUE(manual);
    EXPECT_EQ(manual->section(), QStringLiteral("word-tenth"));
}

} // namespace
