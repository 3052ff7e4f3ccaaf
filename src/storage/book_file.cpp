// SPDX-License-Identifier: GPL-3.0-or-later
#include "storage/book_file.h"

#include "storage/book_schema.h"
#include "storage/sql.h"

#include <QDateTime>
#include <QFile>
#include <QFileInfo>
#include <QSysInfo>
#include <QUrl>
#include <QUuid>
#include <QVariant>
#include <QtEndian>
#include <cerrno>
#include <csignal>
#include <cstdio>
#include <fcntl.h>
#include <sys/stat.h>
#include <unistd.h>

namespace pallix::storage {
namespace {

constexpr qsizetype header_size = 100; // of an SQLite database, with its application id at byte 68
constexpr qsizetype application_id_at = 68;
constexpr mode_t for_the_owner = 0600;

const QString other_name =
    QStringLiteral("Choose another name with --book FILE; a new book is made where there is no file.");

/// Runs `use` with a connection of its own and drops it afterwards.
template <class Use>
auto with_database(const QString& name, const QString& options, Use use) {
    const QString connection = QStringLiteral("look-") + QUuid::createUuid().toString(QUuid::Id128);
    auto result = [&] {
        QSqlDatabase db = QSqlDatabase::addDatabase(QStringLiteral("QSQLITE"), connection);
        db.setDatabaseName(name);
        db.setConnectOptions(options);
        return use(db);
    }();
    QSqlDatabase::removeDatabase(connection);
    return result;
}

/// Books from before the application id are known by their tables.
bool has_our_tables(const QString& file) {
    return with_database(file, QStringLiteral("QSQLITE_OPEN_READONLY"), [](QSqlDatabase& db) {
        if (!db.open())
            return false;
        QSqlQuery query(db);
        return query.exec(QStringLiteral("SELECT job.uuid, entry.payload FROM job, entry LIMIT 1"));
    });
}

BookResult<void> look_inside(const QString& file) {
    QFile in(file);
    if (!in.open(QIODevice::ReadOnly))
        return refused(QStringLiteral("The shop book %1 cannot be read: %2.").arg(file, in.errorString()), other_name);
    if (in.size() == 0)
        return refused(QStringLiteral("%1 is empty: it is no shop book.").arg(file),
                       QStringLiteral("If it is not wanted, remove it: a new book is made where there is no file. If a "
                                      "book should be there, put your last backup in its place."));
    const QByteArray header = in.read(header_size);
    if (!header.startsWith("SQLite format 3") || header.size() < header_size)
        return refused(QStringLiteral("%1 is damaged or is no shop book.").arg(file),
                       QStringLiteral("It was left as it is. Open your last backup, or another file, with --book."));
    const auto id = qFromBigEndian<quint32>(header.constData() + application_id_at);
    if (id == application_id || (id == 0 && has_our_tables(file)))
        return {};
    return refused(QStringLiteral("%1 is a database, but not a shop book.").arg(file),
                   QStringLiteral("It was left as it is. ") + other_name);
}

} // namespace

BookResult<BookFile> look_at(const QString& file) {
    const QFileInfo named(file);
    if (!named.exists()) {
        if (named.isSymLink())
            return refused(QStringLiteral("%1 is a link to %2, which is not there.").arg(file, named.symLinkTarget()),
                           QStringLiteral("Put the book back in its place, or open another with --book FILE."));
        const QFileInfo folder(named.absolutePath());
        if (!folder.isDir() || !folder.isWritable())
            return refused(QStringLiteral("The shop book %1 cannot be written.").arg(file),
                           QStringLiteral("Choose a folder that may be written with --book FILE."));
        return BookFile{folder.canonicalFilePath() + QLatin1Char('/') + named.fileName(), FileState::missing};
    }
    const QFileInfo info(named.canonicalFilePath());
    const QString name = info.filePath();
    struct stat status {};
    if (!info.isFile() || ::stat(QFile::encodeName(name).constData(), &status) != 0 || !S_ISREG(status.st_mode))
        return refused(QStringLiteral("%1 is no file.").arg(file), other_name);
    if (status.st_nlink > 1)
        return refused(QStringLiteral("The shop book %1 has %2 names (hard links).").arg(file).arg(status.st_nlink),
                       QStringLiteral("Two windows could write it at once and lose entries. Remove the other names, or "
                                      "make a copy and open that."));
    if (!info.isWritable() || !QFileInfo(info.absolutePath()).isWritable())
        return refused(QStringLiteral("The shop book %1 may only be read, not written.").arg(file),
                       QStringLiteral("Let yourself write the file and its folder, or copy it elsewhere and open the "
                                      "copy with --book FILE."));
    if (auto inside = look_inside(name); !inside)
        return tl::unexpected(inside.error());
    return BookFile{name, FileState::book};
}

BookResult<std::unique_ptr<QLockFile>> lock(const QString& file, bool take_over) {
    const QString name = file + QStringLiteral(".lock");
    auto lock = std::make_unique<QLockFile>(name);
    lock->setStaleLockTime(0); // only a process that is gone loses its lock
    if (lock->tryLock(0))
        return lock;
    if (lock->error() != QLockFile::LockFailedError)
        return refused(
            QStringLiteral("The shop book %1 cannot be written: the lock %2 cannot be made.").arg(file, name),
            QStringLiteral("See that the disk is not full and the folder may be written, or choose another with --book "
                           "FILE."));
    qint64 process = 0;
    QString machine, program;
    const bool known = lock->getLockInfo(&process, &machine, &program) && process > 0;
    const bool here = machine.isEmpty() || machine == QSysInfo::machineHostName();
    if (known && here && (::kill(static_cast<pid_t>(process), 0) == 0 || errno == EPERM))
        return refused(QStringLiteral("The shop book %1 is open in another window (%2, process %3).")
                           .arg(file, program)
                           .arg(process),
                       QStringLiteral("Go on there, or close it first. --book FILE opens another book."));
    if (take_over && QFile::remove(name) && lock->tryLock(0))
        return lock;
    return refused(
        known
            ? QStringLiteral("The shop book %1 is locked by %2, process %3, on the machine %4 (lock file %5).")
                  .arg(file, program)
                  .arg(process)
                  .arg(machine, name)
            : QStringLiteral("The shop book %1 is locked, but its lock file %2 does not say by whom.").arg(file, name),
        QStringLiteral("If you are sure that no window has it open, take it over (--take-over)."),
        WayOut::take_over_lock);
}

BookResult<void> make_new(const QString& file) {
    const QString half = file + QStringLiteral(".new");
    const QByteArray path = QFile::encodeName(half);
    QFile::remove(half);
    const int handle = ::open(path.constData(), O_WRONLY | O_CREAT | O_EXCL | O_CLOEXEC, for_the_owner);
    if (handle < 0)
        return refused(QStringLiteral("The shop book %1 cannot be written.").arg(file),
                       QStringLiteral("Choose a folder that may be written with --book FILE."));
    ::close(handle);
    auto made = with_database(half, {}, [&](QSqlDatabase& db) -> BookResult<void> {
        if (!db.open())
            return tl::unexpected(
                sql_fault(QStringLiteral("The shop book %1 cannot be made").arg(file), *db.driver(), db.lastError()));
        return bring_forward(db, file);
    });
    if (made && std::rename(path.constData(), QFile::encodeName(file).constData()) != 0)
        made = refused(QStringLiteral("The shop book %1 cannot be written.").arg(file),
                       QStringLiteral("Choose a folder that may be written with --book FILE."));
    if (!made)
        QFile::remove(half);
    return made;
}

bool has_journal(const QString& file) {
    return QFileInfo(file + QStringLiteral("-wal")).size() > 0;
}

QString id_without_journal(const QString& file) {
    QUrl url = QUrl::fromLocalFile(file);
    url.setQuery(QStringLiteral("immutable=1"));
    return with_database(url.toString(QUrl::FullyEncoded), QStringLiteral("QSQLITE_OPEN_READONLY;QSQLITE_OPEN_URI"),
                         [](QSqlDatabase& db) {
                             QSqlQuery query(db.open() ? db : QSqlDatabase());
                             return query.exec(QStringLiteral("SELECT id FROM book")) && query.next()
                                        ? query.value(0).toString()
                                        : QString();
                         });
}

void set_journal_aside(const QString& file) {
    const QString stamp = QDateTime::currentDateTimeUtc().toString(QStringLiteral("yyyyMMdd-hhmmss-zzz"));
    QFile::rename(file + QStringLiteral("-wal"), file + QStringLiteral("-wal.of-another-book-") + stamp);
    QFile::remove(file + QStringLiteral("-shm"));
}

} // namespace pallix::storage
