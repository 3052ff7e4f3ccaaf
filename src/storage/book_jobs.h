// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

// The jobs of a shop book as its tables hold them: what is read and written through any connection to it.

#include "block/ledger.h"
#include "storage/book_fault.h"
#include "storage/heads.h"

#include <QString>
#include <map>
#include <string>
#include <vector>

class QSqlDatabase;

namespace pallix::storage {

using JobId = qint64;

/// A job as it stands in the file.
struct ReadJob {
    QString uuid;
    std::vector<block::Entry> sound; ///< up to the first that is not what was written
    std::string digest;              ///< of the last of them
    QString damage;                  ///< what is wrong with the one after them; empty where nothing is
};

/// @param heads how far each job has come, by uuid: what was acknowledged must be there
/// @param after the entry it is read from on, which is known
[[nodiscard]] BookResult<ReadJob> read_job(QSqlDatabase& db, const std::map<QString, Head>& heads, JobId job,
                                           const Head& after = {});
/// @return refused where an entry is not what was written
[[nodiscard]] BookResult<std::vector<block::Entry>>
whole_entries(QSqlDatabase& db, const std::map<QString, Head>& heads, JobId job, const Head& after = {});

/// The last entry of a job; sequence 0 where it has none.
[[nodiscard]] BookResult<Head> last_entry(QSqlDatabase& db, JobId job, const QString& doing);

/// What stands in the book and waits to be acknowledged.
struct Written {
    QString uuid; ///< of the job
    Head head;
};
/// Adds entries to a job, all or none, in one transaction.
/// @param step that they answer, and that was open; empty for none: asked about where they wait for the shop
[[nodiscard]] BookResult<Written> append_entries(QSqlDatabase& db, JobId job, const std::vector<block::Entry>& entries,
                                                 const std::string& step = {});
/// The same within a transaction, after the entry `before`.
[[nodiscard]] BookResult<Head> insert_entries(QSqlDatabase& db, JobId job, Head before,
                                              const std::vector<block::Entry>& entries);

/// "entry 3", "entries 3 to 5"
[[nodiscard]] QString entries_words(qint64 first, qint64 last);

} // namespace pallix::storage
