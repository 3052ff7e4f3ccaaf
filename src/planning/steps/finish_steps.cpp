// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/state/card_state.h"
#include "planning/steps/contributors.h"
#include "planning/steps/steps.h"

#include <algorithm>

namespace pallix::planning {

/// The passport, or the truth of a block to practise on, waits for whatever the job has begun; for each stage the first
/// that is open is named.
void add_finish_steps(Route& route) {
    std::vector<std::string> open;
    for (const block::Stage stage : route_of(route.state)) {
        const auto first = std::ranges::find_if(route.steps, [stage](const Step& s) {
            return s.stage == stage && !s.aside && (s.state == StepState::ready || s.state == StepState::waits);
        });
        if (first != route.steps.end())
            open.push_back(first->id);
    }
    const block::CardState& card = card_of(route.state);
    Step& passport = card.practice ? route.add(Task::open_truth, "passport/open_truth", block::Stage::passport)
                                   : route.add(Task::hand_over, "passport/hand_over", block::Stage::passport);
    if (!card.practice)
        passport.asks = {{"to", AskKind::text, {}, {}, {}, {}, true}};
    for (const std::string& id : open)
        route.hold(passport, block::Rule::order, id);
    passport.leads = passport.state == StepState::ready;
}

} // namespace pallix::planning
