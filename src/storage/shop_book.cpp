// SPDX-License-Identifier: GPL-3.0-or-later
#include "storage/shop_book.h"

#include <QFile>
#include <QFileInfo>
#include <QSqlDatabase>
#include <QSqlError>
#include <QSqlQuery>
#include <QUuid>
#include <QVariant>
#include <array>

namespace pallix::storage {
namespace {

/// Each step brings the schema from its index to the next; the book's user_version says how far it is.
/// Plain SQL, so that another database can carry it one day.
const std::array<QStringList, 3> migrations{{
    {QStringLiteral("CREATE TABLE job (id INTEGER PRIMARY KEY, uuid TEXT NOT NULL UNIQUE, title TEXT NOT NULL, opened "
                    "TEXT NOT NULL)"),
     QStringLiteral(
         "CREATE TABLE entry (job INTEGER NOT NULL REFERENCES job(id), sequence INTEGER NOT NULL, time TEXT NOT NULL, "
         "person TEXT NOT NULL, kind TEXT NOT NULL, version INTEGER NOT NULL, payload TEXT NOT NULL, "
         "PRIMARY KEY (job, sequence))"),
     QStringLiteral(
         "CREATE TRIGGER entry_stays BEFORE UPDATE ON entry BEGIN SELECT RAISE(ABORT, 'an entry never changes'); END"),
     QStringLiteral("CREATE TRIGGER entry_is_kept BEFORE DELETE ON entry BEGIN SELECT RAISE(ABORT, 'an entry is never "
                    "deleted'); END")},
    {QStringLiteral("CREATE TABLE standing (job INTEGER PRIMARY KEY REFERENCES job(id), entries INTEGER NOT NULL, "
                    "reader TEXT NOT NULL, "
                    "standing TEXT NOT NULL)")},
    {QStringLiteral("CREATE TABLE instrument (name TEXT PRIMARY KEY, payload TEXT NOT NULL)"),
     QStringLiteral("CREATE TABLE stream (job INTEGER NOT NULL REFERENCES job(id), number INTEGER NOT NULL, line TEXT "
                    "NOT NULL, PRIMARY KEY (job, number))")},
}};

constexpr int schema_version = static_cast<int>(migrations.size());

/// SQLite takes a null QString for NULL.
QString text(const std::string& s) {
    return s.empty() ? QStringLiteral("") : QString::fromStdString(s);
}

BookFault sql_fault(const QString& doing, const QSqlError& error) {
    return {QStringLiteral("%1: %2").arg(doing, error.text().trimmed()),
            QStringLiteral(
                "Nothing was taken in. See that the disk has room and the file may be written, then try again.")};
}

tl::unexpected<BookFault> failed(const QString& doing, const QSqlQuery& query) {
    return tl::unexpected(sql_fault(doing, query.lastError()));
}

BookResult<void> run(QSqlDatabase& db, const QString& statement) {
    QSqlQuery query(db);
    if (!query.exec(statement))
        return failed(QStringLiteral("The shop book cannot be set up"), query);
    return {};
}

BookResult<int> version_of(QSqlDatabase& db) {
    QSqlQuery query(db);
    if (!query.exec(QStringLiteral("PRAGMA user_version")) || !query.next())
        return failed(QStringLiteral("The shop book cannot be read"), query);
    return query.value(0).toInt();
}

BookResult<void> check_integrity(QSqlDatabase& db, const QString& file) {
    QSqlQuery query(db);
    const BookFault broken{
        QStringLiteral("The shop book %1 is damaged or is no shop book.").arg(file),
        QStringLiteral("It was left as it is. Open your last backup with --book, or a copy of this file.")};
    if (!query.exec(QStringLiteral("PRAGMA quick_check(1)")) || !query.next() ||
        query.value(0).toString() != QStringLiteral("ok"))
        return tl::unexpected(broken);
    return {};
}

BookResult<void> migrate(QSqlDatabase& db, const QString& file) {
    const auto version = version_of(db);
    if (!version)
        return tl::unexpected(version.error());
    if (*version > schema_version)
        return tl::unexpected(
            BookFault{QStringLiteral("The shop book %1 was written by a newer Pallix (schema %2, this one knows %3).")
                          .arg(file)
                          .arg(*version)
                          .arg(schema_version),
                      QStringLiteral("Open it with the newer version; this one leaves it untouched.")});
    for (int step = *version; step < schema_version; ++step) {
        db.transaction();
        QStringList statements = migrations[static_cast<std::size_t>(step)];
        statements << QStringLiteral("PRAGMA user_version = %1").arg(step + 1);
        for (const QString& statement : statements)
            if (auto done = run(db, statement); !done) {
                db.rollback();
                return done;
            }
        if (!db.commit()) {
            const BookFault fault = sql_fault(QStringLiteral("The shop book cannot be set up"), db.lastError());
            db.rollback();
            return tl::unexpected(fault);
        }
    }
    return {};
}

} // namespace

ShopBook::ShopBook(QString file, QString connection, std::unique_ptr<QLockFile> lock)
    : file_(std::move(file)), connection_(std::move(connection)), lock_(std::move(lock)) {}

ShopBook::~ShopBook() {
    QSqlDatabase::database(connection_, false).close();
    QSqlDatabase::removeDatabase(connection_);
}

BookResult<std::unique_ptr<ShopBook>> ShopBook::open(const QString& file) {
    auto lock = std::make_unique<QLockFile>(file + QStringLiteral(".lock"));
    lock->setStaleLockTime(0); // only a process that is gone loses its lock
    if (!lock->tryLock(0)) {
        if (lock->error() == QLockFile::LockFailedError)
            return tl::unexpected(
                BookFault{QStringLiteral("The shop book %1 is open in another window.").arg(file),
                          QStringLiteral("Go on there, or close it first. --book FILE opens another book.")});
        return tl::unexpected(BookFault{QStringLiteral("The shop book %1 cannot be written.").arg(file),
                                        QStringLiteral("Choose a folder that may be written with --book FILE.")});
    }
    const QString connection = QStringLiteral("shop-book-") + QUuid::createUuid().toString(QUuid::Id128);
    QSqlDatabase db = QSqlDatabase::addDatabase(QStringLiteral("QSQLITE"), connection);
    db.setDatabaseName(file);
    std::unique_ptr<ShopBook> book(new ShopBook(file, connection, std::move(lock)));
    if (!db.open())
        return tl::unexpected(sql_fault(QStringLiteral("The shop book %1 cannot be opened").arg(file), db.lastError()));
    if (auto sound = check_integrity(db, file); !sound)
        return tl::unexpected(sound.error());
    for (const char* pragma : {"PRAGMA journal_mode = WAL", "PRAGMA synchronous = FULL", "PRAGMA foreign_keys = ON"})
        if (auto done = run(db, QString::fromLatin1(pragma)); !done)
            return tl::unexpected(done.error());
    if (auto done = migrate(db, file); !done)
        return tl::unexpected(done.error());
    return book;
}

BookResult<void> ShopBook::insert(JobId job, const std::vector<block::Entry>& entries) {
    QSqlQuery query(QSqlDatabase::database(connection_, false));
    query.prepare(QStringLiteral(
        "INSERT INTO entry (job, sequence, time, person, kind, version, payload) VALUES (?, ?, ?, ?, ?, ?, ?)"));
    for (const block::Entry& entry : entries) {
        query.addBindValue(job);
        query.addBindValue(static_cast<qint64>(entry.sequence));
        query.addBindValue(text(entry.time));
        query.addBindValue(text(entry.person));
        query.addBindValue(text(block::kind_of(entry.payload)));
        query.addBindValue(static_cast<qint64>(block::version_of(entry.payload)));
        query.addBindValue(text(block::payload_json(entry.payload)));
        if (!query.exec())
            return failed(QStringLiteral("The entry cannot be written"), query);
    }
    return {};
}

BookResult<JobId> ShopBook::create_job(const std::vector<block::Entry>& entries) {
    const auto* opened = entries.empty() ? nullptr : std::get_if<block::JobOpened>(&entries.front().payload);
    if (!opened)
        throw std::logic_error("a job starts with a JobOpened entry");
    QSqlDatabase db = QSqlDatabase::database(connection_, false);
    if (!db.transaction())
        return tl::unexpected(sql_fault(QStringLiteral("The job cannot be written"), db.lastError()));
    QSqlQuery query(db);
    query.prepare(QStringLiteral("INSERT INTO job (uuid, title, opened) VALUES (?, ?, ?)"));
    query.addBindValue(QUuid::createUuid().toString(QUuid::WithoutBraces));
    query.addBindValue(text(opened->title));
    query.addBindValue(text(entries.front().time));
    if (!query.exec()) {
        const auto fault = failed(QStringLiteral("The job cannot be written"), query);
        db.rollback();
        return fault;
    }
    const JobId job = query.lastInsertId().toLongLong();
    if (auto done = insert(job, entries); !done) {
        db.rollback();
        return tl::unexpected(done.error());
    }
    if (!db.commit()) {
        const BookFault fault = sql_fault(QStringLiteral("The job cannot be written"), db.lastError());
        db.rollback(); // else everything after it would wait in the same transaction, and nothing be on the disk
        return tl::unexpected(fault);
    }
    return job;
}

BookResult<void> ShopBook::append(JobId job, const std::vector<block::Entry>& entries) {
    QSqlDatabase db = QSqlDatabase::database(connection_, false);
    if (!db.transaction())
        return tl::unexpected(sql_fault(QStringLiteral("The entry cannot be written"), db.lastError()));
    if (auto done = insert(job, entries); !done) {
        db.rollback();
        return done;
    }
    if (!db.commit()) {
        const BookFault fault = sql_fault(QStringLiteral("The entry cannot be written"), db.lastError());
        db.rollback();
        return tl::unexpected(fault);
    }
    return {};
}

BookResult<std::vector<block::Entry>> ShopBook::entries(JobId job) const {
    QSqlQuery query(QSqlDatabase::database(connection_, false));
    query.setForwardOnly(true);
    query.prepare(QStringLiteral(
        "SELECT sequence, time, person, kind, version, payload FROM entry WHERE job = ? ORDER BY sequence"));
    query.addBindValue(job);
    if (!query.exec())
        return failed(QStringLiteral("The job cannot be read"), query);
    std::vector<block::Entry> out;
    while (query.next()) {
        const std::string kind = query.value(3).toString().toStdString();
        const std::string json = query.value(5).toString().toStdString();
        const qint64 version = query.value(4).toLongLong();
        auto payload = block::read_payload(kind, version, json);
        // A payload that cannot be read is kept and shown, never dropped.
        out.push_back({query.value(0).toLongLong(), query.value(1).toString().toStdString(),
                       query.value(2).toString().toStdString(),
                       payload ? std::move(*payload) : block::UnknownPayload{kind, version, json, payload.error()}});
    }
    return out;
}

qint64 ShopBook::size_of(JobId job) const {
    QSqlQuery query(QSqlDatabase::database(connection_, false));
    query.prepare(QStringLiteral("SELECT SUM(LENGTH(payload)) FROM entry WHERE job = ?"));
    query.addBindValue(job);
    return query.exec() && query.next() ? query.value(0).toLongLong() : 0;
}

BookResult<std::vector<JobRow>> ShopBook::jobs(const QString& reader) const {
    QSqlQuery query(QSqlDatabase::database(connection_, false));
    query.setForwardOnly(true);
    // Sequences run from 1 without gaps, so the largest is the number of entries.
    query.prepare(QStringLiteral(
        "SELECT job.id, job.title, job.opened, (SELECT max(sequence) FROM entry WHERE entry.job = job.id) AS last, "
        "standing.entries, standing.standing FROM job LEFT JOIN standing ON standing.job = job.id AND standing.reader "
        "= ? "
        "ORDER BY job.opened DESC, job.id DESC"));
    query.addBindValue(reader.isNull() ? QStringLiteral("") : reader);
    if (!query.exec())
        return failed(QStringLiteral("The jobs cannot be read"), query);
    std::vector<JobRow> out;
    while (query.next()) {
        const qint64 last = query.value(3).toLongLong();
        const bool fresh = !query.value(4).isNull() && query.value(4).toLongLong() == last;
        out.push_back({query.value(0).toLongLong(), query.value(1).toString(), query.value(2).toString(), last,
                       fresh ? query.value(5).toString() : QString()});
    }
    return out;
}

void ShopBook::remember_standing(JobId job, qint64 entries, const QString& reader, const QString& standing) {
    QSqlQuery query(QSqlDatabase::database(connection_, false));
    query.prepare(
        QStringLiteral("INSERT OR REPLACE INTO standing (job, entries, reader, standing) VALUES (?, ?, ?, ?)"));
    query.addBindValue(job);
    query.addBindValue(entries);
    query.addBindValue(reader);
    query.addBindValue(standing);
    query.exec();
}

BookResult<std::vector<block::Instrument>> ShopBook::instruments() const {
    QSqlQuery query(QSqlDatabase::database(connection_, false));
    if (!query.exec(QStringLiteral("SELECT payload FROM instrument ORDER BY name")))
        return failed(QStringLiteral("The instruments cannot be read"), query);
    std::vector<block::Instrument> out;
    while (query.next())
        if (auto instrument = block::read_instrument(query.value(0).toString().toStdString()))
            out.push_back(std::move(*instrument));
    return out;
}

BookResult<void> ShopBook::save_instrument(const block::Instrument& instrument) {
    QSqlQuery query(QSqlDatabase::database(connection_, false));
    query.prepare(QStringLiteral("INSERT OR REPLACE INTO instrument (name, payload) VALUES (?, ?)"));
    query.addBindValue(text(instrument.name));
    query.addBindValue(text(block::instrument_json(instrument)));
    if (!query.exec())
        return failed(QStringLiteral("The instrument cannot be written"), query);
    return {};
}

BookResult<void> ShopBook::remove_instrument(const QString& name) {
    QSqlQuery query(QSqlDatabase::database(connection_, false));
    query.prepare(QStringLiteral("DELETE FROM instrument WHERE name = ?"));
    query.addBindValue(name);
    if (!query.exec())
        return failed(QStringLiteral("The instrument cannot be removed"), query);
    return {};
}

BookResult<void> ShopBook::append_stream(JobId job, const QStringList& lines) {
    QSqlDatabase db = QSqlDatabase::database(connection_, false);
    db.transaction();
    QSqlQuery query(db);
    query.prepare(
        QStringLiteral("INSERT INTO stream (job, number, line) VALUES (?, (SELECT coalesce(max(number), 0) + 1 "
                       "FROM stream WHERE job = ?), ?)"));
    for (const QString& line : lines) {
        query.addBindValue(job);
        query.addBindValue(job);
        query.addBindValue(line);
        if (!query.exec()) {
            const auto fault = failed(QStringLiteral("The touch cannot be written"), query);
            db.rollback();
            return fault;
        }
    }
    if (!db.commit()) {
        const BookFault fault = sql_fault(QStringLiteral("The touch cannot be written"), db.lastError());
        db.rollback();
        return tl::unexpected(fault);
    }
    return {};
}

BookResult<QStringList> ShopBook::stream(JobId job) const {
    QSqlQuery query(QSqlDatabase::database(connection_, false));
    query.setForwardOnly(true);
    query.prepare(QStringLiteral("SELECT line FROM stream WHERE job = ? ORDER BY number"));
    query.addBindValue(job);
    if (!query.exec())
        return failed(QStringLiteral("The touches cannot be read"), query);
    QStringList lines;
    while (query.next())
        lines << query.value(0).toString();
    return lines;
}

BookResult<void> ShopBook::clear_stream(JobId job) {
    QSqlQuery query(QSqlDatabase::database(connection_, false));
    query.prepare(QStringLiteral("DELETE FROM stream WHERE job = ?"));
    query.addBindValue(job);
    if (!query.exec())
        return failed(QStringLiteral("The touches cannot be put away"), query);
    return {};
}

BookResult<void> ShopBook::back_up(const QString& to_file) const {
    if (QFileInfo::exists(to_file))
        return tl::unexpected(
            BookFault{QStringLiteral("%1 exists already.").arg(to_file), QStringLiteral("Choose a new name.")});
    QSqlQuery query(QSqlDatabase::database(connection_, false));
    query.prepare(QStringLiteral("VACUUM INTO ?"));
    query.addBindValue(to_file);
    if (!query.exec())
        return failed(QStringLiteral("The backup cannot be written"), query);
    return {};
}

} // namespace pallix::storage
