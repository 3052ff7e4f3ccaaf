// SPDX-License-Identifier: GPL-3.0-or-later
#include "storage/usual_ways.h"

#include "block/ledger.h"
#include "storage/sql.h"

#include <QVariant>

namespace pallix::storage {
namespace {

const QString usual_doing = QStringLiteral("What is usual in the shop cannot be kept");

QSqlQuery usual_query(const QString& connection) {
    return QSqlQuery(QSqlDatabase::database(connection, false));
}

BookResult<void> keep_or_drop(const QString& connection, const char* keep, const char* drop, const QVariant& key,
                              const std::optional<QVariant>& value) {
    QSqlQuery query = usual_query(connection);
    query.prepare(QString::fromLatin1(value ? keep : drop));
    query.addBindValue(key);
    if (value)
        query.addBindValue(*value);
    if (!query.exec())
        return failed(usual_doing, query);
    return {};
}

} // namespace

std::optional<block::RouteChosen> UsualWays::route(const QString& engine) const {
    QSqlQuery query = usual_query(connection_);
    query.prepare(QStringLiteral("SELECT payload FROM usual_route WHERE engine IN (?, '') ORDER BY engine DESC"));
    query.addBindValue(engine.isNull() ? QStringLiteral("") : engine);
    if (!query.exec() || !query.next())
        return std::nullopt;
    auto read = block::read_payload(block::entry_kind<block::RouteChosen>, 1, query.value(0).toString().toStdString());
    auto* route = read ? std::get_if<block::RouteChosen>(&*read) : nullptr;
    return route ? std::optional(std::move(*route)) : std::nullopt;
}

BookResult<void> UsualWays::keep_route(const QString& engine, const std::optional<block::RouteChosen>& route) {
    if (auto allowed = may_(block::ShopWork::usual_ways); !allowed)
        return allowed;
    return keep_or_drop(connection_,
                        "INSERT INTO usual_route (engine, payload) VALUES (?, ?) ON CONFLICT (engine) DO UPDATE SET "
                        "payload = excluded.payload",
                        "DELETE FROM usual_route WHERE engine = ?", engine.isNull() ? QStringLiteral("") : engine,
                        route ? std::optional(QVariant(text(block::payload_json(*route)))) : std::nullopt);
}

std::map<std::string, double> UsualWays::minutes() const {
    QSqlQuery query = usual_query(connection_);
    std::map<std::string, double> all;
    if (query.exec(QStringLiteral("SELECT work, minutes FROM usual_minutes")))
        while (query.next())
            all[query.value(0).toString().toStdString()] = query.value(1).toDouble();
    return all;
}

BookResult<void> UsualWays::keep_minutes(const std::string& work, std::optional<double> minutes) {
    if (minutes && !(*minutes > 0 && *minutes <= longest_usual))
        return refused(QStringLiteral("%1 minutes is no time for a piece of work.").arg(*minutes),
                       QStringLiteral("More than nothing, and at most a week."));
    if (auto allowed = may_(block::ShopWork::usual_ways); !allowed)
        return allowed;
    return keep_or_drop(connection_,
                        "INSERT INTO usual_minutes (work, minutes) VALUES (?, ?) ON CONFLICT (work) DO UPDATE SET "
                        "minutes = excluded.minutes",
                        "DELETE FROM usual_minutes WHERE work = ?", text(work),
                        minutes ? std::optional(QVariant(*minutes)) : std::nullopt);
}

std::optional<block::ShopPapers> UsualWays::papers() const {
    QSqlQuery query = usual_query(connection_);
    if (!query.exec(QStringLiteral("SELECT payload FROM usual_papers")) || !query.next())
        return std::nullopt;
    auto read = block::read_shop_papers(query.value(0).toString().toStdString(), "shop book");
    return read ? std::optional(std::move(*read)) : std::nullopt;
}

BookResult<void> UsualWays::keep_papers(const block::ShopPapers& papers) {
    if (const auto fault = block::fault_of(papers))
        return refused(
            QStringLiteral("The shop's papers cannot be like that: %1: %2.").arg(text(fault->file), text(fault->what)),
            QStringLiteral("Expected: %1.").arg(text(fault->expected)));
    if (auto allowed = may_(block::ShopWork::usual_ways); !allowed)
        return allowed;
    return keep_or_drop(connection_,
                        "INSERT INTO usual_papers (id, payload) VALUES (?, ?) ON CONFLICT (id) DO UPDATE SET payload = "
                        "excluded.payload",
                        "", 1, QVariant(text(block::shop_papers_text(papers))));
}

BookResult<void> UsualWays::take_over(const UsualWays& other) {
    QSqlQuery from = usual_query(other.connection_);
    if (from.exec(QStringLiteral("SELECT engine FROM usual_route")))
        while (from.next())
            if (auto done = keep_route(from.value(0).toString(), other.route(from.value(0).toString())); !done)
                return done;
    for (const auto& [work, minutes] : other.minutes())
        if (auto done = keep_minutes(work, minutes); !done)
            return done;
    if (const auto papers = other.papers())
        return keep_papers(*papers);
    return {};
}

} // namespace pallix::storage
