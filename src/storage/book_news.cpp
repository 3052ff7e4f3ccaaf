// SPDX-License-Identifier: GPL-3.0-or-later
#include "storage/book_news.h"

#include "storage/book_server.h"
#include "storage/sql.h"

#include <QUuid>
#include <QVariant>

namespace pallix::storage {
namespace {

const QString channel = QStringLiteral("pallix"), line_doing = QStringLiteral("What others do cannot be heard");

} // namespace

QStringList news_of_server() {
    QStringList all{
        QStringLiteral("CREATE SEQUENCE IF NOT EXISTS news"),
        // Who is where at this moment is nothing of the book, and need not outlive the server.
        QStringLiteral(
            "CREATE UNLOGGED TABLE IF NOT EXISTS bench (id TEXT PRIMARY KEY, person TEXT NOT NULL, job BIGINT "
            "NOT NULL, seen TIMESTAMPTZ NOT NULL)"),
        QStringLiteral("CREATE OR REPLACE FUNCTION tell_of_entries() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN "
                       "PERFORM nextval('news'), pg_notify('pallix', 'job ' || moved.job) FROM (SELECT DISTINCT job "
                       "FROM fresh) AS moved; RETURN NULL; END $$"),
        QStringLiteral(
            "CREATE OR REPLACE FUNCTION tell_of_table() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN PERFORM "
            "nextval('news'), pg_notify('pallix', 'table ' || TG_TABLE_NAME); RETURN NULL; END $$"),
        QStringLiteral("CREATE OR REPLACE TRIGGER entry_is_told AFTER INSERT ON entry REFERENCING NEW TABLE AS fresh "
                       "FOR EACH STATEMENT EXECUTE FUNCTION tell_of_entries()")};
    for (const char* table : {"set_aside", "engine", "engine_retired", "shop_limits", "instrument", "instrument_event",
                              "log_mapping", "person", "usual_route", "usual_minutes", "usual_papers"})
        all << QStringLiteral("CREATE OR REPLACE TRIGGER %1_is_told AFTER INSERT OR UPDATE OR DELETE ON %1 FOR EACH "
                              "STATEMENT EXECUTE FUNCTION tell_of_table()")
                   .arg(QLatin1String(table));
    return all;
}

BookNews::BookNews(QString book, Job job, Table table, Bench bench)
    : book_(std::move(book)), connection_(QStringLiteral("news-") + QUuid::createUuid().toString(QUuid::Id128)),
      job_(std::move(job)), table_(std::move(table)), bench_(std::move(bench)) {}

BookNews::~BookNews() {
    if (QSqlDatabase db = QSqlDatabase::database(connection_, false); db.isOpen() && said_) {
        QSqlQuery query(db);
        query.prepare(QStringLiteral("DELETE FROM bench WHERE id = ?"));
        query.addBindValue(connection_);
        if (query.exec())
            query.exec(QStringLiteral("NOTIFY pallix, 'bench'"));
    }
    QSqlDatabase::database(connection_, false).close();
    QSqlDatabase::removeDatabase(connection_);
}

BookResult<void> BookNews::open() {
    QSqlDatabase::removeDatabase(connection_);
    QSqlDatabase db = connection_to(book_, connection_);
    if (auto done = open_durably(db, book_, line_doing); !done)
        return done;
    if (!db.driver()->subscribeToNotification(channel))
        return tl::unexpected(sql_fault(line_doing, *db.driver(), db.driver()->lastError()));
    QObject::connect(
        db.driver(), &QSqlDriver::notification, db.driver(),
        [this](const QString&, QSqlDriver::NotificationSource, const QVariant& payload) { hear(payload.toString()); });
    said_.reset();
    const auto first = look();
    missed_ = false;
    return first.map([](bool) {});
}

BookResult<bool> BookNews::look() {
    QSqlQuery query(QSqlDatabase::database(connection_, false));
    if (!query.exec(QStringLiteral("SELECT last_value FROM news")) || !query.next())
        return failed(line_doing, query);
    const qint64 told = query.value(0).toLongLong();
    const bool missed = told - told_ > heard_;
    told_ = told;
    heard_ = 0;
    return std::exchange(missed_, missed) || missed;
}

BookResult<std::vector<Colleague>> BookNews::meet(const Colleague& here) {
    QSqlQuery query(QSqlDatabase::database(connection_, false));
    query.prepare(
        QStringLiteral("INSERT INTO bench (id, person, job, seen) VALUES (?, ?, ?, now()) ON CONFLICT (id) DO "
                       "UPDATE SET person = excluded.person, job = excluded.job, seen = excluded.seen"));
    query.addBindValue(connection_);
    query.addBindValue(here.person.isNull() ? QStringLiteral("") : here.person);
    query.addBindValue(here.job);
    if (!query.exec())
        return failed(line_doing, query);
    if (said_ != here && !query.exec(QStringLiteral("NOTIFY pallix, 'bench'")))
        return failed(line_doing, query);
    said_ = here;
    query.prepare(QStringLiteral("SELECT person, job FROM bench WHERE id <> ? AND seen > now() - interval '10 seconds' "
                                 "ORDER BY person, job"));
    query.addBindValue(connection_);
    if (!query.exec())
        return failed(line_doing, query);
    std::vector<Colleague> others;
    while (query.next())
        others.push_back({query.value(0).toString(), query.value(1).toLongLong()});
    return others;
}

void BookNews::hear(const QString& words) {
    if (words == QStringLiteral("bench"))
        return bench_();
    ++heard_;
    const QString what = words.section(QLatin1Char(' '), 0, 0), which = words.section(QLatin1Char(' '), 1);
    if (what == QStringLiteral("job"))
        job_(which.toLongLong());
    else if (what == QStringLiteral("table"))
        table_(which);
}

} // namespace pallix::storage
