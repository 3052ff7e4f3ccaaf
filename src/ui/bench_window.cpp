// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/bench_window.h"

#include "block/state/bore_state.h"
#include "block/state/intake_state.h"
#include "planning/common/assessment.h"
#include "planning/readings/reading_plan.h"
#include "session/background.h"
#include "session/certainty_work.h"
#include "ui/bench_application.h"
#include "ui/block/block_view.h"
#include "ui/cylinders/cylinders_view.h"
#include "ui/decks/decks_view.h"
#include "ui/dialogs/fault_list.h"
#include "ui/engines/board_page.h"
#include "ui/engines/engines_view.h"
#include "ui/frame/bell.h"
#include "ui/frame/call_panel.h"
#include "ui/frame/place_card.h"
#include "ui/frame/practice_strip.h"
#include "ui/frame/reading_line.h"
#include "ui/frame/top_bar.h"
#include "ui/lifters/lifters_view.h"
#include "ui/passport/passport_view.h"
#include "ui/shop/shop_view.h"
#include "ui/tunnel/tunnel_view.h"

#include <QAction>
#include <QApplication>
#include <QCloseEvent>
#include <QEventLoop>
#include <QGridLayout>
#include <QIcon>
#include <QKeyEvent>
#include <QLineEdit>
#include <QProgressDialog>
#include <QScreen>
#include <QStackedWidget>
#include <QTimer>
#include <algorithm>
#include <cmath>

namespace pallix::ui {

BenchWindow::BenchWindow(Context context, QWidget* parent)
    : QMainWindow(parent), context_(context), whole_(new QWidget(this)), top_(new TopBar(context, whole_)),
      route_(new RoutePanel(context, whole_)), call_(new CallPanel(context, whole_)),
      reading_(new ReadingLine(context, whole_)), place_card_(new PlaceCard(context, route_)),
      practice_strip_(new PracticeStrip(context, whole_)), clocks_(context.session, context.preferences),
      bell_(new Bell(context, whole_)), middle_(new QStackedWidget(whole_)) {
    setWindowTitle(tr("Pallix"));
    setWindowIcon(QIcon(QStringLiteral(":/pallix.png")));
    setAcceptDrops(true);
    frame_ = new QGridLayout(whole_);
    frame_->setContentsMargins(0, 0, 0, 0);
    frame_->setSpacing(0);
    frame_->setRowStretch(1, 1);
    frame_->setColumnStretch(1, 1);
    frame_->addWidget(top_, 0, 0, 1, 3);
    frame_->addWidget(route_, 1, 0);
    frame_->addWidget(middle_, 1, 1);
    frame_->addWidget(bell_, 4, 0, 1, 3);
    arrange();
    setCentralWidget(whole_);
    build_actions();
    resize(1280, 800);
    setMinimumSize(1024, 700);
    if (const QByteArray geometry = context_.preferences.geometry(); !geometry.isEmpty())
        restoreGeometry(geometry);

    connect(route_, &RoutePanel::chosen, this, &BenchWindow::go_to);
    call_->set_painted([this](const planning::Step& step) { return view_of(place_)->painted(step); });
    connect(call_, &CallPanel::answered, this, [this] {
        view_of(place_)->answered();
        if (const auto next = call_->step())
            reading_->take_up(*next); // where it is typed
    });
    connect(call_, &CallPanel::place_wanted, this, &BenchWindow::go_to);
    connect(call_, &CallPanel::logs_wanted, this, [this] { import_logs(); });
    connect(&context_.preferences, &session::Preferences::size_changed, this, &BenchWindow::follow_size);
    connect(&context_.session, &session::Session::job_opened, this, [this] { call_->speak_of_the_call(); });
    connect(&context_.session, &session::Session::job_opened, this, &BenchWindow::refresh);
    connect(&context_.session, &session::Session::entries_added, call_, &CallPanel::speak_of_the_call);
    connect(&context_.session, &session::Session::entries_added, this, &BenchWindow::refresh);
    connect(&context_.preferences, &session::Preferences::unit_changed, this, &BenchWindow::refresh);
    connect(&context_.preferences, &session::Preferences::theme_changed, this, &BenchWindow::change_theme);
    connect(&context_.session, &session::Session::certainty_known, this, &BenchWindow::refresh);
    connect(&context_.session, &session::Session::depths_known, this, &BenchWindow::refresh);
    connect(&context_.session, &session::Session::time_passed, this, &BenchWindow::refresh);
    connect(&context_.session.certainty(), &session::CertaintyWork::progressed, top_, &TopBar::refresh);
    connect(&context_.preferences, &session::Preferences::person_changed, top_, &TopBar::refresh);
    connect(&clocks_, &session::ShopClocks::rang, bell_, &Bell::ring);
    connect(bell_, &Bell::job_wanted, this, &BenchWindow::open_job);
    connect(route_, &RoutePanel::card_wanted, this, &BenchWindow::show_card);
    connect(practice_strip_, &PracticeStrip::reading_wanted, this, &BenchWindow::take_simulated);
    connect(practice_strip_, &PracticeStrip::ring_wanted, this, &BenchWindow::hold_against_ring);
    connect(practice_strip_, &PracticeStrip::truth_wanted, this, [this] { open_truth(false); });
    connect(call_, &CallPanel::truth_wanted, this, [this] { open_truth(true); });
    connect(&context_.practice, &session::PracticeWork::opened, this, &BenchWindow::show_reckoning);
    connect(&context_.practice, &session::PracticeWork::reckoned, this, &BenchWindow::refresh);
    connect(&context_.practice, &session::PracticeWork::failed, this,
            [this](const QString& why) { practice_strip_->say(why); });
    connect(reading_, &ReadingLine::asks_for, this, &BenchWindow::show_asked);
    if (const auto* app = qobject_cast<BenchApplication*>(qApp))
        connect(app, &BenchApplication::failed, this, &BenchWindow::tell_failure, Qt::QueuedConnection);
    qApp->installEventFilter(this);
    go_to(Place::shop);
    follow_size();
    QTimer::singleShot(0, this, [this] { clocks_.listen(); });
}

BenchWindow::~BenchWindow() = default;

/// A field takes for itself only what it has a use for: with nothing typed to undo, Ctrl+Z strikes the last entry
/// wherever the caret stands, and Ctrl+U is the bench's unit, not the end of what was typed.
bool BenchWindow::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() != QEvent::ShortcutOverride)
        return QMainWindow::eventFilter(watched, event);
    const auto* field = qobject_cast<QLineEdit*>(watched);
    if (!field || field->window() != this)
        return QMainWindow::eventFilter(watched, event);
    const auto* key = static_cast<QKeyEvent*>(event);
    const bool for_the_bench = (key->matches(QKeySequence::Undo) && !field->isUndoAvailable()) ||
                               (key->matches(QKeySequence::Redo) && !field->isRedoAvailable()) ||
                               (key->key() == Qt::Key_U && key->modifiers() == Qt::ControlModifier);
    if (for_the_bench)
        event->ignore();
    return for_the_bench;
}

/// What a person marks, the call speaks of; Enter on it goes there.
template <class Drawn>
void BenchWindow::follow_marks(Drawn* view) {
    connect(view, &Drawn::pointed_at, this, [this](const block::FeatureId& id) { call_->mark(id); });
    connect(view, &Drawn::entered, call_, &CallPanel::take_focus);
}

/// Everything is as large as the person chose, larger in a window that is larger than it must be, and never so large
/// that it does not fit.
void BenchWindow::follow_size() {
    constexpr double usual_width = 1280, usual_height = 800, step = 0.05;
    const bool fingers = context_.preferences.touch();
    const double least_width = fingers ? 1280 : 1024, least_height = fingers ? 800 : 700;
    const double room = std::max(1.0, std::min(width() / usual_width, height() / usual_height));
    const double fits = std::min(width() / least_width, height() / least_height);
    constexpr double usual_dpi = 96; // what is over it the person has set for the whole system, and Qt has not scaled
    const double system = screen() ? std::clamp(screen()->logicalDotsPerInch() / usual_dpi, 1.0, 3.0) : 1;
    const double wanted = std::min(context_.preferences.size() * room * system, fits);
    const double size = std::max(0.8, std::floor(wanted / step + 1e-6) * step);
    if (std::abs(size - scale()) < step / 2 && fingers == touch())
        return;
    apply_theme(*qApp, context_.preferences.theme(), size, fingers);
    rescale(this);
    arrange();
    refresh();
}

/// The reading line goes the whole width; with its keypad it leaves the call the whole height.
void BenchWindow::arrange() {
    frame_->removeWidget(call_);
    frame_->removeWidget(reading_);
    frame_->removeWidget(practice_strip_);
    frame_->addWidget(call_, 1, 2, touch() ? 3 : 1, 1);
    frame_->addWidget(practice_strip_, 2, 0, 1, touch() ? 2 : 3);
    frame_->addWidget(reading_, 3, 0, 1, touch() ? 2 : 3);
    if (touch()) {
        frame_->addWidget(place_card_, 1, 1, Qt::AlignLeft | Qt::AlignBottom);
        place_card_->raise();
    } else
        route_->set_foot(place_card_);
    reading_->arrange();
}

void BenchWindow::resizeEvent(QResizeEvent* event) {
    QMainWindow::resizeEvent(event);
    follow_size();
}

View* BenchWindow::view_of(Place place) {
    const auto built = [this](auto*& view) {
        if (!view) {
            view = new std::remove_reference_t<decltype(*view)>(context_, middle_);
            middle_->addWidget(view);
        }
        return view;
    };
    const auto bores = [this, built](auto*& view) {
        if (!view) {
            follow_marks(built(view));
            connect(view, &BoresView::scope_changed, this, [this] { reading_->set_scope(reading_scope()); });
        }
        return view;
    };
    switch (place) {
    case Place::tunnel:
        if (!tunnel_)
            follow_marks(built(tunnel_));
        return tunnel_;
    case Place::decks:
        if (!decks_) {
            follow_marks(built(decks_));
            connect(decks_, &DecksView::bank_changed, this, [this] { reading_->set_scope(reading_scope()); });
            connect(decks_, &DecksView::step_wanted, this,
                    [this](const QString& step) { call_->speak_of(step.toStdString()); });
        }
        return decks_;
    case Place::cylinders:
        return bores(cylinders_);
    case Place::lifters:
        return bores(lifters_);
    case Place::engines:
        if (!engines_) {
            built(engines_);
            connect(engines_, &EnginesView::job_wanted, this, [this](const QString& engine) { new_job({}, engine); });
            connect(engines_, &EnginesView::amended, this, [this](const QString& text) {
                if (const auto drawn = block::read_blueprint(text.toStdString(), "drawing board"))
                    amend_with(*drawn, tr("the drawing board"));
            });
        }
        return engines_;
    case Place::block:
        if (!block_) {
            connect(built(block_), &BlockView::feature_wanted, this, &BenchWindow::go_to_feature);
            connect(block_, &BlockView::step_marked, this,
                    [this](const QString& step) { call_->speak_of(step.toStdString()); });
            connect(block_, &BlockView::step_entered, call_, &CallPanel::take_focus);
        }
        return block_;
    case Place::passport:
        if (!passport_)
            built(passport_)->set_hours([this] { return shop().hours_left(*context_.session.job()); });
        return passport_;
    case Place::shop:
        break;
    }
    if (!shop_) {
        connect(built(shop_), &ShopView::job_chosen, this, &BenchWindow::open_job);
        connect(shop_, &ShopView::paper_scanned, this, [this](storage::JobId job, const QString& digest) {
            open_job(job);
            if (context_.session.job() != job)
                return;
            go_to(Place::passport);
            passport_->hold(digest);
        });
        connect(shop_, &ShopView::new_job_wanted, this, [this] { new_job(); });
        connect(shop_, &ShopView::engines_wanted, this, [this] { go_to(Place::engines); });
        connect(shop_, &ShopView::exercise_wanted, this, &BenchWindow::begin_exercise);
        connect(shop_, &ShopView::file_wanted, this, &BenchWindow::choose_files);
        connect(shop_, &ShopView::harbour_wanted, this, [this] { open_book_beside({QStringLiteral("--demo")}); });
        connect(shop_, &ShopView::new_engine_wanted, this, [this] {
            go_to(Place::engines);
            engines_->begin_new();
        });
    }
    return shop_;
}

PassportView& BenchWindow::passport() {
    view_of(Place::passport);
    return *passport_;
}

DecksView& BenchWindow::decks() {
    view_of(Place::decks);
    return *decks_;
}

TunnelView& BenchWindow::tunnel() {
    view_of(Place::tunnel);
    return *tunnel_;
}

CylindersView& BenchWindow::cylinders() {
    view_of(Place::cylinders);
    return *cylinders_;
}

BlockView& BenchWindow::block() {
    view_of(Place::block);
    return *block_;
}

ShopView& BenchWindow::shop() {
    view_of(Place::shop);
    return *shop_;
}

EnginesView& BenchWindow::engines() {
    view_of(Place::engines);
    return *engines_;
}

LiftersView& BenchWindow::lifters() {
    view_of(Place::lifters);
    return *lifters_;
}

void BenchWindow::read_next() {
    reading_->take_focus();
}

ReadingScope BenchWindow::reading_scope() {
    using enum planning::Measuring;
    if (!context_.session.has_job() || !intake_of(context_.session.state()).blueprint)
        return {};
    switch (place_) {
    case Place::tunnel:
        return {{main_sizes, saddle_heights, bar_sweep, temperatures}, ""};
    case Place::decks:
        return {{deck_heights, feelers, deck_level, piston_heights, set_up, head_feelers, head_heights, chamber_volumes,
                 valve_drops, temperatures},
                decks_->bank().value_or("")};
    case Place::cylinders: {
        ReadingScope scope{{cylinder_sizes, cylinder_walls, sleeve_sizes, temperatures},
                           cylinders_->bank().value_or("")};
        const auto page = cylinders_->page();
        if (page == CylindersView::Page::sleeve)
            scope.measurings = {sleeve_sizes, cylinder_sizes, cylinder_walls, temperatures};
        if (page == CylindersView::Page::bore || page == CylindersView::Page::hone ||
            page == CylindersView::Page::sleeve)
            scope.feature = cylinders_->marked();
        const auto& work = context_.session.assessment().cylinders;
        using enum planning::BoringStep;
        if (work && scope.feature && scope.feature == work->boring.hole &&
            (work->boring.step == measure_first || work->boring.step == measure_between))
            for (const planning::HoleProgress& h :
                 work->boring.holes) // what was read before the last cut was read then
                scope.since = std::max(scope.since, bores_of(context_.session.state()).bore(h.id).last_cut());
        return scope;
    }
    case Place::lifters: {
        ReadingScope scope{{lifter_sizes, temperatures}, lifters_->bank().value_or("")};
        if (lifters_->page() == LiftersView::Page::work)
            scope.feature = lifters_->marked();
        return scope;
    }
    case Place::shop:
    case Place::engines:
    case Place::block:
    case Place::passport:
        break;
    }
    return {};
}

void BenchWindow::show_asked(const std::optional<planning::AskedReading>& asked) {
    place_card_->show_asked(asked, asked ? reading_->instrument().kind : block::InstrumentKind{});
    for (auto* view : middle_->findChildren<View*>(Qt::FindDirectChildrenOnly))
        view->show_asked(asked);
}

void BenchWindow::go_to(Place place) {
    if (place != Place::shop && place != Place::engines && !context_.session.has_job())
        return;
    if (place != place_)
        call_->speak_of_the_call();
    place_ = place;
    View* view = view_of(place);
    middle_->setCurrentWidget(view);
    refresh();
    view->setFocus(Qt::OtherFocusReason);
}

void BenchWindow::refresh() {
    setWindowTitle(context_.session.has_job()
                       ? qt(intake_of(context_.session.state()).title) + QStringLiteral(" — Pallix")
                       : tr("Pallix"));
    if (!context_.session.has_job() && place_ != Place::shop && place_ != Place::engines)
        return go_to(Place::shop);
    for (QWidget* of_the_job : std::initializer_list<QWidget*>{call_, reading_, place_card_})
        if (of_the_job->isHidden() != (place_ == Place::engines)) // the board needs the room, and answers nothing
            of_the_job->setVisible(place_ != Place::engines);
    top_->refresh();
    route_->refresh(place_);
    call_->refresh(place_);
    practice_strip_->refresh();
    view_of(place_)->refresh();
    reading_->set_scope(reading_scope());
    refresh_actions();
}

void BenchWindow::change_theme() {
    apply_theme(*qApp, context_.preferences.theme(), scale(), touch());
    rescale(this); // a new style sheet sets every font back
    refresh();
}

/// Reads a job beside the window; where that takes long, with a bar and a way to end it.
/// @return nothing where the person ended it, or it cannot be read
std::optional<session::Session::JobToOpen> BenchWindow::read_beforehand(storage::JobId job) {
    struct Read {
        session::Session::JobToOpen job;
        session::Outcome done;
    };
    std::optional<Read> read;
    QEventLoop soon;
    QProgressDialog progress(tr("Reading the job's scans…"), tr("Cancel"), 0, 100, this);
    progress.setObjectName(QStringLiteral("open-progress"));
    progress.setWindowModality(Qt::WindowModal);
    progress.setMinimumDuration(60 * 60 * 1000); // shown by hand
    progress.setAutoReset(false);
    const auto done = [&](Read what) {
        read = std::move(what);
        soon.quit();
        progress.accept();
    };
    session::Background<Read> reading;
    reading.start(
        [to_open = context_.session.job_to_open(job)](const session::Errand& errand) {
            Read result{to_open, {}};
            const block::ReadWatch watch{errand.progress, errand.cancelled};
            result.done = session::Session::read_job(result.job, &watch);
            return result;
        },
        {done,
         [&](const QString& why) {
             done({{}, tl::unexpected(block::Faults{{"job", 0, why.toStdString(), ""}})});
         },
         [&progress](double share) { progress.setValue(static_cast<int>(100 * share)); }});
    QTimer::singleShot(patience_, &soon, &QEventLoop::quit);
    soon.exec(QEventLoop::ExcludeUserInputEvents);
    connect(&progress, &QProgressDialog::canceled, &progress, &QProgressDialog::reject);
    if (!read && progress.exec() != QDialog::Accepted)
        return std::nullopt;
    if (!read->done) {
        report(read->done.error());
        return std::nullopt;
    }
    return std::move(read->job);
}

void BenchWindow::open_job(storage::JobId job) {
    auto read = read_beforehand(job);
    if (!read)
        return;
    if (done(context_.session.open_job(std::move(*read))))
        go_to(Place::block);
}

/// To the page of a feature, where it is marked.
void BenchWindow::go_to_feature(const block::FeatureId& id) {
    switch (id.kind) {
    case block::FeatureKind::bore:
        go_to(Place::cylinders);
        cylinders_->mark(id);
        break;
    case block::FeatureKind::lifter:
        go_to(Place::lifters);
        lifters_->mark(id);
        break;
    case block::FeatureKind::deck:
        go_to(Place::decks);
        decks_->show_bank(id.bank);
        break;
    default:
        go_to(Place::tunnel);
        break;
    }
}

bool BenchWindow::done(const session::Outcome& outcome) {
    if (!outcome)
        report(outcome.error());
    return outcome.has_value();
}

void BenchWindow::report(const block::Faults& faults) {
    show_faults(faults, context_, this);
}

/// A fault of the program. Each is told once: one that comes with every painting would never let go.
void BenchWindow::tell_failure(const QString& why) {
    if (told_.contains(why))
        return;
    told_.insert(why);
    report({{"Pallix", 0, "this could not be done (" + why.toStdString() + ")",
             "that it can; nothing of it was taken, everything before it is in the ledger"}});
}

void BenchWindow::closeEvent(QCloseEvent* event) {
    context_.preferences.set_geometry(saveGeometry());
    event->accept();
}

} // namespace pallix::ui
