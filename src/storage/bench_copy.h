// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

// What a bench keeps of a book at a server, so that it can work on while the line is broken.

#include "storage/book_jobs.h"

#include <memory>

namespace pallix::storage {

class ShopBook;

/// Jobs that were opened at a bench which is alone have numbers from here on, until the shop gives them one.
inline constexpr JobId first_own_job = 1'000'000'000'000;

/// The connection sees what waits for the shop behind what the copy holds, and whatever it writes into jobs waits there
/// too (`Outbox`). What is not of a job stays as the shop has it.
[[nodiscard]] BookResult<void> stand_alone(QSqlDatabase& db);
[[nodiscard]] bool stands_alone(const QSqlDatabase& db);
/// What was written since into jobs belongs together; called within the transaction that wrote it.
/// @param step that it answers, and that was open; empty for none
[[nodiscard]] BookResult<void> close_part(QSqlDatabase& db, const std::string& step);

/// A copy in a file, which follows the server's book, and beside it in the same file what was entered here and is not
/// at the server yet. One window has it at a time.
class BenchCopy {
  public:
    /// One that is damaged is put out of the way, under another name.
    /// @param folder of such copies; made for its owner alone
    /// @param address of the server's book
    [[nodiscard]] static BookResult<std::unique_ptr<BenchCopy>> open(const QString& folder, const QString& address);
    ~BenchCopy();
    BenchCopy(const BenchCopy&) = delete;
    BenchCopy& operator=(const BenchCopy&) = delete;

    [[nodiscard]] const QString& file() const { return file_; }
    /// Names of connections: the copy as it is, and as somebody sees and writes it who stands alone.
    [[nodiscard]] const QString& plain() const { return plain_; }
    [[nodiscard]] const QString& alone() const { return alone_; }
    /// It has been at the shop once: there is something to work with.
    [[nodiscard]] bool is_of_a_book() const;
    /// What the person should know: that a copy was put out of the way, with what waited in it; empty where none was.
    [[nodiscard]] const QString& remark() const { return remark_; }
    /// The server keeps the book that this is a copy of, with all that this has from it. Where it keeps another by now,
    /// or was set back to a backup, the copy is put out of the way and begun anew; what waits in it stays in that file.
    [[nodiscard]] BookResult<void> meet(QSqlDatabase& server);
    /// Entries of a job that the window has from the shop, and the copy may not have yet.
    /// @param uuid of the job; empty where it is not known
    [[nodiscard]] BookResult<void> hold(JobId job, const QString& uuid, const std::vector<block::Entry>& entries);

  private:
    BenchCopy(QString file, std::unique_ptr<ShopBook> keeper);
    [[nodiscard]] BookResult<void> set_up();
    [[nodiscard]] BookResult<void> begin_anew(QSqlDatabase& server, const char* why, const QString& before,
                                              const QString& after);
    [[nodiscard]] BookResult<QString> known_book() const;
    [[nodiscard]] BookResult<void> take_in_what_waits();
    void close();

    QString file_, plain_, alone_, remark_;
    std::unique_ptr<ShopBook> keeper_; ///< its lock, schema and soundness
};

/// Follows the server's book in a thread of its own, with connections of its own.
class CopyFollower {
  public:
    CopyFollower(QString address, QString copy);
    ~CopyFollower();
    CopyFollower(const CopyFollower&) = delete;
    CopyFollower& operator=(const CopyFollower&) = delete;

    /// Jobs for which something waits are left as they are: what waits stands behind them.
    [[nodiscard]] BookResult<void> follow_all();
    [[nodiscard]] BookResult<void> follow_job(JobId job);
    [[nodiscard]] BookResult<void> follow_table(const QString& name);

  private:
    template <class Work>
    [[nodiscard]] BookResult<void> connected(Work work);

    QString address_, copy_, at_server_, at_copy_;
};

} // namespace pallix::storage
