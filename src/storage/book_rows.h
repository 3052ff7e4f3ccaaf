// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

// Rows of one book that go into another, whatever engine keeps it.

#include "storage/book_jobs.h"
#include "storage/book_schema.h"

#include <QVariant>
#include <functional>
#include <map>

class QSqlDatabase;

namespace pallix::storage {

inline const QString copy_doing = QStringLiteral("The book cannot be copied");

/// A job as it stands in a book.
struct Place {
    JobId id = 0;
    QString uuid, title, opened;
};

/// @param job one of them; 0: all
[[nodiscard]] BookResult<std::vector<Place>> places(QSqlDatabase& db, JobId job = 0);

/// The last entry of each job.
[[nodiscard]] BookResult<std::map<JobId, Head>> last_entries(QSqlDatabase& db);

/// @return empty where the job has no entry of that number
[[nodiscard]] BookResult<std::string> digest_of_entry(QSqlDatabase& db, JobId job, std::int64_t sequence);

/// Goes through the entries of a job that follow one, each held against the chain.
/// @param each takes the entry's columns
/// @return the last entry there is
[[nodiscard]] BookResult<Head> through_chain(QSqlDatabase& db, const Place& job, Head after,
                                             const std::function<BookResult<void>(const QVariantList& row)>& each);
/// The last entry of a job that an earlier copy has there, held against the same one here.
[[nodiscard]] BookResult<Head> already_there(QSqlDatabase& from, QSqlDatabase& to, const Place& here,
                                             const Place& there);
/// The entries of a job that follow what is there.
/// @param id the job's, there
/// @return how many were written
[[nodiscard]] BookResult<qint64> copy_entries(QSqlDatabase& from, QSqlDatabase& to, const Place& here, JobId id,
                                              const Head& there);

/// Whether it belongs to what the shop keeps, beside jobs and entries.
[[nodiscard]] bool is_copied(const BookTable& table);
/// Its rows have numbers, which each book counts by itself.
[[nodiscard]] bool is_numbered(const BookTable& table);
/// The rows of one of the other tables, in order.
[[nodiscard]] BookResult<void> for_each_row(QSqlDatabase& db, const BookTable& table,
                                            const std::function<BookResult<void>(const QVariantList& row)>& each);
[[nodiscard]] BookResult<qint64> count_of(QSqlDatabase& db, const BookTable& table);
/// @param ids what each job's number of here is there
[[nodiscard]] BookResult<void> copy_table(QSqlDatabase& from, QSqlDatabase& to, const BookTable& table,
                                          const std::map<JobId, JobId>& ids);

/// An instrument of the register, changed or added. One after the other: a server lets a learner change what comes of
/// measuring, and add nothing.
/// @param payload `block::instrument_json`
[[nodiscard]] BookResult<void> write_instrument(QSqlDatabase& db, const QString& name, const std::string& payload);

} // namespace pallix::storage
