// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

// The few things that the two database engines of a shop book say differently. All other SQL is one text for both.

#include "storage/book_fault.h"

#include <QString>
#include <QStringList>

class QSqlDatabase;
class QSqlDriver;
class QSqlError;

namespace pallix::storage {

enum class Dialect { sqlite, postgres };

[[nodiscard]] Dialect dialect_of(const QSqlDatabase& db);

/// What a bench that is alone says of what it may not change.
inline constexpr const char* only_at_the_shop = "only at the shop";

/// What a person can do something about, in their words; of anything else the number that tells its maker more.
/// @return said of both: what is wrong, and what to do
[[nodiscard]] BookFault sql_fault(const QString& doing, const QSqlDriver& driver, const QSqlError& error);

/// A table as it is made by SQLite, in the types of the other.
[[nodiscard]] QString table(Dialect dialect, QString create);

/// Rows that nobody may change ("UPDATE") or delete ("DELETE"), whoever asks.
struct Never {
    const char *name, *event, *table, *words;
};
[[nodiscard]] QStringList never(Dialect dialect, const Never& what);
[[nodiscard]] QString allowed_again(Dialect dialect, const Never& what);

/// How far the schema has come; 0 for none.
[[nodiscard]] BookResult<int> schema_version(QSqlDatabase& db);
[[nodiscard]] QString set_schema_version(Dialect dialect, int version);
/// What the schema stands on: functions that SQLite has within itself, where the version is kept.
[[nodiscard]] QStringList below_schema(Dialect dialect);

/// What is committed from here on is on the disk, and nobody waits for ever.
[[nodiscard]] QStringList as_it_is_spoken_to(Dialect dialect);
/// The start of a transaction that writes.
[[nodiscard]] QString begin(Dialect dialect);
/// Whoever else would do the same in a transaction waits until this one has ended. SQLite has one writer anyway.
[[nodiscard]] BookResult<void> one_after_the_other(QSqlDatabase& db, const QString& doing, const QString& what);

} // namespace pallix::storage
