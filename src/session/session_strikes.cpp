// SPDX-License-Identifier: GPL-3.0-or-later
// Taking back: an entry is struck by a later one, and a strike can be struck itself.
#include "session/session_worked.h"

#include <algorithm>

namespace pallix::session {

using block::Entry;
using block::Payload;

namespace {

constexpr const char* undone = "undone";
constexpr const char* redone = "redone";

/// A forecast is kept with the pass it stands before; how the surface came out with the pass it came from.
bool belong_together(const Entry& before, const Entry& after) {
    if (std::holds_alternative<block::DeckForecastKept>(before.payload) ||
        std::holds_alternative<block::TunnelForecastKept>(before.payload))
        return true;
    const auto* cut = std::get_if<block::DeckCut>(&before.payload);
    const auto* finish = std::get_if<block::FinishNoted>(&after.payload);
    return cut && finish && !finish->ra && cut->bank == finish->bank && before.time == after.time &&
           before.person == after.person;
}

} // namespace

Outcome Session::strike(std::int64_t sequence, const QString& reason) {
    const auto out = block::struck(entries_);
    for (std::size_t i = 0; i < entries_.size(); ++i) {
        if (entries_[i].sequence != sequence)
            continue;
        if (std::holds_alternative<block::JobOpened>(entries_[i].payload))
            return tl::unexpected(one_fault("the first entry opens the job and cannot be struck", "a later entry"));
        if (out[i])
            return tl::unexpected(
                one_fault("entry " + std::to_string(sequence) + " is struck already", "an entry that stands"));
        return take(block::Strike{sequence, reason.trimmed().toStdString()});
    }
    return tl::unexpected(one_fault("there is no entry " + std::to_string(sequence), "an entry of this job"));
}

const Entry* Session::undo_target() const {
    const auto out = block::struck(entries_);
    const auto stays = [](const Payload& p) { // what a job is, and that a truth was looked at
        return std::holds_alternative<block::JobOpened>(p) || block::PracticeKinds::take(p, [](const auto&) {});
    };
    for (std::size_t i = entries_.size(); i-- > 0;)
        if (!out[i] && is_mine(entries_[i]) && !std::holds_alternative<block::Strike>(entries_[i].payload) &&
            !std::holds_alternative<block::AtBench>(entries_[i].payload)) // who was there was there
            return stays(entries_[i].payload) ? nullptr : &entries_[i];
    return nullptr;
}

const Entry* Session::redo_target() const {
    const auto out = block::struck(entries_);
    for (std::size_t i = entries_.size(); i-- > 0;) {
        const auto* strike = std::get_if<block::Strike>(&entries_[i].payload);
        if (std::holds_alternative<block::AtBench>(entries_[i].payload) || !is_mine(entries_[i]))
            continue;
        if (!strike)
            return nullptr; // something new was done since
        if (!out[i] && strike->reason == undone)
            return &entries_[i];
    }
    return nullptr;
}

/// Logs that were taken in together come and go together.
/// @return index of the first entry of the group
std::size_t Session::group_of(std::int64_t sequence) const {
    if (sequence < 1 || sequence > static_cast<std::int64_t>(entries_.size()))
        return entries_.size(); // a strike of nothing, from a job made elsewhere
    auto index = static_cast<std::size_t>(sequence - 1);
    const auto continues = [this](std::size_t i) {
        const auto* log = std::get_if<block::ProbeLogTaken>(&entries_[i].payload);
        return (log && log->continues) || (i > 0 && belong_together(entries_[i - 1], entries_[i]));
    };
    while (index > 0 && continues(index))
        --index;
    return index;
}

Outcome Session::undo() {
    const Entry* target = undo_target();
    if (!target)
        return tl::unexpected(one_fault("there is nothing to undo", "an entry that stands"));
    std::vector<Payload> strikes;
    for (std::size_t i = group_of(target->sequence); i < static_cast<std::size_t>(target->sequence); ++i)
        strikes.push_back(block::Strike{entries_[i].sequence, undone});
    return append(std::move(strikes));
}

Outcome Session::redo() {
    const Entry* target = redo_target();
    if (!target)
        return tl::unexpected(one_fault("there is nothing to redo", "something undone"));
    const std::size_t group = group_of(std::get<block::Strike>(target->payload).sequence);
    const auto out = block::struck(entries_);
    std::vector<Payload> strikes;
    for (std::size_t i = 0; i < entries_.size(); ++i) {
        const auto* strike = std::get_if<block::Strike>(&entries_[i].payload);
        if (strike && !out[i] && is_mine(entries_[i]) && strike->reason == undone &&
            group_of(strike->sequence) == group)
            strikes.push_back(block::Strike{entries_[i].sequence, redone});
    }
    return append(std::move(strikes));
}

} // namespace pallix::session
