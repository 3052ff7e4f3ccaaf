// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/background.h"

#include <QRunnable>
#include <QThreadPool>

// The locks of the pool and of events are in a library that the thread sanitizer has not seen built: it is told of what
// they hand on.
#ifdef __SANITIZE_THREAD__
extern "C" {
void __tsan_acquire(void* address); // NOLINT(bugprone-reserved-identifier)
void __tsan_release(void* address); // NOLINT(bugprone-reserved-identifier)
}
#else
static void __tsan_acquire(void*) {} // NOLINT(bugprone-reserved-identifier)
static void __tsan_release(void*) {} // NOLINT(bugprone-reserved-identifier)
#endif

namespace pallix::session {
namespace {

class PieceOfWork : public QRunnable {
  public:
    explicit PieceOfWork(std::function<void()> work) : work_(std::move(work)) {}
    void run() override {
        __tsan_acquire(this);
        std::exchange(work_, nullptr)();
    }

  private:
    std::function<void()> work_;
};

} // namespace

QThreadPool& background_pool() {
    static QThreadPool pool;
    constexpr int at_once = 8; // more than there is to do: nothing short waits for something long
    pool.setMaxThreadCount(at_once);
    return pool;
}

ErrandUnderWay::ErrandUnderWay() {
    // A copy, as what is called may empty it.
    connect(
        this, &ErrandUnderWay::progressed, this,
        [this] {
            if (const auto heard = when_progressed)
                heard();
        },
        Qt::QueuedConnection);
    connect(
        this, &ErrandUnderWay::over, this,
        [this] {
            if (const auto heard = when_over)
                heard();
        },
        Qt::QueuedConnection);
}

void ErrandUnderWay::give_back(ErrandUnderWay* errand) {
    __tsan_release(errand);
    errand->deleteLater();
}

void ErrandUnderWay::take_back() {
    __tsan_acquire(this);
}

void ErrandUnderWay::send(const std::shared_ptr<ErrandUnderWay>& errand, std::function<void()> work) {
    auto* piece = new PieceOfWork([errand, work = std::move(work)] {
        work();
        Q_EMIT errand->over();
    });
    __tsan_release(piece);
    background_pool().start(piece); // which deletes it
}

} // namespace pallix::session
