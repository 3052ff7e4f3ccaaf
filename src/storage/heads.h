// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QString>
#include <map>
#include <string>

namespace pallix::storage {

/// The last entry of a job that was acknowledged.
struct Head {
    qint64 sequence = 0;
    std::string digest; ///< of that entry
    bool operator==(const Head&) const = default;
};

/// How far each job has come, in a file of its own beside the book. A damaged journal of the book loses its newest
/// entries without a sound; against this file it is noticed. One line for each entry, written after the entry; a line
/// cut short by a crash was never acknowledged.
class Heads {
  public:
    explicit Heads(QString file) : file_(std::move(file)) {}

    [[nodiscard]] QString file() const { return file_; }

    struct Known {
        QString book;                 ///< id of the book they belong to; empty where there is no file
        std::map<QString, Head> jobs; ///< by uuid
        int broken_line = 0;          ///< the first that is not what was written; 0 for none
        bool untidy = false;          ///< long, or with a line that was cut short: to be written anew
    };
    [[nodiscard]] Known read() const;

    /// Writes the file anew: whole, or left as it was.
    [[nodiscard]] bool write(const Known& known) const;
    /// Adds one line and waits until it is on the disk.
    [[nodiscard]] bool add(const QString& job, const Head& head) const;
    /// Puts the file of another book out of the way.
    void set_aside() const;

  private:
    QString file_;
};

} // namespace pallix::storage
