// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "session/session.h"

#include <QObject>
#include <atomic>
#include <memory>

namespace pallix::session {

/// Reads probe logs away from the window's thread, with progress and cancel, and hands them over when they are whole.
class LogReading : public QObject {
    Q_OBJECT
  public:
    explicit LogReading(QObject* parent = nullptr);
    ~LogReading() override; ///< ends the read

    /// @param logs from `Session::logs_to_read`; one read at a time
    void start(Session::LogsToRead logs);
    void cancel();
    [[nodiscard]] bool running() const { return running_; }
    /// What was read; to be taken once, after `done` without faults.
    [[nodiscard]] Session::LogsToRead take();

  Q_SIGNALS:
    void progressed(int percent);
    void done(const pallix::block::Faults& faults); ///< empty: it may be taken

  private:
    struct Worker; ///< the thread
    std::unique_ptr<Worker> worker_;
    std::shared_ptr<std::atomic<bool>> cancelled_;
    std::shared_ptr<Session::LogsToRead> logs_;
    bool running_ = false;
};

} // namespace pallix::session
