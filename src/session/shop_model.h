// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/assessment.h"
#include "session/preferences.h"
#include "storage/shop_book.h"

#include <QAbstractListModel>
#include <vector>

namespace pallix::session {

/// The jobs of the shop: title, engine, stages, what each waits for.
class ShopModel : public QAbstractListModel {
    Q_OBJECT
  public:
    enum Role { job_role = Qt::UserRole + 1, customer_role, engine_role, waits_role, stages_role, opened_role };

    struct Row {
        storage::JobId id = 0;
        QString title, customer, engine, waits, opened;
        std::vector<planning::StageState> stages;
    };

    ShopModel(storage::ShopBook& book, const Preferences& preferences, QObject* parent = nullptr);

    void reload();                       ///< reads the whole book
    void reload_job(storage::JobId job); ///< one job has changed

    const Row& row(int index) const { return rows_[static_cast<std::size_t>(index)]; }
    int index_of(storage::JobId job) const; ///< −1 where it is not listed

    int rowCount(const QModelIndex& parent = {}) const override;
    QVariant data(const QModelIndex& index, int role) const override;

  private:
    [[nodiscard]] Row row_of(const storage::JobRow& job);
    [[nodiscard]] Row worked_out(const storage::JobRow& job) const;

    storage::ShopBook& book_;
    const Preferences& preferences_;
    std::vector<Row> rows_;
};

} // namespace pallix::session
