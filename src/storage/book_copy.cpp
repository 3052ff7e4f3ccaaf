// SPDX-License-Identifier: GPL-3.0-or-later
#include "storage/book_copy.h"

#include "storage/sql.h"

#include <QFile>
#include <QFileInfo>
#include <QUuid>
#include <cstdio>
#include <functional>

namespace pallix::storage {
namespace {

using Look = std::function<BookResult<void>(QSqlDatabase& copy)>;

/// Opens a copy by itself and looks at it.
BookResult<void> look_into(const QString& file, const Look& look) {
    const QString name = QStringLiteral("copy-") + QUuid::createUuid().toString(QUuid::Id128);
    BookResult<void> done;
    {
        QSqlDatabase db = QSqlDatabase::addDatabase(QStringLiteral("QSQLITE"), name);
        db.setDatabaseName(file);
        done = db.open() ? look(db)
                         : BookResult<void>(tl::unexpected(sql_fault(QStringLiteral("The backup cannot be read again"),
                                                                     *db.driver(), db.lastError())));
    }
    QSqlDatabase::removeDatabase(name);
    return done;
}

BookResult<void> copy(QSqlDatabase& from, const QString& to, const Look& look) {
    if (QFileInfo::exists(to))
        return refused(QStringLiteral("%1 exists already.").arg(to), QStringLiteral("Choose a new name."));
    const QString doing = QStringLiteral("The backup cannot be written"), half = to + QStringLiteral(".part");
    QFile::remove(half);
    QSqlQuery query(from);
    query.prepare(QStringLiteral("VACUUM INTO ?"));
    query.addBindValue(half);
    BookResult<void> done;
    if (!query.exec())
        done = failed(doing, query);
    else {
        QFile::setPermissions(half, QFile::ReadOwner | QFile::WriteOwner);
        done = look_into(half, look);
    }
    if (done && std::rename(QFile::encodeName(half).constData(), QFile::encodeName(to).constData()) != 0)
        done = refused(doing + QLatin1Char('.'), QStringLiteral("See that the folder may be written."));
    if (!done)
        QFile::remove(half);
    return done;
}

} // namespace

BookResult<void> check_integrity(QSqlDatabase& db, const QString& file, bool thorough) {
    QSqlQuery query(db);
    const QString check =
        thorough ? QStringLiteral("PRAGMA integrity_check(1)") : QStringLiteral("PRAGMA quick_check(1)");
    if (!query.exec(check) || !query.next() || query.value(0).toString() != QStringLiteral("ok"))
        return refused(QStringLiteral("The shop book %1 is damaged.").arg(file),
                       QStringLiteral("Copy what is sound into a new book (--copy-sound FILE), or put your last backup "
                                      "in its place. The book was left as it is."),
                       WayOut::copy_sound);
    return {};
}

BookResult<void> copy_book(QSqlDatabase& from, const std::map<QString, Head>& heads, const QString& to) {
    return copy(from, to, [&](QSqlDatabase& db) -> BookResult<void> {
        const QString doing = QStringLiteral("The backup cannot be read again");
        const QString renamed =
            QStringLiteral("UPDATE book SET id = '%1'").arg(QUuid::createUuid().toString(QUuid::WithoutBraces));
        if (auto own = run(db, doing, renamed).and_then([&] { return check_integrity(db, to, true); }); !own)
            return own;
        QSqlQuery jobs(db);
        if (!jobs.exec(QStringLiteral("SELECT id, title FROM job")))
            return failed(doing, jobs);
        std::size_t found = 0;
        while (jobs.next()) {
            const auto job = read_job(db, heads, jobs.value(0).toLongLong());
            if (!job || !job->damage.isEmpty())
                return refused(
                    QStringLiteral("The backup of “%1” is not what the book holds.").arg(jobs.value(1).toString()),
                    QStringLiteral("Nothing was kept of it. Try another disk."));
            found += heads.contains(job->uuid) ? 1 : 0;
        }
        if (found < heads.size())
            return refused(QStringLiteral("The backup does not hold every job of the book."),
                           QStringLiteral("Nothing was kept of it. Try another disk."));
        return {};
    });
}

BookResult<void> copy_older_book(QSqlDatabase& from, const QString& to) {
    return copy(from, to, [&](QSqlDatabase& db) { return check_integrity(db, to, true); });
}

} // namespace pallix::storage
