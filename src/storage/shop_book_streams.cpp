// SPDX-License-Identifier: GPL-3.0-or-later
// Touches of a probe, which wait at the bench they came to until their log is whole.
#include "storage/bench_copy.h"
#include "storage/book_schema.h"
#include "storage/shop_book.h"
#include "storage/sql.h"

#include <QVariant>

namespace pallix::storage {
namespace {

const QString touch_doing = QStringLiteral("The touch cannot be written");

} // namespace

/// A bench that keeps a copy has them in it, whether the line is there or not.
QString ShopBook::where_streams_wait() const {
    return copy_ ? copy_->alone() : connection_;
}

BookResult<void> ShopBook::append_stream(JobId job, const QStringList& lines) {
    QSqlDatabase db = QSqlDatabase::database(where_streams_wait(), false);
    return in_one_transaction(db, touch_doing, [&]() -> BookResult<void> {
        if (auto alone = one_after_the_other(db, touch_doing, QStringLiteral("stream %1").arg(job)); !alone)
            return alone;
        QSqlQuery query(db);
        query.prepare(QStringLiteral("SELECT coalesce(max(number), 0) FROM stream WHERE job = ?"));
        query.addBindValue(job);
        if (!query.exec() || !query.next())
            return failed(touch_doing, query);
        qint64 number = query.value(0).toLongLong();
        query.prepare(QStringLiteral("INSERT INTO stream (job, number, line, digest) VALUES (?, ?, ?, ?)"));
        for (const QString& line : lines) {
            query.addBindValue(job);
            query.addBindValue(++number);
            query.addBindValue(line);
            query.addBindValue(text(digest_of_line(number, line)));
            if (!query.exec())
                return failed(touch_doing, query);
        }
        return {};
    });
}

BookResult<QStringList> ShopBook::stream(JobId job) const {
    QSqlQuery query(QSqlDatabase::database(where_streams_wait(), false));
    query.setForwardOnly(true);
    query.prepare(QStringLiteral("SELECT number, line, digest FROM stream WHERE job = ? ORDER BY number"));
    query.addBindValue(job);
    if (!query.exec())
        return failed(QStringLiteral("The touches cannot be read"), query);
    QStringList lines;
    while (query.next()) {
        const QString line = query.value(1).toString();
        if (query.value(2).toString().toStdString() != digest_of_line(query.value(0).toLongLong(), line))
            return refused(QStringLiteral("Line %1 of the touches that wait is not what was written.")
                               .arg(query.value(0).toLongLong()),
                           QStringLiteral("Probe again; the touches so far are of no use."));
        lines << line;
    }
    return lines;
}

BookResult<void> ShopBook::clear_stream(JobId job) {
    QSqlQuery query(QSqlDatabase::database(where_streams_wait(), false));
    query.prepare(QStringLiteral("DELETE FROM stream WHERE job = ?"));
    query.addBindValue(job);
    if (!query.exec())
        return failed(QStringLiteral("The touches cannot be put away"), query);
    return {};
}

} // namespace pallix::storage
