// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "storage/book_news.h"
#include "storage/shop_book.h"

#include <QObject>
#include <QThread>
#include <memory>

namespace pallix::session {

/// The line to a book that a server keeps: hears what other benches write, and knows whether the server answers. A book
/// in a file has none, and nothing is ever told of it.
class ShopLine : public QObject {
    Q_OBJECT
  public:
    explicit ShopLine(storage::ShopBook& book, QObject* parent = nullptr);
    ~ShopLine() override;

    /// Nothing to say of a book in a file.
    enum class State { none, at_shop, alone };
    [[nodiscard]] State state() const { return state_; }

    /// Who is at this bench, and which job is open; 0 for none.
    void set_here(const QString& person, storage::JobId job);
    /// Who is at other benches, as far as the line tells.
    [[nodiscard]] const std::vector<storage::Colleague>& colleagues() const { return colleagues_; }

  Q_SIGNALS:
    void job_moved(qint64 job);              ///< entries were added to it, by whomever
    void table_changed(const QString& name); ///< something else of the shop: "instrument"
    void much_changed();                     ///< the line was away, or something went past unheard: look at everything
    void broke();                            ///< the server does not answer any more; said before the book is alone
    void state_changed();
    void colleagues_changed();

  private:
    class Listener;
    class Follower;
    void answered(bool well);
    void met(std::vector<storage::Colleague> others);

    storage::ShopBook& book_;
    State state_ = State::none;
    std::vector<storage::Colleague> colleagues_;
    Listener* listener_ = nullptr; ///< of the thread
    QThread thread_;
    Follower* follower_ = nullptr; ///< keeps this bench's copy up to date, in a thread of its own; null: none is kept
    QThread following_;
};

} // namespace pallix::session
