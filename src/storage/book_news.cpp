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

BookNews::BookNews(QString book, Job job, Table table)
    : book_(std::move(book)), connection_(QStringLiteral("news-") + QUuid::createUuid().toString(QUuid::Id128)),
      job_(std::move(job)), table_(std::move(table)) {}

BookNews::~BookNews() {
    QSqlDatabase::database(connection_, false).close();
    QSqlDatabase::removeDatabase(connection_);
}

BookResult<void> BookNews::open() {
    QSqlDatabase::removeDatabase(connection_);
    QSqlDatabase db = connection_to(book_, connection_);
    const auto done = open_connection(db, book_, line_doing).and_then([&] { return durable(db, line_doing); });
    if (!done)
        return done;
    if (!db.driver()->subscribeToNotification(channel))
        return tl::unexpected(sql_fault(line_doing, *db.driver(), db.driver()->lastError()));
    QObject::connect(
        db.driver(), &QSqlDriver::notification, db.driver(),
        [this](const QString&, QSqlDriver::NotificationSource, const QVariant& payload) { hear(payload.toString()); });
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

void BookNews::hear(const QString& words) {
    ++heard_;
    const QString what = words.section(QLatin1Char(' '), 0, 0), which = words.section(QLatin1Char(' '), 1);
    if (what == QStringLiteral("job"))
        job_(which.toLongLong());
    else if (what == QStringLiteral("table"))
        table_(which);
}

} // namespace pallix::storage
