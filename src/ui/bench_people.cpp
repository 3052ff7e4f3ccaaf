// SPDX-License-Identifier: GPL-3.0-or-later
// Who is at the bench, the job card, pictures.
#include "planning/common/assessment.h"
#include "reporting/work_sheet.h"
#include "ui/bench_window.h"
#include "ui/block/block_view.h"
#include "ui/dialogs/ask.h"
#include "ui/dialogs/hours_dialog.h"
#include "ui/dialogs/people_dialog.h"
#include "ui/dialogs/sheet_dialogs.h"
#include "ui/dialogs/shop_papers_dialog.h"
#include "ui/dialogs/study_dialog.h"
#include "ui/frame/call_panel.h"
#include "ui/frame/line_drawing.h"
#include "ui/frame/reading_line.h"
#include "ui/shop/shop_view.h"

#include <QAction>
#include <QDate>
#include <QFileDialog>
#include <QMenu>

namespace pallix::ui {

/// Two keys bring somebody of the shop to the bench: control and their place in the list.
void BenchWindow::build_people_actions(QMenu* menu) {
    add_action(menu, tr("&Who is at the bench…"), QKeySequence(tr("Ctrl+Shift+W")), [this] { set_person(); });
    constexpr int by_keys = 9;
    for (int i = 0; i < by_keys; ++i) {
        auto* action = new QAction(tr("Person %1 of the shop comes to the bench").arg(i + 1), this);
        action->setProperty("person", i);
        action->setShortcut(QKeySequence(Qt::CTRL | (Qt::Key_1 + i)));
        connect(action, &QAction::triggered, this, [this, i] {
            const auto people = context_.session.book().people().all();
            if (people && i < static_cast<int>(people->size()))
                bring_to_bench(context_, (*people)[static_cast<std::size_t>(i)].name, this);
        });
        addAction(action); // in no menu: the dialog names them
    }
}

void BenchWindow::set_person() {
    PeopleDialog(context_, this).exec();
}

void BenchWindow::show_card() {
    go_to(Place::block);
    if (place_ == Place::block)
        block_->show_page(BlockView::Page::card);
}

void BenchWindow::build_sheet_actions(QMenu* menu) {
    const auto today = [] { return QDate::currentDate().toString(Qt::ISODate); };
    job_actions_.push_back(add_action(menu, tr("Print a &work sheet…"), QKeySequence(tr("Ctrl+Alt+P")), [this, today] {
        preview_sheet(reporting::work_sheet_html(context_.session.state(), context_.session.assessment(),
                                                 context_.lengths(), today()),
                      reporting::foot_of(context_.session.state()), context_.preferences.paper(), this);
    }));
    job_actions_.push_back(add_action(menu, tr("&Type a work sheet in…"), QKeySequence(tr("Ctrl+Alt+T")),
                                      [this] { TickDialog(context_, this).exec(); }));
    add_action(menu, tr("Print the &day's work…"), QKeySequence(tr("Ctrl+Alt+D")), [this, today] {
        go_to(Place::shop);
        preview_sheet(reporting::day_sheet_html(shop_->day(), today()), {tr("The day's work"), today()},
                      context_.preferences.paper(), this);
    });
    add_action(menu, tr("The shop's papers, serials and machines…"), {}, [this] {
        ShopPapersDialog(context_, this).exec();
        refresh();
    });
    add_action(menu, tr("How long work takes &here…"), {}, [this] {
        HoursDialog(context_, shop().hours(), this).exec();
        shop().reread();
        refresh();
    });
}

/// Lays one out on what the line is at; the one that runs there is broken off, with a reason.
void BenchWindow::study_gauge() {
    const auto running = reading_->running_study();
    if (!running) {
        StudyDialog(context_, *reading_->measuring(), reading_scope().bank, reading_->instrument(), this).exec();
        return;
    }
    const auto reason = ask_for_text(this, tr("Break off the gauge study"), tr("Why it ends here:"));
    if (reason && !reason->trimmed().isEmpty())
        done(context_.session.strike(*running, *reason));
    context_.instruments.forget_histories();
}

void BenchWindow::show_kind() {
    go_to(Place::block);
    if (place_ == Place::block)
        block_->show_page(BlockView::Page::memory);
}

/// Of what is marked, else of the step that the call speaks of, else of the job.
void BenchWindow::take_picture() {
    const QString file =
        QFileDialog::getOpenFileName(this, tr("Put a picture to it"), {}, tr("Pictures (*.png *.jpg *.jpeg)"));
    if (file.isEmpty())
        return;
    const auto step = call_->step();
    const std::string of = step && step->about ? step->about->text() : std::string();
    const auto about =
        ask_for_text(this, tr("Put a picture to it"),
                     tr("What it shows: a feature such as deck.R, a step, flaw/7; empty for the job."), qt(of));
    if (!about)
        return;
    const auto words = ask_for_text(this, tr("Put a picture to it"), tr("In words:"));
    if (words)
        done(context_.session.take_picture(file, about->trimmed().toStdString(), words->trimmed().toStdString()));
}

} // namespace pallix::ui
