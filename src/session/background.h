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
#include <tl/expected.hpp>
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
        watcher_ = std::make_unique<QFutureWatcher<Outcome>>();
        QObject::connect(watcher_.get(), &QFutureWatcherBase::finished, watcher_.get(), [this] { hand_over(); });
        QObject::connect(watcher_.get(), &QFutureWatcherBase::progressValueChanged, watcher_.get(), [this](int value) {
            if (listener_.progressed)
                listener_.progressed(static_cast<double>(value) / whole);
        });
        const auto errand = [work = std::move(work), cancelled = cancelled_](QPromise<Outcome>& promise) {
            promise.setProgressRange(0, whole);
            const auto progress = [&promise](double share) {
                promise.setProgressValue(static_cast<int>(whole * share));
            };
            try {
                promise.addResult(Outcome(work({cancelled.get(), progress})));
            } catch (const std::exception& error) {
                promise.addResult(Outcome(tl::unexpected(QString::fromUtf8(error.what()))));
            }
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
    using Outcome = tl::expected<Result, QString>;

    void hand_over() {
        if (!watcher_)
            return;
        Outcome outcome = watcher_->future().takeResult();
        watcher_->disconnect();
        watcher_.release()->deleteLater(); // it may be what calls
        const Listener heard = std::exchange(listener_, {});
        if (outcome)
            heard.done(std::move(*outcome));
        else
            heard.failed(outcome.error());
    }

    std::unique_ptr<QFutureWatcher<Outcome>> watcher_; ///< null where nothing is under way
    std::shared_ptr<std::atomic<bool>> cancelled_;
    Listener listener_;
};

} // namespace pallix::session
