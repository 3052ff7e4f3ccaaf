// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/key_typing.h"

#include <QByteArray>
#include <QIODevice>
#include <QObject>
#include <QString>
#include <memory>
#include <vector>

class QSocketNotifier;
struct libevdev;

namespace pallix::session {

/// A gauge or foot switch that is a keyboard to the computer, read apart from the keyboard: while it is open nothing of
/// it reaches other windows. What it types comes as text.
class KeyDevice : public QIODevice {
    Q_OBJECT
  public:
    /// @param path such as /dev/input/event7
    explicit KeyDevice(QString path, QObject* parent = nullptr);
    ~KeyDevice() override;

    bool open(OpenMode mode) override; ///< says why not in `errorString`
    void close() override;
    [[nodiscard]] bool isSequential() const override { return true; }
    [[nodiscard]] qint64 bytesAvailable() const override { return typed_.size() + QIODevice::bytesAvailable(); }

  Q_SIGNALS:
    void pressed(); ///< any key of it
    void lost();    ///< it was pulled out

  protected:
    qint64 readData(char* data, qint64 most) override;
    qint64 writeData(const char*, qint64) override { return -1; }

  private:
    void read_events();

    QString path_;
    QByteArray typed_;
    block::KeyTyping typing_;
    libevdev* device_ = nullptr;
    int handle_ = -1;
    std::unique_ptr<QSocketNotifier> notifier_;
};

/// Waits until one of all keyboards and foot switches is pressed: by that it is chosen.
class KeyWatch : public QObject {
    Q_OBJECT
  public:
    explicit KeyWatch(QObject* parent = nullptr);
    ~KeyWatch() override;
    [[nodiscard]] std::size_t watched() const { return devices_.size(); }
    [[nodiscard]] std::size_t unreadable() const { return unreadable_; } ///< that this user may not read

  Q_SIGNALS:
    void pressed(const QString& path, const QString& name);

  private:
    struct Watched;
    std::vector<std::unique_ptr<Watched>> devices_;
    std::size_t unreadable_ = 0;
};

} // namespace pallix::session
