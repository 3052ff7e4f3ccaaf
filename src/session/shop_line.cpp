// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/shop_line.h"

#include "storage/bench_copy.h"

#include <QTimer>
#include <chrono>
#include <set>
#include <utility>

namespace pallix::session {

/// Lives in a thread of its own: a dead line is waited for there, never before the window.
class ShopLine::Listener : public QObject {
  public:
    explicit Listener(ShopLine& line)
        : line_(line), news_(
                           line.book_.file(), [this](storage::JobId job) { Q_EMIT line_.job_moved(job); },
                           [this](const QString& table) { Q_EMIT line_.table_changed(table); }, [this] { meet(); }) {}

    void begin() {
        look_ = new QTimer(this);
        look_->setInterval(std::chrono::seconds(2));
        connect(look_, &QTimer::timeout, this, &Listener::look);
        look_->start();
        look();
    }

    void say(storage::Colleague here) {
        here_ = std::move(here);
        meet();
    }

  private:
    void meet() {
        if (!open_)
            return;
        auto others = news_.meet(here_);
        if (!others)
            return; // the next look tells
        QMetaObject::invokeMethod(&line_, [line = &line_, all = std::move(*others)] { line->met(all); });
    }
    void look() {
        if (!open_) {
            open_ = news_.open().has_value();
            return tell(open_, open_); // what was written before it listened
        }
        const auto missed = news_.look();
        open_ = missed.has_value();
        tell(open_, open_ && *missed);
        meet();
    }
    /// @param much something may have gone past unheard
    void tell(bool well, bool much) {
        QMetaObject::invokeMethod(&line_, [line = &line_, well, much] {
            line->answered(well);
            if (much)
                Q_EMIT line->much_changed();
        });
    }

    ShopLine& line_;
    storage::BookNews news_;
    storage::Colleague here_;
    QTimer* look_ = nullptr;
    bool open_ = false;
};

/// In a busy shop much is written to few jobs: what comes within a moment is followed together, each once. What a bench
/// has open it holds by itself where the line breaks in that moment.
class ShopLine::Follower : public QObject {
  public:
    explicit Follower(const storage::ShopBook& book) : copy_(book.file(), book.copy_file()) {
        connect(&soon_, &QTimer::timeout, this, &Follower::follow);
        soon_.setSingleShot(true);
        soon_.setParent(this);
    }
    void follow_job(storage::JobId job) {
        jobs_.insert(job);
        follow_soon();
    }
    void follow_table(const QString& name) {
        tables_.insert(name);
        follow_soon();
    }
    void follow_all() {
        all_ = true;
        follow_soon();
    }

  private:
    void follow_soon() {
        constexpr std::chrono::milliseconds moment(1000);
        if (!soon_.isActive())
            soon_.start(moment);
    }
    /// What cannot be followed now is followed when the line is back: then all is.
    void follow() {
        if (std::exchange(all_, false))
            static_cast<void>(copy_.follow_all());
        for (const storage::JobId job : std::exchange(jobs_, {}))
            static_cast<void>(copy_.follow_job(job));
        for (const QString& table : std::exchange(tables_, {}))
            static_cast<void>(copy_.follow_table(table));
    }

    storage::CopyFollower copy_;
    QTimer soon_;
    std::set<storage::JobId> jobs_;
    std::set<QString> tables_;
    bool all_ = false;
};

ShopLine::ShopLine(storage::ShopBook& book, QObject* parent) : QObject(parent), book_(book) {
    if (!book.is_shared())
        return;
    state_ = book.is_alone() ? State::alone : State::at_shop;
    if (!book.copy_file().isEmpty()) {
        follower_ = new Follower(book);
        follower_->moveToThread(&following_);
        connect(&following_, &QThread::finished, follower_, &QObject::deleteLater);
        connect(this, &ShopLine::job_moved, follower_, [f = follower_](qint64 job) { f->follow_job(job); });
        connect(this, &ShopLine::table_changed, follower_,
                [f = follower_](const QString& name) { f->follow_table(name); });
        connect(this, &ShopLine::much_changed, follower_, [f = follower_] { f->follow_all(); });
        following_.start();
    }
    listener_ = new Listener(*this);
    listener_->moveToThread(&thread_);
    connect(&thread_, &QThread::started, listener_, &Listener::begin);
    connect(&thread_, &QThread::finished, listener_, &QObject::deleteLater);
    thread_.start();
}

ShopLine::~ShopLine() {
    for (QThread* thread : {&thread_, &following_}) {
        thread->quit();
        thread->wait();
    }
}

void ShopLine::set_here(const QString& person, storage::JobId job) {
    if (listener_)
        QMetaObject::invokeMethod(
            listener_, [listener = listener_, here = storage::Colleague{person, job}] { listener->say(here); });
}

void ShopLine::met(std::vector<storage::Colleague> others) {
    if (others == colleagues_)
        return;
    colleagues_ = std::move(others);
    Q_EMIT colleagues_changed();
}

/// The book may know already that the line is broken: something could not be written.
void ShopLine::answered(bool well) {
    const State now = well ? State::at_shop : State::alone;
    if (now == state_ && !(well && book_.is_alone()))
        return;
    if (well && !book_.reconnect())
        return; // it is asked again in a moment
    if (!well)
        Q_EMIT broke();
    if (!well && !book_.is_alone())
        static_cast<void>(book_.go_alone()); // where no copy is kept, nothing can be entered
    state_ = now;
    if (!well)
        met({});
    Q_EMIT state_changed();
    if (well)
        Q_EMIT much_changed();
}

} // namespace pallix::session
