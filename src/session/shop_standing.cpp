// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/shop_standing.h"

#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>
#include <QStringList>
#include <cmath>
#include <map>
#include <tuple>

namespace pallix::session {
namespace {

using planning::JobHours;
using planning::JobStanding;

QString said(const std::string& text) {
    return QString::fromStdString(text);
}
std::string text_in(const QJsonObject& json, const char* key) {
    return json[QLatin1String(key)].toString().toStdString();
}
template <class Enum>
Enum enum_in(const QJsonObject& json, const char* key, std::size_t count) {
    return static_cast<Enum>(qBound(0, json[QLatin1String(key)].toInt(), static_cast<int>(count) - 1));
}

template <class Key, class Number>
QJsonArray numbers_by(const std::map<Key, Number>& minutes) {
    QJsonArray all;
    for (const auto& [key, value] : minutes)
        all << static_cast<int>(key) << value;
    return all;
}
std::map<block::Stage, double> minutes_in(const QJsonArray& all) {
    std::map<block::Stage, double> minutes;
    for (qsizetype i = 0; i + 1 < all.size(); i += 2)
        minutes[static_cast<block::Stage>(all[i].toInt())] = all[i + 1].toDouble();
    return minutes;
}

QJsonObject practised_json(const std::optional<planning::Practised>& p) {
    if (!p)
        return {};
    QJsonObject json{{QStringLiteral("exercise"), said(p->exercise)},
                     {QStringLiteral("number"), static_cast<qint64>(p->number)},
                     {QStringLiteral("level"), static_cast<qint64>(p->level)},
                     {QStringLiteral("person"), said(p->person)},
                     {QStringLiteral("day"), said(p->day)}};
    if (p->score)
        json[QStringLiteral("score")] = *p->score;
    return json;
}
std::optional<planning::Practised> practised_in(const QJsonObject& json) {
    if (json.isEmpty())
        return std::nullopt;
    planning::Practised p{text_in(json, "exercise"),
                          json[QStringLiteral("number")].toInteger(1),
                          json[QStringLiteral("level")].toInteger(1),
                          std::nullopt,
                          text_in(json, "person"),
                          text_in(json, "day")};
    if (const QJsonValue score = json[QStringLiteral("score")]; score.isDouble())
        p.score = score.toDouble();
    return p;
}

QJsonObject standing_json(const JobStanding& s) {
    QJsonArray clocks;
    for (const planning::RunningClock& clock : s.clocks)
        clocks << said(clock.what) << said(clock.until);
    return {{QStringLiteral("waits"), static_cast<int>(s.waits)},
            {QStringLiteral("step"), said(s.step)},
            {QStringLiteral("machine"), static_cast<int>(s.machine)},
            {QStringLiteral("fixture"), said(s.fixture)},
            {QStringLiteral("part"), said(s.part)},
            {QStringLiteral("due"), said(s.due)},
            {QStringLiteral("person"), said(s.person)},
            {QStringLiteral("clocks"), clocks},
            {QStringLiteral("promised"), said(s.promised)},
            {QStringLiteral("delivered"), said(s.delivered)},
            {QStringLiteral("left"), numbers_by(s.left)},
            {QStringLiteral("open"), numbers_by(s.open)},
            {QStringLiteral("spent"), s.spent},
            {QStringLiteral("last_machine"), static_cast<int>(s.last_machine)},
            {QStringLiteral("last_time"), said(s.last_time)},
            {QStringLiteral("practised"), practised_json(s.practised)},
            {QStringLiteral("words"), said(s.words)}};
}

JobStanding standing_in(const QJsonObject& json) {
    JobStanding s;
    s.waits = enum_in<planning::WaitsFor>(json, "waits", planning::waits_for_keys.size());
    s.step = text_in(json, "step");
    s.machine = enum_in<planning::Machine>(json, "machine", planning::machine_keys.size());
    s.fixture = text_in(json, "fixture");
    s.part = text_in(json, "part");
    s.due = text_in(json, "due");
    s.person = text_in(json, "person");
    const QJsonArray clocks = json[QStringLiteral("clocks")].toArray();
    for (qsizetype i = 0; i + 1 < clocks.size(); i += 2)
        s.clocks.push_back({clocks[i].toString().toStdString(), clocks[i + 1].toString().toStdString()});
    s.promised = text_in(json, "promised");
    s.delivered = text_in(json, "delivered");
    s.left = minutes_in(json[QStringLiteral("left")].toArray());
    const QJsonArray open = json[QStringLiteral("open")].toArray();
    for (qsizetype i = 0; i + 1 < open.size(); i += 2)
        s.open[static_cast<planning::Work>(open[i].toInt())] = open[i + 1].toInt();
    s.spent = json[QStringLiteral("spent")].toDouble();
    s.last_machine = enum_in<planning::Machine>(json, "last_machine", planning::machine_keys.size());
    s.last_time = text_in(json, "last_time");
    s.practised = practised_in(json[QStringLiteral("practised")].toObject());
    s.words = text_in(json, "words");
    return s;
}

QJsonObject hours_json(const JobHours& hours) {
    QJsonArray works;
    for (const planning::WorkDone& done : hours.done)
        works << static_cast<int>(done.work) << said(done.person) << done.times << done.minutes;
    return {{QStringLiteral("minutes"), numbers_by(hours.minutes)}, {QStringLiteral("works"), works}};
}

JobHours hours_in(const QJsonObject& json, const QString& engine, bool delivered) {
    JobHours hours{engine.toStdString(), delivered, minutes_in(json[QStringLiteral("minutes")].toArray()), {}};
    const QJsonArray works = json[QStringLiteral("works")].toArray();
    for (qsizetype i = 0; i + 3 < works.size(); i += 4)
        hours.done.push_back({static_cast<planning::Work>(works[i].toInt()), works[i + 1].toString().toStdString(),
                              works[i + 2].toInt(), works[i + 3].toDouble()});
    return hours;
}

QJsonArray traits_json(const planning::BlockTraits& traits) {
    QJsonArray all;
    for (const auto& [what, value] : traits)
        all << static_cast<int>(what.trait) << said(what.about) << value;
    return all;
}
planning::BlockTraits traits_in(const QJsonArray& all) {
    planning::BlockTraits traits;
    for (qsizetype i = 0; i + 2 < all.size(); i += 3) {
        const int trait = qBound(0, all[i].toInt(), static_cast<int>(planning::trait_keys.size()) - 1);
        traits[{static_cast<planning::Trait>(trait), all[i + 1].toString().toStdString()}] = all[i + 2].toDouble();
    }
    return traits;
}

} // namespace

/// A line for each kind, gauge and person: three words apart by tabs, then how far off each was; − where it did not
/// hold.
QString forecasts_text(const std::vector<planning::ForecastCame>& all) {
    std::map<std::tuple<block::ForecastKind, std::string, std::string>, QStringList> lines;
    for (const planning::ForecastCame& came : all)
        lines[{came.kind, came.by.gauge, came.by.person}] << QStringLiteral("%1%2").arg(
            came.held ? QString() : QStringLiteral("-"), QString::number(came.miss, 'g', 4));
    QStringList text;
    for (const auto& [key, misses] : lines) {
        const auto& [kind, gauge, person] = key;
        text << QStringLiteral("%1\t%2\t%3\t%4")
                    .arg(QString::number(static_cast<int>(kind)), said(gauge).simplified(), said(person).simplified(),
                         misses.join(QLatin1Char(' ')));
    }
    return text.join(QLatin1Char('\n'));
}

std::vector<planning::ForecastCame> forecasts_in(const QString& text) {
    std::vector<planning::ForecastCame> all;
    for (const QString& line : text.split(QLatin1Char('\n'), Qt::SkipEmptyParts)) {
        const QStringList parts = line.split(QLatin1Char('\t'));
        const int kind = parts.value(0).toInt();
        if (parts.size() != 4 || kind < 0 || kind >= static_cast<int>(block::forecast_keys.size()))
            continue;
        for (const QString& miss : parts[3].split(QLatin1Char(' '), Qt::SkipEmptyParts))
            all.push_back({static_cast<block::ForecastKind>(kind),
                           {parts[1].toStdString(), parts[2].toStdString()},
                           std::abs(miss.toDouble()),
                           !miss.startsWith(QLatin1Char('-'))});
    }
    return all;
}

QString remembered(const ShopModel::Row& row) {
    QJsonArray marks;
    for (const auto& stage : row.stages)
        marks.append(static_cast<int>(stage.mark));
    const QJsonObject json{{QStringLiteral("customer"), row.customer},
                           {QStringLiteral("engine"), row.engine},
                           {QStringLiteral("waits"), QJsonArray{row.waits[0], row.waits[1]}},
                           {QStringLiteral("marks"), marks},
                           {QStringLiteral("standing"), standing_json(row.standing)},
                           {QStringLiteral("hours"), hours_json(row.hours)},
                           {QStringLiteral("traits"), traits_json(row.traits)},
                           {QStringLiteral("forecasts"), row.forecasts}};
    return QString::fromUtf8(QJsonDocument(json).toJson(QJsonDocument::Compact));
}

ShopModel::Row recalled(const storage::JobRow& job) {
    const QJsonObject json = QJsonDocument::fromJson(job.standing.toUtf8()).object();
    const QJsonArray waits = json[QStringLiteral("waits")].toArray();
    ShopModel::Row row;
    row.id = job.id;
    row.title = job.title;
    row.customer = json[QStringLiteral("customer")].toString();
    row.engine = json[QStringLiteral("engine")].toString();
    row.opened = job.opened;
    row.waits = {waits[0].toString(), waits[1].toString()};
    const QJsonArray marks = json[QStringLiteral("marks")].toArray();
    for (qsizetype i = 0; i < marks.size(); ++i)
        row.stages.push_back({static_cast<planning::Stage>(i), static_cast<planning::StageMark>(marks[i].toInt())});
    row.standing = standing_in(json[QStringLiteral("standing")].toObject());
    row.hours = hours_in(json[QStringLiteral("hours")].toObject(), row.engine,
                         row.standing.waits == planning::WaitsFor::delivered);
    row.traits = traits_in(json[QStringLiteral("traits")].toArray());
    row.forecasts = json[QStringLiteral("forecasts")].toString();
    return row;
}

} // namespace pallix::session
