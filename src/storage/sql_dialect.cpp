// SPDX-License-Identifier: GPL-3.0-or-later
#include "storage/sql_dialect.h"

#include "storage/sql.h"

#include <QRegularExpression>
#include <QSqlDriver>
#include <QVariant>
#include <algorithm>
#include <array>
#include <string_view>

namespace pallix::storage {
namespace {

/// Primary result codes of SQLite (sqlite.org/rescode.html).
struct Reason {
    int code;
    const char *what, *way_out;
};
constexpr std::array reasons = std::to_array<Reason>({
    {13, "the disk is full",
     "Nothing of this was kept, what was kept before is whole. Make room, then do it once more."},
    {10, "the disk does not take it, or was pulled out",
     "Nothing of this was kept. Put the disk back, start again, and see what the last entry is before anything is "
     "cut."},
    {8, "the file may not be written",
     "Nothing of this was kept, what was kept before is whole. Give yourself the right to write the file, or open a "
     "copy."},
    {5, "another program holds the file", "Nothing of this was kept. Close the other program, then do it once more."},
    {6, "another program holds the file", "Nothing of this was kept. Close the other program, then do it once more."},
    {11, "the file is damaged",
     "Nothing of this was kept. Start again: the sound jobs can be copied out, or the last copy put in its place."},
    {26, "the file is no database", "Nothing was changed. Choose another file, or put the last copy in its place."},
    {14, "a file beside it cannot be made or read",
     "Nothing of this was kept. See that the folder is there and may be written, then do it once more."},
    {19, "it contradicts what is in the book already",
     "Nothing of this was kept. Close the window and open the job again."},
});

/// How SQLSTATEs begin (PostgreSQL 15, appendix A); the first that fits.
struct ServerReason {
    std::string_view begins;
    const char *what, *way_out;
};
constexpr const char* line_is_gone = "the shop's server does not answer";
constexpr const char* look_first = "Whether this was kept is not known. Once the server answers again, open the job "
                                   "and see what its last entry is before anything is cut.";
constexpr std::array server_reasons = std::to_array<ServerReason>({
    {"08", line_is_gone, look_first},
    {"57P", line_is_gone, look_first},
    {"57014", "the shop's server took too long",
     "Nothing of this was kept, what was kept before is whole. Do it once more."},
    {"28", "the shop's server does not let you in",
     "Name and password for it stand in the file .pgpass of your home folder, or are kept by the desktop; ask who "
     "keeps "
     "the server."},
    {"3D", "the shop's server has no such database", "See how it is spelled, or ask who keeps the server."},
    {"42501", "what you may do at the shop's server does not include that",
     "Nothing was changed. Ask the owner of the shop."},
    {"53100", "the disk of the shop's server is full",
     "Nothing of this was kept, what was kept before is whole. Make room there, then do it once more."},
    {"53", "the shop's server has no room for more", "Nothing of this was kept. Wait a moment, then do it once more."},
    {"25006", "the shop's server may only be read",
     "Nothing of this was kept. It is a copy, or is being looked after: ask who keeps the server."},
    {"23", "it contradicts what is in the book already",
     "Nothing of this was kept. Close the window and open the job again."},
    {"40", "another bench was at the same place", "Nothing of this was kept. Do it once more."},
    {"55", "another bench was at the same place", "Nothing of this was kept. Do it once more."},
    {"22", "there is a character in it that the shop's server cannot keep",
     "Nothing of this was kept. Type it without."},
    {"58", "the disk of the shop's server does not take it",
     "Nothing of this was kept. Ask who keeps the server to look after its disk."},
    {"XX", "the shop's server tells of damage",
     "Nothing of this was kept. Ask who keeps the server to put its last backup in place."},
});

BookFault server_fault(const QString& doing, const QString& state) {
    // Where the line broke there is no state.
    const std::string found = state.isEmpty() ? "08" : state.toStdString();
    for (const ServerReason& reason : server_reasons)
        if (std::string_view(found).starts_with(reason.begins))
            return {.what = QStringLiteral("%1: %2.").arg(doing, QLatin1String(reason.what)),
                    .way_out = QLatin1String(reason.way_out),
                    .no_answer = reason.what == line_is_gone};
    return {QStringLiteral("%1 (PostgreSQL %2).").arg(doing, state),
            QStringLiteral("Nothing of this was kept, what was kept before is whole. Try again; if it stays so, ask "
                           "who keeps the server.")};
}

const QString json_functions[] = {
    // What is no JSON, or holds what its text type cannot, is nothing.
    QStringLiteral("CREATE OR REPLACE FUNCTION json_extract(body text, path text) RETURNS text LANGUAGE plpgsql "
                   "IMMUTABLE PARALLEL SAFE AS $$ BEGIN RETURN body::json ->> substr(path, 3); EXCEPTION WHEN others "
                   "THEN RETURN NULL; END $$"),
    QStringLiteral("CREATE OR REPLACE FUNCTION json_valid(body text) RETURNS boolean LANGUAGE plpgsql IMMUTABLE "
                   "PARALLEL SAFE AS $$ BEGIN PERFORM body::json; RETURN true; EXCEPTION WHEN others THEN RETURN "
                   "false; END $$"),
};

} // namespace

Dialect dialect_of(const QSqlDatabase& db) {
    return db.driver()->dbmsType() == QSqlDriver::PostgreSQL ? Dialect::postgres : Dialect::sqlite;
}

BookFault sql_fault(const QString& doing, const QSqlDriver& driver, const QSqlError& error) {
    if (driver.dbmsType() == QSqlDriver::PostgreSQL)
        return server_fault(doing, error.nativeErrorCode());
    if (error.databaseText().contains(QLatin1String(only_at_the_shop)))
        return {
            QStringLiteral("%1: %2.").arg(doing, QLatin1String(line_is_gone)),
            QStringLiteral("What you enter into jobs is kept at this bench until it does; this is changed at the shop "
                           "only. Do it once more then.")};
    const int code = error.nativeErrorCode().toInt() & 0xFF; // extended codes keep the primary one in the last byte
    const auto* known = std::ranges::find(reasons, code, &Reason::code);
    if (known != reasons.end())
        return {QStringLiteral("%1: %2.").arg(doing, QLatin1String(known->what)), QLatin1String(known->way_out)};
    return {QStringLiteral("%1 (SQLite %2).").arg(doing, error.nativeErrorCode()),
            QStringLiteral("Nothing of this was kept, what was kept before is whole. Try again; if it stays so, start "
                           "again with a copy of the book.")};
}

QString table(Dialect dialect, QString create) {
    if (dialect == Dialect::sqlite)
        return create;
    static const QRegularExpression numbered(QStringLiteral("(\\w+) INTEGER PRIMARY KEY(?! REFERENCES)")),
        integer(QStringLiteral("\\bINTEGER\\b")), words(QStringLiteral("\\bTEXT\\b")),
        real(QStringLiteral("\\bREAL\\b")), bytes(QStringLiteral("\\bBLOB\\b"));
    return create.replace(numbered, QStringLiteral("\\1 BIGINT GENERATED BY DEFAULT AS IDENTITY PRIMARY KEY"))
        .replace(integer, QStringLiteral("BIGINT"))
        .replace(words, QStringLiteral("TEXT COLLATE \"C\"")) // sorted by bytes, as SQLite does
        .replace(real, QStringLiteral("DOUBLE PRECISION"))
        .replace(bytes, QStringLiteral("BYTEA"));
}

QStringList never(Dialect dialect, const Never& what) {
    const QString name = QLatin1String(what.name), event = QLatin1String(what.event), table = QLatin1String(what.table),
                  words = QLatin1String(what.words);
    if (dialect == Dialect::sqlite)
        return {QStringLiteral("CREATE TRIGGER %1 BEFORE %2 ON %3 BEGIN SELECT RAISE(ABORT, '%4'); END")
                    .arg(name, event, table, words)};
    QStringList all{QStringLiteral("CREATE TRIGGER %1 BEFORE %2 ON %3 FOR EACH ROW EXECUTE FUNCTION never('%4')")
                        .arg(name, event, table, words)};
    if (event == QLatin1String("DELETE"))
        all << QStringLiteral("CREATE TRIGGER %1_all BEFORE TRUNCATE ON %2 EXECUTE FUNCTION never('%3')")
                   .arg(name, table, words);
    return all;
}

QString allowed_again(Dialect dialect, const Never& what) {
    const QString drop = QStringLiteral("DROP TRIGGER ") + QLatin1String(what.name);
    return dialect == Dialect::sqlite ? drop : drop + QStringLiteral(" ON ") + QLatin1String(what.table);
}

BookResult<int> schema_version(QSqlDatabase& db) {
    const QString doing = QStringLiteral("The shop book cannot be read");
    QSqlQuery query(db);
    if (dialect_of(db) == Dialect::postgres) {
        if (!query.exec(QStringLiteral("SELECT to_regclass('schema_version') IS NOT NULL")) || !query.next())
            return failed(doing, query);
        if (!query.value(0).toBool())
            return 0;
    }
    if (!query.exec(dialect_of(db) == Dialect::sqlite ? QStringLiteral("PRAGMA user_version")
                                                      : QStringLiteral("SELECT version FROM schema_version")) ||
        !query.next())
        return failed(doing, query);
    return query.value(0).toInt();
}

QString set_schema_version(Dialect dialect, int version) {
    return (dialect == Dialect::sqlite ? QStringLiteral("PRAGMA user_version = %1")
                                       : QStringLiteral("UPDATE schema_version SET version = %1"))
        .arg(version);
}

QStringList below_schema(Dialect dialect) {
    if (dialect == Dialect::sqlite)
        return {};
    return {json_functions[0], json_functions[1],
            QStringLiteral("CREATE OR REPLACE FUNCTION never() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN RAISE "
                           "EXCEPTION '%', TG_ARGV[0] USING ERRCODE = 'integrity_constraint_violation'; END $$"),
            QStringLiteral("CREATE TABLE IF NOT EXISTS schema_version (version BIGINT NOT NULL)"),
            QStringLiteral("INSERT INTO schema_version SELECT 0 WHERE NOT EXISTS (SELECT FROM schema_version)")};
}

QStringList as_it_is_spoken_to(Dialect dialect) {
    if (dialect == Dialect::sqlite)
        return {QStringLiteral("PRAGMA journal_mode = WAL"), QStringLiteral("PRAGMA synchronous = FULL"),
                QStringLiteral("PRAGMA foreign_keys = ON")};
    return {QStringLiteral("SET synchronous_commit = on"), QStringLiteral("SET search_path = public"),
            QStringLiteral("SET lock_timeout = '10s'"), QStringLiteral("SET statement_timeout = '120s'"),
            QStringLiteral("SET client_min_messages = error")};
}

QString begin(Dialect dialect) {
    return dialect == Dialect::sqlite ? QStringLiteral("BEGIN IMMEDIATE") : QStringLiteral("BEGIN");
}

BookResult<void> one_after_the_other(QSqlDatabase& db, const QString& doing, const QString& what) {
    if (dialect_of(db) == Dialect::sqlite)
        return {};
    QSqlQuery query(db);
    query.prepare(QStringLiteral("SELECT pg_advisory_xact_lock(hashtextextended(?, 0))"));
    query.addBindValue(what);
    if (!query.exec())
        return failed(doing, query);
    return {};
}

} // namespace pallix::storage
