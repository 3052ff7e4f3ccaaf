// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QObject>
#include <QString>
#include <atomic>
#include <condition_variable>
#include <exception>
#include <functional>
#include <memory>
#include <mutex>
#include <optional>
#include <tl/expected.hpp>
#include <utility>

class QThreadPool;

namespace pallix::session {

/// What whoever does a piece of work is told, and tells.
struct Errand {
    const std::atomic<bool>* cancelled = nullptr;
    std::function<void(double share)> progress;
};

/// Where work away from the window's thread is done; what is under way when the program ends is waited for.
[[nodiscard]] QThreadPool& background_pool();

/// One piece of work as both threads know it: how far it is and whether it is wanted still, and the bell between them.
/// Lives in the thread that began it.
class ErrandUnderWay : public QObject {
    Q_OBJECT
  public:
    static constexpr int whole = 1000;

    ErrandUnderWay();
    std::atomic<bool> cancelled = false;
    std::atomic<int> done_of_whole = 0;
    /// What happens in the thread that began it; emptied where nobody wants to hear of it any more.
    std::function<void()> when_progressed, when_over;

    /// Has the pool do it; `over` is called by whoever does it once there is a result.
    static void send(const std::shared_ptr<ErrandUnderWay>& errand, std::function<void()> work);
    /// A shared one; whoever lets go of it last leaves it to its own thread to be deleted.
    template <class Kind>
    [[nodiscard]] static std::shared_ptr<Kind> made() {
        return std::shared_ptr<Kind>(new Kind, [](Kind* errand) { give_back(errand); });
    }

  protected:
    void take_back(); ///< first thing where a kind of it ends: what others did with it is over
  private:
    static void give_back(ErrandUnderWay* errand);

  Q_SIGNALS:
    void progressed();
    void over();
};

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

    [[nodiscard]] bool running() const { return under_way_ != nullptr; }

    void start(std::function<Result(const Errand&)> work, Listener listener) {
        cancel();
        listener_ = std::move(listener);
        under_way_ = ErrandUnderWay::made<UnderWay>();
        under_way_->when_over = [this] { hand_over(); };
        under_way_->when_progressed = [this] {
            if (listener_.progressed)
                listener_.progressed(static_cast<double>(under_way_->done_of_whole) / ErrandUnderWay::whole);
        };
        ErrandUnderWay::send(under_way_,
                             [work = std::move(work), errand = under_way_] { errand->keep(done(work, *errand)); });
    }

    void cancel() {
        if (!under_way_)
            return;
        under_way_->cancelled = true;
        under_way_->when_over = under_way_->when_progressed = nullptr;
        under_way_.reset();
    }

    /// Waits for what is under way and has it heard.
    void insist() {
        if (under_way_)
            hand_over();
    }

  private:
    using Outcome = tl::expected<Result, QString>;

    struct UnderWay : ErrandUnderWay {
        ~UnderWay() override { take_back(); }
        void keep(Outcome outcome) {
            const std::lock_guard lock(handing_over);
            kept = std::move(outcome);
            there.notify_all();
        }
        Outcome take() { // waits for it
            std::unique_lock lock(handing_over);
            there.wait(lock, [this] { return kept.has_value(); });
            return std::move(*kept);
        }
        std::mutex handing_over;
        std::condition_variable there;
        std::optional<Outcome> kept;
    };

    static Outcome done(const std::function<Result(const Errand&)>& work, UnderWay& errand) {
        const auto progress = [&errand](double share) {
            const int now = static_cast<int>(ErrandUnderWay::whole * share);
            if (errand.done_of_whole.exchange(now) != now)
                Q_EMIT errand.progressed();
        };
        try {
            return work({&errand.cancelled, progress});
        } catch (const std::exception& error) {
            return tl::unexpected(QString::fromUtf8(error.what()));
        }
    }

    void hand_over() {
        const auto errand = std::exchange(under_way_, nullptr);
        errand->when_over = errand->when_progressed = nullptr; // it may be what calls, and is over
        Outcome outcome = errand->take();
        const Listener heard = std::exchange(listener_, {});
        if (outcome)
            heard.done(std::move(*outcome));
        else
            heard.failed(outcome.error());
    }

    std::shared_ptr<UnderWay> under_way_; ///< null where nothing is
    Listener listener_;
};

} // namespace pallix::session
