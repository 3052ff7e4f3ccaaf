// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

// What was entered at a bench while the line to the shop was broken, and how it gets there: in order, each once.

#include "storage/book_jobs.h"

#include <optional>
#include <set>
#include <string>
#include <vector>

class QSqlDatabase;

namespace pallix::storage {

/// Entries that were written together, and are at the shop together or not at all.
struct Part {
    qint64 number = 0;
    JobId job = 0;
    std::string step;      ///< that they answer, and that was open then; empty for none
    std::int64_t base = 0; ///< the shop's last entry that was known when they were written
    std::vector<block::Entry> entries;
};

/// An entry is known by the digest of its chain, which seals all that was before it: what was sent and not acknowledged
/// is found at the shop by it, and is not sent again.
class Outbox {
  public:
    /// @param server, copy names of connections; the copy is written as it is, not as one sees it who stands alone
    Outbox(QString server, QString copy) : server_(std::move(server)), copy_(std::move(copy)) {}

    /// In the order they were written.
    [[nodiscard]] BookResult<std::vector<Part>> parts() const;
    /// How many entries wait. @param job of one job; 0: of all
    [[nodiscard]] qint64 waiting(JobId job = 0) const;

    /// The number of a job that was opened here, once the shop has given it one; any other's is its own.
    [[nodiscard]] JobId called(JobId job) const;

    /// Instruments that were zeroed or changed here, and what happened to them. An instrument that was changed at the
    /// shop meanwhile, and zeroed there later, stays as it is there.
    [[nodiscard]] BookResult<void> send_instruments() const;

    /// A part, and its job as the shop has it.
    struct Met {
        bool waits = false; ///< else the part is at the shop already, or was only about what was dropped
        Part part;          ///< its entries only where it waits
        std::vector<block::Entry> shop;
        std::vector<block::Entry> theirs{}; ///< of those, what others wrote that was not known here
    };
    /// What the shop has of its job is taken into the copy, and what waits stands behind it.
    [[nodiscard]] BookResult<Met> meet(qint64 part) const;
    /// Refused as `written_meanwhile` where somebody has added to its job since it was met.
    [[nodiscard]] BookResult<void> send(qint64 part) const;
    /// The person leaves it at what others have written: it is gone, with what was only about it.
    [[nodiscard]] BookResult<void> drop(qint64 part) const;

  private:
    [[nodiscard]] BookResult<bool> is_at_shop(JobId job, std::int64_t sequence, const std::string& digest) const;
    [[nodiscard]] BookResult<JobId> known_at_shop(JobId own) const;
    [[nodiscard]] BookResult<JobId> made_at_shop(const Part& part) const;
    [[nodiscard]] BookResult<void> send_pictures(const Part& part) const;
    [[nodiscard]] BookResult<void> settle(JobId job, std::optional<qint64> done) const;
    [[nodiscard]] BookResult<void> call_by(JobId own, JobId job) const;

    QString server_, copy_;
};

/// What waits for a job stands behind what the copy holds of it, in order and sealed; within a transaction of the copy.
/// @param gone numbers of entries that were dropped: what is only about them goes too
[[nodiscard]] BookResult<void> stand_behind(QSqlDatabase& copy, JobId job, std::set<std::int64_t> gone = {});

} // namespace pallix::storage
