// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "session/background.h"
#include "storage/backups.h"
#include "storage/shop_book.h"

#include <QObject>
#include <QTimer>

namespace pallix::session {

/// Copies the shop book beside itself: every hour in which something was written, and at close. Each copy is read again
/// before it counts; older ones are thinned out.
class BackupWork : public QObject {
    Q_OBJECT
  public:
    explicit BackupWork(storage::ShopBook& book, QObject* parent = nullptr);

    /// A copy away from the window's thread, where something was written since the last.
    void make();
    /// The same, and waits for it.
    void make_at_close();
    [[nodiscard]] storage::Backups backups() const { return backups_; }
    [[nodiscard]] bool running() const { return work_.running(); }

  Q_SIGNALS:
    void made(const QString& file);
    void failed(const QString& why); ///< told once, until one was made again

  private:
    [[nodiscard]] bool is_due() const;

    storage::ShopBook& book_;
    storage::Backups backups_;
    QTimer hourly_;
    bool told_ = false;
    Background<storage::BookResult<QString>> work_;
};

} // namespace pallix::session
