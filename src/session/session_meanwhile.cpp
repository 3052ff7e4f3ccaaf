// SPDX-License-Identifier: GPL-3.0-or-later
// Others at the same job, at other benches: what they write comes in between, and what is given here is held against
// it.
#include "planning/steps/answer.h"
#include "planning/steps/any_time.h"
#include "session/session_worked.h"
#include "wording/common/sentences.h"

#include <QScopeGuard>
#include <algorithm>

namespace pallix::session {

using block::Entry;
using block::Payload;

namespace {

/// What they say in a ledger.
bool says_the_same(const std::vector<Payload>& a, const std::vector<Payload>& b) {
    const auto said = [](const Payload& p) { return block::kind_of(p) + block::payload_json(p); };
    return std::ranges::equal(a, b, {}, said, said);
}

} // namespace

/// Of a shop's own book everybody at its one bench may take anything back.
bool Session::is_mine(const Entry& entry) const {
    return !book_.is_shared() || entry.person == person_();
}

Outcome Session::catch_up() {
    if (!job_ || !book_.is_shared() || worked_->writing.running())
        return {};
    const std::size_t first = entries_.size();
    auto more = book_.entries_after(*job_, static_cast<std::int64_t>(first));
    if (!more && more.error().no_answer)
        return {}; // once it is back, all of it is asked for
    if (!more)
        return tl::unexpected(as_faults(more.error()));
    if (more->empty())
        return {};
    entries_.insert(entries_.end(), more->begin(), more->end());
    try {
        refresh();
    } catch (const std::exception& error) {
        entries_.resize(first);
        refresh();
        return tl::unexpected(
            one_fault(std::string("what another bench wrote cannot be worked out (") + error.what() + ")",
                      "a job that can; open it again"));
    }
    Q_EMIT entries_added(static_cast<int>(first));
    Q_EMIT others_wrote(static_cast<int>(first));
    return {};
}

/// What was to be added came after what somebody else did: that is taken in, and nothing of it is added.
Outcome Session::after_others() {
    const std::size_t first = entries_.size();
    if (auto caught_up = catch_up(); !caught_up)
        return caught_up;
    const std::string who = entries_.size() > first ? entries_[first].person : "somebody";
    return tl::unexpected(
        one_fault(who + " has written to this job meanwhile", "a look at it, then the same once more"));
}

/// What is given at any time fits after what others did, or is refused by what the job is now. Many may be at the same
/// job, and each goes before in turn.
Outcome Session::take_all(std::vector<Payload> payloads) {
    constexpr int turns = 20;
    for (int turn = 1; book_.is_shared() && turn < turns; ++turn) {
        const std::size_t known = entries_.size();
        if (Outcome done = take_now(payloads); done || entries_.size() == known)
            return done;
    }
    return take_now(std::move(payloads));
}

block::Result<std::vector<Payload>> Session::payloads_of(const std::string& id, const planning::Answers& answers,
                                                         const std::string& now) const {
    const auto step = planning::step_by_id(worked_->state, worked_->assessment, id);
    if (!step)
        return tl::unexpected(one_fault("there is no step " + id, "a step of this job"));
    planning::Answers given = machines_ ? machines_(*step, answers) : answers;
    if (step->task == planning::Task::sign_off)
        if (auto done = proved(given); !done)
            return tl::unexpected(std::move(done.error()));
    return planning::answer(worked_->state, worked_->assessment, *step, given, now);
}

Outcome Session::answer(const std::string& id, const planning::Answers& answers) {
    contradiction_.reset();
    const std::string now = clock_(); // what is given is given once
    auto payloads = payloads_of(id, answers, now);
    if (!payloads)
        return tl::unexpected(std::move(payloads.error()));
    if (!book_.is_shared())
        return take_now(std::move(*payloads));
    const std::size_t known = entries_.size();
    const auto state_of = [&]() -> std::optional<planning::StepState> {
        const auto step = planning::step_by_id(worked_->state, worked_->assessment, id);
        return step ? std::optional(step->state) : std::nullopt;
    };
    // It is still asked, and the answer still means the same: whoever was first does not matter.
    const auto open = [](const std::optional<planning::StepState>& state) {
        return state == planning::StepState::now || state == planning::StepState::ready;
    };
    const auto before = state_of();
    answering_ = open(before) ? id : std::string();
    const auto answered = qScopeGuard([this] { answering_.clear(); });
    Outcome done = take_now(*payloads);
    if (done || entries_.size() == known)
        return done;
    const auto after = state_of();
    if (const auto again = payloads_of(id, answers, now);
        again && says_the_same(*again, *payloads) && (before == after || (open(before) && open(after))))
        return take_all(*again);
    contradiction_ =
        Contradiction{{entries_.begin() + static_cast<std::ptrdiff_t>(known), entries_.end()}, std::move(*payloads)};
    return done;
}

} // namespace pallix::session
