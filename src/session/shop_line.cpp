// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/shop_line.h"

#include <QTimer>
#include <chrono>

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

ShopLine::ShopLine(storage::ShopBook& book, QObject* parent) : QObject(parent), book_(book) {
    if (!book.is_shared())
        return;
    state_ = State::at_shop; // it was opened a moment ago
    listener_ = new Listener(*this);
    listener_->moveToThread(&thread_);
    connect(&thread_, &QThread::started, listener_, &Listener::begin);
    connect(&thread_, &QThread::finished, listener_, &QObject::deleteLater);
    thread_.start();
}

ShopLine::~ShopLine() {
    thread_.quit();
    thread_.wait();
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

void ShopLine::answered(bool well) {
    const State now = well ? State::at_shop : State::alone;
    if (now == state_)
        return;
    if (well && !book_.reconnect())
        return; // it is asked again in a moment
    state_ = now;
    if (!well)
        met({});
    Q_EMIT state_changed();
    if (well)
        Q_EMIT much_changed();
}

} // namespace pallix::session
