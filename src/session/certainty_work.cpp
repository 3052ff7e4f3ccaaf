// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/certainty_work.h"

#include "block/state/tunnel_state.h"
#include "metrology/monte_carlo.h"
#include "planning/common/assessment.h"

#include <QMetaObject>
#include <thread>

namespace pallix::session {

struct CertaintyWork::Worker {
    std::jthread thread;
};

CertaintyWork::CertaintyWork(QObject* parent) : QObject(parent) {}

CertaintyWork::~CertaintyWork() {
    if (cancelled_)
        *cancelled_ = true;
}

void CertaintyWork::cancel() {
    cancelled_for_ = wanted_;
    wanted_ = 0;
    if (cancelled_)
        *cancelled_ = true;
    Q_EMIT progressed();
}

void CertaintyWork::forget() {
    cancel();
    ++job_;
    cancelled_for_ = 0;
    result_.reset();
}

void CertaintyWork::want(const block::Blueprint& blueprint, const block::EvaluationState& evaluation) {
    if (wanted_ == evaluation.sequence || cancelled_for_ == evaluation.sequence ||
        (result_ && result_->sequence == evaluation.sequence))
        return;
    if (cancelled_)
        *cancelled_ = true;
    worker_.reset(); // it ends within one draw
    wanted_ = evaluation.sequence;
    share_ = 0;
    cancelled_ = std::make_shared<std::atomic<bool>>(false);
    worker_ = std::make_unique<Worker>();
    worker_->thread = std::jthread([this, blueprint, probe = evaluation.probe, job = job_,
                                    sequence = evaluation.sequence, touch = *evaluation.standard_uncertainty,
                                    cancelled = cancelled_] {
        metrology::MonteCarloRun run;
        run.cancelled = cancelled.get();
        run.progress = [this, cancelled](double share) {
            if (!*cancelled)
                QMetaObject::invokeMethod(
                    this,
                    [this, share] {
                        share_ = share;
                        Q_EMIT progressed();
                    },
                    Qt::QueuedConnection);
        };
        std::optional<block::Uncertainties> values;
        std::string trouble;
        try {
            values = block::uncertainties_of(blueprint, *probe, {touch, true}, run);
        } catch (const std::exception& error) {
            trouble = error.what();
        }
        if (!*cancelled)
            QMetaObject::invokeMethod(
                this,
                [this, job, sequence, values = std::move(values), trouble]() mutable {
                    take(job, sequence, std::move(values));
                    if (!trouble.empty())
                        Q_EMIT failed(
                            tr("The uncertainties cannot be worked out (%1).").arg(QString::fromStdString(trouble)));
                },
                Qt::QueuedConnection);
    });
}

void CertaintyWork::take(std::int64_t job, std::int64_t sequence, std::optional<block::Uncertainties> values) {
    if (job != job_ || sequence != wanted_)
        return;
    wanted_ = 0;
    if (!values)
        return;
    result_ = std::make_unique<planning::Certainty>(planning::Certainty{sequence, std::move(*values)});
    Q_EMIT ready();
}

} // namespace pallix::session
