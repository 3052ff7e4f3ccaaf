// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

// A shop book that a PostgreSQL server keeps, for a shop of several benches.

#include "storage/book_fault.h"

#include <QString>
#include <functional>

class QSqlDatabase;

namespace pallix::storage {

/// "postgresql://[user@]host[:port]/database[?sslmode=…]", as libpq writes it; anything else is a file.
[[nodiscard]] bool is_at_server(const QString& book);

/// Opens a connection that was added for a book, wherever that is kept.
/// @param wait ms, for others who write to the same file
/// @return refused where the address is none, or nobody answers there
[[nodiscard]] BookResult<void> open_connection(QSqlDatabase& db, const QString& book, const QString& doing,
                                               int wait = 5000);
/// The same, and what is committed from here on is on the disk.
[[nodiscard]] BookResult<void> open_durably(QSqlDatabase& db, const QString& book, const QString& doing,
                                            int wait = 5000);
/// Adds the connection first.
/// @param connection its name
[[nodiscard]] QSqlDatabase connection_to(const QString& book, const QString& connection);

/// The database holds nothing, or a shop book.
[[nodiscard]] BookResult<void> look_at_database(QSqlDatabase& db, const QString& book);

/// Whoever else would set the book up waits until the work is done; where it fails, until the connection is closed.
[[nodiscard]] BookResult<void> while_nobody_else(QSqlDatabase& db, const QString& doing,
                                                 const std::function<BookResult<void>()>& work);

/// Group roles of the server: what a person of the shop may do is held there too. Who keeps the server grants one of
/// them to whoever logs in: GRANT pallix_machinist TO ole.
inline constexpr const char *learner_role = "pallix_learner", *machinist_role = "pallix_machinist",
                            *owner_role = "pallix_owner";
/// Gives the roles their rights on what is there now, and makes them where they are not; from here on it tells what is
/// written (`BookNews`).
[[nodiscard]] BookResult<void> set_up_server(QSqlDatabase& db);

} // namespace pallix::storage
