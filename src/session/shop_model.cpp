// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/shop_model.h"

#include "block/state/fold.h"
#include "block/state/intake_state.h"
#include "planning/common/assessment.h"
#include "wording/steps/step_words.h"

#include <QDateTime>
#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>
#include <algorithm>

namespace pallix::session {

ShopModel::ShopModel(storage::ShopBook& book, const Preferences& preferences, QObject* parent)
    : QAbstractListModel(parent), book_(book), preferences_(preferences) {
    connect(&preferences, &Preferences::unit_changed, this, &ShopModel::change_unit);
}

namespace {

/// Who remembers standings: another version works them out anew.
const QString reader_name = QStringLiteral("shop list %1, both units, by steps").arg(QStringLiteral(PALLIX_VERSION));

constexpr std::array units{block::Unit::mm, block::Unit::inch};

QString remembered(const ShopModel::Row& row) {
    QJsonArray marks;
    for (const auto& stage : row.stages)
        marks.append(static_cast<int>(stage.mark));
    const QJsonObject json{{QStringLiteral("customer"), row.customer},
                           {QStringLiteral("engine"), row.engine},
                           {QStringLiteral("waits"), QJsonArray{row.waits[0], row.waits[1]}},
                           {QStringLiteral("marks"), marks}};
    return QString::fromUtf8(QJsonDocument(json).toJson(QJsonDocument::Compact));
}

ShopModel::Row recalled(const storage::JobRow& job) {
    const QJsonObject json = QJsonDocument::fromJson(job.standing.toUtf8()).object();
    const QJsonArray waits = json[QStringLiteral("waits")].toArray();
    ShopModel::Row row{job.id,
                       job.title,
                       json[QStringLiteral("customer")].toString(),
                       json[QStringLiteral("engine")].toString(),
                       job.opened,
                       {waits[0].toString(), waits[1].toString()},
                       {}};
    const QJsonArray marks = json[QStringLiteral("marks")].toArray();
    for (qsizetype i = 0; i < marks.size(); ++i)
        row.stages.push_back({static_cast<planning::Stage>(i), static_cast<planning::StageMark>(marks[i].toInt())});
    return row;
}

ShopModel::Row unreadable(const storage::JobRow& job, const QString& why) {
    ShopModel::Row row;
    row.id = job.id;
    row.title = job.title;
    row.opened = job.opened;
    row.waits = {why, why};
    row.readable = false;
    return row;
}

} // namespace

ShopModel::Row ShopModel::row_of(const storage::JobRow& job) {
    if (!job.damage.isEmpty())
        return unreadable(job, job.damage);
    if (!job.standing.isEmpty())
        return recalled(job);
    const Row row = worked_out(job);
    if (row.readable && !row.hangs_on_time)
        book_.remember_standing(job.id, job.entries, reader_name, remembered(row));
    return row;
}

ShopModel::Row ShopModel::worked_out(const storage::JobRow& job) const {
    const auto entries = book_.entries(job.id);
    if (!entries)
        return unreadable(job, entries.error().what);
    Row row;
    row.id = job.id;
    row.title = job.title;
    row.opened = job.opened;
    try {
        const block::Folded state = block::fold(*entries);
        const planning::Assessment assessment =
            planning::assess(state, nullptr, QDateTime::currentDateTimeUtc().toString(Qt::ISODate).toStdString());
        row.customer = QString::fromStdString(intake_of(state).customer);
        row.engine = intake_of(state).blueprint ? QString::fromStdString(intake_of(state).blueprint->name) : QString();
        for (std::size_t i = 0; i < units.size(); ++i)
            row.waits[i] = QString::fromStdString(wording::waits_for(state, assessment, wording::LengthText(units[i])));
        row.stages = assessment.stages;
        row.hangs_on_time = std::ranges::any_of(assessment.steps.steps, [](const planning::Step& step) {
            return std::ranges::any_of(step.waits_for, [](const planning::Wait& wait) { return !wait.until.empty(); });
        });
    } catch (const std::exception& error) { // the list goes on without it
        return unreadable(job, tr("This job cannot be worked out (%1).").arg(QString::fromUtf8(error.what())));
    }
    return row;
}

void ShopModel::reload() {
    beginResetModel();
    rows_.clear();
    set_aside_ = 0;
    if (const auto jobs = book_.jobs(reader_name))
        for (const storage::JobRow& job : *jobs) {
            set_aside_ += job.set_aside ? 1 : 0;
            if (all_ || !job.set_aside) {
                rows_.push_back(row_of(job));
                rows_.back().set_aside = job.set_aside;
            }
        }
    endResetModel();
}

void ShopModel::show_set_aside(bool shown) {
    all_ = shown;
    reload();
}

void ShopModel::change_unit() {
    if (!rows_.empty())
        Q_EMIT dataChanged(index(0), index(static_cast<int>(rows_.size()) - 1), {waits_role, Qt::AccessibleTextRole});
}

void ShopModel::reload_job(storage::JobId job) {
    const int at = index_of(job);
    const auto jobs = book_.jobs(reader_name);
    if (at < 0 || !jobs)
        return reload();
    const auto found = std::ranges::find(*jobs, job, &storage::JobRow::id);
    if (found == jobs->end())
        return reload();
    rows_[static_cast<std::size_t>(at)] = row_of(*found);
    rows_[static_cast<std::size_t>(at)].set_aside = found->set_aside;
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
    const QString& waits = r.waits[preferences_.unit() == units[0] ? 0 : 1];
    switch (role) {
    case Qt::DisplayRole:
        return r.title;
    case Qt::AccessibleTextRole:
        return r.readable ? tr("%1, %2, next: %3").arg(r.title, r.engine, waits) : tr("%1: %2").arg(r.title, waits);
    case job_role:
        return r.id;
    case customer_role:
        return r.customer;
    case engine_role:
        return r.engine;
    case waits_role:
        return waits;
    case readable_role:
        return r.readable;
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
