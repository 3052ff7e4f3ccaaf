// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/backup_work.h"

#include "storage/book_server.h"

#include <QFileInfo>
#include <chrono>

namespace pallix::session {

BackupWork::BackupWork(storage::ShopBook& book, QObject* parent) : QObject(parent), book_(book), backups_(book.file()) {
    hourly_.setInterval(std::chrono::hours(1));
    connect(&hourly_, &QTimer::timeout, this, &BackupWork::make);
    hourly_.start();
}

/// Something stands in the book, and was written since the last copy.
bool BackupWork::is_due() const {
    if (storage::is_at_server(book_.file()))
        return false; // its backups are the server's
    const auto kept = backups_.kept();
    QDateTime written;
    for (const char* part : {"", "-wal"})
        if (const QFileInfo file(book_.file() + QLatin1String(part)); file.exists())
            written = std::max(written, file.lastModified());
    if (!kept.empty() && kept.front().when >= written)
        return false;
    const auto jobs = book_.jobs();
    const auto engines = book_.engines().rows();
    return (jobs && !jobs->empty()) || (engines && !engines->empty());
}

void BackupWork::make() {
    if (work_.running() || !is_due())
        return;
    work_.start(
        [beside = book_.beside(), backups = backups_](const Errand&) {
            return backups.next(QDateTime::currentDateTimeUtc()).and_then([&](const QString& to) {
                if (QFileInfo::exists(to)) // made within this second
                    return storage::BookResult<QString>(to);
                const auto copied = beside.back_up(to);
                if (copied)
                    backups.thin_out();
                return copied ? storage::BookResult<QString>(to) : tl::unexpected(copied.error());
            });
        },
        {[this](const storage::BookResult<QString>& to) {
             if (to) {
                 told_ = false;
                 return Q_EMIT made(*to);
             }
             if (!std::exchange(told_, true))
                 Q_EMIT failed(to.error().what + QLatin1Char(' ') + to.error().way_out);
         },
         [this](const QString& why) { Q_EMIT failed(why); }});
}

void BackupWork::make_at_close() {
    make();
    work_.insist();
}

} // namespace pallix::session
