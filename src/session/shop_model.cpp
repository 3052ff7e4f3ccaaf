// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/shop_model.h"

#include "block/job_state.h"
#include "wording/sentences.h"

#include <algorithm>

namespace pallix::session {

ShopModel::ShopModel(const storage::ShopBook& book, const Preferences& preferences, QObject* parent)
    : QAbstractListModel(parent), book_(book), preferences_(preferences) {
    connect(&preferences, &Preferences::unit_changed, this, &ShopModel::reload);
}

ShopModel::Row ShopModel::row_of(const storage::JobRow& job) const {
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
    if (const auto jobs = book_.jobs())
        for (const storage::JobRow& job : *jobs)
            rows_.push_back(row_of(job));
    endResetModel();
}

void ShopModel::reload_job(storage::JobId job) {
    const int at = index_of(job);
    const auto jobs = book_.jobs();
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

int ShopModel::rowCount(const QModelIndex& parent) const { return parent.isValid() ? 0 : static_cast<int>(rows_.size()); }

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
