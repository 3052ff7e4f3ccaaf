// SPDX-License-Identifier: GPL-3.0-or-later
#include "storage/book_follow.h"

#include "storage/book_rows.h"
#include "storage/sql.h"

#include <algorithm>
#include <array>
#include <string_view>

namespace pallix::storage {
namespace {

/// How far each job has come.
BookResult<QStringList> pictures_of(QSqlDatabase& db) {
    QSqlQuery query(db);
    query.setForwardOnly(true);
    if (!query.exec(QStringLiteral("SELECT sha256 FROM picture")))
        return failed(copy_doing, query);
    QStringList all;
    while (query.next())
        all << query.value(0).toString();
    return all;
}

/// They are large and never change: each crosses the line once.
BookResult<void> follow_pictures(QSqlDatabase& from, QSqlDatabase& copy) {
    const auto there = pictures_of(from), here = pictures_of(copy);
    if (!there || !here)
        return tl::unexpected((there ? here : there).error());
    for (const QString& sha256 : *there)
        if (!here->contains(sha256))
            if (auto done = follow_picture(from, copy, sha256); !done)
                return done;
    return {};
}

} // namespace

BookResult<void> follow_picture(QSqlDatabase& from, QSqlDatabase& copy, const QString& sha256) {
    QSqlQuery read(from), write(copy);
    read.prepare(QStringLiteral("SELECT bytes FROM picture WHERE sha256 = ?"));
    read.addBindValue(sha256);
    if (!read.exec())
        return failed(copy_doing, read);
    if (!read.next())
        return {};
    write.prepare(QStringLiteral("INSERT INTO picture (sha256, bytes) VALUES (?, ?) ON CONFLICT DO NOTHING"));
    write.addBindValue(sha256);
    write.addBindValue(read.value(0));
    if (!write.exec())
        return failed(copy_doing, write);
    return {};
}

BookResult<qint64> follow_job(QSqlDatabase& from, QSqlDatabase& copy, JobId job) {
    const auto found = places(from, job);
    if (!found)
        return tl::unexpected(found.error());
    if (found->empty())
        return 0;
    const Place& place = found->front();
    QSqlQuery query(copy);
    query.prepare(
        QStringLiteral("INSERT INTO job (id, uuid, title, opened) VALUES (?, ?, ?, ?) ON CONFLICT DO NOTHING"));
    query.addBindValue(place.id);
    for (const QString& word : {place.uuid, place.title, place.opened})
        query.addBindValue(word);
    if (!query.exec())
        return failed(copy_doing, query);
    const auto last = already_there(from, copy, place, place);
    if (!last)
        return tl::unexpected(last.error());
    return copy_entries(from, copy, place, place.id, *last);
}

BookResult<void> follow_table(QSqlDatabase& from, QSqlDatabase& copy, const QString& name) {
    constexpr std::array not_followed{"stream"}; // touches wait at the bench they came to
    const auto* const table =
        std::ranges::find_if(book_tables, [&name](const BookTable& one) { return name == QLatin1String(one.name); });
    if (table == book_tables.end() || !is_copied(*table) ||
        std::ranges::find(not_followed, std::string_view(table->name)) != not_followed.end())
        return {};
    if (name == QLatin1String("picture"))
        return follow_pictures(from, copy);
    std::map<JobId, JobId> same;
    if (table->kind == BookTable::Kind::of_job) {
        const auto jobs = places(copy);
        if (!jobs)
            return tl::unexpected(jobs.error());
        for (const Place& job : *jobs)
            same[job.id] = job.id;
    }
    return in_one_transaction(copy, copy_doing, [&] { return copy_table(from, copy, *table, same); });
}

BookResult<void> follow_all(QSqlDatabase& from, QSqlDatabase& copy, const std::function<bool(JobId job)>& is_left) {
    const auto there = last_entries(from), here = last_entries(copy);
    if (!there || !here)
        return tl::unexpected((there ? here : there).error());
    for (const auto& [job, last] : *there) {
        if (const auto known = here->find(job); known != here->end() && known->second.sequence == last.sequence)
            continue;
        const auto done = in_one_transaction(copy, copy_doing, [&, job = job]() -> BookResult<void> {
            return is_left(job) ? BookResult<void>() : follow_job(from, copy, job).map([](qint64) {});
        });
        if (!done)
            return done;
    }
    for (const BookTable& table : book_tables)
        if (auto done = follow_table(from, copy, QLatin1String(table.name)); !done)
            return done;
    return {};
}

} // namespace pallix::storage
