// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/evaluation_uncertainty.h"
#include "block/forward.h"
#include "session/background.h"

#include <QObject>
#include <cstdint>
#include <memory>
#include <optional>

namespace pallix::planning {
struct Certainty;
}

namespace pallix::session {

/// Draws the uncertainties of an evaluation away from the window's thread, with progress and cancel. The newest wish
/// counts; an older one is given up.
class CertaintyWork : public QObject {
    Q_OBJECT
  public:
    CertaintyWork();
    ~CertaintyWork() override;

    /// Starts unless the certainty of this evaluation is there already or under way.
    /// @param evaluation with its touches and a stated uncertainty
    void want(const block::Blueprint& blueprint, const block::EvaluationState& evaluation);
    void cancel();
    /// Another job is opened: what is known or under way belongs to the one before.
    void forget();

    [[nodiscard]] bool running() const { return work_.running(); }
    [[nodiscard]] double share() const { return share_; }
    [[nodiscard]] const planning::Certainty* result() const { return result_.get(); }

  Q_SIGNALS:
    void progressed();
    void ready();
    void failed(const QString& why);

  private:
    Background<std::optional<block::Uncertainties>> work_;
    std::int64_t wanted_ = 0;
    std::int64_t cancelled_for_ = 0; ///< not started again by itself
    double share_ = 0;
    std::unique_ptr<planning::Certainty> result_;
};

} // namespace pallix::session
