// SPDX-License-Identifier: GPL-3.0-or-later
#include "storage/book_jobs.h"

#include "block/digest.h"
#include "storage/bench_copy.h"
#include "storage/sql.h"

#include <QVariant>
#include <algorithm>

namespace pallix::storage {
namespace {

const QString entry_doing = QStringLiteral("The entry cannot be written");

} // namespace

QString entries_words(qint64 first, qint64 last) {
    return first == last ? QStringLiteral("entry %1").arg(first)
                         : QStringLiteral("entries %1 to %2").arg(first).arg(last);
}

BookResult<Head> insert_entries(QSqlDatabase& db, JobId job, Head before, const std::vector<block::Entry>& entries) {
    QSqlQuery query(db);
    query.prepare(QStringLiteral("INSERT INTO entry (job, sequence, time, person, kind, version, payload, digest) "
                                 "VALUES (?, ?, ?, ?, ?, ?, ?, ?)"));
    for (const block::Entry& entry : entries) {
        if (entry.sequence != before.sequence + 1)
            return tl::unexpected(BookFault{
                .what = QStringLiteral("Entry %1 does not follow entry %2.").arg(entry.sequence).arg(before.sequence),
                .way_out = QStringLiteral("Open the job again: it was written to meanwhile."),
                .written_meanwhile = entry.sequence <= before.sequence});
        const std::string kind = block::kind_of(entry.payload), payload = block::payload_json(entry.payload);
        const qint64 version = block::version_of(entry.payload);
        before = {entry.sequence, block::digest_after(before.digest, {entry.sequence, entry.time, entry.person, kind,
                                                                      version, payload})};
        query.addBindValue(job);
        query.addBindValue(static_cast<qint64>(entry.sequence));
        query.addBindValue(text(entry.time));
        query.addBindValue(text(entry.person));
        query.addBindValue(text(kind));
        query.addBindValue(version);
        query.addBindValue(text(payload));
        query.addBindValue(text(before.digest));
        if (!query.exec())
            return failed(entry_doing, query);
    }
    return before;
}

BookResult<Head> last_entry(QSqlDatabase& db, JobId job, const QString& doing) {
    QSqlQuery query(db);
    query.prepare(QStringLiteral("SELECT sequence, digest FROM entry WHERE job = ? ORDER BY sequence DESC LIMIT 1"));
    query.addBindValue(job);
    if (!query.exec())
        return failed(doing, query);
    return query.next() ? Head{query.value(0).toLongLong(), query.value(1).toString().toStdString()} : Head();
}

BookResult<Written> append_entries(QSqlDatabase& db, JobId job, const std::vector<block::Entry>& entries,
                                   const std::string& step) {
    Written written;
    const auto done = in_one_transaction(db, entry_doing, [&]() -> BookResult<void> {
        if (auto alone = one_after_the_other(db, entry_doing, QStringLiteral("job %1").arg(job)); !alone)
            return alone;
        QSqlQuery query(db);
        query.prepare(QStringLiteral("SELECT job.uuid, entry.sequence, entry.digest FROM job JOIN entry ON entry.job = "
                                     "job.id WHERE job.id = ? ORDER BY entry.sequence DESC LIMIT 1"));
        query.addBindValue(job);
        if (!query.exec())
            return failed(entry_doing, query);
        if (!query.next())
            return refused(QStringLiteral("There is no such job in the shop book."),
                           QStringLiteral("Go back to the shop list and open a job there."));
        written.uuid = query.value(0).toString();
        const Head before{query.value(1).toLongLong(), query.value(2).toString().toStdString()};
        query.finish();
        return insert_entries(db, job, before, entries)
            .map([&written](const Head& last) { written.head = last; })
            .and_then([&] { return stands_alone(db) ? close_part(db, step) : BookResult<void>(); });
    });
    if (!done)
        return tl::unexpected(done.error());
    return written;
}

BookResult<ReadJob> read_job(QSqlDatabase& db, const std::map<QString, Head>& heads, JobId job, const Head& after) {
    const QString doing = QStringLiteral("The job cannot be read");
    ReadJob read;
    QSqlQuery query(db);
    query.setForwardOnly(true);
    query.prepare(QStringLiteral("SELECT uuid, title FROM job WHERE id = ?"));
    query.addBindValue(job);
    if (!query.exec())
        return failed(doing, query);
    if (!query.next())
        return read;
    read.uuid = query.value(0).toString();
    const QString title = query.value(1).toString();
    query.prepare(
        QStringLiteral("SELECT sequence, time, person, kind, version, payload, digest FROM entry WHERE job = ? AND "
                       "sequence > ? ORDER BY sequence"));
    query.addBindValue(job);
    query.addBindValue(after.sequence);
    read.digest = after.digest;
    if (!query.exec())
        return failed(doing, query);
    const auto head = heads.find(read.uuid);
    qint64 expected = after.sequence + 1;
    for (; query.next(); ++expected) {
        const qint64 sequence = query.value(0).toLongLong(), version = query.value(4).toLongLong();
        const auto word = [&query](int column) { return query.value(column).toString().toStdString(); };
        std::string time = word(1), person = word(2);
        const std::string kind = word(3), json = word(5);
        std::string digest = block::digest_after(read.digest, {sequence, time, person, kind, version, json});
        if (sequence != expected)
            read.damage =
                QStringLiteral("Entry %1 of “%2” follows entry %3.").arg(sequence).arg(title).arg(expected - 1);
        else if (digest != word(6) ||
                 (head != heads.end() && head->second.sequence == sequence && head->second.digest != digest))
            read.damage =
                QStringLiteral("Entry %1 (%2) of “%3” is not what was written.").arg(sequence).arg(text(kind), title);
        if (!read.damage.isEmpty())
            return read;
        auto payload = block::read_payload(kind, version, json);
        const auto* opened = payload ? std::get_if<block::JobOpened>(&*payload) : nullptr;
        if (opened && expected == 1 && text(opened->title) != title)
            read.damage = QStringLiteral("“%1” was opened as “%2”.").arg(title, text(opened->title));
        // A payload that cannot be read is kept and shown, never dropped.
        read.sound.push_back(
            {sequence, std::move(time), std::move(person),
             payload ? std::move(*payload) : block::UnknownPayload{kind, version, json, payload.error()}});
        read.digest = std::move(digest);
    }
    if (query.lastError().isValid())
        read.damage = sql_fault(QStringLiteral("“%1” cannot be read beyond entry %2").arg(title).arg(expected - 1),
                                *query.driver(), query.lastError())
                          .what;
    else if (head != heads.end() && head->second.sequence >= expected && read.damage.isEmpty())
        read.damage = QStringLiteral("%1 of “%2” had been written and are not there any more.")
                          .arg(entries_words(expected, head->second.sequence), title);
    return read;
}

BookResult<std::vector<block::Entry>> whole_entries(QSqlDatabase& db, const std::map<QString, Head>& heads, JobId job,
                                                    const Head& after) {
    auto read = read_job(db, heads, job, after);
    if (!read)
        return tl::unexpected(read.error());
    if (read->damage.isEmpty())
        return std::move(read->sound);
    return refused(read->damage,
                   read->sound.empty()
                       ? QStringLiteral("Nothing of it is sound; put your last backup in the book's place.")
                       : QStringLiteral("Its %1 are sound: they can be copied out.")
                             .arg(entries_words(1, static_cast<qint64>(read->sound.size()))),
                   WayOut::copy_sound);
}

} // namespace pallix::storage
