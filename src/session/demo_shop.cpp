// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/demo_shop.h"

#include "block/times.h"
#include "planning/common/board.h"
#include "planning/common/usual_figures.h"
#include "session/session.h"
#include "workshop/harbour.h"

#include <map>
#include <set>

namespace pallix::session {
namespace {

/// The engines that the jobs are of, each with what its first job states.
storage::BookResult<void> fill_shelf(storage::ShopBook& book, const std::vector<workshop::DemoJob>& jobs) {
    std::map<std::string, block::Engine> engines;
    std::map<std::string, std::string> since;
    std::set<std::string> known; // blueprints: most jobs are of an engine that another one is of
    for (const workshop::DemoJob& job : jobs) {
        if (!known.insert(std::get<block::JobOpened>(job.entries.front().payload).blueprint).second)
            continue;
        if (auto engine = planning::engine_of(job.entries)) {
            for (const auto& [key, typed] : engine->recipe.figures)
                engine->recipe.origins[key].source = block::FigureSource::sheet;
            const planning::Board board(*engine);
            for (const planning::BoardQuestion& question : board.questions())
                engine->recipe.accepted[question.id] = "so on the maker's sheet";
            const std::string name = engine->name();
            since.emplace(name, job.entries.front().time);
            engines.emplace(name, std::move(*engine));
        }
    }
    for (const auto& [name, engine] : engines)
        if (const auto kept = book.engines().keep(engine, QString::fromStdString(since[name]), QStringLiteral("Marit"));
            !kept)
            return tl::unexpected(kept.error());
    return {};
}

int days_since_demo(const std::string& today) {
    const auto from = block::read_day(workshop::harbour_today), to = block::read_day(today.substr(0, 10));
    return from && to ? static_cast<int>((*to - *from).count()) : 0;
}

void shift_to(std::vector<workshop::DemoJob>& jobs, const std::string& today) {
    workshop::shift_days(jobs, days_since_demo(today));
}

} // namespace

storage::BookResult<void> fill_with_past(storage::ShopBook& book, const std::string& today) {
    std::vector<workshop::DemoJob> jobs = workshop::harbour_past();
    shift_to(jobs, today);
    for (const workshop::DemoJob& job : jobs)
        if (auto created = book.create_job(job.entries); !created)
            return tl::unexpected(created.error());
    return {};
}

storage::BookResult<void> fill_with_demo(storage::ShopBook& book, const std::string& today) {
    std::vector<workshop::DemoJob> jobs = workshop::harbour_jobs();
    workshop::add_cards(jobs);
    shift_to(jobs, today);
    for (const auto& [name, role] : {std::pair("Marit", block::Role::owner), std::pair("Jorun", block::Role::machinist),
                                     std::pair("Mira", block::Role::learner)})
        if (const auto kept = book.people().keep(QString::fromLatin1(name), role); !kept)
            return kept;
    for (const workshop::DemoJob& job : jobs)
        if (auto created = book.create_job(job.entries); !created)
            return tl::unexpected(created.error());
    for (const block::Instrument& instrument : workshop::harbour_instruments())
        if (auto saved = book.save_instrument(instrument); !saved)
            return saved;
    for (const block::InstrumentEvent& event : workshop::harbour_gauge_events(days_since_demo(today)))
        if (auto kept = book.instrument_histories().add(event); !kept)
            return kept;
    if (auto kept = book.usual().keep_papers(workshop::harbour_papers()); !kept)
        return kept;
    return fill_shelf(book, jobs);
}

} // namespace pallix::session
