// SPDX-License-Identifier: GPL-3.0-or-later
#include "storage/book_move.h"

#include "block/digest.h"
#include "storage/book_rows.h"
#include "storage/sql.h"

#include <QFile>
#include <QFileInfo>
#include <algorithm>
#include <cstdio>

namespace pallix::storage {
namespace {

/// A job with its entries, or those that follow what is there.
/// @return how many were written
BookResult<qint64> copy_job(QSqlDatabase& from, QSqlDatabase& to, const Place& here, std::map<QString, Place>& known) {
    Head there;
    if (const auto found = known.find(here.uuid); found != known.end()) {
        const auto last = already_there(from, to, here, found->second);
        if (!last)
            return tl::unexpected(last.error());
        there = *last;
    } else {
        QSqlQuery query(to);
        query.prepare(QStringLiteral("INSERT INTO job (uuid, title, opened) VALUES (?, ?, ?)"));
        for (const QString& word : {here.uuid, here.title, here.opened})
            query.addBindValue(word);
        if (!query.exec())
            return failed(copy_doing, query);
        Place made = here;
        made.id = query.lastInsertId().toLongLong();
        known[here.uuid] = made;
    }
    return copy_entries(from, to, here, known[here.uuid].id, there);
}

/// All jobs, a few at a time, so that what is there stays there where it is broken off.
BookResult<ShopBook::Copied> copy_jobs(QSqlDatabase& from, QSqlDatabase& to, const std::vector<Place>& here,
                                       std::map<QString, Place>& known) {
    ShopBook::Copied copied;
    constexpr std::size_t jobs_at_once = 50;
    for (std::size_t first = 0; first < here.size(); first += jobs_at_once) {
        const auto done = in_one_transaction(to, copy_doing, [&]() -> BookResult<void> {
            for (std::size_t i = first; i < std::min(here.size(), first + jobs_at_once); ++i) {
                const auto entries = copy_job(from, to, here[i], known);
                if (!entries)
                    return tl::unexpected(entries.error());
                copied.fresh += *entries;
            }
            return {};
        });
        if (!done)
            return tl::unexpected(done.error());
    }
    return copied;
}

/// What a value is in a digest: its length and itself.
std::string sealed(const QVariant& value) {
    const QByteArray bytes =
        value.typeId() == QMetaType::Double ? QByteArray::number(value.toDouble(), 'g', 17) : value.toByteArray();
    return std::to_string(bytes.size()) + ":" + bytes.toStdString();
}

BookResult<ShopBook::Copied> copy_what_stands(QSqlDatabase& from, QSqlDatabase& to) {
    const auto here = places(from);
    const auto there = places(to);
    if (!here || !there)
        return tl::unexpected((here ? there : here).error());
    std::map<QString, Place> known;
    for (const Place& job : *there) {
        if (std::ranges::find(*here, job.uuid, &Place::uuid) == here->end())
            return refused(
                QStringLiteral("The other book has jobs that this one has not, such as “%1”.").arg(job.title),
                QStringLiteral("Nothing was changed. Copy into an empty book, or take this one into the "
                               "other."));
        known[job.uuid] = job;
    }
    auto copied = copy_jobs(from, to, *here, known);
    if (!copied)
        return copied;
    std::map<JobId, JobId> ids;
    for (const Place& job : *here)
        ids[job.id] = known[job.uuid].id;
    const auto others = in_one_transaction(to, copy_doing, [&]() -> BookResult<void> {
        for (const BookTable& table : book_tables)
            if (is_copied(table))
                if (auto done = copy_table(from, to, table, ids); !done)
                    return done;
        return {};
    });
    if (!others)
        return tl::unexpected(others.error());
    const auto ours = digest_of_all(from), theirs = digest_of_all(to);
    if (!ours || !theirs)
        return tl::unexpected((ours ? theirs : ours).error());
    if (*ours != *theirs)
        return refused(
            QStringLiteral("The copy is not what the book holds."),
            QStringLiteral("The other book holds something that this one does not: copy into an empty one."));
    copied->digest = *ours;
    copied->jobs = static_cast<qint64>(here->size());
    const auto entries = count_of(to, *std::ranges::find(book_tables, std::string_view("entry"), &BookTable::name));
    if (!entries)
        return tl::unexpected(entries.error());
    copied->entries = *entries;
    return copied;
}

} // namespace

BookResult<ShopBook::Copied> copy_all(QSqlDatabase& from, QSqlDatabase& to) {
    // What others write meanwhile is not part of it.
    const QString snapshot = dialect_of(from) == Dialect::postgres
                                 ? QStringLiteral("BEGIN ISOLATION LEVEL REPEATABLE READ READ ONLY")
                                 : QStringLiteral("BEGIN");
    if (auto begun = run(from, copy_doing, snapshot); !begun)
        return tl::unexpected(begun.error());
    auto copied = copy_what_stands(from, to);
    from.rollback();
    return copied;
}

BookResult<std::string> digest_of_all(QSqlDatabase& db) {
    auto jobs = places(db);
    if (!jobs)
        return tl::unexpected(jobs.error());
    std::map<JobId, QString> uuids;
    for (const Place& job : *jobs)
        uuids[job.id] = job.uuid;
    std::ranges::sort(*jobs, {}, &Place::uuid);
    std::string all;
    for (const Place& job : *jobs) {
        const auto head = through_chain(db, job, {}, [](const QVariantList&) { return BookResult<void>(); });
        if (!head)
            return tl::unexpected(head.error());
        all += sealed(job.uuid) + sealed(job.title) + sealed(job.opened) + sealed(head->sequence) +
               sealed(QString::fromStdString(head->digest));
    }
    for (const BookTable& table : book_tables) {
        if (!is_copied(table))
            continue;
        std::vector<std::string> rows;
        const auto done = for_each_row(db, table, [&](QVariantList row) {
            if (is_numbered(table))
                row.removeFirst();
            if (table.kind == BookTable::Kind::of_job)
                row[0] = uuids[row[0].toLongLong()];
            std::string words;
            for (const QVariant& value : std::as_const(row))
                words += sealed(value);
            rows.push_back(block::sha256_hex(words));
            return BookResult<void>();
        });
        if (!done)
            return tl::unexpected(done.error());
        if (!is_numbered(table)) // jobs have other numbers there, and so another order
            std::ranges::sort(rows);
        all += std::string(table.name) + "\n";
        for (const std::string& row : rows)
            all += row;
    }
    return block::sha256_hex(all);
}

BookResult<void> copy_to_file(QSqlDatabase& from, const QString& to) {
    if (QFileInfo::exists(to))
        return refused(QStringLiteral("%1 exists already.").arg(to), QStringLiteral("Choose a new name."));
    const QString half = to + QStringLiteral(".part"), heads = half + QStringLiteral(".heads");
    QFile::remove(half);
    QFile::remove(heads);
    auto done = ShopBook::open(half).and_then([&](const std::unique_ptr<ShopBook>& copy) {
        return copy->fill_from(from).map([](const ShopBook::Copied&) {});
    });
    QFile::remove(heads); // whoever opens the copy begins to count anew
    if (done && std::rename(QFile::encodeName(half).constData(), QFile::encodeName(to).constData()) != 0)
        done = refused(QStringLiteral("The backup cannot be written."),
                       QStringLiteral("See that the folder may be written."));
    if (!done)
        QFile::remove(half);
    return done;
}

BookResult<ShopBook::Copied> ShopBook::fill_from(QSqlDatabase& from) {
    QSqlDatabase db = QSqlDatabase::database(connection_, false);
    auto copied = copy_all(from, db);
    if (!copied)
        return copied;
    if (auto heads = take_heads_of_book(); !heads)
        return tl::unexpected(heads.error());
    return copied;
}

BookResult<ShopBook::Copied> ShopBook::copy_into(ShopBook& other) const {
    QSqlDatabase db = QSqlDatabase::database(connection_, false);
    return other.fill_from(db);
}

BookResult<std::string> ShopBook::digest() const {
    QSqlDatabase db = QSqlDatabase::database(connection_, false);
    return digest_of_all(db);
}

} // namespace pallix::storage
