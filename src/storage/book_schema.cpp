// SPDX-License-Identifier: GPL-3.0-or-later
#include "storage/book_schema.h"

#include "block/digest.h"
#include "storage/sql.h"

#include <QStringList>
#include <QUuid>
#include <QVariant>
#include <initializer_list>
#include <vector>

namespace pallix::storage {

std::string digest_of_line(qint64 number, const QString& line) {
    return block::sha256_hex(std::to_string(number) + ":" + line.toStdString());
}

namespace {

const QString doing = QStringLiteral("The shop book cannot be set up");

/// Entries of before there were digests are sealed as they are found.
BookResult<void> seal_entries(QSqlDatabase& db) {
    QSqlQuery rows(db), seal(db);
    rows.setForwardOnly(true);
    seal.prepare(QStringLiteral("UPDATE entry SET digest = ? WHERE job = ? AND sequence = ?"));
    if (!rows.exec(QStringLiteral(
            "SELECT job, sequence, time, person, kind, version, payload FROM entry ORDER BY job, sequence")))
        return failed(doing, rows);
    qint64 job = 0;
    std::string digest;
    while (rows.next()) {
        if (rows.value(0).toLongLong() != job)
            digest.clear();
        job = rows.value(0).toLongLong();
        const std::string time = rows.value(2).toString().toStdString(),
                          person = rows.value(3).toString().toStdString(),
                          kind = rows.value(4).toString().toStdString(),
                          payload = rows.value(6).toString().toStdString();
        digest = block::digest_after(
            digest, {rows.value(1).toLongLong(), time, person, kind, rows.value(5).toLongLong(), payload});
        seal.addBindValue(text(digest));
        seal.addBindValue(job);
        seal.addBindValue(rows.value(1));
        if (!seal.exec())
            return failed(doing, seal);
    }
    return {};
}

BookResult<void> seal_instruments(QSqlDatabase& db) {
    QSqlQuery rows(db), seal(db);
    seal.prepare(QStringLiteral("UPDATE instrument SET digest = ? WHERE name = ?"));
    if (!rows.exec(QStringLiteral("SELECT name, payload FROM instrument")))
        return failed(doing, rows);
    while (rows.next()) {
        seal.addBindValue(text(block::sha256_hex(rows.value(1).toString().toStdString())));
        seal.addBindValue(rows.value(0));
        if (!seal.exec())
            return failed(doing, seal);
    }
    return {};
}

BookResult<void> seal_streams(QSqlDatabase& db) {
    QSqlQuery rows(db), seal(db);
    seal.prepare(QStringLiteral("UPDATE stream SET digest = ? WHERE job = ? AND number = ?"));
    if (!rows.exec(QStringLiteral("SELECT job, number, line FROM stream")))
        return failed(doing, rows);
    while (rows.next()) {
        seal.addBindValue(text(digest_of_line(rows.value(1).toLongLong(), rows.value(2).toString())));
        seal.addBindValue(rows.value(0));
        seal.addBindValue(rows.value(1));
        if (!seal.exec())
            return failed(doing, seal);
    }
    return {};
}

BookResult<void> name_book(QSqlDatabase& db) {
    QSqlQuery query(db);
    query.prepare(QStringLiteral("INSERT INTO book (id) VALUES (?)"));
    query.addBindValue(QUuid::createUuid().toString(QUuid::WithoutBraces));
    if (!query.exec())
        return failed(doing, query);
    return {};
}

BookResult<void> seal_all(QSqlDatabase& db) {
    return seal_entries(db)
        .and_then([&db] { return seal_instruments(db); })
        .and_then([&db] { return seal_streams(db); })
        .and_then([&db] { return name_book(db); });
}

BookResult<void> nothing_more(QSqlDatabase&) {
    return {};
}

/// So that nothing else is taken for a shop book; a server's database is known by its tables.
QStringList signed_as_ours(Dialect dialect) {
    return dialect == Dialect::sqlite ? QStringList{QStringLiteral("PRAGMA application_id = %1").arg(application_id)}
                                      : QStringList();
}

struct Migration {
    QStringList statements;
    BookResult<void> (*then)(QSqlDatabase&) = nothing_more;
    QStringList at_last{};
};

constexpr Never entry_stays{"entry_stays", "UPDATE", "entry", "an entry never changes"};

/// Each step brings the schema from its index to the next. Written once, in the words of SQLite; `table` and `never`
/// say to the other engine what it calls otherwise.
std::vector<Migration> migrations(Dialect dialect) {
    const auto tables = [dialect](std::initializer_list<const char*> creates) {
        QStringList all;
        for (const char* create : creates)
            all << table(dialect, QString::fromLatin1(create));
        return all;
    };
    const auto nevers = [dialect](std::initializer_list<Never> whats) {
        QStringList all;
        for (const Never& what : whats)
            all << never(dialect, what);
        return all;
    };
    std::vector<Migration> all;
    all.push_back(
        {tables({"CREATE TABLE job (id INTEGER PRIMARY KEY, uuid TEXT NOT NULL UNIQUE, title TEXT NOT NULL, opened "
                 "TEXT NOT NULL)",
                 "CREATE TABLE entry (job INTEGER NOT NULL REFERENCES job(id), sequence INTEGER NOT NULL, time TEXT "
                 "NOT NULL, person TEXT NOT NULL, kind TEXT NOT NULL, version INTEGER NOT NULL, payload TEXT NOT NULL, "
                 "PRIMARY KEY (job, sequence))"}) +
         nevers({entry_stays, {"entry_is_kept", "DELETE", "entry", "an entry is never deleted"}})});
    all.push_back({tables({"CREATE TABLE standing (job INTEGER PRIMARY KEY REFERENCES job(id), entries INTEGER NOT "
                           "NULL, reader TEXT NOT NULL, standing TEXT NOT NULL)"})});
    all.push_back({tables({"CREATE TABLE instrument (name TEXT PRIMARY KEY, payload TEXT NOT NULL)",
                           "CREATE TABLE stream (job INTEGER NOT NULL REFERENCES job(id), number INTEGER NOT NULL, "
                           "line TEXT NOT NULL, PRIMARY KEY (job, number))"})});
    // What is kept is sealed: entries by a chain of digests, the rest row by row.
    all.push_back({tables({"CREATE TABLE book (id TEXT NOT NULL)",
                           "CREATE TABLE set_aside (job INTEGER PRIMARY KEY REFERENCES job(id))"}) +
                       QStringList{allowed_again(dialect, entry_stays)} +
                       tables({"ALTER TABLE entry ADD COLUMN digest TEXT NOT NULL DEFAULT ''",
                               "ALTER TABLE instrument ADD COLUMN digest TEXT NOT NULL DEFAULT ''",
                               "ALTER TABLE stream ADD COLUMN digest TEXT NOT NULL DEFAULT ''", "DROP TABLE standing",
                               "CREATE TABLE standing (job INTEGER PRIMARY KEY REFERENCES job(id), entries INTEGER NOT "
                               "NULL, reader TEXT NOT NULL, standing TEXT NOT NULL, digest TEXT NOT NULL)"}) +
                       signed_as_ours(dialect),
                   seal_all, never(dialect, entry_stays)});
    // Engines: a revision never changes and is never deleted.
    all.push_back(
        {tables({"CREATE TABLE engine (name TEXT NOT NULL, revision INTEGER NOT NULL, time TEXT NOT NULL, person TEXT "
                 "NOT NULL, payload TEXT NOT NULL, digest TEXT NOT NULL, PRIMARY KEY (name, revision))",
                 "CREATE TABLE engine_retired (name TEXT PRIMARY KEY)",
                 "CREATE TABLE log_mapping (name TEXT PRIMARY KEY, payload TEXT NOT NULL, digest TEXT NOT NULL)"}) +
         nevers({{"engine_stays", "UPDATE", "engine", "a revision never changes"},
                 {"engine_is_kept", "DELETE", "engine", "a revision is never deleted"}})});
    // Limits of the shop: each setting stays readable.
    all.push_back(
        {tables({"CREATE TABLE shop_limits (number INTEGER PRIMARY KEY, time TEXT NOT NULL, person TEXT NOT NULL, "
                 "payload TEXT NOT NULL, digest TEXT NOT NULL)"}) +
         nevers({{"shop_limits_stay", "UPDATE", "shop_limits", "limits that were set never change"},
                 {"shop_limits_are_kept", "DELETE", "shop_limits", "limits that were set are never deleted"}})});
    // People of the shop, and pictures; what runs by the clock is looked for over all jobs.
    all.push_back({tables({"CREATE TABLE person (name TEXT PRIMARY KEY, role TEXT NOT NULL, code TEXT NOT NULL)",
                           "CREATE TABLE picture (sha256 TEXT PRIMARY KEY, bytes BLOB NOT NULL)",
                           "CREATE TABLE usual_route (engine TEXT PRIMARY KEY, payload TEXT NOT NULL)",
                           "CREATE TABLE usual_minutes (work TEXT PRIMARY KEY, minutes REAL NOT NULL)",
                           "CREATE INDEX entry_clock ON entry (job, sequence) WHERE kind IN ('clock', 'rest')"}) +
                   nevers({{"picture_stays", "UPDATE", "picture", "a picture never changes"}})});
    // What happens to instruments, across jobs: only ever added to.
    all.push_back(
        {tables({"CREATE TABLE instrument_event (number INTEGER PRIMARY KEY, instrument TEXT NOT NULL, time TEXT NOT "
                 "NULL, person TEXT NOT NULL, payload TEXT NOT NULL, digest TEXT NOT NULL)",
                 "CREATE INDEX entry_instrument ON entry (job) WHERE kind IN ('ring_check', 'repeatability_test', "
                 "'gauge_study')"}) +
         nevers(
             {{"instrument_event_stays", "UPDATE", "instrument_event", "what happened to an instrument never changes"},
              {"instrument_event_is_kept", "DELETE", "instrument_event",
               "what happened to an instrument is never deleted"}})});
    // What the shop's papers are like, and the serials that were given.
    all.push_back({tables({"CREATE TABLE usual_papers (id INTEGER PRIMARY KEY CHECK (id = 1), payload TEXT NOT NULL)",
                           "CREATE INDEX entry_serial ON entry (job) WHERE kind = 'serial'"})});
    return all;
}

constexpr int newest_schema = 9;

BookResult<void> step_forward(QSqlDatabase& db, const Migration& migration, int to) {
    return in_one_transaction(db, doing, [&] {
        return run_all(db, doing, migration.statements)
            .and_then([&] { return migration.then(db); })
            .and_then([&] { return run_all(db, doing, migration.at_last); })
            .and_then([&] { return run(db, doing, set_schema_version(dialect_of(db), to)); });
    });
}

} // namespace

int older_schema(QSqlDatabase& db) {
    const auto version = schema_version(db);
    return version && *version < newest_schema ? *version : 0;
}

BookResult<void> bring_forward(QSqlDatabase& db, const QString& book) {
    const auto version = schema_version(db);
    if (!version)
        return tl::unexpected(version.error());
    if (*version > newest_schema)
        return refused(QStringLiteral("The shop book %1 was written by a newer Pallix (schema %2, this one knows %3).")
                           .arg(book)
                           .arg(*version)
                           .arg(newest_schema),
                       QStringLiteral("Open it with the newer version; this one leaves it untouched."));
    if (*version == newest_schema)
        return {};
    BookResult<void> done;
    if (*version == 0)
        done = run_all(db, doing, below_schema(dialect_of(db)));
    const std::vector<Migration> all = migrations(dialect_of(db));
    for (int step = *version; done && step < newest_schema; ++step)
        done = step_forward(db, all.at(static_cast<std::size_t>(step)), step + 1);
    return done;
}

BookResult<void> look_at_tables(QSqlDatabase& db, const QString& doing) {
    for (const BookTable& one : book_tables) {
        QSqlQuery query(db);
        if (!query.exec(
                QStringLiteral("SELECT %1 FROM %2 LIMIT 0").arg(QLatin1String(one.columns), QLatin1String(one.name))))
            return failed(doing, query);
    }
    return {};
}

} // namespace pallix::storage
