// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "session/preferences.h"
#include "session/session.h"

#include <QObject>
#include <QTimer>
#include <vector>

namespace pallix::session {

/// The clocks of all jobs: a soak, a night, a rest. They ring whatever job is open; what rang while the program was
/// closed is told at start.
class ShopClocks : public QObject {
    Q_OBJECT
  public:
    ShopClocks(Session& session, Preferences& preferences, QObject* parent = nullptr);

    /// Tells what has rung since it was last heard, and waits for the next. To be called once who listens is there.
    void listen();

  Q_SIGNALS:
    /// @param until UTC; @param missed it rang while nobody was here
    void rang(storage::JobId job, const QString& title, const QString& what, const QString& until, bool missed);

  private:
    Session& session_;
    Preferences& preferences_;
    QTimer next_;
    bool started_ = false;
};

} // namespace pallix::session
