// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "storage/book_jobs.h"

#include <map>

class QSqlDatabase;

namespace pallix::storage {

/// @param thorough indexes as well: a journal was left beside the book
[[nodiscard]] BookResult<void> check_integrity(QSqlDatabase& db, const QString& file, bool thorough);

/// Copies a whole book while it is open. The copy is written under another name and read again as a stranger would;
/// only then it gets its own. It becomes a book of its own, so that nothing that is left beside the first is taken for
/// its own.
/// @param heads how far each job had come: the copy holds as much of each, as it was written
[[nodiscard]] BookResult<void> copy_book(QSqlDatabase& from, const std::map<QString, Head>& heads, const QString& to);
/// The same of a book whose schema is another version's: that the copy is a sound database is all that can be told.
[[nodiscard]] BookResult<void> copy_older_book(QSqlDatabase& from, const QString& to);

} // namespace pallix::storage
