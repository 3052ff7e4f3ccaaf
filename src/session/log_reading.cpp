// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/log_reading.h"

#include "block/probe_log.h"

#include <QMetaObject>
#include <thread>

namespace pallix::session {

struct LogReading::Worker {
    std::jthread thread;
};

LogReading::LogReading(QObject* parent) : QObject(parent) {}

LogReading::~LogReading() {
    cancel();
}

void LogReading::start(Session::LogsToRead logs) {
    worker_.reset();
    logs_ = std::make_shared<Session::LogsToRead>(std::move(logs));
    cancelled_ = std::make_shared<std::atomic<bool>>(false);
    running_ = true;
    worker_ = std::make_unique<Worker>();
    worker_->thread = std::jthread([this, logs = logs_, cancelled = cancelled_] {
        block::ReadWatch watch;
        watch.cancelled = cancelled.get();
        watch.progress = [this](double share) {
            QMetaObject::invokeMethod(
                this, [this, share] { Q_EMIT progressed(static_cast<int>(100 * share)); }, Qt::QueuedConnection);
        };
        logs->read.watch = &watch;
        Outcome read;
        try {
            read = Session::read_logs(*logs);
        } catch (const std::exception& error) {
            read = tl::unexpected(block::Faults{
                {"log", 0, std::string("it cannot be worked out (") + error.what() + ")", "a log of this block"}});
        }
        logs->read.watch = nullptr;
        QMetaObject::invokeMethod(
            this,
            [this, cancelled, faults = read ? block::Faults{} : read.error()] {
                if (cancelled != cancelled_ || *cancelled)
                    return;
                running_ = false;
                Q_EMIT done(faults);
            },
            Qt::QueuedConnection);
    });
}

void LogReading::cancel() {
    if (cancelled_)
        *cancelled_ = true;
    running_ = false;
}

Session::LogsToRead LogReading::take() {
    Session::LogsToRead logs = std::move(*logs_);
    logs_.reset();
    return logs;
}

} // namespace pallix::session
