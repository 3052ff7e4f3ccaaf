// SPDX-License-Identifier: GPL-3.0-or-later
#include "ui/screenshots.h"

#include "block/state/intake_state.h"
#include "block/state/readings_state.h"
#include "planning/readings/reading_plan.h"
#include "planning/tunnel/tunnel_work.h"
#include "session/belief_work.h"
#include "session/certainty_work.h"
#include "ui/bench_window.h"
#include "ui/block/block_view.h"
#include "ui/cylinders/cylinders_view.h"
#include "ui/decks/decks_view.h"
#include "ui/dialogs/instrument_dialog.h"
#include "ui/engines/board_page.h"
#include "ui/engines/engines_view.h"
#include "ui/frame/line_drawing.h"
#include "ui/lifters/lifters_view.h"
#include "ui/passport/passport_view.h"
#include "ui/tunnel/tunnel_view.h"
#include "wording/readings/readings.h"

#include <QAction>
#include <QApplication>
#include <QDir>
#include <algorithm>

namespace pallix::ui {
namespace {

/// One picture after the other; stops at the first that fails.
class Tour {
  public:
    Tour(BenchWindow& window, Context context, const QString& folder)
        : window_(window), context_(context), folder_(folder) {}

    tl::expected<void, QString> run() {
        const auto jobs = context_.session.book().jobs();
        if (!jobs)
            return tl::unexpected(jobs.error().what);
        const auto job = [&](const QString& title) {
            for (const auto& row : *jobs)
                if (row.title.startsWith(title))
                    return row.id;
            return jobs->front().id;
        };
        context_.preferences.set_unit(block::Unit::inch);
        window_.go_to(Place::shop);
        shoot("shop");
        window_.open_job(job(QStringLiteral("Puffling, starboard")));
        wait_for_certainty();
        shoot("block");
        window_.open_job(job(QStringLiteral("Puffling, port")));
        window_.go_to(Place::block);
        window_.block().show_page(BlockView::Page::card);
        window_.block().card().mark_line(QStringLiteral("received/any/complaint"));
        shoot("job-card");
        window_.block().show_page(BlockView::Page::memory);
        shoot("kind-memory");
        window_.block().show_page(BlockView::Page::block);
        window_.open_job(job(QStringLiteral("Puffling, port")));
        window_.go_to(Place::tunnel);
        wait_for_certainty();
        shoot("tunnel");
        window_.open_job(job(QStringLiteral("Puffling, starboard")));
        window_.go_to(Place::decks);
        wait_for_certainty();
        shoot("decks-during");
        window_.decks().show_page(DecksView::Page::set_up);
        shoot("decks-set-up");
        window_.decks().show_page(DecksView::Page::passes);
        context_.preferences.set_unit(block::Unit::mm);
        shoot_cylinders(job(QStringLiteral("Eider")), job(QStringLiteral("Gannet")));
        window_.open_job(job(QStringLiteral("Tystie")));
        window_.go_to(Place::tunnel);
        window_.tunnel().show_page(TunnelView::Page::plan);
        shoot("tunnel-plan");
        window_.tunnel().show_page(TunnelView::Page::board);
        finish_tunnel();
        window_.tunnel().show_page(TunnelView::Page::found);
        window_.open_job(job(QStringLiteral("Samphire")));
        wait_for_certainty();
        window_.go_to(Place::passport);
        shoot("passport");
        window_.passport().show_paper(reporting::PaperKind::customer);
        shoot("paper-owner");
        window_.passport().show_paper(reporting::PaperKind::passport);
        shoot_practice();
        shoot_instrument();
        shoot_engines();
        context_.preferences.set_unit(block::Unit::inch);
        if (!fault_.isEmpty())
            return tl::unexpected(fault_);
        return {};
    }

  private:
    /// Pictures show what a person sees after a moment.
    void wait_for_certainty() {
        while (context_.session.certainty().running() || context_.session.beliefs().running())
            QApplication::processEvents(QEventLoop::WaitForMoreEvents);
    }

    /// The smack with a ruined cylinder, the ferry under the hone, its lifters.
    void shoot_cylinders(storage::JobId smack, storage::JobId ferry) {
        using Page = CylindersView::Page;
        window_.open_job(smack);
        wait_for_certainty();
        window_.go_to(Place::cylinders);
        window_.cylinders().show_page(Page::size);
        window_.cylinders().mark({block::FeatureKind::bore, "C", 2});
        shoot("cylinders-size");
        window_.open_job(ferry);
        wait_for_certainty();
        window_.go_to(Place::cylinders);
        window_.cylinders().show_page(Page::hone);
        shoot("cylinders-hone");
        window_.cylinders().show_page(Page::texture);
        window_.cylinders().mark({block::FeatureKind::bore, "R", 1});
        shoot("cylinders-texture");
        window_.go_to(Place::lifters);
        window_.lifters().show_page(LiftersView::Page::work);
        shoot_by_night("lifters-work-night");
    }

    /// A bowed tunnel under way, somebody beside it; and what a careless hand made of it, with the truth open.
    void shoot_practice() {
        const workshop::Exercise exercise = workshop::exercise_of(workshop::Theme::bowed_tunnel, 1, 1);
        if (!context_.practice.begin(exercise))
            return;
        take(block::StepDone{"washed"});
        take(block::StepDone{"inspected for cracks, threads, caps and registers"});
        window_.go_to(Place::tunnel);
        constexpr int enough_to_see = 8;
        for (int i = 0; i < enough_to_see; ++i)
            if (auto* action = window_.findChild<QAction*>(QStringLiteral("practice-reading")))
                action->trigger();
        shoot("practice");
        auto played = workshop::play_exercise(context_.session.entries(), true);
        if (!played)
            return;
        std::vector<block::Entry>& entries = played->entries;
        if (const auto reckoned = workshop::reckon(entries))
            entries.push_back({static_cast<std::int64_t>(entries.size() + 1), entries.back().time, "Mira",
                               block::TruthOpened{reckoned->score()}});
        if (const auto done = context_.session.book().create_job(entries)) {
            window_.open_job(*done);
            window_.go_to(Place::passport);
            window_.passport().show_paper(reporting::PaperKind::reckoning);
            context_.practice.insist();
            shoot("reckoning");
            window_.passport().show_paper(reporting::PaperKind::passport);
        }
    }

    /// The bore gauge over a year.
    void shoot_instrument() {
        InstrumentDialog dialog(context_, qt(context_.instruments.in_hand(planning::Measuring::main_sizes).name),
                                &window_);
        dialog.resize(window_.size());
        dialog.show_history_page();
        dialog.show();
        QApplication::processEvents();
        grab(dialog, "instrument-history");
        dialog.reject();
    }

    /// The shelf; the ferry's V8 with its bores too near one another.
    void shoot_engines() {
        context_.preferences.set_unit(block::Unit::mm);
        window_.go_to(Place::engines);
        shoot("engines-shelf");
        EnginesView& engines = window_.engines();
        engines.open(QStringLiteral("ferry V8, 90 degrees"));
        BoardPage& page = engines.board();
        page.board().type("pitch", "94", block::FigureSource::sheet);
        page.refresh();
        shoot("engines-board");
    }

    void grab(QWidget& dialog, const char* name) {
        if (!dialog.grab().save(QDir(folder_).filePath(QString::fromLatin1(name) + QStringLiteral(".png"))))
            fault_ = QStringLiteral("%1.png cannot be written").arg(QLatin1String(name));
    }

    void take(block::Payload payload) {
        const auto done = context_.session.take(std::move(payload));
        if (!done && fault_.isEmpty())
            fault_ = qt(done.error().front().text());
    }

    /// Reads all of a kind, a little apart.
    void read_all(planning::Measuring what, double base, double apart) {
        const auto& state = context_.session.state();
        for (const auto& at : planning::usual_places(*intake_of(state).blueprint, what, "")) {
            block::Reading r;
            r.at = at;
            r.words = wording::place_of_reading(*intake_of(state).blueprint, at);
            r.value = base + apart * (at.feature.number % 2);
            r.instrument = context_.instruments.in_hand(what);
            r.conditions = readings_of(state).conditions;
            take(r);
        }
    }

    /// What the launch's tunnel goes through until it is done, written into the tour's own book.
    void finish_tunnel() {
        using enum planning::Measuring;
        block::CapsCut caps;
        for (const auto& cut : context_.session.tunnel_work().to_cut)
            caps.cuts.emplace_back(cut.id, cut.cut);
        take(caps);
        take(block::ConditionsStated{readings_of(context_.session.state()).conditions});
        read_all(main_sizes, 57.998, 0.001);
        take(block::TunnelPass{block::TunnelPassKind::strokes, 40, {}, false});
        read_all(main_sizes, 58.006, 0.001);
        take(block::TunnelCut{block::TunnelMethod::hone, "40 strokes, cross-hatch even"});
        read_all(main_sizes, 58.006, 0.001);
        read_all(saddle_heights, 0, 0.002);
    }

    void shoot(const char* name) {
        for (int settle = 0; settle < 4; ++settle) { // a layout asks for another where a scroll bar comes in
            QApplication::processEvents();
            QApplication::sendPostedEvents();
        }
        const QString file = QDir(folder_).filePath(QString::fromLatin1(name) + QStringLiteral(".png"));
        if (!window_.grab().save(file) && fault_.isEmpty())
            fault_ = QStringLiteral("%1 cannot be written").arg(file);
    }

    /// What a dim shop sees.
    void shoot_by_night(const char* name) {
        context_.preferences.set_theme(session::Theme::dark);
        shoot(name);
        context_.preferences.set_theme(session::Theme::light);
    }

    BenchWindow& window_;
    Context context_;
    QString folder_;
    QString fault_;
};

} // namespace

tl::expected<void, QString> write_screenshots(BenchWindow& window, Context context, const QString& folder,
                                              const QSize& size) {
    if (!QDir().mkpath(folder))
        return tl::unexpected(QStringLiteral("%1 cannot be made").arg(folder));
    window.resize(size);
    return Tour(window, context, folder).run();
}

} // namespace pallix::ui
