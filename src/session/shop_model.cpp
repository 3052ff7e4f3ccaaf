// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/shop_model.h"

#include "block/job_state.h"
#include "planning/assessment.h"
#include "wording/sentences.h"

#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>
#include <algorithm>

namespace pallix::session {

ShopModel::ShopModel(storage::ShopBook& book, const Preferences& preferences, QObject* parent)
    : QAbstractListModel(parent), book_(book), preferences_(preferences) {
    connect(&preferences, &Preferences::unit_changed, this, &ShopModel::reload);
}

namespace {

/// Who remembers standings: another version, or another unit, works them out anew.
QString reader_name(const Preferences& preferences) {
    const auto unit = block::unit_name(preferences.unit());
    return QStringLiteral("shop list %1 %2")
        .arg(QStringLiteral(PALLIX_VERSION), QLatin1String(unit.data(), static_cast<int>(unit.size())));
}

QString remembered(const ShopModel::Row& row) {
    QJsonArray marks;
    for (const auto& stage : row.stages)
        marks.append(static_cast<int>(stage.mark));
    const QJsonObject json{{QStringLiteral("customer"), row.customer},
                           {QStringLiteral("engine"), row.engine},
                           {QStringLiteral("waits"), row.waits},
                           {QStringLiteral("marks"), marks}};
    return QString::fromUtf8(QJsonDocument(json).toJson(QJsonDocument::Compact));
}

ShopModel::Row recalled(const storage::JobRow& job) {
    const QJsonObject json = QJsonDocument::fromJson(job.standing.toUtf8()).object();
    ShopModel::Row row{job.id,
                       job.title,
                       json[QStringLiteral("customer")].toString(),
                       json[QStringLiteral("engine")].toString(),
                       json[QStringLiteral("waits")].toString(),
                       job.opened,
                       {}};
    const QJsonArray marks = json[QStringLiteral("marks")].toArray();
    for (qsizetype i = 0; i < marks.size(); ++i)
        row.stages.push_back({static_cast<planning::Stage>(i), static_cast<planning::StageMark>(marks[i].toInt())});
    return row;
}

} // namespace

ShopModel::Row ShopModel::row_of(const storage::JobRow& job) {
    if (!job.standing.isEmpty())
        return recalled(job);
    const Row row = worked_out(job);
    book_.remember_standing(job.id, job.entries, reader_name(preferences_), remembered(row));
    return row;
}

ShopModel::Row ShopModel::worked_out(const storage::JobRow& job) const {
    Row row;
    row.id = job.id;
    row.title = job.title;
    row.opened = job.opened;
    const auto entries = book_.entries(job.id);
    if (!entries) {
        row.waits = entries.error().what;
        return row;
    }
    const block::JobState state = block::fold(*entries);
    const planning::Assessment assessment = planning::assess(state);
    row.customer = QString::fromStdString(state.customer);
    row.engine = state.blueprint ? QString::fromStdString(state.blueprint->name) : QString();
    row.waits = QString::fromStdString(wording::waits_for(state, assessment, wording::LengthText(preferences_.unit())));
    row.stages = assessment.stages;
    return row;
}

void ShopModel::reload() {
    beginResetModel();
    rows_.clear();
    if (const auto jobs = book_.jobs(reader_name(preferences_)))
        for (const storage::JobRow& job : *jobs)
            rows_.push_back(row_of(job));
    endResetModel();
}

void ShopModel::reload_job(storage::JobId job) {
    const int at = index_of(job);
    const auto jobs = book_.jobs(reader_name(preferences_));
    if (at < 0 || !jobs)
        return reload();
    const auto found = std::ranges::find(*jobs, job, &storage::JobRow::id);
    if (found == jobs->end())
        return reload();
    rows_[static_cast<std::size_t>(at)] = row_of(*found);
    Q_EMIT dataChanged(index(at), index(at));
}

int ShopModel::index_of(storage::JobId job) const {
    const auto found = std::ranges::find(rows_, job, &Row::id);
    return found == rows_.end() ? -1 : static_cast<int>(found - rows_.begin());
}

int ShopModel::rowCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : static_cast<int>(rows_.size());
}

QVariant ShopModel::data(const QModelIndex& index, int role) const {
    if (!checkIndex(index, CheckIndexOption::IndexIsValid | CheckIndexOption::ParentIsInvalid))
        return {};
    const Row& r = row(index.row());
    switch (role) {
    case Qt::DisplayRole:
        return r.title;
    case Qt::AccessibleTextRole:
        return tr("%1, %2, waits for %3").arg(r.title, r.engine, r.waits);
    case job_role:
        return r.id;
    case customer_role:
        return r.customer;
    case engine_role:
        return r.engine;
    case waits_role:
        return r.waits;
    case opened_role:
        return r.opened;
    case stages_role: {
        QVariantList marks;
        for (const auto& stage : r.stages)
            marks << static_cast<int>(stage.mark);
        return marks;
    }
    default:
        return {};
    }
}

} // namespace pallix::session
