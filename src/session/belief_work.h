// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/decks/deck_belief.h"

#include <QObject>
#include <cstdint>
#include <map>
#include <memory>
#include <string>
#include <vector>

namespace pallix::session {

/// Thinks about decks away from the window's thread, one question after the other; the newest of a bank counts.
class BeliefWork : public QObject {
    Q_OBJECT
  public:
    explicit BeliefWork(QObject* parent = nullptr);
    ~BeliefWork() override;

    /// @return the answer, where it is known; null, and the work begun, where it is not
    const planning::DeckBelief* want(const planning::DeckQuestion& question);
    /// Waits for the answer; for the moment it is to be written down.
    const planning::DeckBelief* insist(const planning::DeckQuestion& question);
    /// Another job is opened: what is known or under way belongs to the one before.
    void forget();
    [[nodiscard]] bool running() const { return !under_way_.empty(); }

  Q_SIGNALS:
    void ready();
    void failed(const QString& why);

  private:
    void take(std::int64_t job, std::optional<planning::DeckBelief> belief, const std::string& key);
    void start(const planning::DeckQuestion& question);

    struct Worker; ///< the thread
    std::unique_ptr<Worker> worker_;
    std::vector<std::unique_ptr<Worker>> left_behind_; ///< still at a question of an earlier job
    std::int64_t job_ = 0;                             ///< counts the jobs that were opened: keys begin anew in each
    std::string under_way_;                            ///< key; empty for none
    std::map<std::string, planning::DeckQuestion> waiting_; ///< by bank
    std::map<std::string, planning::DeckBelief> known_;     ///< by bank
};

} // namespace pallix::session
