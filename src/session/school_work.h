// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "session/background.h"
#include "workshop/practice/school.h"

#include <QObject>
#include <vector>

namespace pallix::session {

/// Ways of planning a job, tried on blocks that it may be, away from the window's thread: one block by every way, then
/// the next, so that the ways can be compared from the first on.
class SchoolWork : public QObject {
    Q_OBJECT
  public:
    /// @param times on how many blocks
    SchoolWork(std::vector<block::Entry> entries, std::vector<workshop::School> schools, std::size_t times,
               QObject* parent = nullptr);

    void start();
    [[nodiscard]] const std::vector<workshop::School>& schools() const { return schools_; }
    [[nodiscard]] const std::vector<workshop::TriedOnce>& tried(std::size_t school) const { return tried_.at(school); }
    [[nodiscard]] std::size_t times() const { return times_; }
    /// Blocks that every way was tried on.
    [[nodiscard]] std::size_t blocks() const { return tried_.back().size(); }
    [[nodiscard]] bool done() const { return blocks() == times_; }
    /// Waits until all is tried, or has failed.
    void insist();

  Q_SIGNALS:
    void came(); ///< one more
    void failed(const QString& why);

  private:
    void next();

    std::vector<block::Entry> entries_;
    std::vector<workshop::School> schools_;
    std::size_t times_;
    std::vector<std::vector<workshop::TriedOnce>> tried_; ///< by school
    std::size_t at_ = 0;                                  ///< school of the go that is under way
    Background<block::Result<workshop::TriedOnce>> work_;
};

} // namespace pallix::session
