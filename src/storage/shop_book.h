// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/instrument.h"
#include "block/ledger.h"

#include <QLockFile>
#include <QString>
#include <QStringList>
#include <memory>
#include <tl/expected.hpp>
#include <vector>

namespace pallix::storage {

/// What went wrong with the book, and the way out, both for the person to read.
struct BookFault {
    QString what;
    QString way_out;
};

template <class T>
using BookResult = tl::expected<T, BookFault>;

using JobId = qint64;

struct JobRow {
    JobId id = 0;
    QString title;
    QString opened; ///< UTC, ISO 8601
    qint64 entries = 0;
    QString standing; ///< what was remembered of it after its last entry; empty where it must be worked out again
};

/// The shop book: every job of the shop in one SQLite file. Entries are only ever added; the file refuses to change or
/// delete one. What `append` has returned from is on the disk (WAL, synchronous FULL): it survives the process.
/// One process writes at a time, guarded by a lock file beside the book.
class ShopBook {
  public:
    /// Opens or creates the book, brings an older schema forward, checks its integrity.
    [[nodiscard]] static BookResult<std::unique_ptr<ShopBook>> open(const QString& file);
    ~ShopBook();
    ShopBook(const ShopBook&) = delete;
    ShopBook& operator=(const ShopBook&) = delete;

    [[nodiscard]] QString file() const { return file_; }

    /// @param opened sequence 1, a JobOpened; further entries may follow
    [[nodiscard]] BookResult<JobId> create_job(const std::vector<block::Entry>& entries);

    /// Adds entries to a job, all or none. Their sequences continue the job's without a gap.
    [[nodiscard]] BookResult<void> append(JobId job, const std::vector<block::Entry>& entries);

    [[nodiscard]] BookResult<std::vector<block::Entry>> entries(JobId job) const;
    /// How much a job's entries hold, in characters; 0 where that cannot be told.
    [[nodiscard]] qint64 size_of(JobId job) const;
    /// @param reader who remembers standings, and in which version: those of another reader are left out
    [[nodiscard]] BookResult<std::vector<JobRow>> jobs(const QString& reader = {}) const; ///< newest first

    /// Remembers where a job stands after so many entries, so that a long shop list need not fold every ledger. A
    /// cache: it can be thrown away, and a failure to write it is no failure.
    void remember_standing(JobId job, qint64 entries, const QString& reader, const QString& standing);

    /// The shop's instruments, by name.
    [[nodiscard]] BookResult<std::vector<block::Instrument>> instruments() const;
    /// Adds an instrument or replaces the one of that name: readings keep their own copy.
    [[nodiscard]] BookResult<void> save_instrument(const block::Instrument& instrument);
    [[nodiscard]] BookResult<void> remove_instrument(const QString& name);

    /// Lines a probe is sending for a job, each on the disk before this returns; they wait here until the log is whole.
    [[nodiscard]] BookResult<void> append_stream(JobId job, const QStringList& lines);
    [[nodiscard]] BookResult<QStringList> stream(JobId job) const;
    [[nodiscard]] BookResult<void> clear_stream(JobId job);

    /// A copy of the whole book, taken while it is open.
    [[nodiscard]] BookResult<void> back_up(const QString& to_file) const;

  private:
    ShopBook(QString file, QString connection, std::unique_ptr<QLockFile> lock);
    [[nodiscard]] BookResult<void> insert(JobId job, const std::vector<block::Entry>& entries);

    QString file_;
    QString connection_;
    std::unique_ptr<QLockFile> lock_;
};

} // namespace pallix::storage
