// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/certainty_work.h"

#include "block/state/tunnel_state.h"
#include "metrology/monte_carlo.h"
#include "planning/common/certainty.h"

namespace pallix::session {

CertaintyWork::CertaintyWork() = default;
CertaintyWork::~CertaintyWork() = default;

void CertaintyWork::cancel() {
    cancelled_for_ = work_.running() ? wanted_ : cancelled_for_;
    work_.cancel();
    Q_EMIT progressed();
}

void CertaintyWork::forget() {
    cancel();
    cancelled_for_ = 0;
    result_.reset();
}

void CertaintyWork::want(const block::Blueprint& blueprint, const block::EvaluationState& evaluation) {
    if ((work_.running() && wanted_ == evaluation.sequence) || cancelled_for_ == evaluation.sequence ||
        (result_ && result_->sequence == evaluation.sequence))
        return;
    wanted_ = evaluation.sequence;
    share_ = 0;
    work_.start(
        [blueprint, probe = evaluation.probe, touch = *evaluation.standard_uncertainty](const Errand& errand) {
            metrology::MonteCarloRun run;
            run.cancelled = errand.cancelled;
            run.progress = errand.progress;
            return block::uncertainties_of(blueprint, *probe, {touch, true}, run);
        },
        {[this](std::optional<block::Uncertainties> values) {
             if (!values)
                 return;
             result_ = std::make_unique<planning::Certainty>(planning::Certainty{wanted_, std::move(*values)});
             Q_EMIT ready();
         },
         [this](const QString& why) { Q_EMIT failed(tr("The uncertainties cannot be worked out (%1).").arg(why)); },
         [this](double share) {
             share_ = share;
             Q_EMIT progressed();
         }});
}

} // namespace pallix::session
