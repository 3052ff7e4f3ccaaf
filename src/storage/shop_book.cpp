// SPDX-License-Identifier: GPL-3.0-or-later
#include "storage/shop_book.h"

#include "block/digest.h"
#include "storage/backups.h"
#include "storage/bench_copy.h"
#include "storage/book_copy.h"
#include "storage/book_file.h"
#include "storage/book_move.h"
#include "storage/book_rows.h"
#include "storage/book_schema.h"
#include "storage/book_server.h"
#include "storage/sql.h"

#include <QFile>
#include <QFileInfo>
#include <QUuid>
#include <QVariant>
#include <algorithm>
#include <array>
#include <cstdio>
#include <stdexcept>

namespace pallix::storage {
namespace {

const QString job_doing = QStringLiteral("The job cannot be written");

/// A new book, unless the heads of one that held jobs still stand there: then it is missed, not replaced.
BookResult<void> make_in_place_of_nothing(const QString& file) {
    const Heads heads(file + QStringLiteral(".heads"));
    if (const auto jobs = heads.read().jobs.size(); jobs > 0)
        return refused(
            QStringLiteral("The shop book %1 is not there, but it was: %2 tells of %3 in it.")
                .arg(file, heads.file(), jobs == 1 ? QStringLiteral("one job") : QStringLiteral("%1 jobs").arg(jobs)),
            QStringLiteral("Put it back, or your last backup in its place. To begin a new book, remove %1 too.")
                .arg(heads.file()));
    return make_new(file);
}

} // namespace

ShopBook::ShopBook(QString file, QString connection, std::unique_ptr<QLockFile> lock)
    : file_(std::move(file)), connection_(std::move(connection)), lock_(std::move(lock)),
      heads_(file_ + QStringLiteral(".heads")) {}

ShopBook::~ShopBook() {
    tidy();
    const QString own = lock_ ? connection_ : server_;
    QSqlDatabase::database(own, false).close();
    QSqlDatabase::removeDatabase(own);
}

BookResult<std::unique_ptr<ShopBook>> ShopBook::open(const QString& file, bool take_over, const QString& copies) {
    if (is_at_server(file))
        return open_at_server(file, copies);
    const auto found = look_at(file);
    if (!found)
        return tl::unexpected(found.error());
    auto locked = lock(found->name, take_over);
    if (!locked)
        return tl::unexpected(locked.error());
    const bool fresh = found->state == FileState::missing;
    if (fresh)
        if (auto made = make_in_place_of_nothing(found->name); !made)
            return tl::unexpected(made.error());
    const QString connection = QStringLiteral("shop-book-") + QUuid::createUuid().toString(QUuid::Id128);
    static_cast<void>(connection_to(found->name, connection));
    std::unique_ptr<ShopBook> book(new ShopBook(found->name, connection, std::move(*locked)));
    if (auto done = book->set_up(fresh); !done)
        return tl::unexpected(done.error());
    return book;
}

BookResult<void> ShopBook::set_up(bool fresh) {
    known_ = heads_.read();
    // A backup that was put in the place of another book is a book of its own: what the other left beside it goes.
    const bool journal = has_journal(file_);
    const QString id = fresh ? QString() : id_without_journal(file_);
    const bool of_another = !id.isEmpty() && !known_.book.isEmpty() && id != known_.book;
    if ((fresh || of_another) && journal)
        set_journal_aside(file_);
    if (fresh || of_another) {
        if (QFileInfo::exists(heads_.file()))
            heads_.set_aside();
        known_ = {};
    }
    QSqlDatabase db = QSqlDatabase::database(connection_, false);
    const QString doing = QStringLiteral("The shop book %1 cannot be opened").arg(file_);
    if (auto opened = open_connection(db, file_, doing); !opened)
        return opened;
    if (auto sound = check_integrity(db, file_, journal); !sound)
        return sound;
    if (auto done = durable(db, doing); !done)
        return done;
    if (const int older = fresh ? 0 : older_schema(db); older > 0) { // what is written anew was copied before
        const Backups backups(file_);
        const auto copied =
            backups.next(QDateTime::currentDateTimeUtc(), QStringLiteral("before schema %1").arg(older + 1))
                .and_then([&](const QString& to) { return copy_older_book(db, to); });
        if (!copied)
            return copied;
    }
    if (auto done = bring_forward(db, file_); !done)
        return done;
    tidy(); // the book's id stands in the file itself before the heads name it
    return find_damage();
}

BookResult<void> ShopBook::find_damage() {
    QSqlDatabase db = QSqlDatabase::database(connection_, false);
    const QString doing = QStringLiteral("The shop book %1 cannot be read").arg(file_);
    QSqlQuery id(db);
    if (!id.exec(QStringLiteral("SELECT id FROM book")) || !id.next())
        return failed(doing, id);
    if (auto tables = look_at_tables(db, doing); !tables)
        return tables;
    if (known_.broken_line > 0)
        damage_.push_back({{},
                           QStringLiteral("Line %1 of %2 is damaged: whether the newest entries of every job are all "
                                          "there cannot be told.")
                               .arg(known_.broken_line)
                               .arg(heads_.file()),
                           true});
    const bool rewrite = known_.book.isEmpty() || known_.untidy;
    known_.book = id.value(0).toString();
    id.finish();

    QSqlQuery query(db), at(db);
    at.prepare(QStringLiteral("SELECT digest FROM entry WHERE job = ? AND sequence = ?"));
    if (!query.exec(
            QStringLiteral("SELECT job.id, job.uuid, job.title, count(entry.sequence), min(entry.sequence), "
                           "max(entry.sequence) FROM job LEFT JOIN entry ON entry.job = job.id GROUP BY job.id")))
        return failed(doing, query);
    std::map<QString, Head> without_job = known_.jobs;
    while (query.next()) {
        const JobId job = query.value(0).toLongLong();
        const QString uuid = query.value(1).toString(), title = query.value(2).toString();
        const qint64 entries = query.value(3).toLongLong(), last = query.value(5).toLongLong();
        without_job.erase(uuid);
        const auto head = known_.jobs.find(uuid);
        if (entries == 0 || query.value(4).toLongLong() != 1 || last != entries) {
            damage_.push_back({job,
                               QStringLiteral("%1: there is a hole among its entries (%2 of %3 are there).")
                                   .arg(title)
                                   .arg(entries)
                                   .arg(last),
                               false});
        } else if (head != known_.jobs.end() && head->second.sequence > last) {
            damage_.push_back({job,
                               QStringLiteral("%1: %2 had been written and are not there any more.")
                                   .arg(title, entries_words(last + 1, head->second.sequence)),
                               true});
        } else if (head != known_.jobs.end()) {
            at.addBindValue(job);
            at.addBindValue(head->second.sequence);
            if (!at.exec() || !at.next() || at.value(0).toString().toStdString() != head->second.digest)
                damage_.push_back({job,
                                   QStringLiteral("%1: entry %2 is not the one that was written last.")
                                       .arg(title)
                                       .arg(head->second.sequence),
                                   true});
        }
    }
    for (const auto& [uuid, head] : without_job)
        damage_.push_back(
            {{}, QStringLiteral("A job with %1 is not there any more.").arg(entries_words(1, head.sequence)), true});
    if (damage_.empty() && rewrite && lock_)
        known_.untidy = !heads_.write(known_);
    return {};
}

BookResult<void> ShopBook::accept_loss() {
    std::erase_if(damage_, [](const Damage& d) { return d.accepted_by_going_on; });
    return take_heads_of_book();
}

BookResult<void> ShopBook::take_heads_of_book() {
    QSqlQuery query(QSqlDatabase::database(connection_, false));
    query.setForwardOnly(true);
    if (!query.exec(QStringLiteral("SELECT job.uuid, entry.sequence, entry.digest FROM job JOIN entry ON entry.job = "
                                   "job.id AND entry.sequence = (SELECT max(sequence) FROM entry WHERE job = job.id)")))
        return failed(QStringLiteral("The shop book cannot be read"), query);
    known_.jobs.clear();
    while (query.next())
        known_.jobs[query.value(0).toString()] = {query.value(1).toLongLong(), query.value(2).toString().toStdString()};
    if (lock_ && !heads_.write(known_))
        return refused(QStringLiteral("%1 cannot be written.").arg(heads_.file()),
                       QStringLiteral("See that the disk has room and the folder may be written."));
    return {};
}

void ShopBook::tidy() {
    if (!lock_)
        return; // a server does it by itself
    QSqlQuery query(QSqlDatabase::database(connection_, false));
    query.exec(QStringLiteral("PRAGMA wal_checkpoint(TRUNCATE)")); // a journal that stays is only longer
}

/// The entry is on the disk already: a head that cannot be written is tried again with the next one.
void ShopBook::acknowledge(const Written& written) {
    if (written.head.sequence == 0 || copy_)
        return; // nothing was written, or it may get another place at the shop
    known_.jobs[written.uuid] = written.head;
    if (!lock_)
        return; // how far each job has come is the server's to keep
    if (known_.untidy || !heads_.add(written.uuid, written.head))
        known_.untidy = !heads_.write(known_);
}

BookResult<JobId> ShopBook::create_job(const std::vector<block::Entry>& entries) {
    return create(QUuid::createUuid().toString(QUuid::WithoutBraces), entries);
}

BookResult<JobId> ShopBook::create(const QString& uuid, const std::vector<block::Entry>& entries) {
    const auto* opened = entries.empty() ? nullptr : std::get_if<block::JobOpened>(&entries.front().payload);
    if (!opened)
        throw std::logic_error("a job starts with a JobOpened entry");
    QSqlDatabase db = QSqlDatabase::database(connection_, false);
    JobId job = 0;
    Head head;
    const auto done = in_one_transaction(db, job_doing, [&]() -> BookResult<void> {
        QSqlQuery query(db);
        query.prepare(QStringLiteral("INSERT INTO job (uuid, title, opened) VALUES (?, ?, ?)"));
        query.addBindValue(uuid);
        query.addBindValue(text(opened->title));
        query.addBindValue(text(entries.front().time));
        if (!query.exec())
            return failed(job_doing, query);
        const bool alone = stands_alone(db);
        if (alone) {
            query.prepare(QStringLiteral("SELECT id FROM job WHERE uuid = ?"));
            query.addBindValue(uuid);
            if (!query.exec() || !query.next())
                return failed(job_doing, query);
        }
        job = (alone ? query.value(0) : query.lastInsertId()).toLongLong();
        query.finish();
        return insert_entries(db, job, {}, entries).map([&head](const Head& last) { head = last; }).and_then([&] {
            return alone ? close_part(db, {}) : BookResult<void>();
        });
    });
    if (!done)
        return tl::unexpected(done.error());
    if (copy_)
        uuids_[job] = uuid;
    acknowledge({uuid, head});
    return job;
}

BookResult<void> ShopBook::append(JobId job, const std::vector<block::Entry>& entries, const std::string& step) {
    QSqlDatabase db = QSqlDatabase::database(connection_, false);
    return append_entries(db, job, entries, step).map([this](const Written& written) { acknowledge(written); });
}

BookResult<std::vector<block::Entry>> ShopBook::entries(JobId job) const {
    QSqlDatabase db = QSqlDatabase::database(connection_, false);
    return whole_entries(db, known_.jobs, job);
}

BookResult<std::vector<block::Entry>> ShopBook::entries_after(JobId job, std::int64_t sequence) const {
    QSqlDatabase db = QSqlDatabase::database(connection_, false);
    return whole_entries(db, known_.jobs, job, {sequence, digest_at(job, sequence)});
}

BookBeside ShopBook::beside() const {
    return BookBeside(is_alone() ? copy_file() : file_, known_.jobs, is_alone());
}

BookResult<std::vector<block::Entry>> ShopBook::sound_entries(JobId job) const {
    QSqlDatabase db = QSqlDatabase::database(connection_, false);
    return read_job(db, known_.jobs, job).map([](ReadJob read) { return std::move(read.sound); });
}

BookResult<std::vector<JobRow>> ShopBook::jobs(const QString& reader) const {
    QSqlQuery query(QSqlDatabase::database(connection_, false));
    query.setForwardOnly(true);
    // Sequences run from 1 without gaps, so the largest is the number of entries.
    query.prepare(QStringLiteral(
        "SELECT job.id, job.title, job.opened, (SELECT max(sequence) FROM entry WHERE entry.job = job.id) AS last, "
        "standing.entries, standing.standing, standing.digest, set_aside.job FROM job LEFT JOIN standing ON "
        "standing.job = job.id AND standing.reader = ? LEFT JOIN set_aside ON set_aside.job = job.id "
        "ORDER BY job.opened DESC, job.id DESC"));
    query.addBindValue(reader.isNull() ? QStringLiteral("") : reader);
    if (!query.exec())
        return failed(QStringLiteral("The jobs cannot be read"), query);
    std::vector<JobRow> out;
    while (query.next()) {
        JobRow row{query.value(0).toLongLong(),
                   query.value(1).toString(),
                   query.value(2).toString(),
                   query.value(3).toLongLong(),
                   {},
                   {},
                   !query.value(7).isNull()};
        const QString standing = query.value(5).toString();
        if (!query.value(4).isNull() && query.value(4).toLongLong() == row.entries &&
            query.value(6).toString().toStdString() == block::sha256_hex(standing.toStdString()))
            row.standing = standing;
        if (const auto found = std::ranges::find(damage_, std::optional(row.id), &Damage::job); found != damage_.end())
            row.damage = found->words;
        out.push_back(std::move(row));
    }
    return out;
}

void ShopBook::remember_standing(JobId job, qint64 entries, const QString& reader, const QString& standing) {
    QSqlQuery query(QSqlDatabase::database(connection_, false));
    query.prepare(QStringLiteral("INSERT INTO standing (job, entries, reader, standing, digest) VALUES (?, ?, ?, ?, ?) "
                                 "ON CONFLICT (job) DO UPDATE SET entries = excluded.entries, reader = "
                                 "excluded.reader, standing = excluded.standing, digest = excluded.digest"));
    query.addBindValue(job);
    query.addBindValue(entries);
    query.addBindValue(reader);
    query.addBindValue(standing);
    query.addBindValue(text(block::sha256_hex(standing.toStdString())));
    query.exec();
}

BookResult<void> ShopBook::set_aside(JobId job, bool aside) {
    if (auto allowed = may(block::ShopWork::job_list); !allowed)
        return allowed;
    QSqlQuery query(QSqlDatabase::database(connection_, false));
    query.prepare(aside ? QStringLiteral("INSERT INTO set_aside (job) VALUES (?) ON CONFLICT DO NOTHING")
                        : QStringLiteral("DELETE FROM set_aside WHERE job = ?"));
    query.addBindValue(job);
    if (!query.exec())
        return failed(QStringLiteral("The job cannot be set aside"), query);
    return {};
}

BookResult<std::vector<block::Instrument>> ShopBook::instruments() const {
    QSqlQuery query(QSqlDatabase::database(connection_, false));
    if (!query.exec(QStringLiteral("SELECT payload, digest FROM instrument ORDER BY name")))
        return failed(QStringLiteral("The instruments cannot be read"), query);
    std::vector<block::Instrument> out;
    while (query.next()) { // one that is not what was written is entered anew, not measured with
        const std::string payload = query.value(0).toString().toStdString();
        if (auto instrument = block::read_instrument(payload);
            instrument && query.value(1).toString().toStdString() == block::sha256_hex(payload))
            out.push_back(std::move(*instrument));
    }
    return out;
}

BookResult<void> ShopBook::save_instrument(const block::Instrument& instrument) {
    const auto register_now = instruments();
    if (!register_now)
        return tl::unexpected(register_now.error());
    const auto known = std::ranges::find(*register_now, instrument.name, &block::Instrument::name);
    if (known == register_now->end() || !block::differ_by_use_alone(*known, instrument))
        if (auto allowed = may(block::ShopWork::instruments); !allowed)
            return allowed;
    QSqlDatabase db = QSqlDatabase::database(connection_, false);
    return write_instrument(db, text(instrument.name), block::instrument_json(instrument));
}

BookResult<void> ShopBook::remove_instrument(const QString& name) {
    if (auto allowed = may(block::ShopWork::instruments); !allowed)
        return allowed;
    QSqlQuery query(QSqlDatabase::database(connection_, false));
    query.prepare(QStringLiteral("DELETE FROM instrument WHERE name = ?"));
    query.addBindValue(name);
    if (!query.exec())
        return failed(QStringLiteral("The instrument cannot be removed"), query);
    return {};
}

BookResult<void> ShopBook::back_up(const QString& to_file) const {
    QSqlDatabase db = QSqlDatabase::database(connection_, false);
    return lock_ ? copy_book(db, known_.jobs, to_file) : copy_to_file(db, to_file);
}

BookResult<QStringList> ShopBook::copy_sound(const QString& from, const QString& to) {
    if (QFileInfo::exists(to))
        return refused(QStringLiteral("%1 exists already.").arg(to), QStringLiteral("Choose a new name."));
    if (is_at_server(from))
        return refused(QStringLiteral("%1 is kept by a server.").arg(from),
                       QStringLiteral("Copy it with “pallix-cli book copy FROM TO”, or ask who keeps the server to put "
                                      "its last backup in place."));
    const QString source_file = QFileInfo(from).canonicalFilePath();
    if (source_file.isEmpty())
        return refused(QStringLiteral("%1 is not there.").arg(from), QStringLiteral("Name the damaged book."));
    auto locked = lock(source_file, false);
    if (!locked)
        return tl::unexpected(locked.error());
    const QString connection = QStringLiteral("damaged-") + QUuid::createUuid().toString(QUuid::Id128);
    QSqlDatabase db = QSqlDatabase::addDatabase(QStringLiteral("QSQLITE"), connection);
    db.setDatabaseName(source_file);
    db.setConnectOptions(QStringLiteral("QSQLITE_OPEN_READONLY"));
    ShopBook damaged(source_file, connection, std::move(*locked));
    damaged.known_ = damaged.heads_.read();
    QStringList said;
    QSqlQuery jobs(db.open() ? db : QSqlDatabase());
    db = {}; // it is closed with the book
    if (!jobs.exec(QStringLiteral("SELECT id, title FROM job ORDER BY id")))
        return refused(QStringLiteral("Nothing of %1 can be read.").arg(from),
                       QStringLiteral("Put your last backup in its place."));
    auto sound = open(to);
    if (!sound)
        return tl::unexpected(sound.error());
    while (jobs.next()) {
        const QString title = jobs.value(1).toString();
        QSqlDatabase source = QSqlDatabase::database(connection, false);
        const auto read = read_job(source, damaged.known_.jobs, jobs.value(0).toLongLong());
        if (!read) {
            said << QStringLiteral("“%1”: nothing can be read (%2)").arg(title, read.error().what);
            continue;
        }
        if (!read->damage.isEmpty())
            said << QStringLiteral("%1 %2 of its entries were copied.").arg(read->damage).arg(read->sound.size());
        if (!read->sound.empty() && std::holds_alternative<block::JobOpened>(read->sound.front().payload))
            if (const auto made = (*sound)->create_job(read->sound); !made)
                return tl::unexpected(made.error());
    }
    if (const auto instruments = damaged.instruments())
        for (const block::Instrument& instrument : *instruments)
            if (const auto saved = (*sound)->save_instrument(instrument); !saved)
                return tl::unexpected(saved.error());
    if (const auto engines = (*sound)->engines().take_over(damaged.engines()); !engines)
        return tl::unexpected(engines.error());
    if (const auto people = (*sound)->people().take_over(damaged.people()); !people)
        return tl::unexpected(people.error());
    if (const auto usual = (*sound)->usual().take_over(damaged.usual()); !usual)
        return tl::unexpected(usual.error());
    if (const auto kept = (*sound)->instrument_histories().take_over(damaged.instrument_histories()); !kept)
        return tl::unexpected(kept.error());
    if (const auto pictures = (*sound)->pictures().take_over(damaged.pictures()); !pictures)
        return tl::unexpected(pictures.error());
    return said;
}

} // namespace pallix::storage
