// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/forward.h"

#include <QObject>
#include <atomic>
#include <cstdint>
#include <memory>
#include <optional>

namespace pallix::block {
class Uncertainties;
}
namespace pallix::planning {
struct Certainty;
}

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
    /// Another job is opened: what is known or under way belongs to the one before.
    void forget();

    [[nodiscard]] bool running() const { return wanted_ != 0; }
    [[nodiscard]] double share() const { return share_; }
    [[nodiscard]] const planning::Certainty* result() const { return result_.get(); }

  Q_SIGNALS:
    void progressed();
    void ready();
    void failed(const QString& why);

  private:
    void take(std::int64_t job, std::int64_t sequence, std::optional<block::Uncertainties> values);

    struct Worker; ///< the thread
    std::unique_ptr<Worker> worker_;
    std::shared_ptr<std::atomic<bool>> cancelled_;
    std::int64_t job_ = 0; ///< counts the jobs that were opened: sequences begin anew in each
    std::int64_t wanted_ = 0;
    std::int64_t cancelled_for_ = 0; ///< not started again by itself
    double share_ = 0;
    std::unique_ptr<planning::Certainty> result_;
};

} // namespace pallix::session
