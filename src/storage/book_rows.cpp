// SPDX-License-Identifier: GPL-3.0-or-later
#include "storage/book_rows.h"

#include "block/digest.h"
#include "storage/bench_copy.h"
#include "storage/sql.h"

#include <algorithm>
#include <string_view>

namespace pallix::storage {
namespace {

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

QStringList columns_of(const BookTable& table) {
    return QString::fromLatin1(table.columns).split(QStringLiteral(", "));
}

} // namespace

BookResult<std::vector<Place>> places(QSqlDatabase& db, JobId job) {
    QSqlQuery query(db);
    if (!query.exec(QStringLiteral("SELECT id, uuid, title, opened FROM job %1 ORDER BY id")
                        .arg(job > 0 ? QStringLiteral("WHERE id = %1").arg(job) : QString())))
        return failed(copy_doing, query);
    std::vector<Place> all;
    while (query.next())
        all.push_back({query.value(0).toLongLong(), query.value(1).toString(), query.value(2).toString(),
                       query.value(3).toString()});
    return all;
}

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

BookResult<std::map<JobId, Head>> last_entries(QSqlDatabase& db) {
    QSqlQuery query(db);
    query.setForwardOnly(true);
    if (!query.exec(QStringLiteral("SELECT entry.job, entry.sequence, entry.digest FROM entry JOIN (SELECT job, "
                                   "max(sequence) AS last FROM entry GROUP BY job) AS ends ON ends.job = entry.job AND "
                                   "ends.last = entry.sequence")))
        return failed(copy_doing, query);
    std::map<JobId, Head> all;
    while (query.next())
        all[query.value(0).toLongLong()] = {query.value(1).toLongLong(), query.value(2).toString().toStdString()};
    return all;
}

BookResult<std::string> digest_of_entry(QSqlDatabase& db, JobId job, std::int64_t sequence) {
    QSqlQuery query(db);
    query.prepare(QStringLiteral("SELECT digest FROM entry WHERE job = ? AND sequence = ?"));
    query.addBindValue(job);
    query.addBindValue(static_cast<qint64>(sequence));
    if (!query.exec())
        return failed(copy_doing, query);
    return query.next() ? query.value(0).toString().toStdString() : std::string();
}

BookResult<Head> already_there(QSqlDatabase& from, QSqlDatabase& to, const Place& here, const Place& there) {
    auto last = last_entry(to, there.id, copy_doing);
    if (!last || last->sequence == 0)
        return last;
    const auto same = digest_of_entry(from, here.id, last->sequence);
    if (!same)
        return tl::unexpected(same.error());
    if (*same != last->digest)
        return refused(QStringLiteral("“%1” went on differently in the other book.").arg(here.title),
                       QStringLiteral("Take the one book into the other: there it becomes a job of its own."));
    return last;
}

BookResult<qint64> copy_entries(QSqlDatabase& from, QSqlDatabase& to, const Place& here, JobId id, const Head& there) {
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

bool is_copied(const BookTable& table) {
    return table.kind != BookTable::Kind::job && table.kind != BookTable::Kind::cache;
}

bool is_numbered(const BookTable& table) {
    return std::string_view(table.key) == "number";
}

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

BookResult<qint64> count_of(QSqlDatabase& db, const BookTable& table) {
    QSqlQuery query(db);
    if (!query.exec(QStringLiteral("SELECT count(*) FROM ") + QLatin1String(table.name)) || !query.next())
        return failed(copy_doing, query);
    return query.value(0).toLongLong();
}

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

BookResult<void> write_instrument(QSqlDatabase& db, const QString& name, const std::string& payload) {
    const QString doing = QStringLiteral("The instrument cannot be written");
    const QVariant kept = text(payload), digest = text(block::sha256_hex(payload));
    const QString insert = QStringLiteral("INSERT INTO instrument (name, payload, digest) VALUES (?, ?, ?)");
    if (stands_alone(db)) // what waits for the shop is replaced anyway
        return run_with(db, doing, insert, {name, kept, digest}).map([](int) {});
    const auto changed =
        run_with(db, doing, QStringLiteral("UPDATE instrument SET payload = ?, digest = ? WHERE name = ?"),
                 {kept, digest, name});
    if (!changed)
        return tl::unexpected(changed.error());
    if (*changed > 0)
        return {};
    return run_with(db, doing,
                    insert + QStringLiteral(" ON CONFLICT (name) DO UPDATE SET payload = excluded.payload, digest = "
                                            "excluded.digest"),
                    {name, kept, digest})
        .map([](int) {});
}

} // namespace pallix::storage
