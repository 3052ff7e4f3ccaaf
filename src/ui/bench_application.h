// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QApplication>
#include <QString>

namespace pallix::ui {

/// An application in which a fault of the program is told instead of ending it: what was done before is on the disk,
/// and the entry that was being made is not.
class BenchApplication : public QApplication {
    Q_OBJECT
  public:
    BenchApplication(int& argc, char** argv);
    bool notify(QObject* receiver, QEvent* event) override;
    /// F1 over a dialog, which keeps the window's own keys from it.
    bool eventFilter(QObject* watched, QEvent* event) override;

  Q_SIGNALS:
    void failed(const QString& why);
};

} // namespace pallix::ui
