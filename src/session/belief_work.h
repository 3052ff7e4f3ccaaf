// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/decks/deck_belief.h"
#include "session/background.h"

#include <QObject>
#include <map>
#include <optional>
#include <string>

namespace pallix::session {

/// Thinks about decks away from the window's thread, one question after the other; the newest of a bank counts.
class BeliefWork : public QObject {
    Q_OBJECT
  public:
    /// @return the answer, where it is known; null, and the work begun, where it is not
    const planning::DeckBelief* want(const planning::DeckQuestion& question);
    /// Waits for the answer; for the moment it is to be written down.
    const planning::DeckBelief* insist(const planning::DeckQuestion& question);
    /// The newest answer for a bank's heights, whatever was cut since; null where there is none.
    [[nodiscard]] const planning::DeckBelief* of_heights(const std::string& bank, std::int64_t measured) const;
    /// Another job is opened: what is known or under way belongs to the one before.
    void forget();
    [[nodiscard]] bool running() const { return work_.running(); }

  Q_SIGNALS:
    void ready();
    void failed(const QString& why);

  private:
    [[nodiscard]] const planning::DeckBelief* answer_to(const planning::DeckQuestion& question) const;
    void start(const planning::DeckQuestion& question);
    void go_on();

    Background<std::optional<planning::DeckBelief>> work_;
    std::string under_way_;                                 ///< key; empty for none
    std::map<std::string, planning::DeckQuestion> waiting_; ///< by bank
    std::map<std::string, planning::DeckBelief> known_;     ///< by bank
};

} // namespace pallix::session
