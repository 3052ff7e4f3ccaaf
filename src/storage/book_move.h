// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

// A whole book copied from one database engine to another, and what proves that it is the same.

#include "storage/shop_book.h"

class QSqlDatabase;

namespace pallix::storage {

/// Copies all that the shop keeps; where an earlier copy stopped, it goes on.
/// @param to empty, or an earlier copy of `from`
/// @return refused where an entry is not what was written, here or there, or the other book has jobs of its own
[[nodiscard]] BookResult<ShopBook::Copied> copy_all(QSqlDatabase& from, QSqlDatabase& to);

/// SHA-256 of all that the shop keeps, jobs by their ids, entries by their chains; the same in every engine.
[[nodiscard]] BookResult<std::string> digest_of_all(QSqlDatabase& db);

/// A server's book as a file; whole, or not there.
[[nodiscard]] BookResult<void> copy_to_file(QSqlDatabase& from, const QString& to);

} // namespace pallix::storage
