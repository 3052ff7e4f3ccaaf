// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

// What the parts of the shop book share when they speak SQL.

#include "storage/book_fault.h"

#include <QSqlDatabase>
#include <QSqlError>
#include <QSqlQuery>
#include <string>
#include <string_view>

namespace pallix::storage {

/// SQLite takes a null QString for NULL.
[[nodiscard]] inline QString text(std::string_view s) {
    return s.empty() ? QStringLiteral("") : QString::fromUtf8(s.data(), static_cast<qsizetype>(s.size()));
}

/// What a person can do something about, in their words; of anything else the number that tells its maker more.
/// @return said of both: what is wrong, and what to do
[[nodiscard]] BookFault sql_fault(const QString& doing, const QSqlError& error);
/// Remembers which file a connection has open, as `still_there` asks for it.
void remember_file(const QSqlDatabase& db);
/// A file that was taken away or replaced while it was open would go on being written, and nobody would find it again.
[[nodiscard]] BookResult<void> still_there(const QSqlDatabase& db, const QString& doing);

[[nodiscard]] inline tl::unexpected<BookFault> failed(const QString& doing, const QSqlQuery& query) {
    return tl::unexpected(sql_fault(doing, query.lastError()));
}

[[nodiscard]] inline BookResult<void> run(QSqlDatabase& db, const QString& doing, const QString& statement) {
    QSqlQuery query(db);
    if (!query.exec(statement))
        return failed(doing, query);
    return {};
}

/// What is committed is on the disk.
[[nodiscard]] inline BookResult<void> durable(QSqlDatabase& db, const QString& doing) {
    for (const char* pragma : {"PRAGMA journal_mode = WAL", "PRAGMA synchronous = FULL", "PRAGMA foreign_keys = ON"})
        if (auto done = run(db, doing, QString::fromLatin1(pragma)); !done)
            return done;
    remember_file(db);
    return {};
}

/// All or nothing: rolled back where `work` or the commit fails, so that nothing later waits in the same transaction.
/// It writes from the start: who else writes meanwhile is waited for, not found out at the end.
template <class Work>
[[nodiscard]] BookResult<void> in_one_transaction(QSqlDatabase& db, const QString& doing, Work work) {
    if (auto there = still_there(db, doing); !there)
        return there;
    if (auto begun = run(db, doing, QStringLiteral("BEGIN IMMEDIATE")); !begun)
        return begun;
    if (BookResult<void> done = work(); !done) {
        db.rollback();
        return done;
    }
    auto committed =
        run(db, doing, QStringLiteral("COMMIT")); // the driver's own way says of a fault only that there is one
    if (!committed)
        db.rollback();
    return committed;
}

} // namespace pallix::storage
