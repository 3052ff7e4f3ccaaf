// SPDX-License-Identifier: GPL-3.0-or-later
#include "storage/book_schema.h"

#include "block/digest.h"
#include "storage/sql.h"

#include <QStringList>
#include <QUuid>
#include <QVariant>
#include <array>

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

struct Migration {
    QStringList statements;
    BookResult<void> (*then)(QSqlDatabase&) = nothing_more;
    QStringList at_last{};
};

const QString entry_stays = QStringLiteral(
    "CREATE TRIGGER entry_stays BEFORE UPDATE ON entry BEGIN SELECT RAISE(ABORT, 'an entry never changes'); END");

/// Each step brings the schema from its index to the next; the book's user_version says how far it is.
/// Plain SQL, so that another database can carry it one day.
const std::array<Migration, 9>& migrations() {
    static const std::array<Migration, 9> all{{
        {{QStringLiteral("CREATE TABLE job (id INTEGER PRIMARY KEY, uuid TEXT NOT NULL UNIQUE, title TEXT NOT NULL, "
                         "opened TEXT NOT NULL)"),
          QStringLiteral("CREATE TABLE entry (job INTEGER NOT NULL REFERENCES job(id), sequence INTEGER NOT NULL, time "
                         "TEXT NOT NULL, person TEXT NOT NULL, kind TEXT NOT NULL, version INTEGER NOT NULL, payload "
                         "TEXT NOT NULL, PRIMARY KEY (job, sequence))"),
          entry_stays,
          QStringLiteral("CREATE TRIGGER entry_is_kept BEFORE DELETE ON entry BEGIN SELECT RAISE(ABORT, 'an entry is "
                         "never deleted'); END")}},
        {{QStringLiteral("CREATE TABLE standing (job INTEGER PRIMARY KEY REFERENCES job(id), entries INTEGER NOT NULL, "
                         "reader TEXT NOT NULL, standing TEXT NOT NULL)")}},
        {{QStringLiteral("CREATE TABLE instrument (name TEXT PRIMARY KEY, payload TEXT NOT NULL)"),
          QStringLiteral("CREATE TABLE stream (job INTEGER NOT NULL REFERENCES job(id), number INTEGER NOT NULL, line "
                         "TEXT NOT NULL, PRIMARY KEY (job, number))")}},
        // What is kept is sealed: entries by a chain of digests, the rest row by row.
        {{QStringLiteral("CREATE TABLE book (id TEXT NOT NULL)"),
          QStringLiteral("CREATE TABLE set_aside (job INTEGER PRIMARY KEY REFERENCES job(id))"),
          QStringLiteral("DROP TRIGGER entry_stays"),
          QStringLiteral("ALTER TABLE entry ADD COLUMN digest TEXT NOT NULL DEFAULT ''"),
          QStringLiteral("ALTER TABLE instrument ADD COLUMN digest TEXT NOT NULL DEFAULT ''"),
          QStringLiteral("ALTER TABLE stream ADD COLUMN digest TEXT NOT NULL DEFAULT ''"),
          QStringLiteral("DROP TABLE standing"),
          QStringLiteral("CREATE TABLE standing (job INTEGER PRIMARY KEY REFERENCES job(id), entries INTEGER NOT NULL, "
                         "reader TEXT NOT NULL, standing TEXT NOT NULL, digest TEXT NOT NULL)"),
          QStringLiteral("PRAGMA application_id = %1").arg(application_id)},
         seal_all,
         {entry_stays}},
        // Engines: a revision never changes and is never deleted.
        {{QStringLiteral("CREATE TABLE engine (name TEXT NOT NULL, revision INTEGER NOT NULL, time TEXT NOT NULL, "
                         "person TEXT NOT NULL, payload TEXT NOT NULL, digest TEXT NOT NULL, PRIMARY KEY (name, "
                         "revision))"),
          QStringLiteral("CREATE TABLE engine_retired (name TEXT PRIMARY KEY)"),
          QStringLiteral("CREATE TRIGGER engine_stays BEFORE UPDATE ON engine BEGIN SELECT RAISE(ABORT, 'a revision "
                         "never changes'); END"),
          QStringLiteral("CREATE TRIGGER engine_is_kept BEFORE DELETE ON engine BEGIN SELECT RAISE(ABORT, 'a revision "
                         "is never deleted'); END"),
          QStringLiteral("CREATE TABLE log_mapping (name TEXT PRIMARY KEY, payload TEXT NOT NULL, digest TEXT NOT "
                         "NULL)")}},
        // Limits of the shop: each setting stays readable.
        {{QStringLiteral("CREATE TABLE shop_limits (number INTEGER PRIMARY KEY, time TEXT NOT NULL, person TEXT NOT "
                         "NULL, payload TEXT NOT NULL, digest TEXT NOT NULL)"),
          QStringLiteral("CREATE TRIGGER shop_limits_stay BEFORE UPDATE ON shop_limits BEGIN SELECT RAISE(ABORT, "
                         "'limits that were set never change'); END"),
          QStringLiteral("CREATE TRIGGER shop_limits_are_kept BEFORE DELETE ON shop_limits BEGIN SELECT RAISE(ABORT, "
                         "'limits that were set are never deleted'); END")}},
        // People of the shop, and pictures.
        {{QStringLiteral("CREATE TABLE person (name TEXT PRIMARY KEY, role TEXT NOT NULL, code TEXT NOT NULL)"),
          QStringLiteral("CREATE TABLE picture (sha256 TEXT PRIMARY KEY, bytes BLOB NOT NULL)"),
          QStringLiteral("CREATE TRIGGER picture_stays BEFORE UPDATE ON picture BEGIN SELECT RAISE(ABORT, 'a picture "
                         "never changes'); END"),
          QStringLiteral("CREATE TABLE usual_route (engine TEXT PRIMARY KEY, payload TEXT NOT NULL)"),
          QStringLiteral("CREATE TABLE usual_minutes (work TEXT PRIMARY KEY, minutes REAL NOT NULL)"),
          // What runs by the clock is looked for over all jobs.
          QStringLiteral("CREATE INDEX entry_clock ON entry (job, sequence) WHERE kind IN ('clock', 'rest')")}},
        // What happens to instruments, across jobs: only ever added to.
        {{QStringLiteral(
              "CREATE TABLE instrument_event (number INTEGER PRIMARY KEY, instrument TEXT NOT NULL, time TEXT "
              "NOT NULL, person TEXT NOT NULL, payload TEXT NOT NULL, digest TEXT NOT NULL)"),
          QStringLiteral("CREATE TRIGGER instrument_event_stays BEFORE UPDATE ON instrument_event BEGIN SELECT "
                         "RAISE(ABORT, 'what happened to an instrument never changes'); END"),
          QStringLiteral("CREATE TRIGGER instrument_event_is_kept BEFORE DELETE ON instrument_event BEGIN SELECT "
                         "RAISE(ABORT, 'what happened to an instrument is never deleted'); END"),
          QStringLiteral("CREATE INDEX entry_instrument ON entry (job) WHERE kind IN ('ring_check', "
                         "'repeatability_test', 'gauge_study')")}},
        // What the shop's papers are like, and the serials that were given.
        {{QStringLiteral("CREATE TABLE usual_papers (id INTEGER PRIMARY KEY CHECK (id = 1), payload TEXT NOT NULL)"),
          QStringLiteral("CREATE INDEX entry_serial ON entry (job) WHERE kind = 'serial'")}},
    }};
    return all;
}

} // namespace

int older_schema(QSqlDatabase& db) {
    QSqlQuery query(db);
    const bool told = query.exec(QStringLiteral("PRAGMA user_version")) && query.next();
    const int version = told ? query.value(0).toInt() : 0;
    return version < static_cast<int>(migrations().size()) ? version : 0;
}

BookResult<void> bring_forward(QSqlDatabase& db, const QString& file) {
    QSqlQuery query(db);
    if (!query.exec(QStringLiteral("PRAGMA user_version")) || !query.next())
        return failed(QStringLiteral("The shop book cannot be read"), query);
    const int version = query.value(0).toInt(), newest = static_cast<int>(migrations().size());
    query.finish();
    if (version > newest)
        return refused(QStringLiteral("The shop book %1 was written by a newer Pallix (schema %2, this one knows %3).")
                           .arg(file)
                           .arg(version)
                           .arg(newest),
                       QStringLiteral("Open it with the newer version; this one leaves it untouched."));
    for (int step = version; step < newest; ++step) {
        const Migration& migration = migrations()[static_cast<std::size_t>(step)];
        const auto all = [&db](const QStringList& statements) {
            BookResult<void> done;
            for (const QString& statement : statements)
                if (done = run(db, doing, statement); !done)
                    break;
            return done;
        };
        const auto done = in_one_transaction(db, doing, [&] {
            return all(migration.statements)
                .and_then([&] { return migration.then(db); })
                .and_then([&] { return all(migration.at_last); })
                .and_then([&] { return all({QStringLiteral("PRAGMA user_version = %1").arg(step + 1)}); });
        });
        if (!done)
            return done;
    }
    return {};
}

BookResult<void> look_at_tables(QSqlDatabase& db, const QString& doing) {
    for (const char* columns :
         {"id, uuid, title, opened FROM job", "job, sequence, time, person, kind, version, payload, digest FROM entry",
          "job, entries, reader, standing, digest FROM standing", "job FROM set_aside",
          "name, payload, digest FROM instrument", "job, number, line, digest FROM stream",
          "name, revision, time, person, payload, digest FROM engine", "name FROM engine_retired",
          "name, payload, digest FROM log_mapping", "number, time, person, payload, digest FROM shop_limits",
          "name, role, code FROM person", "sha256, bytes FROM picture", "engine, payload FROM usual_route",
          "work, minutes FROM usual_minutes", "id, payload FROM usual_papers",
          "number, instrument, time, person, payload, digest FROM instrument_event"}) {
        QSqlQuery query(db);
        if (!query.exec(QStringLiteral("SELECT %1 LIMIT 0").arg(QLatin1String(columns))))
            return failed(doing, query);
    }
    return {};
}

} // namespace pallix::storage
