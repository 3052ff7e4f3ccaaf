// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/shop_line.h"

#include "storage/book_news.h"

#include <QTimer>
#include <chrono>

namespace pallix::session {

/// Lives in a thread of its own: a dead line is waited for there, never before the window.
class ShopLine::Listener : public QObject {
  public:
    explicit Listener(ShopLine& line)
        : line_(line), news_(
                           line.book_.file(), [this](storage::JobId job) { Q_EMIT line_.job_moved(job); },
                           [this](const QString& table) { Q_EMIT line_.table_changed(table); }) {}

    void begin() {
        look_ = new QTimer(this);
        look_->setInterval(std::chrono::seconds(2));
        connect(look_, &QTimer::timeout, this, &Listener::look);
        look_->start();
        look();
    }

  private:
    void look() {
        if (!open_) {
            open_ = news_.open().has_value();
            return tell(open_, open_); // what was written before it listened
        }
        const auto missed = news_.look();
        open_ = missed.has_value();
        tell(open_, open_ && *missed);
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
    QTimer* look_ = nullptr;
    bool open_ = false;
};

ShopLine::ShopLine(storage::ShopBook& book, QObject* parent) : QObject(parent), book_(book) {
    if (!book.is_shared())
        return;
    state_ = State::at_shop; // it was opened a moment ago
    auto* listener = new Listener(*this);
    listener->moveToThread(&thread_);
    connect(&thread_, &QThread::started, listener, &Listener::begin);
    connect(&thread_, &QThread::finished, listener, &QObject::deleteLater);
    thread_.start();
}

ShopLine::~ShopLine() {
    thread_.quit();
    thread_.wait();
}

void ShopLine::answered(bool well) {
    const State now = well ? State::at_shop : State::alone;
    if (now == state_)
        return;
    if (well && !book_.reconnect())
        return; // it is asked again in a moment
    state_ = now;
    Q_EMIT state_changed();
    if (well)
        Q_EMIT much_changed();
}

} // namespace pallix::session
