// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "storage/book_fault.h"

#include <QDateTime>
#include <QString>
#include <vector>

namespace pallix::storage {

/// Copies of a shop book that are made by themselves, in the folder `backups` beside it.
class Backups {
  public:
    /// @param book the file of the book, which need not be there
    explicit Backups(const QString& book);

    struct Kept {
        QString file;
        QDateTime when; ///< UTC, when it was made
        QString why;    ///< "", or "before schema 9"
        qint64 bytes = 0;
    };
    /// Those that are there, the newest first.
    [[nodiscard]] std::vector<Kept> kept() const;
    /// Where the next one goes; makes the folder, for its owner alone.
    /// @param why words for its name; may be empty
    [[nodiscard]] BookResult<QString> next(const QDateTime& now, const QString& why = {}) const;
    /// Takes off those that are too many: the last eight stay, the last of each of the last 14 days that have one, the
    /// last of each of the last twelve months, and those that were made for a reason.
    void thin_out() const;
    [[nodiscard]] static std::vector<Kept> too_many(std::vector<Kept> kept);

    /// Puts a copy in the place of the book. What stood there is put beside it under another name, not taken off.
    /// @return where the book of before went; empty where there was none
    [[nodiscard]] BookResult<QString> restore(const QString& backup, const QDateTime& now) const;

  private:
    bool at_server_; ///< whose backups are the server's own
    QString book_;   ///< without links on the way to it
    QString folder_;
};

} // namespace pallix::storage
