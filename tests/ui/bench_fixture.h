// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "session/demo_shop.h"
#include "session/session_fixture.h"
#include "ui/bench_window.h"
#include "ui/decks/decks_view.h"
#include "ui/frame/call_panel.h"
#include "ui/frame/figure_line.h"
#include "ui/theme.h"

#include <QAbstractSlider>
#include <QApplication>
#include <QCheckBox>
#include <QDialog>
#include <QDialogButtonBox>
#include <QFile>
#include <QLabel>
#include <QLineEdit>
#include <QListView>
#include <QMenu>
#include <QPointer>
#include <QPushButton>
#include <QTest>
#include <QTimer>
#include <functional>

namespace pallix::test {

/// The real window on a shop book of its own, driven by keys and mouse.
class BenchFixture : public SessionFixture {
  protected:
    BenchFixture()
        : instruments_(*book_, preferences_, nullptr,
                       [this] { return at_.empty() ? std::string("2026-03-02T09:10:00Z") : at_; }),
          gauge_(session_), practice_(session_), context_{session_, preferences_, instruments_, gauge_, practice_} {
        ui::load_fonts();
        ui::apply_theme(*qApp, preferences_.theme());
        preferences_.set_unit(block::Unit::mm);
    }

    void open_window() {
        window_ = std::make_unique<ui::BenchWindow>(context_);
        window_->resize(1280, 800);
        window_->show();
        window_->activateWindow();
        ASSERT_TRUE(QTest::qWaitForWindowActive(window_.get()));
    }
    void open_demo() {
        ASSERT_TRUE(session::fill_with_demo(*book_));
        open_window();
    }
    storage::JobId demo_job(const QString& title) {
        const auto jobs = book_->jobs();
        for (const auto& job : *jobs)
            if (job.title.startsWith(title))
                return job.id;
        throw std::out_of_range(title.toStdString());
    }

    /// A job of the demo on one of its views.
    void open_demo_at(const char* title, ui::Place place) {
        window_->open_job(demo_job(QString::fromUtf8(title)));
        window_->go_to(place);
    }

    template <class W>
    W* find(const char* name) {
        W* widget = window_->findChild<W*>(QString::fromLatin1(name));
        EXPECT_NE(widget, nullptr) << name;
        return widget;
    }
    QString text_of(const char* label) { return find<QLabel>(label)->text(); }
    /// Without a window manager nobody gives the window back its focus after a dialog.
    void key(Qt::Key k, Qt::KeyboardModifiers m = Qt::NoModifier) {
        if (!window_->isActiveWindow()) {
            window_->activateWindow();
            ASSERT_TRUE(QTest::qWaitForWindowActive(window_.get()));
        }
        QTest::keyClick(focused(), k, m);
    }
    void type(const QString& text) { QTest::keyClicks(focused(), text); }
    QWidget* focused() {
        QWidget* w = QApplication::focusWidget();
        return w ? w : static_cast<QWidget*>(window_.get());
    }

    /// Changes a figure of a sentence on screen where it stands.
    void figure(const char* address, const QString& text) {
        ui::FigureLine* line = line_with(address);
        ASSERT_NE(line, nullptr) << address;
        line->edit(QString::fromLatin1(address));
        auto* field = line->findChild<QLineEdit*>(QStringLiteral("figure"));
        ASSERT_TRUE(field->isVisible()) << address;
        field->setText(text);
        QTest::keyClick(field, Qt::Key_Return);
    }
    void choose_figure(const char* address, const QString& words) {
        ui::FigureLine* line = line_with(address);
        ASSERT_NE(line, nullptr) << address;
        QTimer::singleShot(0, qApp, [words] {
            auto* menu = qobject_cast<QMenu*>(QApplication::activePopupWidget());
            ASSERT_NE(menu, nullptr);
            for (QAction* action : menu->actions())
                if (action->text() == words) {
                    menu->setActiveAction(action);
                    QTest::keyClick(menu, Qt::Key_Return);
                    return;
                }
            menu->close();
            ADD_FAILURE() << words.toStdString() << " is no choice";
        });
        line->edit(QString::fromLatin1(address));
    }
    /// What the sentence that has such a figure said last.
    QString remark(const char* address) { return line_with(address)->remark(); }
    ui::FigureLine* line_with(const char* address) {
        for (auto* line : window_->findChildren<ui::FigureLine*>())
            if (line->isVisible() && line->has(QString::fromLatin1(address)))
                return line;
        return nullptr;
    }
    /// Types into a field of the call.
    void ask(const char* key, const QString& text) {
        auto* field = find<QLineEdit>((std::string("ask-") + key).c_str());
        ASSERT_TRUE(field->isVisible()) << key;
        field->setText(text);
    }
    void tick(const char* key) { find<QAbstractButton>((std::string("ask-") + key).c_str())->click(); }
    void answer() { key(Qt::Key_Return, Qt::ControlModifier); }
    QString headline() { return text_of("call-headline"); }

    /// Runs once the next modal dialog is up; the dialog must be gone afterwards.
    /// @param expected false: that none comes up is no failure
    void in_dialog(const std::function<void(QDialog&)>& act, bool expected = true) {
        QTimer::singleShot(0, qApp, [this, act, expected] { when_modal(act, expected ? 2000 : 5, expected); });
    }
    /// The same over a dialog that is up already.
    void in_dialog_over(QDialog& below, const std::function<void(QDialog&)>& act) {
        QTimer::singleShot(0, qApp,
                           [this, act, below = QPointer<QDialog>(&below)] { when_modal(act, 2000, true, below); });
    }
    std::string write(const char* name, const std::string& text) {
        const QString file = folder_.filePath(QString::fromLatin1(name));
        QFile out(file);
        EXPECT_TRUE(out.open(QIODevice::WriteOnly));
        out.write(QByteArray::fromStdString(text));
        return file.toStdString();
    }

    /// States how sure every reading with the instrument in hand is.
    void state_uncertainty(planning::Measuring what, double mm) {
        block::Instrument i = instruments_.in_hand(what);
        i.standard_uncertainty = mm;
        i.resolution = 0;
        ASSERT_TRUE(instruments_.save(i));
    }

    session::InstrumentRegister instruments_;
    session::GaugeLink gauge_;
    session::PracticeWork practice_;
    ui::Context context_;
    std::unique_ptr<ui::BenchWindow> window_;

  private:
    /// @param below not this one; the next may stand at the same address when it is gone
    void when_modal(const std::function<void(QDialog&)>& act, int tries, bool expected,
                    const QPointer<QDialog>& below = {}) {
        if (auto* dialog = qobject_cast<QDialog*>(QApplication::activeModalWidget()); dialog && dialog != below)
            return act(*dialog);
        if (tries > 0)
            QTimer::singleShot(10, qApp, [=, this] { when_modal(act, tries - 1, expected, below); });
        else if (expected)
            ADD_FAILURE() << "no dialog came up";
    }
};

template <class W>
W* in(QDialog& dialog, const char* name) {
    W* widget = dialog.findChild<W*>(QString::fromLatin1(name));
    EXPECT_NE(widget, nullptr) << name;
    return widget;
}

} // namespace pallix::test
