// SPDX-License-Identifier: GPL-3.0-or-later
// Practice: what the bench does on a block that is not there.
#include "block/state/card_state.h"
#include "planning/common/assessment.h"
#include "ui/bench_window.h"
#include "ui/dialogs/ask.h"
#include "ui/dialogs/exercise_dialog.h"
#include "ui/dialogs/school_dialog.h"
#include "ui/frame/practice_strip.h"
#include "ui/frame/reading_line.h"
#include "ui/passport/passport_view.h"
#include "ui/shop/shop_view.h"
#include "workshop/practice/own_exercise.h"
#include "workshop/practice/school.h"

#include <QActionGroup>
#include <QMenu>
#include <QMenuBar>

namespace pallix::ui {

void BenchWindow::build_practice_menu() {
    QMenu* menu = menuBar()->addMenu(tr("&Practice"));
    add_action(menu, tr("&Blocks to practise on"), QKeySequence(tr("Ctrl+Alt+B")), [this] {
        go_to(Place::shop);
        shop().show_page(ShopView::Page::practice);
    });
    const auto add = [this, menu](const QString& text, const QString& keys, std::function<void()> run) {
        job_actions_.push_back(add_action(menu, text, QKeySequence(keys), [this, run = std::move(run)] {
            if (context_.practice.is_practice())
                run();
        }));
    };
    job_actions_.push_back(add_action(menu, tr("&Take the reading, or probe; ask the gauge"),
                                      QKeySequence(tr("Ctrl+Space")), [this] { take_simulated(); }));
    job_actions_.back()->setObjectName(QStringLiteral("practice-reading"));
    add(tr("Hold the gauge against its &ring"), tr("Ctrl+Alt+R"), [this] { hold_against_ring(); });
    add(tr("Open the tr&uth; see the reckoning"), tr("Ctrl+Alt+U"), [this] { open_truth(false); });
    job_actions_.push_back(
        add_action(menu, tr("A &copy of this job, to try on"), QKeySequence(tr("Ctrl+Alt+Y")), [this] {
            const auto copy = workshop::copy_of(context_.session.entries(), context_.practice.next_copy());
            if (!copy)
                return report(copy.error());
            begin(*copy);
        }));
    job_actions_.push_back(add_action(menu, tr("&Other ways of planning this job…"), QKeySequence(tr("Ctrl+Alt+O")),
                                      [this] { try_schools(); }));
    add_action(menu, tr("An e&xercise of your own…"), QKeySequence(tr("Ctrl+Alt+X")), [this] {
        ExerciseDialog dialog(context_, this);
        dialog.exec();
        if (const auto wanted = dialog.wanted())
            begin(*wanted);
    });
    menu->addSeparator();
    auto* depths = new QActionGroup(menu);
    const QStringList names{tr("Nobody looks &over your shoulder"), tr("Somebody &remarks on it"),
                            tr("Somebody &explains each reading")};
    for (int i = 0; i < names.size(); ++i) {
        QAction* action = add_action(
            menu, names[i], {}, [this, i] { context_.preferences.set_coach(static_cast<planning::CoachDepth>(i)); });
        action->setCheckable(true);
        action->setChecked(static_cast<int>(context_.preferences.coach()) == i);
        depths->addAction(action);
    }
}

/// Tried on blocks that it may be, before the metal is touched.
void BenchWindow::try_schools() {
    const auto copy = workshop::copy_of(context_.session.entries(), context_.practice.next_copy());
    if (!copy)
        return report(copy.error());
    SchoolDialog dialog(context_, *copy, this);
    dialog.exec();
    if (const auto wanted = dialog.wanted_copy())
        begin(*wanted);
}

void BenchWindow::begin_exercise(const QString& theme, int level) {
    const auto known = workshop::theme_of(theme.toStdString());
    if (!known)
        return;
    begin(workshop::exercise_of(*known, level, context_.practice.next_number(*known, level)));
}

void BenchWindow::begin(const workshop::Exercise& exercise) {
    if (done(context_.practice.begin(exercise)))
        go_to(Place::block);
}

void BenchWindow::begin_own_exercise(const QString& file) {
    const auto exercise =
        session::read_text_file(file)
            .and_then([](const block::NamedText& text) { return workshop::read_own_exercise(text.text, text.file); })
            .and_then([](const workshop::OwnExercise& own) { return workshop::exercise_of(own); });
    if (!exercise)
        return report(exercise.error());
    begin(*exercise);
}

/// Where a reading is asked for, the gauge sends it; where a log, the machine probes. What is read on another page is
/// gone to first.
void BenchWindow::take_simulated() {
    if (!context_.practice.is_practice())
        return context_.gauge.ask(); // one that answers only when asked
    if (!context_.practice.running())
        return;
    const auto step = call_->step();
    const bool wants_log = step && std::ranges::any_of(step->asks, [](const planning::Ask& ask) {
                               return ask.kind == planning::AskKind::file;
                           });
    if (wants_log && context_.practice.has_probe()) {
        done(context_.practice.probe());
        return;
    }
    if (step && step->about && step->place && place_ == Place::block)
        go_to_feature(*step->about);
    if (reading_->take_simulated()) // whatever somebody chose to measure
        return;
    if (step)
        reading_->take_up(*step);
    if (!reading_->take_simulated())
        practice_strip_->say(
            tr("Nothing is read here now, or this bench has no gauge for it. What comes next is said on the right."));
}

void BenchWindow::hold_against_ring() {
    if (!context_.practice.running())
        return;
    const block::Instrument gauge = reading_->instrument();
    constexpr double ring = 50; // mm
    const auto off = context_.practice.hold_against_ring(gauge.name, ring);
    if (!off)
        return report(off.error());
    practice_strip_->say(
        tr("%1 read its ring %2. Its zero is right again; what was read before stands as it was: strike "
           "it where that matters.")
            .arg(qt(gauge.name), qt(context_.lengths().side_with_unit(*off, "over", "under"))));
}

/// @param sure somebody has said so already
void BenchWindow::open_truth(bool sure) {
    if (!context_.practice.running())
        return show_reckoning();
    const auto step = call_->step();
    sure = sure || (step && step->task == planning::Task::open_truth); // nothing else is open
    if (!sure && ask_which(this, tr("Open the truth"),
                           tr("How the block really is will be shown, and the exercise is over: what is done after it "
                              "does not count."),
                           {tr("Open it"), tr("Work on")}) != 0)
        return;
    practice_strip_->say(tr("It is being reckoned up…"));
    context_.practice.open_truth();
}

void BenchWindow::show_reckoning() {
    go_to(Place::passport);
    passport().show_paper(reporting::PaperKind::reckoning);
}

} // namespace pallix::ui
