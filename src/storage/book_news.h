// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

// What others write into a book that a server keeps, heard as it happens.

#include "storage/book_jobs.h"

#include <QStringList>
#include <functional>
#include <optional>
#include <vector>

namespace pallix::storage {

/// What every commit tells to whoever listens: triggers, and a count of all that was told.
[[nodiscard]] QStringList news_of_server();

/// Somebody at another bench, a moment ago.
struct Colleague {
    QString person;
    JobId job = 0; ///< that is open there; 0 for none
    bool operator==(const Colleague&) const = default;
};

/// A connection that listens. It belongs to the thread it was opened in, whose event loop hears.
class BookNews {
  public:
    using Job = std::function<void(JobId job)>;           ///< entries were added to it, by whomever
    using Table = std::function<void(const QString& of)>; ///< something else of the shop has changed: "instrument"

    using Bench = std::function<void()>; ///< somebody has come, gone, or opened another job

    BookNews(QString book, Job job, Table table, Bench bench);
    ~BookNews();
    BookNews(const BookNews&) = delete;
    BookNews& operator=(const BookNews&) = delete;

    /// Listens from here on; what was before is not told.
    [[nodiscard]] BookResult<void> open();
    /// Asks whether the line is still there, and whether something went past unheard: then whoever shows the book looks
    /// at all of it.
    [[nodiscard]] BookResult<bool> look();
    /// Says who is here and at what, and asks who else is. Whoever has not said so for ten seconds has gone.
    /// @return by name
    [[nodiscard]] BookResult<std::vector<Colleague>> meet(const Colleague& here);

  private:
    void hear(const QString& words);

    QString book_, connection_;
    Job job_;
    Table table_;
    Bench bench_;
    std::optional<Colleague> said_;
    qint64 told_ = 0;     ///< by the server, when it was asked last
    qint64 heard_ = 0;    ///< since then
    bool missed_ = false; ///< when it was asked last: a commit may have come after the count
};

} // namespace pallix::storage
