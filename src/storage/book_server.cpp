// SPDX-License-Identifier: GPL-3.0-or-later
#include "storage/book_server.h"

#include "storage/book_news.h"
#include "storage/shop_password.h"
#include "storage/sql.h"

#include <QUrl>
#include <QUrlQuery>
#include <QVariant>
#include <algorithm>

namespace pallix::storage {
namespace {

const QString expected_address =
    QStringLiteral("Expected postgresql://host/database, with user@ before and :port behind the host where they are "
                   "needed.");

/// Of libpq's own, those that may stand in an address: how the line is sealed, and where a socket is.
const QStringList known_options{QStringLiteral("sslmode"), QStringLiteral("sslrootcert"), QStringLiteral("sslcert"),
                                QStringLiteral("sslkey"),  QStringLiteral("sslcrl"),      QStringLiteral("passfile"),
                                QStringLiteral("host")};

/// As libpq takes it: 'a folder/with \' in it'.
QString quoted(QString value) {
    return QLatin1Char('\'') +
           value.replace(QLatin1Char('\\'), QLatin1String("\\\\")).replace(QLatin1Char('\''), QLatin1String("\\'")) +
           QLatin1Char('\'');
}

BookResult<void> set_address(QSqlDatabase& db, const QString& book) {
    const QUrl url(book, QUrl::StrictMode);
    const QString database = url.path().mid(1);
    if (!url.isValid() || database.isEmpty() || database.contains(QLatin1Char('/')) || url.hasFragment())
        return refused(QStringLiteral("%1 is no address of a shop book.").arg(book), expected_address);
    if (!url.password().isEmpty())
        return refused(
            QStringLiteral("A password has no place in the address of a shop book: others can read it there."),
            QStringLiteral("Put it in the file .pgpass of your home folder, for you alone to read "
                           "(host:port:database:user:password)."));
    // The line: nobody waits for a dead one longer than this.
    QStringList options{QStringLiteral("connect_timeout=4"),     QStringLiteral("keepalives_idle=2"),
                        QStringLiteral("keepalives_interval=1"), QStringLiteral("keepalives_count=3"),
                        QStringLiteral("tcp_user_timeout=4000"), QStringLiteral("application_name=pallix")};
    for (const auto& [key, value] : QUrlQuery(url).queryItems(QUrl::FullyDecoded)) {
        if (!known_options.contains(key) || value.isEmpty() || value.contains(QLatin1Char(';')))
            return refused(QStringLiteral("%1 says “%2”, which is nothing that is known of a server.").arg(book, key),
                           QStringLiteral("Expected one of: %1.").arg(known_options.join(QStringLiteral(", "))));
        options << key + QLatin1Char('=') + quoted(value);
    }
    db.setHostName(url.host());
    db.setPort(url.port());
    db.setDatabaseName(database);
    db.setUserName(url.userName());
    db.setConnectOptions(options.join(QLatin1Char(';')));
    return {};
}

/// A learner changes of an instrument what comes of measuring with it (`block::differ_by_use_alone`), and nothing else.
/// Whoever keeps the server may all.
QStringList guard_of_instruments() {
    const auto plays = [](const char* role) {
        return QStringLiteral("pg_has_role(current_user, '%1', 'USAGE')").arg(QLatin1String(role));
    };
    const QString bare = QStringLiteral("(%1.payload::jsonb - ARRAY['zero_mm', 'zero_set_on', 'zero_time', 'zero_c', "
                                        "'last_check', 'repeatability', 'repeatability_readings'])");
    return {
        QStringLiteral("CREATE OR REPLACE FUNCTION use_alone() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN IF %1 AND "
                       "NOT %2 AND NOT %3 AND %4 <> %5 THEN RAISE EXCEPTION 'a learner changes what comes of measuring "
                       "alone' USING "
                       "ERRCODE = 'insufficient_privilege'; END IF; RETURN NEW; END $$")
            .arg(plays(learner_role), plays(machinist_role), plays(owner_role), bare.arg(QLatin1String("NEW")),
                 bare.arg(QLatin1String("OLD"))),
        QStringLiteral("CREATE OR REPLACE TRIGGER instrument_is_guarded BEFORE UPDATE ON instrument FOR EACH ROW "
                       "EXECUTE FUNCTION use_alone()")};
}

/// Rights of all, then of those who are no learners, then of the owner.
QStringList rights() {
    const auto to = [](const char* right, const char* tables, const QStringList& roles) {
        return QStringLiteral("GRANT %1 ON %2 TO %3")
            .arg(QLatin1String(right), QLatin1String(tables), roles.join(QStringLiteral(", ")));
    };
    const QString learner = QLatin1String(learner_role), machinist = QLatin1String(machinist_role),
                  owner = QLatin1String(owner_role);
    const QStringList all{learner, machinist, owner}, trusted{machinist, owner}, owners{owner};
    return {to("SELECT", "ALL TABLES IN SCHEMA public", all),
            to("USAGE, SELECT", "ALL SEQUENCES IN SCHEMA public", all),
            to("INSERT", "job, entry, picture, instrument_event", all),
            to("INSERT, UPDATE, DELETE", "standing, stream, bench", all),
            to("UPDATE", "instrument", all), // its zero, check, test: `guard_of_instruments`
            to("INSERT", "engine", trusted),
            to("INSERT, UPDATE, DELETE", "instrument, log_mapping, set_aside, engine_retired", trusted),
            to("INSERT", "shop_limits", owners),
            to("INSERT, UPDATE, DELETE", "person, usual_route, usual_minutes, usual_papers", owners)};
}

/// It has none, or not this one.
bool asks_for_password(const QSqlDatabase& db) {
    const QString words = db.lastError().databaseText();
    return words.contains(QLatin1String("password")) || words.contains(QLatin1String("fe_sendauth"));
}

/// With what was given in this program, else with the password of `.pgpass`, which libpq reads by itself, else with
/// what the desktop keeps.
bool opens(QSqlDatabase& db, const QString& book) {
    const auto known = password_at_hand(book);
    db.setPassword(known.value_or(QString()));
    if (db.open())
        return true;
    const auto kept = known || !asks_for_password(db) ? std::nullopt : kept_password(book);
    db.setPassword(kept.value_or(QString()));
    if (!kept || !db.open())
        return false;
    have_password_at_hand(book, *kept);
    return true;
}

} // namespace

bool is_at_server(const QString& book) {
    return book.startsWith(QLatin1String("postgresql://")) || book.startsWith(QLatin1String("postgres://"));
}

QSqlDatabase connection_to(const QString& book, const QString& connection) {
    return QSqlDatabase::addDatabase(is_at_server(book) ? QStringLiteral("QPSQL") : QStringLiteral("QSQLITE"),
                                     connection);
}

BookResult<void> open_connection(QSqlDatabase& db, const QString& book, const QString& doing, int wait) {
    if (!is_at_server(book)) {
        db.setDatabaseName(book);
        db.setConnectOptions(QStringLiteral("QSQLITE_BUSY_TIMEOUT=%1").arg(wait));
        if (!db.open())
            return tl::unexpected(sql_fault(doing, *db.driver(), db.lastError()));
        return {};
    }
    if (!db.isValid())
        return refused(doing + QStringLiteral(": what speaks to a server is not installed."),
                       QStringLiteral("Install the package libqt6sql6-psql, then start again."));
    if (auto address = set_address(db, book); !address)
        return address;
    if (opens(db, book))
        return {};
    // libpq has no codes for this; who answers at all says how grave it is, in a word that every language has.
    const QString words = db.lastError().databaseText();
    if (asks_for_password(db))
        return refused(
            doing + QStringLiteral(": the shop's server asks for a password, or did not take the one it got."),
            QStringLiteral("It stands in the file .pgpass of your home folder, or is kept by the desktop; the "
                           "window asks for it."),
            WayOut::give_password);
    BookFault fault{doing + QStringLiteral(": the shop's server does not answer, or does not let you in."),
                    QStringLiteral("See that it runs, that the network is there and the address is right, and ask who "
                                   "keeps it.")};
    fault.no_answer = !words.contains(QLatin1String("FATAL")) || words.contains(QLatin1String("starting up")) ||
                      words.contains(QLatin1String("shutting down"));
    return tl::unexpected(std::move(fault));
}

BookResult<void> open_durably(QSqlDatabase& db, const QString& book, const QString& doing, int wait) {
    return open_connection(db, book, doing, wait).and_then([&] { return durable(db, doing); });
}

BookResult<void> look_at_database(QSqlDatabase& db, const QString& book) {
    QSqlQuery query(db);
    if (!query.exec(QStringLiteral("SELECT count(*), count(*) FILTER (WHERE tablename IN ('entry', 'schema_version')) "
                                   "FROM pg_tables WHERE schemaname = 'public'")) ||
        !query.next())
        return failed(QStringLiteral("The shop book cannot be read"), query);
    if (query.value(0).toInt() == 0 || query.value(1).toInt() > 0)
        return {};
    return refused(
        QStringLiteral("The database of %1 holds something else than a shop book.").arg(book),
        QStringLiteral("Nothing was changed. Name the shop's database, or an empty one to begin a book in."));
}

BookResult<void> while_nobody_else(QSqlDatabase& db, const QString& doing,
                                   const std::function<BookResult<void>()>& work) {
    const QString lock = QStringLiteral("SELECT %1(hashtextextended('shop book', 0))");
    return run(db, doing, lock.arg(QStringLiteral("pg_advisory_lock"))).and_then(work).and_then([&] {
        return run(db, doing, lock.arg(QStringLiteral("pg_advisory_unlock")));
    });
}

BookResult<void> set_up_server(QSqlDatabase& db) {
    const QString doing = QStringLiteral("The roles of the shop cannot be set up");
    for (const char* role : {learner_role, machinist_role, owner_role}) {
        // Somebody else may be making it at this moment: roles belong to the whole server.
        const QString make =
            QStringLiteral("DO $$ BEGIN IF NOT EXISTS (SELECT FROM pg_roles WHERE rolname = '%1') THEN CREATE ROLE %1 "
                           "NOLOGIN; END IF; EXCEPTION WHEN duplicate_object OR unique_violation THEN NULL; END $$")
                .arg(QLatin1String(role));
        if (auto made = run(db, doing, make); !made)
            return refused(made.error().what, QStringLiteral("Whoever begins the book needs the right to make roles "
                                                             "(CREATEROLE): ask who keeps the server."));
    }
    return in_one_transaction(db, doing,
                              [&] { return run_all(db, doing, news_of_server() + guard_of_instruments() + rights()); });
}

} // namespace pallix::storage
