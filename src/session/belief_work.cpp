// SPDX-License-Identifier: GPL-3.0-or-later
#include "session/belief_work.h"

namespace pallix::session {

const planning::DeckBelief* BeliefWork::answer_to(const planning::DeckQuestion& question) const {
    const auto known = known_.find(question.bank.id);
    return known != known_.end() && known->second.key == question.key ? &known->second : nullptr;
}

const planning::DeckBelief* BeliefWork::of_heights(const std::string& bank, std::int64_t measured) const {
    const auto known = known_.find(bank);
    return known != known_.end() && known->second.measured == measured ? &known->second : nullptr;
}

const planning::DeckBelief* BeliefWork::want(const planning::DeckQuestion& question) {
    if (const auto* known = answer_to(question))
        return known;
    if (!work_.running())
        start(question);
    else if (under_way_ != question.key)
        waiting_[question.bank.id] = question;
    return nullptr;
}

const planning::DeckBelief* BeliefWork::insist(const planning::DeckQuestion& question) {
    if (const auto* known = answer_to(question))
        return known;
    auto belief = planning::answer(question);
    if (!belief)
        return nullptr;
    return &(known_[question.bank.id] = std::move(*belief));
}

void BeliefWork::forget() {
    work_.cancel();
    known_.clear();
    waiting_.clear();
}

void BeliefWork::start(const planning::DeckQuestion& question) {
    under_way_ = question.key;
    work_.start([question](const Errand&) { return planning::answer(question); },
                {[this](std::optional<planning::DeckBelief> belief) {
                     if (belief)
                         known_[std::string(belief->bank)] = std::move(*belief);
                     go_on();
                 },
                 [this](const QString& why) {
                     go_on();
                     Q_EMIT failed(tr("What is believed of the deck cannot be worked out (%1).").arg(why));
                 }});
}

void BeliefWork::go_on() {
    if (!waiting_.empty())
        start(waiting_.extract(waiting_.begin()).mapped());
    Q_EMIT ready();
}

} // namespace pallix::session
