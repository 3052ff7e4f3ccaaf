// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

// A copy that follows a book: under the same numbers, entry by entry, whatever is added there.

#include "storage/book_jobs.h"

#include <functional>

class QSqlDatabase;

namespace pallix::storage {

/// What was added to a job, or all of a job that the copy has not.
/// @return how many entries came; refused where the copy went on differently
[[nodiscard]] BookResult<qint64> follow_job(QSqlDatabase& from, QSqlDatabase& copy, JobId job);
[[nodiscard]] BookResult<void> follow_picture(QSqlDatabase& from, QSqlDatabase& copy, const QString& sha256);
/// Another table, of that name; one that is not followed, or none, is left alone.
[[nodiscard]] BookResult<void> follow_table(QSqlDatabase& from, QSqlDatabase& copy, const QString& name);
/// Everything.
/// @param is_left a job that is not followed now, asked within a transaction of the copy
[[nodiscard]] BookResult<void> follow_all(QSqlDatabase& from, QSqlDatabase& copy,
                                          const std::function<bool(JobId job)>& is_left);

} // namespace pallix::storage
