// SPDX-License-Identifier: GPL-3.0-or-later
#include "storage/each_entry.h"
#include "storage/shop_book.h"
#include "storage/sql.h"

#include <QVariant>

namespace pallix::storage {

BookResult<std::vector<ShopBook::Clock>> ShopBook::clocks(const std::string& after) const {
    QSqlQuery query(QSqlDatabase::database(connection_, false));
    query.prepare(QStringLiteral(
        "SELECT DISTINCT job.id, job.title FROM entry JOIN job ON job.id = entry.job WHERE entry.kind IN ('clock', "
        "'rest') AND json_extract(entry.payload, '$.until') > ? AND job.id NOT IN (SELECT job FROM set_aside) AND "
        "NOT EXISTS (SELECT 1 FROM entry AS begun WHERE begun.job = job.id AND begun.kind = 'practice')"));
    query.addBindValue(text(after));
    if (!query.exec())
        return failed(QStringLiteral("The clocks cannot be read"), query);
    std::vector<Clock> out;
    for_each_entry(*this, query, [&](JobId job, const block::Entry& entry, bool struck) {
        if (struck)
            return;
        if (const auto* clock = std::get_if<block::ClockSet>(&entry.payload); clock && clock->until > after)
            out.push_back({job, query.value(1).toString(), clock->what, clock->until});
        else if (const auto* rest = std::get_if<block::RestBegun>(&entry.payload); rest && rest->until > after)
            out.push_back({job, query.value(1).toString(), "rest", rest->until});
    });
    return out;
}

BookResult<std::vector<ShopBook::Practised>> ShopBook::exercises() const {
    QSqlQuery query(QSqlDatabase::database(connection_, false));
    if (!query.exec(QStringLiteral("SELECT job, json_extract(payload, '$.exercise'), json_extract(payload, "
                                   "'$.number'), json_extract(payload, '$.level') FROM entry WHERE kind = 'practice' "
                                   "AND json_valid(payload) ORDER BY job")))
        return failed(QStringLiteral("The exercises cannot be read"), query);
    std::vector<Practised> out;
    while (query.next())
        out.push_back({query.value(0).toLongLong(), query.value(1).toString().toStdString(),
                       query.value(2).toLongLong(), query.value(3).toLongLong()});
    return out;
}

BookResult<std::vector<ShopBook::Serial>> ShopBook::serials() const {
    QSqlQuery query(QSqlDatabase::database(connection_, false));
    if (!query.exec(QStringLiteral("SELECT job, json_extract(payload, '$.serial') FROM entry WHERE kind = 'serial' AND "
                                   "json_valid(payload) ORDER BY job, sequence")))
        return failed(QStringLiteral("The serials cannot be read"), query);
    std::vector<Serial> out;
    while (query.next())
        out.push_back({query.value(0).toLongLong(), query.value(1).toString().toStdString()});
    return out;
}

} // namespace pallix::storage
