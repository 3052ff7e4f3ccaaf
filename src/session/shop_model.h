// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/common/assessment.h"
#include "session/preferences.h"
#include "storage/shop_book.h"

#include <QAbstractListModel>
#include <array>
#include <vector>

namespace pallix::session {

/// The jobs of the shop: title, engine, stages, what each waits for.
class ShopModel : public QAbstractListModel {
    Q_OBJECT
  public:
    enum Role {
        job_role = Qt::UserRole + 1,
        customer_role,
        engine_role,
        waits_role,
        stages_role,
        opened_role,
        readable_role
    };

    struct Row {
        storage::JobId id = 0;
        QString title, customer, engine, opened;
        std::array<QString, 2> waits; ///< in mm and in inch: the unit changes without a look into the book
        std::vector<planning::StageState> stages;
        bool readable = true; ///< false: it can be set aside, and what is sound of it copied out
        bool set_aside = false;
        bool hangs_on_time = false; ///< what it says is not remembered: a rest ends by itself
    };

    ShopModel(storage::ShopBook& book, const Preferences& preferences, QObject* parent = nullptr);

    void reload(); ///< reads the whole book
    /// Jobs that were set aside are listed or left out.
    void show_set_aside(bool shown);
    [[nodiscard]] int set_aside() const { return set_aside_; } ///< how many are
    void reload_job(storage::JobId job);                       ///< one job has changed

    const Row& row(int index) const { return rows_[static_cast<std::size_t>(index)]; }
    int index_of(storage::JobId job) const; ///< −1 where it is not listed

    int rowCount(const QModelIndex& parent = {}) const override;
    QVariant data(const QModelIndex& index, int role) const override;

  private:
    [[nodiscard]] Row row_of(const storage::JobRow& job);
    [[nodiscard]] Row worked_out(const storage::JobRow& job) const;
    void change_unit();

    storage::ShopBook& book_;
    const Preferences& preferences_;
    std::vector<Row> rows_;
    bool all_ = false;
    int set_aside_ = 0;
};

} // namespace pallix::session
