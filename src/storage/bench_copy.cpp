// SPDX-License-Identifier: GPL-3.0-or-later
#include "storage/bench_copy.h"

#include "block/digest.h"
#include "storage/book_follow.h"
#include "storage/book_rows.h"
#include "storage/book_schema.h"
#include "storage/book_server.h"
#include "storage/outbox.h"
#include "storage/shop_book.h"
#include "storage/sql.h"

#include <QDateTime>
#include <QDir>
#include <QFile>
#include <QUuid>
#include <QVariant>
#include <algorithm>
#include <string_view>

namespace pallix::storage {
namespace {

const QString book_ending = QStringLiteral(".shopbook");
const QString copy_opens = QStringLiteral("This bench's copy of the shop book cannot be opened");

/// What a bench keeps beside the copy; it is no part of a shop book.
const QStringList outbox_tables{
    QStringLiteral("CREATE TABLE IF NOT EXISTS copy_of (book TEXT NOT NULL)"),
    QStringLiteral(
        "CREATE TABLE IF NOT EXISTS outbox_job (id INTEGER PRIMARY KEY, uuid TEXT NOT NULL UNIQUE, title TEXT "
        "NOT NULL, opened TEXT NOT NULL)"),
    QStringLiteral(
        "CREATE TABLE IF NOT EXISTS outbox (number INTEGER PRIMARY KEY, part INTEGER, step TEXT, base INTEGER, "
        "job INTEGER NOT NULL, sequence INTEGER NOT NULL, time TEXT NOT NULL, person TEXT NOT NULL, kind TEXT "
        "NOT NULL, version INTEGER NOT NULL, payload TEXT NOT NULL, digest TEXT NOT NULL)"),
    QStringLiteral(
        "CREATE TABLE IF NOT EXISTS outbox_instrument (name TEXT PRIMARY KEY, payload TEXT NOT NULL, digest TEXT "
        "NOT NULL)"),
    QStringLiteral(
        "CREATE TABLE IF NOT EXISTS outbox_event (number INTEGER PRIMARY KEY, instrument TEXT NOT NULL, time "
        "TEXT NOT NULL, person TEXT NOT NULL, payload TEXT NOT NULL, digest TEXT NOT NULL)"),
    QStringLiteral(
        "CREATE TABLE IF NOT EXISTS sent (job INTEGER NOT NULL, first INTEGER NOT NULL, last INTEGER NOT NULL)"),
    QStringLiteral("CREATE TABLE IF NOT EXISTS called (own INTEGER PRIMARY KEY, job INTEGER NOT NULL)"),
    QStringLiteral("CREATE INDEX IF NOT EXISTS outbox_of_job ON outbox (job, sequence)")};

/// The tables of jobs as one sees them who stands alone; what is written into them waits for the shop.
QStringList views() {
    const QString entry = QStringLiteral("job, sequence, time, person, kind, version, payload, digest");
    return {
        QStringLiteral("PRAGMA foreign_keys = OFF"), // a job of one's own is in none of the copy's tables
        QStringLiteral("CREATE TEMP VIEW job AS SELECT id, uuid, title, opened FROM main.job UNION ALL SELECT id, "
                       "uuid, title, opened FROM main.outbox_job"),
        QStringLiteral("CREATE TEMP TRIGGER job_waits INSTEAD OF INSERT ON job BEGIN INSERT INTO outbox_job (id, uuid, "
                       "title, opened) VALUES ((SELECT max(n) + 1 FROM (SELECT %1 - 1 AS n UNION ALL SELECT id FROM "
                       "outbox_job UNION ALL SELECT own FROM called)), NEW.uuid, NEW.title, NEW.opened); END")
            .arg(first_own_job),
        QStringLiteral("CREATE TEMP VIEW entry AS SELECT %1 FROM main.entry UNION ALL SELECT %1 FROM main.outbox")
            .arg(entry),
        QStringLiteral(
            "CREATE TEMP TRIGGER entry_waits INSTEAD OF INSERT ON entry BEGIN INSERT INTO outbox (%1) VALUES "
            "(NEW.job, NEW.sequence, NEW.time, NEW.person, NEW.kind, NEW.version, NEW.payload, "
            "NEW.digest); END")
            .arg(entry)};
}

/// Instruments likewise: a gauge is zeroed wherever somebody measures.
QStringList views_of_instruments() {
    const QString event = QStringLiteral("instrument, time, person, payload, digest");
    return {
        QStringLiteral("CREATE TEMP VIEW instrument AS SELECT name, payload, digest FROM main.instrument WHERE name "
                       "NOT IN (SELECT name FROM main.outbox_instrument) UNION ALL SELECT name, payload, digest FROM "
                       "main.outbox_instrument"),
        QStringLiteral("CREATE TEMP TRIGGER instrument_waits INSTEAD OF INSERT ON instrument BEGIN INSERT OR REPLACE "
                       "INTO outbox_instrument (name, payload, digest) VALUES (NEW.name, NEW.payload, NEW.digest); "
                       "END"),
        QStringLiteral("CREATE TEMP TRIGGER instrument_goes_at_shop INSTEAD OF DELETE ON instrument BEGIN SELECT "
                       "RAISE(ABORT, '%1'); END")
            .arg(QLatin1String(only_at_the_shop)),
        QStringLiteral("CREATE TEMP VIEW instrument_event AS SELECT number, %1 FROM main.instrument_event UNION ALL "
                       "SELECT number + %2, %1 FROM main.outbox_event")
            .arg(event)
            .arg(first_own_job),
        QStringLiteral("CREATE TEMP TRIGGER event_waits INSTEAD OF INSERT ON instrument_event BEGIN INSERT INTO "
                       "outbox_event (%1) VALUES (NEW.instrument, NEW.time, NEW.person, NEW.payload, NEW.digest); END")
            .arg(event)};
}

/// What is not of a job is changed at the shop or not at all. Pictures go with the entries that show them.
QStringList refusals() {
    QStringList all;
    for (const BookTable& table : book_tables) {
        const std::string_view name = table.name;
        if (table.kind == BookTable::Kind::job || table.kind == BookTable::Kind::cache || name == "stream" ||
            name == "picture" || name == "instrument" || name == "instrument_event")
            continue;
        for (const char* event : {"INSERT", "UPDATE", "DELETE"})
            all << QStringLiteral("CREATE TEMP TRIGGER %1_%2_at_shop BEFORE %2 ON main.%1 BEGIN SELECT RAISE(ABORT, "
                                  "'%3'); END")
                       .arg(QLatin1String(table.name), QLatin1String(event), QLatin1String(only_at_the_shop));
    }
    return all;
}

QString name_of(const QString& folder, const QString& address) {
    constexpr std::size_t enough = 16;
    return QDir(folder).filePath(text(block::sha256_hex(address.toStdString()).substr(0, enough)) + book_ending);
}

/// A file of a book with all that stands beside it gets another name.
/// @return that name
QString put_aside(const QString& file, const QString& why) {
    const QString name = file.chopped(book_ending.size()) + QLatin1Char('.') + why +
                         QDateTime::currentDateTimeUtc().toString(QStringLiteral("-yyyyMMdd-hhmmss-zzz")) + book_ending;
    for (const char* beside : {"", "-wal", "-shm", ".heads"})
        QFile::rename(file + QLatin1String(beside), name + QLatin1String(beside));
    return name;
}

/// @param remark what the person should know of it
BookResult<std::unique_ptr<ShopBook>> sound_book(const QString& file, QString& remark) {
    auto keeper = ShopBook::open(file);
    const bool damaged = keeper ? !(*keeper)->damage().empty() : keeper.error().offer == WayOut::copy_sound;
    if (!damaged)
        return keeper;
    keeper = refused(copy_opens, {}); // closed, before its file is moved
    remark =
        QStringLiteral("This bench's copy of the shop book was damaged, and is made anew from the server's. What was "
                       "entered here and was not yet at the shop would be in %1.")
            .arg(put_aside(file, QStringLiteral("damaged")));
    return ShopBook::open(file);
}

BookResult<QString> id_of(QSqlDatabase& db) {
    QSqlQuery query(db);
    if (!query.exec(QStringLiteral("SELECT id FROM book")) || !query.next())
        return failed(copy_opens, query);
    return query.value(0).toString();
}

/// Titles of the jobs of which a server has not all any more that a copy has from it.
BookResult<QStringList> lost_since(QSqlDatabase& server, QSqlDatabase& copy) {
    const auto all_there = places(copy);
    if (!all_there)
        return tl::unexpected(all_there.error());
    const auto there = last_entries(server), here = last_entries(copy);
    if (!there || !here)
        return tl::unexpected((there ? here : there).error());
    QStringList lost;
    for (const Place& job : *all_there) {
        const auto ours = here->find(job.id), theirs = there->find(job.id);
        if (ours == here->end())
            continue;
        if (theirs != there->end() && theirs->second == ours->second)
            continue;
        const auto same = digest_of_entry(server, job.id, ours->second.sequence);
        if (!same)
            return tl::unexpected(same.error());
        if (*same != ours->second.digest)
            lost << job.title;
    }
    return lost;
}

/// "“Tern” and 3 more"
QString words_of(const QStringList& titles) {
    const QString first = QStringLiteral("“%1”").arg(titles.front());
    return titles.size() == 1 ? first : QStringLiteral("%1 and %2 more").arg(first).arg(titles.size() - 1);
}

QString own_name(const char* what) {
    return QLatin1String(what) + QUuid::createUuid().toString(QUuid::Id128);
}

} // namespace

BookResult<void> stand_alone(QSqlDatabase& db) {
    return run_all(db, copy_opens, views() + views_of_instruments() + refusals());
}

bool stands_alone(const QSqlDatabase& db) {
    if (dialect_of(db) != Dialect::sqlite)
        return false;
    QSqlQuery query(db);
    return query.exec(QStringLiteral("SELECT 1 FROM sqlite_temp_master WHERE name = 'entry_waits'")) && query.next();
}

BookResult<void> close_part(QSqlDatabase& db, const std::string& step) {
    QSqlQuery query(db);
    query.prepare(QStringLiteral("UPDATE outbox SET part = (SELECT coalesce(max(part), 0) + 1 FROM outbox), step = ?, "
                                 "base = (SELECT coalesce(max(sequence), 0) FROM main.entry WHERE main.entry.job = "
                                 "outbox.job) WHERE part IS NULL"));
    query.addBindValue(text(step));
    if (!query.exec())
        return failed(QStringLiteral("The entry cannot be written"), query);
    return {};
}

BenchCopy::BenchCopy(QString file, std::unique_ptr<ShopBook> keeper)
    : file_(std::move(file)), keeper_(std::move(keeper)) {}

BenchCopy::~BenchCopy() {
    close();
}

void BenchCopy::close() {
    for (const QString* connection : {&plain_, &alone_})
        QSqlDatabase::removeDatabase(*connection);
    keeper_.reset();
}

BookResult<std::unique_ptr<BenchCopy>> BenchCopy::open(const QString& folder, const QString& address) {
    if (const QDir dir(folder); !dir.exists())
        QDir().mkdir(dir.path(), QFile::ReadOwner | QFile::WriteOwner | QFile::ExeOwner);
    QString remark;
    auto keeper = sound_book(name_of(folder, address), remark);
    if (!keeper)
        return tl::unexpected(keeper.error());
    const QString file = (*keeper)->file();
    std::unique_ptr<BenchCopy> copy(new BenchCopy(file, std::move(*keeper)));
    copy->remark_ = remark;
    if (auto done = copy->set_up(); !done)
        return tl::unexpected(done.error());
    return copy;
}

BookResult<void> BenchCopy::set_up() {
    plain_ = own_name("copy-");
    alone_ = own_name("alone-");
    QSqlDatabase plain = connection_to(file_, plain_), alone = connection_to(file_, alone_);
    return open_durably(plain, file_, copy_opens)
        .and_then([&] { return run_all(plain, copy_opens, outbox_tables); })
        .and_then([&] { return open_durably(alone, file_, copy_opens); })
        .and_then([&] { return stand_alone(alone); });
}

bool BenchCopy::is_of_a_book() const {
    const auto book = known_book();
    return book && !book->isEmpty();
}

BookResult<void> BenchCopy::meet(QSqlDatabase& server) {
    const auto there = id_of(server), here = known_book();
    if (!there || !here)
        return tl::unexpected((there ? here : there).error());
    QSqlDatabase plain = QSqlDatabase::database(plain_, false);
    if (here->isEmpty())
        return run_with(plain, copy_opens, QStringLiteral("INSERT INTO copy_of (book) VALUES (?)"), {*there})
            .map([](int) {});
    if (*here != *there)
        return begin_anew(
            server, "of-another-book",
            QStringLiteral("The server keeps another shop book than before. What was entered here for that "
                           "one and was not yet at the shop is in "),
            QStringLiteral("."));
    const auto lost = lost_since(server, plain);
    if (!lost)
        return tl::unexpected(lost.error());
    if (lost->isEmpty())
        return {};
    if (auto taken = take_in_what_waits(); !taken)
        return taken;
    return begin_anew(
        server, "set-back",
        QStringLiteral("The book at the shop lacks entries that it had before, of %1: has its server been "
                       "set back to a backup? What this bench had, with what it had not sent yet, is in ")
            .arg(words_of(*lost)),
        QStringLiteral("; Job → Take another shop book in… brings it back."));
}

/// The id of the book that this is a copy of; empty before it was at the shop.
BookResult<QString> BenchCopy::known_book() const {
    QSqlQuery query(QSqlDatabase::database(plain_, false));
    if (!query.exec(QStringLiteral("SELECT book FROM copy_of")))
        return failed(copy_opens, query);
    return query.next() ? query.value(0).toString() : QString();
}

/// What waits stands where it would have gone, so that whoever opens the file as a book has it.
BookResult<void> BenchCopy::take_in_what_waits() {
    QSqlDatabase plain = QSqlDatabase::database(plain_, false);
    const QString entry = QStringLiteral("job, sequence, time, person, kind, version, payload, digest");
    return in_one_transaction(plain, copy_opens, [&] {
        return run_all(plain, copy_opens,
                       {QStringLiteral("INSERT INTO job (id, uuid, title, opened) SELECT id, uuid, title, opened FROM "
                                       "outbox_job"),
                        QStringLiteral("INSERT INTO entry (%1) SELECT %1 FROM outbox ORDER BY number").arg(entry),
                        QStringLiteral("DELETE FROM outbox"), QStringLiteral("DELETE FROM outbox_job")});
    });
}

/// @param before what is said before the name of the file that it stands in from here on
BookResult<void> BenchCopy::begin_anew(QSqlDatabase& server, const char* why, const QString& before,
                                       const QString& after) {
    close();
    remark_ = before + put_aside(file_, QLatin1String(why)) + after;
    auto keeper = ShopBook::open(file_);
    if (!keeper)
        return tl::unexpected(keeper.error());
    keeper_ = std::move(*keeper);
    return set_up().and_then([&] { return meet(server); });
}

BookResult<void> BenchCopy::hold(JobId job, const QString& uuid, const std::vector<block::Entry>& entries) {
    if (entries.empty() || job >= first_own_job)
        return {};
    QSqlDatabase db = QSqlDatabase::database(plain_, false);
    return in_one_transaction(db, copy_opens, [&]() -> BookResult<void> {
        QSqlQuery query(db);
        if (const auto* opened = std::get_if<block::JobOpened>(&entries.front().payload); opened && !uuid.isEmpty()) {
            query.prepare(
                QStringLiteral("INSERT INTO job (id, uuid, title, opened) VALUES (?, ?, ?, ?) ON CONFLICT DO NOTHING"));
            query.addBindValue(job);
            query.addBindValue(uuid);
            query.addBindValue(text(opened->title));
            query.addBindValue(text(entries.front().time));
            if (!query.exec())
                return failed(copy_opens, query);
        }
        query.finish();
        const auto last = last_entry(db, job, copy_opens);
        if (!last)
            return tl::unexpected(last.error());
        const auto missing = std::min(static_cast<std::size_t>(last->sequence), entries.size());
        return insert_entries(db, job, *last, {entries.begin() + static_cast<std::ptrdiff_t>(missing), entries.end()})
            .and_then([&](const Head&) { return stand_behind(db, job); });
    });
}

CopyFollower::CopyFollower(QString address, QString copy)
    : address_(std::move(address)), copy_(std::move(copy)), at_server_(own_name("followed-")),
      at_copy_(own_name("follows-")) {}

CopyFollower::~CopyFollower() {
    for (const QString* connection : {&at_server_, &at_copy_})
        QSqlDatabase::removeDatabase(*connection);
}

/// @param work takes the server's connection and the copy's
template <class Work>
BookResult<void> CopyFollower::connected(Work work) {
    constexpr int patience = 60000; // ms: nobody sits before it
    for (const QString* connection : {&at_server_, &at_copy_})
        if (!QSqlDatabase::contains(*connection))
            static_cast<void>(connection_to(connection == &at_server_ ? address_ : copy_, *connection));
    QSqlDatabase server = QSqlDatabase::database(at_server_, false), copy = QSqlDatabase::database(at_copy_, false);
    BookResult<void> done;
    if (!server.isOpen())
        done = open_durably(server, address_, copy_opens);
    if (done && !copy.isOpen()) // what is lost of it comes again from the server: the disk is not waited for
        done = open_durably(copy, copy_, copy_opens, patience).and_then([&] {
            return run(copy, copy_opens, QStringLiteral("PRAGMA synchronous = NORMAL"));
        });
    if (done)
        done = work(server, copy);
    if (!done) { // the line may be gone, or the copy have been begun anew
        server.close();
        copy.close();
    }
    return done;
}

namespace {

bool something_waits(QSqlDatabase& copy, JobId job) {
    QSqlQuery query(copy);
    query.prepare(QStringLiteral("SELECT 1 FROM outbox WHERE job = ?"));
    query.addBindValue(job);
    return !query.exec() || query.next();
}

} // namespace

BookResult<void> CopyFollower::follow_all() {
    return connected([](QSqlDatabase& server, QSqlDatabase& copy) {
        return storage::follow_all(server, copy, [&copy](JobId job) { return something_waits(copy, job); });
    });
}

BookResult<void> CopyFollower::follow_job(JobId job) {
    return connected([job](QSqlDatabase& server, QSqlDatabase& copy) {
        return in_one_transaction(copy, copy_opens, [&]() -> BookResult<void> {
            return something_waits(copy, job) ? BookResult<void>()
                                              : storage::follow_job(server, copy, job).map([](qint64) {});
        });
    });
}

BookResult<void> CopyFollower::follow_table(const QString& name) {
    return connected(
        [&name](QSqlDatabase& server, QSqlDatabase& copy) { return storage::follow_table(server, copy, name); });
}

} // namespace pallix::storage
