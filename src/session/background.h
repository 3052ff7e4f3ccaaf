// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QFutureWatcher>
#include <QPromise>
#include <QString>
#include <QThreadPool>
#include <QtConcurrentRun>
#include <atomic>
#include <exception>
#include <functional>
#include <memory>
#include <optional>
#include <utility>

namespace pallix::session {

/// What whoever does a piece of work is told, and tells.
struct Errand {
    const std::atomic<bool>* cancelled = nullptr;
    std::function<void(double share)> progress;
};

/// Where work away from the window's thread is done; what is under way when the program ends is waited for.
[[nodiscard]] QThreadPool& background_pool();

/// One piece of work at a time away from the window's thread, with progress, cancel and result. A new one takes the
/// place of one under way; what was cancelled or taken the place of runs out unheard, so the work may hold nothing but
/// what it owns.
template <class Result>
class Background {
  public:
    struct Listener {
        std::function<void(Result)> done;
        std::function<void(const QString& why)> failed; ///< by an exception
        std::function<void(double share)> progressed{}; ///< may be empty
    };

    Background() = default;
    Background(const Background&) = delete;
    Background& operator=(const Background&) = delete;
    ~Background() { cancel(); }

    [[nodiscard]] bool running() const { return watcher_ != nullptr; }

    void start(std::function<Result(const Errand&)> work, Listener listener) {
        cancel();
        cancelled_ = std::make_shared<std::atomic<bool>>(false);
        listener_ = std::move(listener);
        watcher_ = std::make_unique<QFutureWatcher<Result>>();
        QObject::connect(watcher_.get(), &QFutureWatcherBase::finished, watcher_.get(), [this] { hand_over(); });
        QObject::connect(watcher_.get(), &QFutureWatcherBase::progressValueChanged, watcher_.get(), [this](int value) {
            if (listener_.progressed)
                listener_.progressed(static_cast<double>(value) / whole);
        });
        const auto errand = [work = std::move(work), cancelled = cancelled_](QPromise<Result>& promise) {
            promise.setProgressRange(0, whole);
            promise.addResult(work({cancelled.get(), [&promise](double share) {
                                        promise.setProgressValue(static_cast<int>(whole * share));
                                    }}));
        };
        watcher_->setFuture(QtConcurrent::run(&background_pool(), errand));
    }

    void cancel() {
        if (cancelled_)
            *cancelled_ = true;
        watcher_.reset();
    }

    /// Waits for what is under way and has it heard.
    void insist() {
        if (!watcher_)
            return;
        watcher_->waitForFinished();
        hand_over();
    }

  private:
    static constexpr int whole = 1000;

    void hand_over() {
        if (!watcher_)
            return;
        QFuture<Result> future = watcher_->future();
        watcher_->disconnect();
        watcher_.release()->deleteLater(); // it may be what calls
        const Listener heard = std::exchange(listener_, {});
        std::optional<Result> result;
        try {
            result.emplace(future.takeResult());
        } catch (const std::exception& error) {
            return heard.failed(QString::fromUtf8(error.what()));
        }
        heard.done(std::move(*result));
    }

    std::unique_ptr<QFutureWatcher<Result>> watcher_; ///< null where nothing is under way
    std::shared_ptr<std::atomic<bool>> cancelled_;
    Listener listener_;
};

} // namespace pallix::session
