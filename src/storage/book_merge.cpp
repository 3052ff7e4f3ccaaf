// SPDX-License-Identifier: GPL-3.0-or-later
// Another shop's book taken into this one.
#include "storage/book_file.h"
#include "storage/book_rows.h"
#include "storage/shop_book.h"
#include "storage/sql.h"

#include <QFile>
#include <QFileInfo>
#include <QTemporaryDir>
#include <QUuid>
#include <QVariant>
#include <algorithm>

namespace pallix::storage {

std::string ShopBook::digest_at(JobId job, std::int64_t sequence) const {
    QSqlDatabase db = QSqlDatabase::database(connection_, false);
    return digest_of_entry(db, job, sequence).value_or(std::string());
}

namespace {

/// What a job is called by that parted from one of the same id at an entry: the same whenever it is taken in again.
QString id_of_parted(const QString& uuid, const std::string& digest) {
    return QUuid::createUuidV5(QUuid::fromString(uuid), QString::fromStdString(digest)).toString(QUuid::WithoutBraces);
}

JobId job_of(const QString& connection, const QString& uuid) {
    QSqlQuery query(QSqlDatabase::database(connection, false));
    query.prepare(QStringLiteral("SELECT id FROM job WHERE uuid = ?"));
    query.addBindValue(uuid);
    return query.exec() && query.next() ? query.value(0).toLongLong() : 0;
}

} // namespace

BookResult<void> ShopBook::take_in_job(const ShopBook& other, const JobRow& row, TakenIn& taken) {
    QSqlDatabase there = QSqlDatabase::database(other.connection_, false);
    const auto read = read_job(there, other.known_.jobs, row.id);
    if (!read)
        return tl::unexpected(read.error());
    const std::vector<block::Entry>& theirs = read->sound;
    QString uuid = read->uuid;
    for (bool parted = false;; parted = true) {
        const JobId here = job_of(connection_, uuid);
        if (here == 0) {
            ++taken.fresh;
            if (parted)
                taken.parted << row.title;
            return create(uuid, theirs).map([](JobId) {});
        }
        std::int64_t alike = 0; // entries from the first that are the same here and there
        const auto all = static_cast<std::int64_t>(theirs.size());
        while (alike < all && digest_at(here, alike + 1) == other.digest_at(row.id, alike + 1))
            ++alike;
        if (alike == all) {
            ++taken.known;
            return {};
        }
        if (digest_at(here, alike + 1).empty()) {
            ++taken.longer;
            return append(here, {theirs.begin() + alike, theirs.end()});
        }
        uuid = id_of_parted(read->uuid, other.digest_at(row.id, alike + 1));
    }
}

BookResult<ShopBook::TakenIn> ShopBook::take_in(const QString& other) {
    if (auto allowed = may(block::ShopWork::engines); !allowed)
        return tl::unexpected(allowed.error());
    const auto found = look_at(other);
    if (!found)
        return tl::unexpected(found.error());
    if (found->state == FileState::missing)
        return refused(QStringLiteral("%1 is not there.").arg(other), QStringLiteral("Choose a shop book."));
    if (found->name == file_)
        return refused(QStringLiteral("%1 is this book itself.").arg(other), QStringLiteral("Choose another one."));
    auto held = lock(found->name, false); // nobody writes to it meanwhile
    if (!held)
        return tl::unexpected(held.error());
    // Looked at in a copy: a book of an older version is brought forward there.
    const QTemporaryDir folder;
    const QString copy = folder.filePath(QStringLiteral("other.shopbook"));
    for (const char* part : {"", "-wal", ".heads"})
        if (QFileInfo::exists(found->name + QLatin1String(part)) &&
            !QFile::copy(found->name + QLatin1String(part), copy + QLatin1String(part)))
            return refused(QStringLiteral("%1 cannot be read.").arg(other),
                           QStringLiteral("Nothing was taken in. See that there is room for a copy of it."));
    QFile::setPermissions(copy, QFile::ReadOwner | QFile::WriteOwner);
    auto opened = open(copy);
    if (!opened)
        return tl::unexpected(opened.error());
    const ShopBook& book = **opened;
    const auto not_whole = [&other](const QString& why) {
        return refused(QStringLiteral("%1 is not as it was written: %2").arg(other, why),
                       QStringLiteral("Nothing was taken in. Copy what is sound of it first (pallix --book FILE "
                                      "--copy-sound NEW), and take that in."));
    };
    if (!book.damage().empty())
        return not_whole(book.damage().front().words);
    auto rows = book.jobs();
    if (!rows)
        return tl::unexpected(rows.error());
    std::ranges::sort(*rows, {}, &JobRow::id);
    for (const JobRow& row : *rows) // all of them before any is taken
        if (const auto entries = book.entries(row.id); !entries)
            return not_whole(entries.error().what);
    TakenIn taken;
    for (const JobRow& row : *rows)
        if (auto done = take_in_job(book, row, taken); !done)
            return tl::unexpected(done.error());
    const auto shelf = engines().rows();
    if (const auto theirs = book.engines().rows(); theirs && shelf)
        for (const ShelfRow& row : *theirs)
            if (std::ranges::find(*shelf, row.name, &ShelfRow::name) == shelf->end())
                taken.engines << row.name;
    if (auto done = engines().take_over_engines(book.engines(), taken.engines); !done)
        return tl::unexpected(done.error());
    const auto ours = instruments();
    if (const auto theirs = book.instruments(); theirs && ours)
        for (const block::Instrument& instrument : *theirs)
            if (std::ranges::find(*ours, instrument.name, &block::Instrument::name) == ours->end()) {
                if (auto saved = save_instrument(instrument); !saved)
                    return tl::unexpected(saved.error());
                ++taken.instruments;
            }
    if (auto done = pictures().take_over(book.pictures()); !done)
        return tl::unexpected(done.error());
    return taken;
}

QString words_of(const ShopBook::TakenIn& taken) {
    const auto jobs = [](int n) { return n == 1 ? QStringLiteral("one job") : QStringLiteral("%1 jobs").arg(n); };
    QString words = QStringLiteral("New: %1. Gone on: %2. Held nothing new: %3.")
                        .arg(jobs(taken.fresh), jobs(taken.longer), jobs(taken.known));
    if (!taken.parted.isEmpty())
        words += QStringLiteral(" Went on differently here and there, and are two jobs now: %1.")
                     .arg(taken.parted.join(QStringLiteral(", ")));
    if (!taken.engines.isEmpty())
        words += QStringLiteral(" Engines that came onto the shelf: %1.").arg(taken.engines.join(QStringLiteral(", ")));
    if (taken.instruments > 0)
        words += QStringLiteral(" Instruments: %1.").arg(taken.instruments);
    return words;
}

} // namespace pallix::storage
