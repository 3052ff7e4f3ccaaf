// SPDX-License-Identifier: GPL-3.0-or-later
#include "storage/engine_shelf.h"

#include "block/digest.h"
#include "block/ledger.h"
#include "storage/sql.h"

#include <QVariant>

namespace pallix::storage {
namespace {

const QString cannot_read = QStringLiteral("The engines cannot be read");
const QString cannot_write = QStringLiteral("The engine cannot be written");

/// Of all that a revision is, so that none can be put in another's place.
std::string seal_of(const QString& name, int revision, const QString& time, const QString& person,
                    const std::string& payload) {
    return block::sha256_hex(name.toStdString() + "\n" + std::to_string(revision) + "\n" + time.toStdString() + "\n" +
                             person.toStdString() + "\n" + payload);
}

bool is_sealed(const QSqlQuery& row) { // name, revision, time, person, payload, digest
    return row.value(5).toString().toStdString() == seal_of(row.value(0).toString(), row.value(1).toInt(),
                                                            row.value(2).toString(), row.value(3).toString(),
                                                            row.value(4).toString().toStdString());
}

} // namespace

BookResult<std::vector<ShelfRow>> EngineShelf::rows() const {
    QSqlQuery query(QSqlDatabase::database(connection_, false));
    query.setForwardOnly(true);
    // Every job's first entry names the engine it was opened from.
    if (!query.exec(QStringLiteral(
            "SELECT engine.name, engine.revision, engine.time, engine.person, engine.payload, engine.digest, "
            "engine_retired.name, (SELECT count(*) FROM entry WHERE entry.sequence = 1 AND "
            "json_extract(entry.payload, '$.engine') = engine.name) FROM engine LEFT JOIN engine_retired ON "
            "engine_retired.name = engine.name ORDER BY engine.name, engine.revision DESC")))
        return failed(cannot_read, query);
    std::vector<ShelfRow> out;
    while (query.next())
        if (const QString name = query.value(0).toString();
            (out.empty() || out.back().name != name) && is_sealed(query))
            out.push_back({name, query.value(1).toInt(), query.value(2).toString(), query.value(3).toString(),
                           !query.value(6).isNull(), query.value(7).toInt()});
    return out;
}

BookResult<block::Engine> EngineShelf::engine(const QString& name, int revision) const {
    QSqlQuery query(QSqlDatabase::database(connection_, false));
    query.prepare(QStringLiteral("SELECT name, revision, time, person, payload, digest FROM engine WHERE name = ? AND "
                                 "(? = 0 OR revision = ?) ORDER BY revision DESC"));
    query.addBindValue(name);
    query.addBindValue(revision);
    query.addBindValue(revision);
    if (!query.exec())
        return failed(cannot_read, query);
    while (query.next()) {
        if (!is_sealed(query))
            continue;
        auto read = block::engine_from(query.value(4).toString().toStdString(), name.toStdString());
        if (!read)
            return refused(QStringLiteral("The engine %1 cannot be read: %2")
                               .arg(name, QString::fromStdString(read.error().front().text())),
                           QStringLiteral("Open it with the version of Pallix that wrote it."));
        return *read;
    }
    return refused(QStringLiteral("The engine %1 is not what was written, or not there.").arg(name),
                   QStringLiteral("Draw it anew, or put your last backup in the book's place."));
}

BookResult<std::vector<EngineUse>> EngineShelf::uses(const QString& name) const {
    QSqlQuery query(QSqlDatabase::database(connection_, false));
    query.setForwardOnly(true);
    query.prepare(QStringLiteral(
        "SELECT job.title, json_extract(entry.payload, '$.revision') FROM entry JOIN job ON job.id = entry.job WHERE "
        "entry.sequence = 1 AND json_extract(entry.payload, '$.engine') = ? ORDER BY job.opened DESC"));
    query.addBindValue(name);
    if (!query.exec())
        return failed(cannot_read, query);
    std::vector<EngineUse> out;
    while (query.next())
        out.push_back({query.value(0).toString(), query.value(1).toInt()});
    return out;
}

BookResult<int> EngineShelf::keep(const block::Engine& engine, const QString& time, const QString& person) {
    if (auto allowed = may_(block::ShopWork::engines); !allowed)
        return tl::unexpected(allowed.error());
    const QString name = text(engine.name()).trimmed();
    if (name.isEmpty())
        return refused(QStringLiteral("The engine has no name."),
                       QStringLiteral("Give it the one the shop calls it by."));
    const std::string payload = block::write_engine(engine);
    QSqlDatabase db = QSqlDatabase::database(connection_, false);
    int revision = 0;
    const auto done = in_one_transaction(db, cannot_write, [&]() -> BookResult<void> {
        if (auto alone = one_after_the_other(db, cannot_write, QStringLiteral("engine ") + name); !alone)
            return alone;
        QSqlQuery query(db);
        query.prepare(QStringLiteral("SELECT coalesce(max(revision), 0) + 1 FROM engine WHERE name = ?"));
        query.addBindValue(name);
        if (!query.exec() || !query.next())
            return failed(cannot_write, query);
        revision = query.value(0).toInt();
        query.prepare(QStringLiteral(
            "INSERT INTO engine (name, revision, time, person, payload, digest) VALUES (?, ?, ?, ?, ?, ?)"));
        for (const QVariant& value :
             {QVariant(name), QVariant(revision), QVariant(time), QVariant(person), QVariant(text(payload)),
              QVariant(text(seal_of(name, revision, time, person, payload)))})
            query.addBindValue(value);
        if (!query.exec())
            return failed(cannot_write, query);
        query.prepare(QStringLiteral("DELETE FROM engine_retired WHERE name = ?"));
        query.addBindValue(name);
        if (!query.exec())
            return failed(cannot_write, query);
        return {};
    });
    if (!done)
        return tl::unexpected(done.error());
    return revision;
}

BookResult<void> EngineShelf::retire(const QString& name, bool retired) {
    if (auto allowed = may_(block::ShopWork::engines); !allowed)
        return allowed;
    QSqlQuery query(QSqlDatabase::database(connection_, false));
    query.prepare(retired ? QStringLiteral("INSERT INTO engine_retired (name) VALUES (?) ON CONFLICT DO NOTHING")
                          : QStringLiteral("DELETE FROM engine_retired WHERE name = ?"));
    query.addBindValue(name);
    if (!query.exec())
        return failed(cannot_write, query);
    return {};
}

BookResult<void> EngineShelf::take_over_engines(const EngineShelf& other, const QStringList& names) {
    QSqlQuery from(QSqlDatabase::database(other.connection_, false));
    from.setForwardOnly(true);
    if (!from.exec(
            QStringLiteral("SELECT name, revision, time, person, payload, digest FROM engine ORDER BY name, revision")))
        return {}; // a book of before there were engines
    QSqlDatabase db = QSqlDatabase::database(connection_, false);
    const auto copied = in_one_transaction(db, cannot_write, [&]() -> BookResult<void> {
        QSqlQuery into(db);
        into.prepare(QStringLiteral(
            "INSERT INTO engine (name, revision, time, person, payload, digest) VALUES (?, ?, ?, ?, ?, ?)"));
        while (from.next()) {
            if (!is_sealed(from) || !names.contains(from.value(0).toString()))
                continue;
            for (int column = 0; column < 6; ++column)
                into.addBindValue(from.value(column));
            if (!into.exec())
                return failed(cannot_write, into);
        }
        return {};
    });
    if (!copied)
        return copied;
    if (const auto rows = other.rows())
        for (const ShelfRow& row : *rows)
            if (row.retired && names.contains(row.name))
                if (auto done = retire(row.name, true); !done)
                    return done;
    return {};
}

BookResult<void> EngineShelf::take_over(const EngineShelf& other) {
    QStringList names;
    if (const auto rows = other.rows())
        for (const ShelfRow& row : *rows)
            names << row.name;
    if (auto done = take_over_engines(other, names); !done)
        return done;
    if (const auto limits = other.limits(); limits && *limits)
        if (auto done = keep_limits(**limits); !done)
            return done;
    if (const auto mappings = other.mappings())
        for (const auto& [name, mapping] : *mappings)
            if (auto done = keep_mapping(name, mapping); !done)
                return done;
    return {};
}

BookResult<std::vector<std::pair<QString, std::string>>> EngineShelf::mappings() const {
    QSqlQuery query(QSqlDatabase::database(connection_, false));
    if (!query.exec(QStringLiteral("SELECT name, payload, digest FROM log_mapping ORDER BY name")))
        return failed(QStringLiteral("How logs are read cannot be read"), query);
    std::vector<std::pair<QString, std::string>> out;
    while (query.next()) { // one that is not what was written is made anew
        std::string payload = query.value(1).toString().toStdString();
        if (query.value(2).toString().toStdString() == block::sha256_hex(payload))
            out.emplace_back(query.value(0).toString(), std::move(payload));
    }
    return out;
}

BookResult<void> EngineShelf::keep_mapping(const QString& name, const std::string& mapping) {
    if (auto allowed = may_(block::ShopWork::log_forms); !allowed)
        return allowed;
    QSqlQuery query(QSqlDatabase::database(connection_, false));
    query.prepare(QStringLiteral("INSERT INTO log_mapping (name, payload, digest) VALUES (?, ?, ?) ON CONFLICT (name) "
                                 "DO UPDATE SET payload = excluded.payload, digest = excluded.digest"));
    query.addBindValue(name);
    query.addBindValue(text(mapping));
    query.addBindValue(text(block::sha256_hex(mapping)));
    if (!query.exec())
        return failed(QStringLiteral("How the log is read cannot be written"), query);
    return {};
}

namespace {

/// Of all that is kept of them.
std::string sealed_text(const QString& time, const QString& person, const std::string& payload) {
    return block::sha256_hex(time.toStdString() + "\n" + person.toStdString() + "\n" + payload);
}

} // namespace

BookResult<std::optional<ShopLimits>> EngineShelf::limits() const {
    QSqlQuery query(QSqlDatabase::database(connection_, false));
    if (!query.exec(
            QStringLiteral("SELECT time, person, payload, digest FROM shop_limits ORDER BY number DESC LIMIT 1")))
        return failed(QStringLiteral("The limits of the shop cannot be read"), query);
    if (!query.next())
        return std::optional<ShopLimits>();
    const QString time = query.value(0).toString(), person = query.value(1).toString();
    const std::string payload = query.value(2).toString().toStdString();
    const auto read = block::read_payload(block::entry_kind<block::LimitsChosen>, 1, payload);
    if (!read || query.value(3).toString().toStdString() != sealed_text(time, person, payload))
        return std::optional<ShopLimits>();
    return std::optional(ShopLimits{std::get<block::LimitsChosen>(*read), time, person});
}

BookResult<void> EngineShelf::keep_limits(const ShopLimits& limits) {
    if (auto allowed = may_(block::ShopWork::limits); !allowed)
        return allowed;
    QSqlQuery query(QSqlDatabase::database(connection_, false));
    query.prepare(QStringLiteral("INSERT INTO shop_limits (time, person, payload, digest) VALUES (?, ?, ?, ?)"));
    const std::string payload = block::payload_json(limits.limits);
    query.addBindValue(limits.time);
    query.addBindValue(limits.person);
    query.addBindValue(text(payload));
    query.addBindValue(text(sealed_text(limits.time, limits.person, payload)));
    if (!query.exec())
        return failed(QStringLiteral("The limits of the shop cannot be written"), query);
    return {};
}

} // namespace pallix::storage
