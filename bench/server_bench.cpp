// SPDX-License-Identifier: GPL-3.0-or-later
// What one server takes, asked by several shops at once, each with a database of its own: the base of docs/scale.md.
// PALLIX_SERVER names the server, "postgresql://name@host:port"; scripts/scale starts one of its own.
#include "block/ledger.h"
#include "storage/book_news.h"
#include "storage/book_server.h"
#include "storage/shop_book.h"

#include <QCoreApplication>
#include <QSqlDatabase>
#include <QSqlQuery>
#include <benchmark/benchmark.h>
#include <cstdlib>

namespace {

using namespace pallix;

QString server() {
    return qEnvironmentVariable("PALLIX_SERVER");
}

QString shop(int number) {
    return server() + QStringLiteral("/shop_%1").arg(number);
}

/// Before anything is measured: making a database is nobody's daily work.
bool make_shops(int count) {
    bool made = true;
    const QString connection = QStringLiteral("maker");
    {
        QSqlDatabase db = storage::connection_to(server() + QStringLiteral("/postgres"), connection);
        made = storage::open_connection(db, server() + QStringLiteral("/postgres"), connection).has_value();
        for (int i = 0; made && i < count; ++i)
            made = QSqlQuery(db).exec(QStringLiteral("CREATE DATABASE shop_%1").arg(i));
    }
    QSqlDatabase::removeDatabase(connection);
    for (int i = 0; made && i < count; ++i) {
        auto book = storage::ShopBook::open(shop(i));
        made = book && (*book)->create_job({{1, "2026-03-02T09:41:00Z", "Marit",
                                             block::JobOpened{"a job", "somebody", "b.json", "{}"}}});
    }
    return made;
}

/// @return the shop's book, with its one job
std::unique_ptr<storage::ShopBook> open_shop(benchmark::State& state) {
    auto book = storage::ShopBook::open(shop(state.thread_index()));
    if (!book) {
        state.SkipWithError(qPrintable(book.error().what));
        return nullptr;
    }
    return std::move(*book);
}

constexpr storage::JobId the_job = 1;

block::Entry note(std::int64_t sequence) {
    return {sequence, "2026-03-02T09:41:00Z", "Marit", block::Note{"bore 3 looks better than it gauges"}};
}

std::int64_t entries_in(const storage::ShopBook& book) {
    const auto all = book.entries(the_job);
    return all ? static_cast<std::int64_t>(all->size()) : 0;
}

/// An entry with its answer: on the server's disk.
void AnEntry(benchmark::State& state) {
    const auto book = open_shop(state);
    std::int64_t last = book ? entries_in(*book) : 0;
    for (auto _ : state)
        if (book && !book->append(the_job, {note(++last)}))
            state.SkipWithError("an entry was refused");
    state.SetItemsProcessed(state.iterations());
}

/// What another bench of the shop asks for when it hears of an entry.
void ReadingOneThatWasTold(benchmark::State& state) {
    const auto book = open_shop(state);
    const std::int64_t last = book ? entries_in(*book) : 0;
    for (auto _ : state)
        if (book && book->entries_after(the_job, last - 1).value_or(std::vector<block::Entry>()).size() != 1)
            state.SkipWithError("an entry was not read");
    state.SetItemsProcessed(state.iterations());
}

/// What every bench asks every two seconds: whether the line holds, who else is there.
void ALook(benchmark::State& state) {
    storage::BookNews news(
        shop(state.thread_index()), [](storage::JobId) {}, [](const QString&) {}, [] {});
    if (!news.open())
        state.SkipWithError("the server does not answer");
    for (auto _ : state)
        if (!news.look() || !news.meet({QStringLiteral("Marit"), the_job}))
            state.SkipWithError("the server does not answer");
    state.SetItemsProcessed(state.iterations());
}

constexpr int most_shops = 8;
BENCHMARK(AnEntry)->ThreadRange(1, most_shops)->UseRealTime()->Unit(benchmark::kMillisecond);
BENCHMARK(ReadingOneThatWasTold)->ThreadRange(1, most_shops)->UseRealTime()->Unit(benchmark::kMillisecond);
BENCHMARK(ALook)->ThreadRange(1, most_shops)->UseRealTime()->Unit(benchmark::kMillisecond);

} // namespace

int main(int argc, char** argv) {
    const QCoreApplication app(argc, argv);
    benchmark::Initialize(&argc, argv);
    if (server().isEmpty() || !make_shops(most_shops)) {
        std::fprintf(stderr, "server_bench: no server, expected its address in PALLIX_SERVER, and none of its shops "
                             "there yet (scripts/scale starts one)\n");
        return 1;
    }
    benchmark::RunSpecifiedBenchmarks();
    return 0;
}
