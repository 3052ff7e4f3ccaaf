// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QObject>
#include <QStringList>
#include <memory>

class QLocalServer;

namespace pallix::session {

/// One window has a shop book: who starts the program on it a second time hands their files to it. Only their own user
/// hears and is heard.
class OneWindow : public QObject {
    Q_OBJECT
  public:
    /// Hands files to the window that has the book, and has it come to the front.
    /// @return whether there is one, and it took them
    [[nodiscard]] static bool hand_over(const QString& book, const QStringList& files);

    /// Waits for others that are started on the book.
    explicit OneWindow(const QString& book, QObject* parent = nullptr);
    ~OneWindow() override;

  Q_SIGNALS:
    void wanted(const QStringList& files); ///< by somebody who started the program again; may be empty

  private:
    void take();

    std::unique_ptr<QLocalServer> server_;
};

} // namespace pallix::session
