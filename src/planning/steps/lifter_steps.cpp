// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/readings/reading_plan.h"

#include "block/state/bore_state.h"
#include "block/state/intake_state.h"
#include "planning/steps/contributors.h"
#include "planning/steps/steps.h"

#include <algorithm>

namespace pallix::planning {
namespace {

using block::FeatureId;
using block::JobState;
using block::MeasuredAt;
using block::Rule;
using block::Stage;

class LifterPart {
  public:
    explicit LifterPart(Route& route)
        : r_(route), state_(route.state), w_(route.a.lifters),
          begun_(bores_of(state_).lifter_plan ||
                 std::ranges::any_of(bores_of(state_).bores_cut,
                                     [](const FeatureId& id) { return id.kind == block::FeatureKind::lifter; })) {}

    void add() {
        if (!w_) {
            if (intake_of(state_).scope)
                add_as_found();
            return;
        }
        if (!begun_ && !intake_of(state_).scope)
            return; // found, and nobody asked for work on them
        const std::size_t first = r_.steps.size();
        add_lead();
        add_each();
        for (std::size_t i = first; i < r_.steps.size(); ++i)
            r_.steps[i].leads = r_.steps[i].id == lead_;
    }

  private:
    static std::string id_of(const FeatureId& id, const std::string& what) { return id.text() + "/" + what; }
    void lead(const Step& step) {
        if (lead_.empty())
            lead_ = step.id;
    }

    void add_as_found() {
        for (const block::BankBlueprint& bank : intake_of(state_).blueprint->banks)
            for (const MeasuredAt& at : chosen_places(state_, Measuring::lifter_sizes, bank.id))
                r_.add_reading(at, Stage::lifters);
    }

    void add_measuring(const FeatureId& id) {
        for (const MeasuredAt& at : chosen_places(state_, Measuring::lifter_sizes, id.bank))
            if (at.feature == id) {
                const Step& step = r_.add_reading(at, Stage::lifters);
                if (step.state == StepState::ready)
                    lead(step);
            }
    }

    /// The first three of the numbers that are missing.
    Step& ask_numbers(Step& step) const {
        const block::LifterPlanChosen plan = lifter_plan_of(state_);
        constexpr std::size_t most = 3;
        const auto ask = [&step](const char* key, bool missing) {
            if (missing && step.asks.size() < most)
                step.asks.push_back({key, AskKind::length, {}, {}, {}});
        };
        ask("lifter_plan/lifter_mm", !plan.lifter);
        ask("lifter_plan/clearance_least_mm", !plan.clearance_least);
        ask("lifter_plan/clearance_most_mm", !plan.clearance_most);
        ask("lifter_plan/bush_outside_mm", !plan.bush_outside);
        ask("lifter_plan/interference_mm", !plan.interference);
        return step;
    }

    /// What a person has to give, decide or measure before the board goes on.
    void add_lead() {
        using enum LifterStep;
        const auto& lifter = w_->board.lifter;
        switch (w_->board.step) {
        case measure:
        case prove: {
            Step& step = r_.add(Task::prove_lifters, "lifters/probe", Stage::lifters);
            step.asks = {{"log", AskKind::file, {}, {}, {}}};
            return lead(step);
        }
        case give_numbers:
            return lead(ask_numbers(r_.add(Task::give_lifter_numbers, "lifters/numbers", Stage::lifters)));
        case bush_too_small:
        case too_large:
        case off_place:
        case cannot_be_told: {
            const bool bush = w_->board.step == bush_too_small;
            Step& step = r_.add(bush ? Task::decide_bush : Task::decide_lifter,
                                id_of(*lifter, bush ? "bush" : "decide"), Stage::lifters, *lifter);
            step.asks = {{"choice", AskKind::choice, {}, {}, {}, choices_for(*lifter)},
                         {"note", AskKind::text, {}, {}, {}}};
            return lead(step);
        }
        case measure_cut:
            return add_measuring(*lifter);
        default:
            return;
        }
    }

    /// What would change something: metal that is off is not honed back, and a bush that is in stays there.
    [[nodiscard]] std::vector<std::string> choices_for(const block::FeatureId& lifter) const {
        const auto p = std::ranges::find(w_->board.each, lifter, &LifterProgress::id);
        if (p != w_->board.each.end() && p->inside)
            return {"leave"};
        if (w_->board.step == LifterStep::too_large || w_->board.step == LifterStep::off_place)
            return {"leave", "bush"};
        return {"leave", "hone", "bush"};
    }

    void add_each() {
        for (const LifterProgress& p : w_->board.each) {
            if (p.state != LifterState::to_cut && p.state != LifterState::to_press)
                continue;
            const bool press = p.state == LifterState::to_press;
            Step& step = r_.add(press ? Task::press_bush : Task::cut_lifter, id_of(p.id, press ? "press" : "cut"),
                                Stage::lifters, p.id);
            if (!press && p.next) {
                step.number = p.next->to;
                step.asks = {{"setting", AskKind::length, p.next->to, {}, {}}};
                if (p.next->operation == block::BoreOperation::hone)
                    step.kind = StepKind::hone;
            }
            const bool turn =
                w_->board.lifter == p.id && (w_->board.step == LifterStep::cut || w_->board.step == LifterStep::press);
            if (!turn)
                r_.hold(step, Rule::order,
                        !lead_.empty() ? lead_
                        : w_->board.lifter
                            ? id_of(*w_->board.lifter, w_->board.step == LifterStep::press ? "press" : "cut")
                            : "");
            r_.hold(step, Rule::inspected, "cleaned/inspect");
            if (!tunnel_stands(state_, r_.a, Stage::lifters))
                r_.hold(step, Rule::tunnel_first, r_.tunnel_first);
            if (turn)
                lead(step);
        }
    }

    Route& r_;
    const JobState& state_;
    const std::optional<LifterWork>& w_;
    bool begun_;
    std::string lead_;
};

} // namespace

void add_lifter_steps(Route& route) {
    if (wanted(route.state, Stage::lifters) && !intake_of(route.state).blueprint->lifters.empty())
        LifterPart(route).add();
}

} // namespace pallix::planning
