// SPDX-License-Identifier: GPL-3.0-or-later
// What a session has drawn and thought about beside the window, and what it assesses with it.
#include "session/session.h"

#include "block/state/deck_state.h"
#include "block/state/intake_state.h"
#include "block/state/tunnel_state.h"
#include "session/session_worked.h"

namespace pallix::session {

BeliefWork& Session::beliefs() {
    return worked_->beliefs;
}
CertaintyWork& Session::certainty() {
    return worked_->certainty;
}

void Session::draw_certainty() {
    draws_certainty_ = true;
    refresh();
}

/// A pass since tells more; until that is worked out, what was believed before it holds for the same heights.
planning::Assessment Session::assessed(const block::JobState& state, const std::string& at) const {
    planning::CleanDepths depths;
    if (draws_certainty_)
        for (const std::string& bank : planning::banks_to_believe(state))
            if (const auto* known = worked_->beliefs.of_heights(bank, decks_of(state).deck(bank).latest->sequence))
                depths[bank] = known->clean_depth();
    return planning::assess(state, certainty_of(state), at, depths);
}

const planning::Certainty* Session::certainty_of(const block::JobState& state) const {
    const planning::Certainty* known = worked_->certainty.result();
    return known && tunnel_of(state).latest && known->sequence == tunnel_of(state).latest->sequence ? known : nullptr;
}

const planning::Certainty* Session::certainty_of_latest() const {
    return certainty_of(worked_->state);
}

std::shared_ptr<const planning::DeckBelief> Session::belief(const std::string& bank) {
    if (!intake_of(worked_->state).blueprint || !decks_of(worked_->state).decks.contains(bank))
        return nullptr;
    if (const auto known = worked_->beliefs_known.find(bank); known != worked_->beliefs_known.end())
        return known->second;
    const auto question = planning::ask_about_deck(worked_->state, bank);
    const planning::DeckBelief* belief = question ? worked_->beliefs.want(*question) : nullptr;
    if (!belief)
        return nullptr;
    auto whole = std::make_shared<planning::DeckBelief>(*belief);
    planning::find_contradictions(*whole, worked_->state);
    return worked_->beliefs_known[bank] = std::move(whole);
}

} // namespace pallix::session
