// SPDX-License-Identifier: GPL-3.0-or-later
#include "storage/outbox.h"

#include "block/digest.h"
#include "block/instrument.h"
#include "storage/bench_copy.h"
#include "storage/book_follow.h"
#include "storage/book_rows.h"
#include "storage/sql.h"

#include <QVariant>
#include <algorithm>
#include <charconv>
#include <map>
#include <string_view>

namespace pallix::storage {
namespace {

const QString send_doing = QStringLiteral("What waits for the shop cannot be sent");

/// An entry that waits, with what is kept of it.
struct Row {
    qint64 number = 0, part = 0;
    JobId job = 0;
    std::string step;
    std::int64_t base = 0;
    block::Entry entry;
    std::string digest;
};

/// @param where what of them, with the one number that it asks for
BookResult<std::vector<Row>> rows_of(QSqlDatabase& copy, const QString& where = {}, qint64 number = 0) {
    QSqlQuery query(copy);
    query.setForwardOnly(true);
    query.prepare(
        QStringLiteral("SELECT number, part, job, step, base, sequence, time, person, kind, version, payload, "
                       "digest FROM outbox %1 ORDER BY number")
            .arg(where));
    if (!where.isEmpty())
        query.addBindValue(number);
    if (!query.exec())
        return failed(send_doing, query);
    std::vector<Row> all;
    while (query.next()) {
        const auto word = [&query](int column) { return query.value(column).toString().toStdString(); };
        const auto whole = [&query](int column) { return query.value(column).toLongLong(); };
        const std::string kind = word(8), json = word(10);
        auto payload = block::read_payload(kind, whole(9), json);
        all.push_back({whole(0),
                       whole(1),
                       whole(2),
                       word(3),
                       whole(4),
                       {whole(5), word(6), word(7),
                        payload ? std::move(*payload)
                                : block::Payload(block::UnknownPayload{kind, whole(9), json, payload.error()})},
                       word(11)});
    }
    if (query.lastError().isValid())
        return failed(send_doing, query);
    return all;
}

std::vector<Part> parts_from(std::vector<Row> rows) {
    std::vector<Part> all;
    for (Row& row : rows) {
        if (all.empty() || all.back().number != row.part)
            all.push_back({row.part, row.job, row.step, row.base, {}});
        all.back().entries.push_back(std::move(row.entry));
    }
    return all;
}

BookResult<void> send_with(QSqlDatabase& db, const QString& statement, const QVariantList& values) {
    return run_with(db, send_doing, statement, values).map([](int) {});
}

/// Does something with the number of another entry that a payload speaks of.
template <class Do>
void with_reference(block::Payload& payload, Do act) {
    if (auto* strike = std::get_if<block::Strike>(&payload)) {
        act(strike->sequence);
    } else if (auto* decided = std::get_if<block::FlawDecided>(&payload)) {
        act(decided->flaw);
    } else if (auto* lifted = std::get_if<block::HoldLifted>(&payload)) {
        act(lifted->hold);
    } else if (auto* picture = std::get_if<block::PictureKept>(&payload)) {
        constexpr std::string_view flaw = "flaw/";
        std::int64_t sequence = 0;
        if (!picture->about.starts_with(flaw) ||
            std::from_chars(picture->about.data() + flaw.size(), picture->about.data() + picture->about.size(),
                            sequence)
                    .ec != std::errc())
            return;
        act(sequence);
        picture->about = std::string(flaw) + std::to_string(sequence);
    }
}

/// A part is at the shop: it is remembered as this bench's own as long as something else of its job waits.
BookResult<void> put_away(QSqlDatabase& copy, qint64 part) {
    return send_with(copy,
                     QStringLiteral("INSERT INTO sent (job, first, last) SELECT job, min(sequence), max(sequence) FROM "
                                    "outbox WHERE part = ? GROUP BY job"),
                     {part})
        .and_then([&] { return send_with(copy, QStringLiteral("DELETE FROM outbox WHERE part = ?"), {part}); })
        .and_then([&] {
            return send_with(copy, QStringLiteral("DELETE FROM sent WHERE job NOT IN (SELECT job FROM outbox)"), {});
        });
}

/// What others have written to a job that was not known when a part was: all that this bench has not sent.
BookResult<std::vector<block::Entry>> of_others(QSqlDatabase& copy, const Part& part,
                                                const std::vector<block::Entry>& shop) {
    QSqlQuery query(copy);
    query.prepare(QStringLiteral("SELECT first, last FROM sent WHERE job = ?"));
    query.addBindValue(part.job);
    if (!query.exec())
        return failed(send_doing, query);
    std::vector<std::pair<qint64, qint64>> own;
    while (query.next())
        own.emplace_back(query.value(0).toLongLong(), query.value(1).toLongLong());
    std::vector<block::Entry> all;
    for (const block::Entry& entry : shop)
        if (entry.sequence > part.base && std::ranges::none_of(own, [&entry](const auto& range) {
                return entry.sequence >= range.first && entry.sequence <= range.second;
            }))
            all.push_back(entry);
    return all;
}

} // namespace

BookResult<void> stand_behind(QSqlDatabase& copy, JobId job, std::set<std::int64_t> gone) {
    auto rows = rows_of(copy, QStringLiteral("WHERE job = ?"), job);
    if (!rows)
        return tl::unexpected(rows.error());
    if (rows->empty())
        return {};
    std::set<qint64> dropped;
    for (Row& row : *rows) {
        with_reference(row.entry.payload, [&](std::int64_t& sequence) {
            if (gone.contains(sequence))
                dropped.insert(row.part);
        });
        if (dropped.contains(row.part))
            gone.insert(row.entry.sequence);
    }
    for (const qint64 part : dropped)
        if (auto done = send_with(copy, QStringLiteral("DELETE FROM outbox WHERE part = ?"), {part}); !done)
            return done;
    auto known = last_entry(copy, job, send_doing);
    if (!known)
        return tl::unexpected(known.error());
    Head last = std::move(*known);
    std::map<std::int64_t, std::int64_t> now; // by what it was
    for (Row& row : *rows) {
        if (dropped.contains(row.part))
            continue;
        with_reference(row.entry.payload, [&](std::int64_t& sequence) {
            const auto moved = now.find(sequence);
            if (moved == now.end())
                return;
            if (const std::string named = "flaw/" + std::to_string(sequence); row.step.ends_with(named))
                row.step.replace(row.step.size() - named.size(), named.size(), "flaw/" + std::to_string(moved->second));
            sequence = moved->second;
        });
        now[row.entry.sequence] = last.sequence + 1;
        const std::string kind = block::kind_of(row.entry.payload), payload = block::payload_json(row.entry.payload);
        last = {last.sequence + 1,
                block::digest_after(last.digest, {last.sequence + 1, row.entry.time, row.entry.person, kind,
                                                  block::version_of(row.entry.payload), payload})};
        if (last.digest == row.digest)
            continue;
        if (auto done = send_with(
                copy,
                QStringLiteral("UPDATE outbox SET step = ?, sequence = ?, payload = ?, digest = ? WHERE number = ?"),
                {text(row.step), last.sequence, text(payload), text(last.digest), row.number});
            !done)
            return done;
    }
    return {};
}

BookResult<std::vector<Part>> Outbox::parts() const {
    QSqlDatabase copy = QSqlDatabase::database(copy_, false);
    return rows_of(copy).map(parts_from);
}

qint64 Outbox::waiting(JobId job) const {
    QSqlQuery query(QSqlDatabase::database(copy_, false));
    query.prepare(QStringLiteral("SELECT count(*) FROM outbox WHERE job = ? OR ? = 0"));
    query.addBindValue(job);
    query.addBindValue(job);
    return query.exec() && query.next() ? query.value(0).toLongLong() : 0;
}

JobId Outbox::called(JobId job) const {
    QSqlQuery query(QSqlDatabase::database(copy_, false));
    query.prepare(QStringLiteral("SELECT job FROM called WHERE own = ?"));
    query.addBindValue(job);
    return job >= first_own_job && query.exec() && query.next() ? query.value(0).toLongLong() : job;
}

BookResult<bool> Outbox::is_at_shop(JobId job, std::int64_t sequence, const std::string& digest) const {
    QSqlDatabase server = QSqlDatabase::database(server_, false);
    return digest_of_entry(server, job, sequence).map([&digest](const std::string& there) { return there == digest; });
}

/// A job of this bench's own has its number from the shop: it is in the copy under that.
BookResult<void> Outbox::call_by(JobId own, JobId job) const {
    QSqlDatabase server = QSqlDatabase::database(server_, false), copy = QSqlDatabase::database(copy_, false);
    return in_one_transaction(copy, send_doing, [&] {
        return follow_job(server, copy, job)
            .and_then([&](qint64) {
                return send_with(copy, QStringLiteral("UPDATE outbox SET job = ? WHERE job = ?"), {job, own});
            })
            .and_then([&] {
                return send_with(copy, QStringLiteral("UPDATE stream SET job = ? WHERE job = ?"), {job, own});
            })
            .and_then([&] {
                return send_with(copy, QStringLiteral("INSERT INTO called (own, job) VALUES (?, ?)"), {own, job});
            })
            .and_then([&] { return send_with(copy, QStringLiteral("DELETE FROM outbox_job WHERE id = ?"), {own}); });
    });
}

/// The copy is as the shop is, a part that is there waits no more, the others stand behind.
BookResult<void> Outbox::settle(JobId job, std::optional<qint64> done) const {
    QSqlDatabase server = QSqlDatabase::database(server_, false), copy = QSqlDatabase::database(copy_, false);
    return in_one_transaction(copy, send_doing, [&] {
        return follow_job(server, copy, job)
            .and_then([&](qint64) { return done ? put_away(copy, *done) : BookResult<void>(); })
            .and_then([&] { return stand_behind(copy, job); });
    });
}

/// @return the number that the shop has given to a job of this bench's own; 0 where it does not have it
BookResult<JobId> Outbox::known_at_shop(JobId own) const {
    QSqlDatabase server = QSqlDatabase::database(server_, false), copy = QSqlDatabase::database(copy_, false);
    QSqlQuery query(copy), there(server);
    query.prepare(QStringLiteral("SELECT uuid FROM outbox_job WHERE id = ?"));
    query.addBindValue(own);
    if (!query.exec() || !query.next())
        return failed(send_doing, query);
    there.prepare(QStringLiteral("SELECT id FROM job WHERE uuid = ?"));
    there.addBindValue(query.value(0));
    query.finish();
    if (!there.exec())
        return failed(send_doing, there);
    return there.next() ? there.value(0).toLongLong() : 0;
}

BookResult<Outbox::Met> Outbox::meet(qint64 number) const {
    QSqlDatabase copy = QSqlDatabase::database(copy_, false);
    const auto rows = rows_of(copy, QStringLiteral("WHERE part = ?"), number);
    if (!rows)
        return tl::unexpected(rows.error());
    if (rows->empty())
        return Met{};
    const Part before = parts_from(*rows).front();
    JobId job = before.job;
    if (job >= first_own_job) {
        const auto known = known_at_shop(job);
        if (!known)
            return tl::unexpected(known.error());
        if (*known == 0)
            return Met{true, before, {}, {}};
        if (auto called = call_by(job, *known); !called)
            return tl::unexpected(called.error());
        job = *known;
    }
    const auto sent = is_at_shop(job, rows->back().entry.sequence, rows->back().digest);
    if (!sent)
        return tl::unexpected(sent.error());
    if (auto settled = settle(job, *sent ? std::optional(number) : std::nullopt); !settled)
        return tl::unexpected(settled.error());
    auto now = rows_of(copy, QStringLiteral("WHERE part = ?"), number);
    auto shop = whole_entries(copy, {}, job);
    if (!now || !shop)
        return tl::unexpected(now ? shop.error() : now.error());
    if (now->empty())
        return Met{false, Part{number, job, {}, 0, {}}, std::move(*shop), {}};
    Met met{true, parts_from(std::move(*now)).front(), std::move(*shop), {}};
    auto theirs = of_others(copy, met.part, met.shop);
    if (!theirs)
        return tl::unexpected(theirs.error());
    met.theirs = std::move(*theirs);
    return met;
}

/// Pictures that its entries show.
BookResult<void> Outbox::send_pictures(const Part& part) const {
    QSqlDatabase server = QSqlDatabase::database(server_, false), copy = QSqlDatabase::database(copy_, false);
    for (const block::Entry& entry : part.entries)
        if (const auto* picture = std::get_if<block::PictureKept>(&entry.payload))
            if (auto done = follow_picture(copy, server, text(picture->sha256)); !done)
                return done;
    return {};
}

/// @return the number that the shop gave to a job of this bench's own
BookResult<JobId> Outbox::made_at_shop(const Part& part) const {
    QSqlDatabase server = QSqlDatabase::database(server_, false), copy = QSqlDatabase::database(copy_, false);
    QSqlQuery own(copy);
    own.prepare(QStringLiteral("SELECT uuid, title, opened FROM outbox_job WHERE id = ?"));
    own.addBindValue(part.job);
    if (!own.exec() || !own.next())
        return failed(send_doing, own);
    JobId job = 0;
    const auto made = in_one_transaction(server, send_doing, [&]() -> BookResult<void> {
        QSqlQuery query(server);
        query.prepare(QStringLiteral("INSERT INTO job (uuid, title, opened) VALUES (?, ?, ?)"));
        for (int column = 0; column < 3; ++column)
            query.addBindValue(own.value(column));
        if (!query.exec())
            return failed(send_doing, query);
        job = query.lastInsertId().toLongLong();
        return insert_entries(server, job, {}, part.entries).map([](const Head&) {});
    });
    if (!made)
        return tl::unexpected(made.error());
    own.finish();
    return call_by(part.job, job).map([job] { return job; });
}

BookResult<void> Outbox::send(qint64 number) const {
    QSqlDatabase server = QSqlDatabase::database(server_, false), copy = QSqlDatabase::database(copy_, false);
    const auto rows = rows_of(copy, QStringLiteral("WHERE part = ?"), number);
    if (!rows)
        return tl::unexpected(rows.error());
    if (rows->empty())
        return refused(QStringLiteral("Nothing of that waits any more."), QStringLiteral("Look at the job again."));
    const Part part = parts_from(*rows).front();
    if (auto sent = send_pictures(part); !sent)
        return tl::unexpected(sent.error());
    auto job = part.job >= first_own_job
                   ? made_at_shop(part)
                   : append_entries(server, part.job, part.entries).map([&part](const Written&) { return part.job; });
    if (!job)
        return tl::unexpected(job.error());
    return settle(*job, number);
}

BookResult<void> Outbox::drop(qint64 number) const {
    QSqlDatabase copy = QSqlDatabase::database(copy_, false);
    return in_one_transaction(copy, send_doing, [&]() -> BookResult<void> {
        const auto rows = rows_of(copy, QStringLiteral("WHERE part = ?"), number);
        if (!rows)
            return tl::unexpected(rows.error());
        if (rows->empty())
            return {};
        std::set<std::int64_t> gone;
        for (const Row& row : *rows)
            gone.insert(row.entry.sequence);
        return send_with(copy, QStringLiteral("DELETE FROM outbox WHERE part = ?"), {number}).and_then([&] {
            return stand_behind(copy, rows->front().job, gone);
        });
    });
}

namespace {

/// The payload of an instrument; empty where there is none of that name.
std::string instrument_in(QSqlDatabase& db, const QString& name) {
    QSqlQuery query(db);
    query.prepare(QStringLiteral("SELECT payload FROM instrument WHERE name = ?"));
    query.addBindValue(name);
    return query.exec() && query.next() ? query.value(0).toString().toStdString() : std::string();
}

std::string zeroed_at(const std::string& payload) {
    const auto instrument = block::read_instrument(payload);
    return instrument ? instrument->zero_time : std::string();
}

BookResult<void> send_events(QSqlDatabase& server, QSqlDatabase& copy) {
    QSqlQuery events(copy);
    if (!events.exec(
            QStringLiteral("SELECT instrument, time, person, payload, digest FROM outbox_event ORDER BY number")))
        return failed(send_doing, events);
    while (events.next()) {
        QVariantList row;
        for (int column = 0; column < 5; ++column)
            row << events.value(column);
        QSqlQuery there(server); // it may have been sent, and nobody heard
        there.prepare(QStringLiteral("SELECT 1 FROM instrument_event WHERE instrument = ? AND digest = ?"));
        there.addBindValue(row[0]);
        there.addBindValue(row[4]);
        if (!there.exec())
            return failed(send_doing, there);
        if (there.next())
            continue;
        if (auto sent =
                send_with(server,
                          QStringLiteral("INSERT INTO instrument_event (instrument, time, person, payload, digest) "
                                         "VALUES (?, ?, ?, ?, ?)"),
                          row);
            !sent)
            return sent;
    }
    events.finish();
    return send_with(copy, QStringLiteral("DELETE FROM outbox_event"), {});
}

} // namespace

BookResult<void> Outbox::send_instruments() const {
    QSqlDatabase server = QSqlDatabase::database(server_, false), copy = QSqlDatabase::database(copy_, false);
    QSqlQuery waiting(copy);
    if (!waiting.exec(QStringLiteral("SELECT name, payload, digest FROM outbox_instrument ORDER BY name")))
        return failed(send_doing, waiting);
    while (waiting.next()) {
        const QString name = waiting.value(0).toString();
        const std::string mine = waiting.value(1).toString().toStdString(), theirs = instrument_in(server, name);
        if (theirs != instrument_in(copy, name) && zeroed_at(theirs) > zeroed_at(mine))
            continue;
        if (auto sent = write_instrument(server, name, mine); !sent)
            return sent;
    }
    waiting.finish();
    return send_with(copy, QStringLiteral("DELETE FROM outbox_instrument"), {}).and_then([&] {
        return send_events(server, copy);
    });
}

} // namespace pallix::storage
