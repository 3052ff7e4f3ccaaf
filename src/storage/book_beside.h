// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "storage/book_jobs.h"

#include <map>
#include <utility>
#include <vector>

namespace pallix::storage {

/// The book of a window, for another thread: each call has a connection of its own. The window's book holds the lock.
class BookBeside {
  public:
    BookBeside() = default; ///< of no book: nothing can be read or written
    /// @param alone it is the copy of a bench that is (`stand_alone`)
    BookBeside(QString file, std::map<QString, Head> heads, bool alone = false)
        : file_(std::move(file)), heads_(std::move(heads)), alone_(alone) {}

    [[nodiscard]] BookResult<std::vector<block::Entry>> entries(JobId job) const;
    /// @return what the window's book has to acknowledge
    [[nodiscard]] BookResult<Written> append(JobId job, const std::vector<block::Entry>& entries) const;
    /// A copy of the whole book, read again before it gets its name.
    [[nodiscard]] BookResult<void> back_up(const QString& to_file) const;

  private:
    template <class Work>
    [[nodiscard]] auto connected(const char* doing, Work work) const;

    QString file_;
    std::map<QString, Head> heads_; ///< how far each job had come
    bool alone_ = false;
};

} // namespace pallix::storage
