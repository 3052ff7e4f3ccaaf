// SPDX-License-Identifier: GPL-3.0-or-later
#include "storage/backups.h"

#include "storage/book_file.h"
#include "storage/book_server.h"

#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <algorithm>
#include <set>

namespace pallix::storage {
namespace {

const auto stamp = QStringLiteral("yyyy-MM-dd HH-mm-ss");
const auto ending = QStringLiteral(".shopbook");

} // namespace

Backups::Backups(const QString& book) : at_server_(is_at_server(book)) {
    if (at_server_) {
        book_ = book;
        return;
    }
    const QFileInfo file(book);
    book_ = file.exists() ? file.canonicalFilePath() : file.absoluteFilePath();
    folder_ = QFileInfo(book_).absolutePath() + QStringLiteral("/backups");
}

std::vector<Backups::Kept> Backups::kept() const {
    std::vector<Kept> all;
    if (at_server_)
        return all;
    const QString name = QFileInfo(book_).completeBaseName() + QLatin1Char(' ');
    for (const QFileInfo& file : QDir(folder_).entryInfoList({name + QLatin1Char('*') + ending}, QDir::Files)) {
        const QString said = file.fileName().mid(name.size()).chopped(ending.size());
        QDateTime when = QDateTime::fromString(said.left(stamp.size()), stamp);
        when.setTimeSpec(Qt::UTC);
        if (when.isValid()) // else it is somebody's own
            all.push_back({file.absoluteFilePath(), when, said.mid(stamp.size()).trimmed(), file.size()});
    }
    std::ranges::sort(all, std::greater(), [](const Kept& one) { return std::pair(one.when, one.file); });
    return all;
}

BookResult<QString> Backups::next(const QDateTime& now, const QString& why) const {
    if (!QFileInfo(folder_).isDir() && !QDir().mkdir(folder_, QFile::ReadOwner | QFile::WriteOwner | QFile::ExeOwner))
        return refused(QStringLiteral("The folder %1 cannot be made.").arg(folder_),
                       QStringLiteral("No backup is made by itself until it can: see that the book's folder may be "
                                      "written, or back up by hand."));
    const QString name = QFileInfo(book_).completeBaseName() + QLatin1Char(' ') + now.toUTC().toString(stamp) +
                         (why.isEmpty() ? QString() : QLatin1Char(' ') + why);
    return folder_ + QLatin1Char('/') + name + ending;
}

std::vector<Backups::Kept> Backups::too_many(std::vector<Kept> kept) {
    constexpr std::size_t always = 8, days = 14, months = 12;
    std::ranges::sort(kept, std::greater(), &Kept::when);
    std::set<QString> days_seen, months_seen;
    std::vector<Kept> off;
    std::size_t by_themselves = 0;
    for (const Kept& one : kept) {
        if (!one.why.isEmpty())
            continue;
        const bool new_day = days_seen.size() < days && days_seen.insert(one.when.toString(u"yyyy-MM-dd")).second;
        const bool new_month = months_seen.size() < months && months_seen.insert(one.when.toString(u"yyyy-MM")).second;
        if (by_themselves++ >= always && !new_day && !new_month)
            off.push_back(one);
    }
    return off;
}

void Backups::thin_out() const {
    for (const Kept& one : too_many(kept()))
        QFile::remove(one.file);
}

BookResult<QString> Backups::restore(const QString& backup, const QDateTime& now) const {
    if (at_server_)
        return refused(QStringLiteral("The shop book %1 is kept by a server.").arg(book_),
                       QStringLiteral("Nothing was changed. Ask who keeps the server to put a backup in place, or copy "
                                      "this one into an empty database (pallix-cli book copy)."));
    if (auto sound = look_at(backup); !sound || sound->state != FileState::book)
        return sound ? BookResult<QString>(
                           refused(QStringLiteral("%1 is not there.").arg(backup), QStringLiteral("Choose a backup.")))
                     : BookResult<QString>(tl::unexpected(sound.error()));
    auto locked = lock(book_, false);
    if (!locked)
        return tl::unexpected(locked.error());
    const QString half = book_ + QStringLiteral(".restored");
    QFile::remove(half);
    if (!QFile::copy(backup, half) || !QFile::setPermissions(half, QFile::ReadOwner | QFile::WriteOwner)) {
        QFile::remove(half);
        return refused(QStringLiteral("The backup cannot be copied to %1.").arg(half),
                       QStringLiteral("Nothing was changed. See that the disk has room and may be written."));
    }
    QString before;
    if (QFileInfo::exists(book_)) {
        before = book_ + QStringLiteral(".before ") + now.toUTC().toString(stamp);
        for (const char* part : {"", "-wal", "-shm", ".heads"}) {
            const QString from = book_ + QLatin1String(part);
            if (QFileInfo::exists(from) && !QFile::rename(from, before + QLatin1String(part)))
                return refused(QStringLiteral("%1 cannot be put aside.").arg(from),
                               QStringLiteral("The backup stands in %1.").arg(half));
        }
    }
    if (!QFile::rename(half, book_))
        return refused(QStringLiteral("The backup cannot be put in the place of %1.").arg(book_),
                       QStringLiteral("It stands in %1, the book of before in %2.").arg(half, before));
    return before;
}

} // namespace pallix::storage
