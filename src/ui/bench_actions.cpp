// SPDX-License-Identifier: GPL-3.0-or-later
// The bench's menus and keys.
#include "block/drawing/recipe.h"
#include "block/ledger.h"
#include "block/state/intake_state.h"
#include "session/certainty_work.h"
#include "ui/bench_window.h"
#include "ui/cylinders/cylinders_view.h"
#include "ui/decks/decks_view.h"
#include "ui/dialogs/ask.h"
#include "ui/dialogs/book_dialogs.h"
#include "ui/dialogs/gauge_dialog.h"
#include "ui/dialogs/help_dialog.h"
#include "ui/dialogs/instrument_dialog.h"
#include "ui/dialogs/ledger_dialog.h"
#include "ui/dialogs/limits_dialog.h"
#include "ui/dialogs/measuring_dialogs.h"
#include "ui/dialogs/route_dialogs.h"
#include "ui/engines/board_page.h"
#include "ui/engines/engines_view.h"
#include "ui/files.h"
#include "ui/frame/bell.h"
#include "ui/frame/call_panel.h"
#include "ui/frame/reading_line.h"
#include "ui/lifters/lifters_view.h"
#include "ui/manual_help.h"
#include "ui/passport/passport_view.h"
#include "ui/shop/shop_view.h"
#include "ui/tunnel/tunnel_view.h"
#include "ui/view.h"
#include "wording/common/sentences.h"

#include <QAction>
#include <QFileDialog>
#include <QFileInfo>
#include <QMenuBar>

namespace pallix::ui {

template <class Dialog, class... Arguments>
void BenchWindow::run_dialog(Arguments&&... arguments) {
    Dialog dialog(context_, std::forward<Arguments>(arguments)..., this);
    dialog.exec();
}

QAction* BenchWindow::add_action(QMenu* menu, const QString& text, const QKeySequence& keys,
                                 std::function<void()> run) {
    QAction* action = menu->addAction(text);
    action->setShortcut(keys);
    connect(action, &QAction::triggered, this, std::move(run));
    return action;
}

void BenchWindow::build_actions() {
    build_job_menu();
    build_edit_menu();
    build_view_menu();
    build_call_menu();
    build_deck_actions();
    build_bore_actions();
    build_engine_menu();
    build_measure_menu();
    build_practice_menu();
    QMenu* help = menuBar()->addMenu(tr("&Help"));
    add_action(help, tr("&Manual, at this place"), QKeySequence(Qt::Key_F1),
               [this] { show_manual(this, explained()); });
    add_action(help, tr("All &keys"), QKeySequence(Qt::SHIFT | Qt::Key_F1),
               [this] { HelpDialog(all_keys(), this).exec(); });
}

void BenchWindow::build_job_menu() {
    QMenu* menu = menuBar()->addMenu(tr("&Job"));
    add_action(menu, tr("&New job from a blueprint…"), QKeySequence(tr("Ctrl+N")), [this] { new_job(); });
    add_action(menu, tr("Open a &file…"), QKeySequence(tr("Ctrl+O")), [this] { choose_files(); });
    add_action(menu, tr("Open another shop &book…"), {}, [this] { choose_book(); });
    add_action(menu, tr("Open a book at a &server…"), {}, [this] { choose_server(); });
    add_action(menu, tr("&Try the harbour workshop"), {}, [this] { open_book_beside({QStringLiteral("--demo")}); });
    recent_ = menu->addMenu(tr("Open &recent"));
    connect(recent_, &QMenu::aboutToShow, this, &BenchWindow::fill_recent_files);
    menu->addSeparator();
    job_actions_.push_back(
        add_action(menu, tr("Take in probe &logs…"), QKeySequence(tr("Ctrl+I")), [this] { import_logs(); }));
    job_actions_.push_back(add_action(menu, tr("What is &wanted, and in which order…"),
                                      QKeySequence(tr("Ctrl+Shift+O")), [this] { run_dialog<RouteDialog>(); }));
    job_actions_.push_back(
        add_action(menu, tr("Its job &card"), QKeySequence(tr("Ctrl+Shift+C")), [this] { show_card(); }));
    job_actions_.push_back(
        add_action(menu, tr("Other blocks of its &kind"), QKeySequence(tr("Ctrl+Shift+K")), [this] { show_kind(); }));
    job_actions_.push_back(add_action(menu, tr("Put a p&icture to it…"), {}, [this] { take_picture(); }));
    job_actions_.push_back(add_action(menu, tr("&Amend the blueprint…"), {}, [this] { amend_blueprint({}); }));
    job_actions_.push_back(
        add_action(menu, tr("Its li&mits, and those of the shop…"), {}, [this] { run_dialog<LimitsDialog>(); }));
    job_actions_.back()->setObjectName(QStringLiteral("limits"));
    job_actions_.push_back(
        add_action(menu, tr("L&edger and notes…"), QKeySequence(tr("Ctrl+L")), [this] { show_ledger(); }));
    job_actions_.push_back(
        add_action(menu, tr("E&xport the whole job…"), QKeySequence(tr("Ctrl+E")), [this] { export_job(); }));
    menu->addSeparator();
    add_action(menu, tr("&Save the paper; keep the engine"), QKeySequence(tr("Ctrl+S")), [this] {
        if (place_ == Place::engines)
            return engines_->keep();
        go_to(Place::passport);
        if (place_ == Place::passport)
            passport_->save();
    });
    job_actions_.push_back(add_action(menu, tr("&Print preview of the paper…"), QKeySequence(tr("Ctrl+P")), [this] {
        go_to(Place::passport);
        passport_->preview_print();
    }));
    job_actions_.push_back(
        add_action(menu, tr("&Hold a paper against the ledger…"), QKeySequence(tr("Ctrl+Alt+H")), [this] {
            go_to(Place::passport);
            passport_->hold_against_ledger();
        }));
    job_actions_.push_back(add_action(menu, tr("&Give the block a serial"), QKeySequence(tr("Ctrl+Alt+S")), [this] {
        go_to(Place::passport);
        passport_->give_serial();
    }));
    job_actions_.push_back(add_action(menu, tr("Its serial is &marked on it…"), QKeySequence(tr("Ctrl+Alt+M")), [this] {
        go_to(Place::passport);
        passport_->mark_serial();
    }));
    build_sheet_actions(menu);
    add_action(menu, tr("Save what is &drawn here as SVG…"), QKeySequence(tr("Ctrl+Alt+E")),
               [this] { save_drawing(); });
    menu->addSeparator();
    add_action(menu, tr("&Back up the shop book…"), {}, [this] { back_up_book(); });
    add_action(menu, tr("Put a copy in the shop book's place…"), {}, [this] { restore_book(); });
    add_action(menu, tr("Take another shop book in…"), {}, [this] { take_book_in(); });
    add_action(menu, tr("&Quit"), QKeySequence(tr("Ctrl+Q")), [this] { close(); });
}

void BenchWindow::build_edit_menu() {
    QMenu* menu = menuBar()->addMenu(tr("&Edit"));
    undo_ = add_action(menu, tr("&Undo"), QKeySequence(tr("Ctrl+Z")), [this] {
        if (place_ == Place::engines)
            engines_->board().undo();
        else
            done(context_.session.undo());
    });
    redo_ = add_action(menu, tr("&Redo"), QKeySequence(tr("Ctrl+Shift+Z")), [this] {
        if (place_ == Place::engines)
            engines_->board().redo();
        else
            done(context_.session.redo());
    });
    menu->addSeparator();
    build_people_actions(menu);
}

void BenchWindow::build_view_menu() {
    QMenu* menu = menuBar()->addMenu(tr("&View"));
    const std::array names{tr("The &shop"),  tr("The &block"), tr("Main &tunnel"), tr("&Decks"),
                           tr("&Cylinders"), tr("L&ifters"),   tr("&Passport"),    tr("&Engines")};
    for (std::size_t i = 0; i < names.size(); ++i) {
        const auto place = static_cast<Place>(i);
        QAction* action =
            add_action(menu, names[i], QKeySequence(Qt::Key_F2 + static_cast<int>(i)), [this, place] { go_to(place); });
        if (place != Place::shop && place != Place::engines)
            job_actions_.push_back(action);
    }
    menu->addSeparator();
    add_action(menu, tr("&Find a job"), QKeySequence(tr("Ctrl+F")), [this] {
        go_to(Place::shop);
        shop_->search();
    });
    add_action(menu, tr("Jobs, &machines of the shop, how forecasts held"), QKeySequence(tr("Ctrl+Shift+J")), [this] {
        go_to(Place::shop);
        shop_->show_next_page();
    });
    add_action(menu, tr("The clock was &heard"), QKeySequence(tr("Ctrl+Shift+H")), [this] { bell_->heard(); });
    menu->addSeparator();
    add_action(menu, tr("&Inch or millimetres"), QKeySequence(tr("Ctrl+U")), [this] {
        context_.preferences.set_unit(context_.preferences.unit() == block::Unit::inch ? block::Unit::mm
                                                                                       : block::Unit::inch);
    });
    const auto resize_by = [this](double by) { context_.preferences.set_size(context_.preferences.size() + by); };
    add_action(menu, tr("&Larger"), QKeySequence(QStringLiteral("Ctrl++")), [resize_by] { resize_by(0.1); });
    add_action(menu, tr("S&maller"), QKeySequence(QStringLiteral("Ctrl+-")), [resize_by] { resize_by(-0.1); });
    usual_size_ =
        add_action(menu, {}, QKeySequence(QStringLiteral("Ctrl+0")), [this] { context_.preferences.set_size(1); });
    touch_ = add_action(menu, tr("&Gloves and touch screen"), QKeySequence(QStringLiteral("Ctrl+Shift+T")),
                        [this] { context_.preferences.set_touch(touch_->isChecked()); });
    touch_->setCheckable(true);
    touch_->setChecked(context_.preferences.touch());
    add_action(menu, tr("Day or &night"), QKeySequence(tr("Ctrl+T")), [this] {
        context_.preferences.set_theme(context_.preferences.theme() == session::Theme::dark ? session::Theme::light
                                                                                            : session::Theme::dark);
    });
}

void BenchWindow::build_call_menu() {
    QMenu* menu = menuBar()->addMenu(tr("&Call"));
    const auto add = [&](const QString& text, const char* keys, std::function<void()> run) {
        job_actions_.push_back(add_action(menu, text, QKeySequence(QString::fromLatin1(keys)), std::move(run)));
    };
    add(tr("&Answer it"), "Ctrl+Return", [this] { call_->answer(); });
    add(tr("&Go to its fields"), "Ctrl+K", [this] { call_->take_focus(); });
    add(tr("&Later: the next one"), "Ctrl+Shift+N", [this] { call_->later(); });
    add(tr("&Other: all that could be done…"), "Ctrl+Shift+A", [this] { call_->show_others(); });
}

void BenchWindow::build_deck_actions() {
    QMenu* menu = menuBar()->addMenu(tr("&Decks"));
    const auto on_decks = [this](auto run) {
        return [this, run] {
            if (place_ != Place::decks) // what was typed into the view's fields must stay
                go_to(Place::decks);
            if (decks_ && place_ == Place::decks)
                run();
        };
    };
    job_actions_.push_back(add_action(menu, tr("The other &bank"), QKeySequence(tr("Ctrl+B")), [this, on_decks] {
        if (place_ == Place::cylinders)
            cylinders_->show_other_bank();
        else if (place_ == Place::lifters)
            lifters_->show_other_bank();
        else
            on_decks([this] { decks_->show_other_bank(); })();
    }));
    job_actions_.push_back(add_action(menu, tr("The deck or its &head"), QKeySequence(tr("Ctrl+Shift+B")),
                                      on_decks([this] { decks_->show_head(!decks_->shows_head()); })));
    job_actions_.push_back(add_action(menu, tr("Move the &cut level"), QKeySequence(tr("Ctrl+D")),
                                      on_decks([this] { decks_->focus_level(); })));
    job_actions_.push_back(add_action(menu, tr("As &found, set-up, passes, mock-up"), QKeySequence(tr("Ctrl+Shift+D")),
                                      on_decks([this] { decks_->show_next_page(); })));
    add_action(menu, tr("&Blocks and shims on hand…"), {}, [this] {
        const auto typed = ask_for_text(this, tr("Blocks and shims on hand"),
                                        tr("What stacks under the feet are made of, each with its unit:"),
                                        context_.preferences.stack_pieces());
        if (typed)
            context_.preferences.set_stack_pieces(*typed);
        refresh();
    });
}

void BenchWindow::build_bore_actions() {
    QMenu* menu = menuBar()->addMenu(tr("&Bores"));
    /// For the lifters where they are on screen, for the cylinders from anywhere else.
    const auto on_bores = [this](void (BoresView::*run)()) {
        return [this, run] {
            if (place_ != Place::cylinders && place_ != Place::lifters)
                go_to(Place::cylinders);
            BoresView* view = place_ == Place::lifters ? static_cast<BoresView*>(lifters_) : cylinders_;
            if (view && (place_ == Place::cylinders || place_ == Place::lifters))
                (view->*run)();
        };
    };
    const auto add = [&](const QString& text, const char* keys, std::function<void()> run) {
        job_actions_.push_back(add_action(menu, text, QKeySequence(QString::fromLatin1(keys)), std::move(run)));
    };
    add(tr("The next &page"), "Ctrl+Shift+Y", on_bores(&BoresView::show_next_page));
    add(tr("&Where its numbers come from…"), "Ctrl+Shift+L", on_bores(&BoresView::show_sources));
    job_actions_.push_back(add_action(menu, tr("Take in a roughness &trace…"), {}, [this] { take_trace({}); }));
}

void BenchWindow::build_engine_menu() {
    QMenu* menu = menuBar()->addMenu(tr("E&ngine"));
    const auto on_engines = [this](auto run) {
        return [this, run] {
            if (place_ != Place::engines)
                go_to(Place::engines);
            run(*engines_);
        };
    };
    add_action(menu, tr("&New engine"), QKeySequence(tr("Ctrl+Alt+N")),
               on_engines([](EnginesView& v) { v.begin_new(); }));
    add_action(menu, tr("Shelf, block, what &goes with it"), QKeySequence(tr("Ctrl+Shift+E")),
               on_engines([](EnginesView& v) {
                   v.show_page(static_cast<EnginesView::Page>((static_cast<int>(v.page()) + 1) % 3));
               }));
    add_action(menu, tr("Take a &drawing of its deck (DXF)…"), {}, on_engines([](EnginesView& v) { v.take_dxf({}); }));
    add_action(menu, tr("Take a &table…"), {}, on_engines([](EnginesView& v) { v.take_table({}); }));
    add_action(menu, tr("Learn from &good blocks (probe logs)…"), {},
               on_engines([](EnginesView& v) { v.take_blocks({}); }));
    add_action(menu, tr("Learn from this shop's own &jobs…"), {}, on_engines([](EnginesView& v) { v.take_history(); }));
    add_action(menu, tr("&Paste a table"), QKeySequence(tr("Ctrl+Alt+V")),
               on_engines([](EnginesView& v) { v.paste_table(); }));
    add_action(menu, tr("&Why it is right…"), QKeySequence(tr("Ctrl+Alt+W")),
               on_engines([](EnginesView& v) { v.board().answer_question(); }));
    menu->addSeparator();
    const std::array from{tr("from the maker's &sheet"), tr("from a &drawing"), tr("&measured"), tr("from the s&hop"),
                          tr("&assumed: it judges nothing")};
    for (std::size_t i = 0; i < from.size(); ++i) {
        const auto source = static_cast<block::FigureSource>(i + 1);
        add_action(menu, tr("The figure is %1").arg(from[i]), QKeySequence(Qt::ALT | (Qt::Key_1 + static_cast<int>(i))),
                   on_engines([source](EnginesView& v) { v.board().set_origin(source); }));
    }
    menu->addSeparator();
    job_actions_.push_back(add_action(menu, tr("The open job's engine onto the &board"), {},
                                      on_engines([](EnginesView& v) { v.take_from_job(); })));
    job_actions_.push_back(add_action(menu, tr("Amend the job's blueprint on the b&oard"), {},
                                      on_engines([](EnginesView& v) { v.begin_amending(); })));
}

void BenchWindow::build_measure_menu() {
    QMenu* menu = menuBar()->addMenu(tr("&Measure"));
    const auto on_line = [this](auto run) {
        return [this, run] {
            if (!reading_->measuring()) // a view that reads nothing: go where something is read
                go_to(Place::decks);
            if (reading_->measuring())
                run();
        };
    };
    const auto add = [&](const QString& text, const char* keys, std::function<void()> run) {
        job_actions_.push_back(add_action(menu, text, QKeySequence(QString::fromLatin1(keys)), std::move(run)));
    };
    add(tr("&Reading line"), "Ctrl+R", on_line([this] { reading_->take_focus(); }));
    add(tr("What to &measure next"), "Ctrl+M", on_line([this] { reading_->measure_next(); }));
    add(tr("Read the last place &once more"), "Ctrl+Shift+R", on_line([this] { reading_->once_more(); }));
    add(tr("The gauge stands &zeroed at its target"), "Ctrl+H", on_line([this] { reading_->zero_at_target(); }));
    add(tr("&Strike the last reading, with a reason…"), "Ctrl+Backspace",
        on_line([this] { reading_->strike_with_reason(); }));
    add(tr("&Places and their order…"), "Ctrl+Shift+P",
        on_line([this] { run_dialog<ReadingPlanDialog>(*reading_->measuring(), reading_scope().bank); }));
    menu->addSeparator();
    add(tr("&Conditions of the readings to come"), "Ctrl+J", [this] {
        call_->speak_of("cleaned/any/conditions");
        call_->take_focus();
    });
    add_action(menu, tr("&Instruments…"), QKeySequence(tr("Ctrl+G")), [this] {
        const auto what = reading_->measuring();
        run_dialog<InstrumentDialog>(what ? qt(context_.instruments.in_hand(*what).name) : QString());
    });
    add(tr("Gauge st&udy, or break it off…"), "Ctrl+Alt+G", on_line([this] { study_gauge(); }));
    add(tr("&Gauge or probe on the line…"), "Ctrl+Shift+G", [this] { run_dialog<GaugeDialog>(); });
    menu->addSeparator();
    const auto on_tunnel = [this](auto run) {
        return [this, run] {
            if (place_ != Place::tunnel)
                go_to(Place::tunnel);
            if (tunnel_ && intake_of(context_.session.state()).blueprint)
                run();
        };
    };
    add(tr("Tunnel: as found, plan, &board"), "Ctrl+Shift+M", on_tunnel([this] { tunnel_->show_next_page(); }));
    add(tr("&Jacks and screws…"), "", on_tunnel([this] { tunnel_->ask_for_jacks(); }));
    stop_drawing_ = add_action(menu, tr("Stop &working out the uncertainties"), QKeySequence(tr("Ctrl+.")),
                               [this] { context_.session.certainty().cancel(); });
    connect(&context_.session.certainty(), &session::CertaintyWork::progressed, this, &BenchWindow::refresh_actions);
}

void BenchWindow::refresh_actions() {
    for (QAction* action : job_actions_)
        action->setEnabled(context_.session.has_job());
    const auto sentence = [this](const block::Entry* entry) {
        return qt(wording::entry_sentence(*entry, context_.session.state(), context_.lengths()));
    };
    const block::Entry* target = context_.session.undo_target();
    const bool board = place_ == Place::engines; // there it takes figures back
    undo_->setEnabled(board || target != nullptr);
    undo_->setText(target && !board ? tr("&Undo: strike “%1”").arg(sentence(target)) : tr("&Undo"));
    stop_drawing_->setEnabled(context_.session.certainty().running());
    redo_->setEnabled(board || context_.session.redo_target() != nullptr);
    usual_size_->setText(tr("Usual si&ze (100 %; now %1 %)").arg(100 * context_.preferences.size(), 0, 'f', 0));
}

void BenchWindow::fill_recent_files() {
    recent_->clear();
    const QStringList files = context_.preferences.recent_files();
    for (const QString& file : files)
        add_action(recent_, file, {}, [this, file] { take_files({file}); });
    if (files.isEmpty())
        recent_->addAction(tr("nothing yet"))->setEnabled(false);
}

void BenchWindow::export_job() {
    save_job(context_.session.entries(), qt(intake_of(context_.session.state()).title), context_, this);
}

/// Another blueprint, or a recipe of one, in the place of the job's: what would change is shown before a reason is
/// asked.
void BenchWindow::amend_blueprint(const QString& wanted) {
    const QString file = wanted.isEmpty() ? QFileDialog::getOpenFileName(this, tr("Amend the blueprint from a file"),
                                                                         {}, tr("Blueprints and recipes (*.json)"))
                                          : wanted;
    if (file.isEmpty())
        return;
    const auto drawn = read_text_file(file).and_then(
        [](const block::NamedText& text) { return block::blueprint_from(text.text, text.file); });
    if (!drawn)
        return report(drawn.error());
    amend_with(*drawn, QFileInfo(file).fileName());
}

void BenchWindow::amend_with(const block::Blueprint& drawn, const QString& name) {
    block::BlueprintAmended amended{name.toStdString(), drawn.source, {}};
    const auto changes = context_.session.if_amended(amended, context_.preferences.unit());
    if (!changes)
        return report(changes.error());
    constexpr std::size_t most = 14;
    QStringList lines;
    for (std::size_t i = 0; i < std::min(most, changes->size()); ++i)
        lines << qt((*changes)[i]);
    if (changes->size() > most)
        lines << tr("… and %1 more.").arg(changes->size() - most);
    const auto why = ask_for_text(this, tr("Amend the blueprint"),
                                  lines.join(QLatin1Char('\n')) + tr("\n\nEverything is worked out anew. Why:"));
    if (!why)
        return;
    amended.reason = why->trimmed().toStdString();
    done(context_.session.take(amended));
}

void BenchWindow::back_up_book() {
    const QString file =
        QFileDialog::getSaveFileName(this, tr("Back up the shop book"), QStringLiteral("pallix-backup.shopbook"));
    if (file.isEmpty())
        return;
    if (const auto done = context_.session.book().back_up(file); !done)
        report(session::as_faults(done.error()));
}

/// The book is open here: the window closes, and the copy is put in its place before it opens again.
void BenchWindow::restore_book() {
    if (context_.session.book().is_shared())
        return tell(this, tr("The shop book"), tr("A server keeps this book, and its backups."));
    const QString book = context_.session.book().file(), copy = ask_for_backup(book, this);
    if (copy.isEmpty())
        return;
    starts_again_with_ = {QStringLiteral("--book"), book, QStringLiteral("--restore"), copy};
    close();
}

/// A whole shop's archive, or what was done on another machine: the same job twice is one.
void BenchWindow::take_book_in() {
    const QString file =
        QFileDialog::getOpenFileName(this, tr("Take another shop book in"), {}, tr("Shop books (*.shopbook)"));
    if (file.isEmpty())
        return;
    context_.session.close_job(); // it may go on there
    const auto taken = context_.session.book().take_in(file);
    shop().reread();
    refresh();
    if (!taken)
        return report(session::as_faults(taken.error()));
    tell(this, tr("Taken in"), storage::words_of(*taken));
}

/// What the person is at: what has the focus, or the page on screen.
QString BenchWindow::explained() const {
    QString here = explained_by(focusWidget());
    if (here.isEmpty())
        here = explained_by(middle_->currentWidget());
    return here.isEmpty() ? QStringLiteral("view-") + QLatin1String(place_keys[static_cast<std::size_t>(place_)])
                          : here;
}

/// Every key, as the menus have them, and those that drawings and fields take.
QString BenchWindow::all_keys() const {
    QString html = tr("<h2>All keys</h2>");
    const auto begin = [&html](const QString& title) {
        html += QStringLiteral("<h3>%1</h3><table cellpadding=\"2\">").arg(title.toHtmlEscaped());
    };
    const auto row = [&html](const QString& keys, const QString& words) {
        html += QStringLiteral("<tr><td><b>%1</b>&nbsp;&nbsp;</td><td>%2</td></tr>")
                    .arg(keys.toHtmlEscaped(), words.toHtmlEscaped());
    };
    const auto plain = [](QString text) { return text.remove(QLatin1Char('&')).remove(QStringLiteral("…")); };
    const auto menus = menuBar()->actions();
    for (const QAction* menu : menus) {
        begin(plain(menu->text()));
        const auto actions = menu->menu()->actions();
        for (const QAction* action : actions)
            if (!action->shortcut().isEmpty()) // what would be struck now is not what the key is for
                row(action->shortcut().toString(QKeySequence::NativeText),
                    plain(action->text().section(QLatin1Char(':'), 0, action == undo_ ? 0 : -1)));
        html += QStringLiteral("</table>");
    }
    begin(tr("People"));
    for (const QAction* action : actions())
        if (action->property("person").isValid())
            row(action->shortcut().toString(QKeySequence::NativeText), action->text());
    html += QStringLiteral("</table>");
    begin(tr("On a drawing"));
    row(tr("arrows"), tr("from one thing to the next, in the order of the block"));
    row(tr("Enter"), tr("to its answer in the call; from the block to its page"));
    row(tr("T"), tr("the table in the drawing's place, and back"));
    row(tr("B, held"), tr("the block as it was found (on the block)"));
    row(tr("Space"), tr("paint what stayed dark, or mark a place (on a deck)"));
    row(tr("Plus, Minus"), tr("a wider or a narrower brush (on a deck)"));
    row(tr("Up, Down"), tr("cut the marked cap more or less, move the foot or the level"));
    row(tr("R"), tr("the marked cap is replaced (on the tunnel's plan)"));
    html += QStringLiteral("</table>");
    begin(tr("In a table, a sentence, the reading line"));
    row(tr("Ctrl+C"), tr("the table, or its marked rows, as tab-separated text"));
    row(tr("Tab, Enter"), tr("from figure to figure of a sentence; change it"));
    row(tr("Enter"), tr("takes the reading; once more, where it was asked about"));
    row(tr("Page Up, Page Down"), tr("strike the last reading and read it again; leave this place for later"));
    row(tr("Escape"), tr("forget what is typed"));
    return html + QStringLiteral("</table>");
}

void BenchWindow::show_ledger() {
    LedgerDialog dialog(context_, this);
    dialog.exec();
}

} // namespace pallix::ui
