// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/steps/shop_steps.h"

#include "block/state/card_state.h"
#include "planning/steps/steps.h"

#include <algorithm>
#include <set>

namespace pallix::planning {
namespace {

using block::Stage;

/// What kinds of steps are signed for, as the ledger has them.
std::string kind_signed(Task task) {
    using enum Task;
    switch (task) {
    case cut_caps:
        return "cut_caps";
    case hone_tunnel:
        return "hone_tunnel";
    case bore_tunnel:
        return "bore_tunnel";
    case cut_deck:
        return "cut_deck";
    case cut_head:
        return "cut_head";
    case flush_deck:
        return "flush_deck";
    case bore:
        return "bore";
    case hone_bore:
        return "hone_bore";
    case press:
        return "press";
    case cut_lifter:
        return "cut_lifter";
    case press_bush:
        return "press_bush";
    default:
        return "";
    }
}

/// A reading that a cut hangs on: of the same thing, or of the tunnel as a whole.
bool hangs_on(const Step& cut, const Step& reading) {
    return reading.task == Task::read && reading.stage == cut.stage &&
           (cut.stage == Stage::tunnel || !cut.about || reading.about == cut.about);
}

bool comes_next(const Step& step) {
    return step.state == StepState::ready && !step.aside;
}

/// What was read once is read again before the cut.
void read_twice(StepList& list) {
    for (Step& cut : list.steps) {
        if (!comes_next(cut) || !cut.cannot_be_undone)
            continue;
        for (Step& reading : list.steps)
            if (hangs_on(cut, reading) && reading.state == StepState::done && reading.why.size() == 1) {
                reading.state = StepState::ready;
                reading.second_look = SecondLook::learner;
            }
        for (const Step& reading : list.steps)
            if (hangs_on(cut, reading) && reading.second_look == SecondLook::learner) {
                cut.state = StepState::waits;
                cut.waits_for.push_back({block::Rule::complete, reading.id, "", "", ""});
                break;
            }
    }
}

Step to_sign(const Step& for_step, const std::string& what) {
    Step step;
    step.task = Task::sign_off;
    step.id = "sign_off/" + what;
    step.kind = StepKind::decide;
    step.stage = for_step.stage;
    step.about = for_step.about;
    step.asks = {{"by", AskKind::text, {}, {}, {}}, {"code", AskKind::text, {}, {}, {}, {}, true}};
    step.where = where_of(Task::sign_off, 0, {});
    return step;
}

} // namespace

std::string to_be_signed(const Step& step) {
    if (step.task == Task::sign_off)
        return "";
    return step.cannot_be_undone ? kind_signed(step.task) : step.kind == StepKind::decide ? step.id : std::string();
}

void guard_learner(StepList& list, const block::JobState& state) {
    if (!card_of(state).learner_at_bench())
        return;
    read_twice(list);
    std::set<std::string> asked;
    std::vector<Step> all;
    all.reserve(list.steps.size() + 4);
    for (Step& step : list.steps) {
        const std::string what = to_be_signed(step);
        if (!what.empty() && step.state == StepState::ready && !card_of(state).is_signed_off(what)) {
            step.state = StepState::waits;
            step.waits_for.push_back({block::Rule::sign_off, "sign_off/" + what, "", "", ""});
            if (asked.insert(what).second) {
                all.push_back(to_sign(step, what));
                all.back().aside = step.aside;
            }
        }
        all.push_back(std::move(step));
    }
    list.steps = std::move(all);
}

} // namespace pallix::planning
