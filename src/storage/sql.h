// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

// What the parts of the shop book share when they speak SQL.

#include "storage/book_fault.h"
#include "storage/sql_dialect.h"

#include <QSqlDatabase>
#include <QSqlDriver>
#include <QSqlError>
#include <QSqlQuery>
#include <string>
#include <string_view>

namespace pallix::storage {

/// SQLite takes a null QString for NULL.
[[nodiscard]] inline QString text(std::string_view s) {
    return s.empty() ? QStringLiteral("") : QString::fromUtf8(s.data(), static_cast<qsizetype>(s.size()));
}

/// Remembers which file a connection has open, as `still_there` asks for it.
void remember_file(const QSqlDatabase& db);
/// A file that was taken away or replaced while it was open would go on being written, and nobody would find it again.
[[nodiscard]] BookResult<void> still_there(const QSqlDatabase& db, const QString& doing);

[[nodiscard]] inline tl::unexpected<BookFault> failed(const QString& doing, const QSqlQuery& query) {
    return tl::unexpected(sql_fault(doing, *query.driver(), query.lastError()));
}

[[nodiscard]] inline BookResult<void> run(QSqlDatabase& db, const QString& doing, const QString& statement) {
    QSqlQuery query(db);
    if (!query.exec(statement))
        return failed(doing, query);
    return {};
}

[[nodiscard]] inline BookResult<void> run_all(QSqlDatabase& db, const QString& doing, const QStringList& statements) {
    BookResult<void> done;
    for (const QString& statement : statements)
        if (done = run(db, doing, statement); !done)
            break;
    return done;
}

/// @return how many rows it changed
[[nodiscard]] inline BookResult<int> run_with(QSqlDatabase& db, const QString& doing, const QString& statement,
                                              const QVariantList& values) {
    QSqlQuery query(db);
    query.prepare(statement);
    for (const QVariant& value : values)
        query.addBindValue(value);
    if (!query.exec())
        return failed(doing, query);
    return query.numRowsAffected();
}

/// What is committed is on the disk.
[[nodiscard]] inline BookResult<void> durable(QSqlDatabase& db, const QString& doing) {
    auto done = run_all(db, doing, as_it_is_spoken_to(dialect_of(db)));
    if (done && dialect_of(db) == Dialect::sqlite)
        remember_file(db);
    return done;
}

/// All or nothing: rolled back where `work` or the commit fails, so that nothing later waits in the same transaction.
/// It writes from the start: who else writes meanwhile is waited for, not found out at the end.
template <class Work>
[[nodiscard]] BookResult<void> in_one_transaction(QSqlDatabase& db, const QString& doing, Work work) {
    if (auto there = still_there(db, doing); !there)
        return there;
    if (auto begun = run(db, doing, begin(dialect_of(db))); !begun)
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
