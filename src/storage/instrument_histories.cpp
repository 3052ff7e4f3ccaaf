// SPDX-License-Identifier: GPL-3.0-or-later
#include "storage/instrument_histories.h"

#include "block/digest.h"
#include "metrology/uncertainty.h"
#include "storage/each_entry.h"
#include "storage/shop_book.h"
#include "storage/sql.h"

#include <QVariant>
#include <algorithm>

namespace pallix::storage {
namespace {

std::string digest_of_event(const std::string& time, const std::string& person, const std::string& payload) {
    return block::sha256_hex(time + "\n" + person + "\n" + payload);
}

/// What an entry of a job says of an instrument.
std::optional<block::InstrumentEvent> event_in(const block::Payload& payload) {
    using enum block::InstrumentHappening;
    block::InstrumentEvent event;
    if (const auto* check = std::get_if<block::RingCheck>(&payload)) {
        event.instrument = check->instrument;
        event.what = checked;
        event.size = check->size;
        event.reading = check->reading;
    } else if (const auto* test = std::get_if<block::RepeatabilityTest>(&payload)) {
        const auto found = metrology::repeatability(test->readings);
        event.instrument = test->instrument;
        event.what = repeated;
        event.spread = found.standard_deviation;
        event.count = static_cast<std::int64_t>(found.count);
        event.words = test->words;
    } else if (const auto* study = std::get_if<block::GaugeStudyBegun>(&payload)) {
        event.instrument = study->instrument;
        event.what = studied;
        event.words = study->plan;
    } else {
        return std::nullopt;
    }
    return event;
}

} // namespace

BookResult<void> InstrumentHistories::add(const block::InstrumentEvent& event) {
    if (const auto fault = block::fault_of(event))
        return refused(QStringLiteral("That cannot stand in an instrument's history: %1.").arg(text(*fault)),
                       QStringLiteral("Nothing was written."));
    const std::string payload = block::instrument_event_json(event);
    QSqlQuery query(QSqlDatabase::database(connection_, false));
    query.prepare(QStringLiteral(
        "INSERT INTO instrument_event (instrument, time, person, payload, digest) VALUES (?, ?, ?, ?, ?)"));
    query.addBindValue(text(event.instrument));
    query.addBindValue(text(event.time));
    query.addBindValue(text(event.person));
    query.addBindValue(text(payload));
    query.addBindValue(text(digest_of_event(event.time, event.person, payload)));
    if (!query.exec())
        return failed(QStringLiteral("The instrument's history cannot be written"), query);
    return {};
}

block::InstrumentHistory InstrumentHistories::read(const QString& where, const std::string& instrument) const {
    QSqlQuery query(QSqlDatabase::database(connection_, false));
    query.setForwardOnly(true);
    query.prepare(QStringLiteral("SELECT time, person, payload, digest FROM instrument_event ") + where +
                  QStringLiteral(" ORDER BY number"));
    if (!where.isEmpty())
        query.addBindValue(text(instrument));
    block::InstrumentHistory history;
    if (!query.exec())
        return history;
    while (query.next()) {
        const std::string time = query.value(0).toString().toStdString(),
                          person = query.value(1).toString().toStdString(),
                          payload = query.value(2).toString().toStdString();
        auto event = block::read_instrument_event(payload);
        if (!event || query.value(3).toString().toStdString() != digest_of_event(time, person, payload))
            continue;
        event->time = time;
        event->person = person;
        history.push_back(std::move(*event));
    }
    return history;
}

block::InstrumentHistory InstrumentHistories::of(const std::string& instrument) const {
    return read(QStringLiteral("WHERE instrument = ?"), instrument);
}

BookResult<void> InstrumentHistories::take_over(const InstrumentHistories& other) {
    for (const block::InstrumentEvent& event : other.read({}, {}))
        if (auto added = add(event); !added)
            return added;
    return {};
}

BookResult<block::InstrumentHistory> ShopBook::instrument_history(const std::string& instrument) const {
    block::InstrumentHistory history = instrument_histories().of(instrument);
    QSqlQuery query(QSqlDatabase::database(connection_, false));
    query.prepare(QStringLiteral(
        "SELECT DISTINCT job FROM entry WHERE kind IN ('ring_check', 'repeatability_test', "
        "'gauge_study') AND json_valid(payload) AND json_extract(payload, '$.instrument') = ? AND "
        "NOT EXISTS (SELECT 1 FROM entry AS begun WHERE begun.job = entry.job AND begun.kind = 'practice')"));
    query.addBindValue(text(instrument));
    if (!query.exec())
        return failed(QStringLiteral("The instrument's history cannot be read"), query);
    for_each_entry(*this, query, [&](JobId job, const block::Entry& entry, bool struck) {
        auto event = event_in(entry.payload);
        if (!event || event->instrument != instrument)
            return;
        event->time = entry.time;
        event->person = entry.person;
        event->job = job;
        event->sequence = entry.sequence;
        event->struck = struck;
        history.push_back(std::move(*event));
    });
    std::ranges::stable_sort(history, {}, &block::InstrumentEvent::time);
    return history;
}

} // namespace pallix::storage
