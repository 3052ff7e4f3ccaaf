// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "storage/book_fault.h"

#include <string>

class QSqlDatabase;

namespace pallix::storage {

/// Stands in every shop book's header ("Pllx"), so that nothing else is taken for one.
inline constexpr qint64 application_id = 0x506c6c78;

/// @return the version of a book that is to be brought forward; 0 where it need not be
[[nodiscard]] int older_schema(QSqlDatabase& db);
/// Brings a new or older book forward to the schema of this version; each step whole or not at all.
[[nodiscard]] BookResult<void> bring_forward(QSqlDatabase& db, const QString& file);

/// What seals a line that waits for its log.
[[nodiscard]] std::string digest_of_line(qint64 number, const QString& line);

/// Every table has the columns that are read: a bit that is wrong in the description of one would show as an empty
/// shop.
[[nodiscard]] BookResult<void> look_at_tables(QSqlDatabase& db, const QString& doing);

} // namespace pallix::storage
