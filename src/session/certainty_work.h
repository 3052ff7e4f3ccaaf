// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/job_state.h"
#include "planning/assessment.h"

#include <QObject>
#include <atomic>
#include <cstdint>
#include <memory>
#include <optional>

namespace pallix::session {

/// Draws the uncertainties of an evaluation away from the window's thread, with progress and cancel. The newest wish
/// counts; an older one is given up.
class CertaintyWork : public QObject {
    Q_OBJECT
  public:
    explicit CertaintyWork(QObject* parent = nullptr);
    ~CertaintyWork() override;

    /// Starts unless the certainty of this evaluation is there already or under way.
    /// @param evaluation with its touches and a stated uncertainty
    void want(const block::Blueprint& blueprint, const block::EvaluationState& evaluation);
    void cancel();

    [[nodiscard]] bool running() const { return wanted_ != 0; }
    [[nodiscard]] double share() const { return share_; }
    [[nodiscard]] const planning::Certainty* result() const { return result_ ? &*result_ : nullptr; }

  Q_SIGNALS:
    void progressed();
    void ready();

  private:
    void take(std::int64_t sequence, std::optional<block::Uncertainties> values);

    struct Worker; ///< the thread
    std::unique_ptr<Worker> worker_;
    std::shared_ptr<std::atomic<bool>> cancelled_;
    std::int64_t wanted_ = 0;
    std::int64_t cancelled_for_ = 0; ///< not started again by itself
    double share_ = 0;
    std::optional<planning::Certainty> result_;
};

} // namespace pallix::session
