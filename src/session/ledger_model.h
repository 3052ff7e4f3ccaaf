// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "session/preferences.h"
#include "session/session.h"

#include <QAbstractTableModel>

namespace pallix::session {

/// The ledger of the open job, one row an entry; struck ones stay readable.
class LedgerModel : public QAbstractTableModel {
    Q_OBJECT
  public:
    enum Column { number, time, person, what, column_count };
    enum Role { struck_role = Qt::UserRole + 1, sequence_role };

    LedgerModel(const Session& session, const Preferences& preferences, QObject* parent = nullptr);

    int rowCount(const QModelIndex& parent = {}) const override;
    int columnCount(const QModelIndex& parent = {}) const override;
    QVariant data(const QModelIndex& index, int role) const override;
    QVariant headerData(int section, Qt::Orientation orientation, int role) const override;

  private:
    void reset();

    const Session& session_;
    const Preferences& preferences_;
    std::vector<bool> struck_;
    std::int64_t at_shop_until_ = 0; ///< what is behind it waits for the shop
};

} // namespace pallix::session
