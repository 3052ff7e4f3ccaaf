// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "session/shop_clocks.h"
#include "ui/context.h"

#include <QWidget>

class QDBusConnection;
class QLabel;
class QPushButton;

namespace pallix::ui {

/// What has rung, across the foot of the window until somebody says that it was heard; on the desktop, too, where there
/// is a notification service (Desktop Notifications Specification 1.2, org.freedesktop.Notifications).
class Bell : public QWidget {
    Q_OBJECT
  public:
    explicit Bell(Context context, QWidget* parent = nullptr);

    void ring(storage::JobId job, const QString& title, const QString& what, const QString& until, bool missed);
    void heard(); ///< the next, where there is one

  Q_SIGNALS:
    void job_wanted(storage::JobId job);

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    void show_first();
    struct Rung {
        storage::JobId job;
        QString words;
    };
    Context context_;
    std::vector<Rung> rung_;
    QLabel* words_;
    QPushButton *open_, *heard_;
};

/// Asks the desktop to show it; where nobody answers, nothing happens.
void notify_desktop(const QDBusConnection& bus, const QString& title, const QString& words);

} // namespace pallix::ui
