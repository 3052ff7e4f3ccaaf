// SPDX-License-Identifier: GPL-3.0-or-later
#include "storage/book_beside.h"

#include "storage/bench_copy.h"
#include "storage/book_copy.h"
#include "storage/book_move.h"
#include "storage/book_server.h"
#include "storage/sql.h"

#include <QUuid>

namespace pallix::storage {

template <class Work>
auto BookBeside::connected(const char* doing, Work work) const {
    const QString name = QStringLiteral("beside-") + QUuid::createUuid().toString(QUuid::Id128);
    using Done = decltype(work(std::declval<QSqlDatabase&>()));
    Done done = [&]() -> Done {
        QSqlDatabase db = connection_to(file_, name);
        constexpr int patience = 60000; // ms: nobody sits before it
        if (auto opened = open_durably(db, file_, QString::fromLatin1(doing), patience); !opened)
            return tl::unexpected(opened.error());
        if (auto standing = alone_ ? stand_alone(db) : BookResult<void>(); !standing)
            return tl::unexpected(standing.error());
        return work(db);
    }();
    QSqlDatabase::removeDatabase(name);
    return done;
}

BookResult<std::vector<block::Entry>> BookBeside::entries(JobId job) const {
    return connected("The job cannot be read", [&](QSqlDatabase& db) { return whole_entries(db, heads_, job); });
}

BookResult<Written> BookBeside::append(JobId job, const std::vector<block::Entry>& entries) const {
    return connected("The entry cannot be written", [&](QSqlDatabase& db) { return append_entries(db, job, entries); });
}

BookResult<void> BookBeside::back_up(const QString& to_file) const {
    return connected("The backup cannot be written", [&](QSqlDatabase& db) {
        return is_at_server(file_) ? copy_to_file(db, to_file) : copy_book(db, heads_, to_file);
    });
}

} // namespace pallix::storage
