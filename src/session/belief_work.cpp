// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/belief_work.h"

#include "planning/decks/deck_belief.h"
#include <QMetaObject>
#include <thread>

namespace pallix::session {

struct BeliefWork::Worker {
    std::jthread thread;
};

BeliefWork::BeliefWork(QObject* parent) : QObject(parent) {}

BeliefWork::~BeliefWork() = default; // the thread ends with its question

const planning::DeckBelief* BeliefWork::want(const planning::DeckQuestion& question) {
    const auto known = known_.find(question.bank.id);
    if (known != known_.end() && known->second.key == question.key)
        return &known->second;
    if (under_way_ == question.key)
        return nullptr;
    if (under_way_.empty())
        start(question);
    else
        waiting_[question.bank.id] = question;
    return nullptr;
}

const planning::DeckBelief* BeliefWork::insist(const planning::DeckQuestion& question) {
    const auto known = known_.find(question.bank.id);
    if (known != known_.end() && known->second.key == question.key)
        return &known->second;
    auto belief = planning::answer(question);
    if (!belief)
        return nullptr;
    return &(known_[question.bank.id] = std::move(*belief));
}

void BeliefWork::forget() {
    ++job_;
    known_.clear();
    waiting_.clear();
    if (!under_way_.empty())
        left_behind_.push_back(std::move(worker_));
    under_way_.clear();
}

void BeliefWork::start(const planning::DeckQuestion& question) {
    under_way_ = question.key;
    worker_.reset(); // the one before has ended
    worker_ = std::make_unique<Worker>();
    worker_->thread = std::jthread([this, question, job = job_] {
        std::optional<planning::DeckBelief> belief;
        std::string trouble;
        try {
            belief = planning::answer(question);
        } catch (const std::exception& error) {
            trouble = error.what();
        }
        QMetaObject::invokeMethod(
            this,
            [this, job, key = question.key, belief = std::move(belief), trouble]() mutable {
                take(job, std::move(belief), key);
                if (!trouble.empty())
                    Q_EMIT failed(tr("What is believed of the deck cannot be worked out (%1).")
                                      .arg(QString::fromStdString(trouble)));
            },
            Qt::QueuedConnection);
    });
}

void BeliefWork::take(std::int64_t job, std::optional<planning::DeckBelief> belief, const std::string& key) {
    if (job != job_) {
        left_behind_.clear(); // it has said its last word
        return;
    }
    if (key == under_way_)
        under_way_.clear();
    if (belief) {
        const std::string bank = belief->bank;
        known_[bank] = std::move(*belief);
    }
    if (!waiting_.empty()) {
        const planning::DeckQuestion next = waiting_.begin()->second;
        waiting_.erase(waiting_.begin());
        start(next);
    }
    Q_EMIT ready();
}

} // namespace pallix::session
