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

[[nodiscard]] inline BookFault sql_fault(const QString& doing, const QSqlError& error) {
    return {QStringLiteral("%1: %2").arg(doing, error.text().trimmed()),
            QStringLiteral(
                "Nothing was taken in. See that the disk has room and the file may be written, then try again.")};
}

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
    return {};
}

/// All or nothing: rolled back where `work` or the commit fails, so that nothing later waits in the same transaction.
/// It writes from the start: who else writes meanwhile is waited for, not found out at the end.
template <class Work>
[[nodiscard]] BookResult<void> in_one_transaction(QSqlDatabase& db, const QString& doing, Work work) {
    if (auto begun = run(db, doing, QStringLiteral("BEGIN IMMEDIATE")); !begun)
        return begun;
    if (BookResult<void> done = work(); !done) {
        db.rollback();
        return done;
    }
    if (!db.commit()) {
        const BookFault fault = sql_fault(doing, db.lastError());
        db.rollback();
        return tl::unexpected(fault);
    }
    return {};
}

} // namespace pallix::storage
