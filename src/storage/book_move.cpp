// SPDX-License-Identifier: GPL-3.0-or-later
#include "storage/book_move.h"

#include "block/digest.h"
#include "storage/book_schema.h"
#include "storage/sql.h"

#include <QFile>
#include <QFileInfo>
#include <QVariant>
#include <algorithm>
#include <cstdio>
#include <functional>
#include <ranges>

namespace pallix::storage {
namespace {

const QString copy_doing = QStringLiteral("The book cannot be copied");

/// Rows for a table, written by the hundred.
class RowWriter {
  public:
    /// @param known what becomes of rows that are there already: "" where none can be
    RowWriter(QSqlDatabase& db, QString table, const QStringList& columns, QString known = {})
        : db_(db), head_(QStringLiteral("INSERT INTO %1 (%2) VALUES ").arg(table, columns.join(QStringLiteral(", ")))),
          known_(std::move(known)) {
        QStringList marks;
        marks.fill(QStringLiteral("?"), columns.size());
        row_ = QLatin1Char('(') + marks.join(QLatin1Char(',')) + QLatin1Char(')');
    }
    [[nodiscard]] BookResult<void> add(const QVariantList& row) {
        values_ << row;
        for (const QVariant& value : row)
            size_ += value.toByteArray().size();
        constexpr qsizetype rows_at_once = 100, bytes_at_once = 4 << 20;
        return ++rows_ >= rows_at_once || size_ >= bytes_at_once ? flush() : BookResult<void>();
    }
    [[nodiscard]] BookResult<void> flush() {
        if (rows_ == 0)
            return {};
        QStringList rows;
        rows.fill(row_, rows_);
        QSqlQuery query(db_);
        query.prepare(head_ + rows.join(QLatin1Char(',')) + known_);
        for (const QVariant& value : std::as_const(values_))
            query.addBindValue(value);
        values_.clear();
        rows_ = size_ = 0;
        if (!query.exec())
            return failed(copy_doing, query);
        return {};
    }

  private:
    QSqlDatabase& db_;
    QString head_, known_, row_;
    QVariantList values_;
    qsizetype rows_ = 0, size_ = 0;
};

/// A job as it stands in a book.
struct Place {
    JobId id = 0;
    QString uuid, title, opened;
};

BookResult<std::vector<Place>> places(QSqlDatabase& db) {
    QSqlQuery query(db);
    if (!query.exec(QStringLiteral("SELECT id, uuid, title, opened FROM job ORDER BY id")))
        return failed(copy_doing, query);
    std::vector<Place> all;
    while (query.next())
        all.push_back({query.value(0).toLongLong(), query.value(1).toString(), query.value(2).toString(),
                       query.value(3).toString()});
    return all;
}

/// Goes through the entries of a job that follow one, each held against the chain.
/// @param each takes the entry's columns
/// @return the last entry there is
BookResult<Head> through_chain(QSqlDatabase& db, const Place& job, Head after,
                               const std::function<BookResult<void>(const QVariantList& row)>& each) {
    QSqlQuery query(db);
    query.setForwardOnly(true);
    query.prepare(QStringLiteral("SELECT sequence, time, person, kind, version, payload, digest FROM entry WHERE job = "
                                 "? AND sequence > ? ORDER BY sequence"));
    query.addBindValue(job.id);
    query.addBindValue(after.sequence);
    if (!query.exec())
        return failed(copy_doing, query);
    while (query.next()) {
        const auto word = [&query](int column) { return query.value(column).toString().toStdString(); };
        const qint64 sequence = query.value(0).toLongLong();
        const std::string time = word(1), person = word(2), kind = word(3), payload = word(5);
        const std::string digest =
            block::digest_after(after.digest, {sequence, time, person, kind, query.value(4).toLongLong(), payload});
        if (sequence != after.sequence + 1 || digest != word(6))
            return refused(
                QStringLiteral("Entry %1 of “%2” is not what was written.").arg(after.sequence + 1).arg(job.title),
                QStringLiteral("Nothing was changed there. Copy what is sound into a new book first."));
        QVariantList row;
        for (int column = 0; column < 7; ++column)
            row << query.value(column);
        if (auto done = each(row); !done)
            return tl::unexpected(done.error());
        after = {sequence, digest};
    }
    if (query.lastError().isValid())
        return failed(copy_doing, query);
    return after;
}

/// The last entry of a job that an earlier copy has there, held against the same one here.
BookResult<Head> already_there(QSqlDatabase& from, QSqlDatabase& to, const Place& here, const Place& there) {
    Head last;
    QSqlQuery query(to);
    query.prepare(QStringLiteral("SELECT sequence, digest FROM entry WHERE job = ? ORDER BY sequence DESC LIMIT 1"));
    query.addBindValue(there.id);
    if (!query.exec())
        return failed(copy_doing, query);
    if (!query.next())
        return last;
    last = {query.value(0).toLongLong(), query.value(1).toString().toStdString()};
    QSqlQuery same(from);
    same.prepare(QStringLiteral("SELECT digest FROM entry WHERE job = ? AND sequence = ?"));
    same.addBindValue(here.id);
    same.addBindValue(last.sequence);
    if (!same.exec())
        return failed(copy_doing, same);
    if (!same.next() || same.value(0).toString().toStdString() != last.digest)
        return refused(QStringLiteral("“%1” went on differently in the other book.").arg(here.title),
                       QStringLiteral("Take the one book into the other: there it becomes a job of its own."));
    return last;
}

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
    const JobId id = known[here.uuid].id;
    RowWriter entries(to, QStringLiteral("entry"),
                      {QStringLiteral("job"), QStringLiteral("sequence"), QStringLiteral("time"),
                       QStringLiteral("person"), QStringLiteral("kind"), QStringLiteral("version"),
                       QStringLiteral("payload"), QStringLiteral("digest")});
    const auto last =
        through_chain(from, here, there, [&](const QVariantList& row) { return entries.add(QVariantList{id} + row); });
    if (!last)
        return tl::unexpected(last.error());
    if (auto done = entries.flush(); !done)
        return tl::unexpected(done.error());
    return last->sequence - there.sequence;
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

QStringList columns_of(const BookTable& table) {
    return QString::fromLatin1(table.columns).split(QStringLiteral(", "));
}

/// The rows of one of the other tables, in order.
BookResult<void> for_each_row(QSqlDatabase& db, const BookTable& table,
                              const std::function<BookResult<void>(const QVariantList& row)>& each) {
    QSqlQuery query(db);
    query.setForwardOnly(true);
    if (!query.exec(QStringLiteral("SELECT %1 FROM %2 ORDER BY %3")
                        .arg(QLatin1String(table.columns), QLatin1String(table.name), QLatin1String(table.key))))
        return failed(copy_doing, query);
    const auto columns = static_cast<int>(columns_of(table).size());
    while (query.next()) {
        QVariantList row;
        for (int column = 0; column < columns; ++column)
            row << query.value(column);
        if (auto done = each(row); !done)
            return done;
    }
    if (query.lastError().isValid())
        return failed(copy_doing, query);
    return {};
}

bool is_numbered(const BookTable& table) {
    return std::string_view(table.key) == "number"; // which each book counts by itself
}

BookResult<qint64> count_of(QSqlDatabase& db, const BookTable& table) {
    QSqlQuery query(db);
    if (!query.exec(QStringLiteral("SELECT count(*) FROM ") + QLatin1String(table.name)) || !query.next())
        return failed(copy_doing, query);
    return query.value(0).toLongLong();
}

/// @param ids what each job's number of here is there
BookResult<void> copy_table(QSqlDatabase& from, QSqlDatabase& to, const BookTable& table,
                            const std::map<JobId, JobId>& ids) {
    qint64 there = 0;
    if (table.kind == BookTable::Kind::kept && is_numbered(table)) {
        const auto count = count_of(to, table);
        if (!count)
            return tl::unexpected(count.error());
        there = *count;
    } else if (table.kind != BookTable::Kind::kept) {
        if (auto emptied = run(to, copy_doing, QStringLiteral("DELETE FROM ") + QLatin1String(table.name)); !emptied)
            return emptied;
    }
    QStringList columns = columns_of(table);
    if (is_numbered(table))
        columns.removeFirst();
    RowWriter rows(to, QLatin1String(table.name), columns,
                   table.kind == BookTable::Kind::kept ? QStringLiteral(" ON CONFLICT DO NOTHING") : QString());
    return for_each_row(from, table,
                        [&](QVariantList row) -> BookResult<void> {
                            if (there-- > 0)
                                return {};
                            if (is_numbered(table))
                                row.removeFirst();
                            if (table.kind == BookTable::Kind::of_job)
                                row[0] = ids.at(row[0].toLongLong());
                            return rows.add(row);
                        })
        .and_then([&] { return rows.flush(); });
}

bool is_copied(const BookTable& table) {
    return table.kind != BookTable::Kind::job && table.kind != BookTable::Kind::cache;
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
