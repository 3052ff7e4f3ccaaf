// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/readings/reading_plan.h"

#include "block/state/intake_state.h"
#include "block/state/readings_state.h"
#include "block/state/tunnel_state.h"
#include "planning/steps/contributors.h"
#include "planning/steps/steps.h"
#include "planning/tunnel/doubtful.h"
#include "planning/tunnel/tunnel_sizes.h"

#include <algorithm>
#include <optional>

namespace pallix::planning {
namespace {

using block::JobState;
using block::MeasuredAt;
using block::Rule;
using block::Stage;

constexpr double too_little = 5e-4; // mm, less cannot be dialled in

std::vector<Ask> torque_asks() {
    return {{"torqued", AskKind::tick, 1, {}, {}}, {"fasteners", AskKind::text, {}, {}, {}}};
}

class TunnelPart {
  public:
    explicit TunnelPart(Route& route) : r_(route), state_(route.state), w_(route.a.tunnel_work) {}

    void add() {
        dial_in_ = add_dial_in_steps(r_);
        lead_ = dial_in_;
        add_probe();
        add_readings();
        add_doubts();
        add_caps();
        add_torque();
        add_bar();
        add_machining();
        add_ends();
        if (w_.step == TunnelStep::good)
            return;
        Step& accept = r_.add(Task::accept, "tunnel/accept", Stage::tunnel);
        accept.aside = true;
        accept.asks = {{"reason", AskKind::text, {}, {}, {}}};
        // Where somebody answers for the tunnel with a reason, its steps are there and not called.
        const bool answered_for = std::ranges::any_of(
            intake_of(state_).gates, [](const auto& gate) { return gate.payload.rule == Rule::tunnel_first; });
        for (Step& step : r_.steps)
            if (step.stage == Stage::tunnel) {
                step.leads = step.id == lead_;
                step.aside = step.aside || answered_for;
            }
        r_.tunnel_first = lead_;
    }

  private:
    bool is(std::initializer_list<TunnelStep> steps) const { return std::ranges::find(steps, w_.step) != steps.end(); }
    bool reading_turn() const {
        using enum TunnelStep;
        return is({measure, read, measure_caps, measure_work, read_again});
    }
    /// The first step that is asked for leads.
    void lead(const Step& step) {
        if (lead_.empty() && step.state == StepState::ready && !step.aside)
            lead_ = step.id;
    }
    /// Why nothing is taken off before the leading step is done.
    Rule rule() const {
        using enum TunnelStep;
        switch (w_.step) {
        case caps_off:
        case state_caps:
        case torque_caps:
            return Rule::conditions;
        case settle:
        case cannot_settle:
        case read_again:
            return Rule::doubt;
        case measure_caps:
        case measure_work:
        case mark:
            return Rule::fresh;
        case no_limits:
        case give_bar:
            return Rule::figures;
        case decide:
        case not_clean:
        case too_large:
            return Rule::sign_off;
        case cut_caps:
        case machine:
        case log_finished:
            return Rule::order;
        default:
            return Rule::complete;
        }
    }

    void add_probe() {
        if (!tunnel_of(state_).latest)
            return; // the log as found is the first way to it
        Step& probe = r_.add(w_.step == TunnelStep::settle && w_.by_probe ? Task::settle : Task::probe, "tunnel/probe",
                             Stage::tunnel);
        probe.why = {tunnel_of(state_).latest->sequence};
        probe.asks = {{"log", AskKind::file, {}, {}, {}}};
        const bool again = w_.by_probe && (reading_turn() || w_.step == TunnelStep::settle);
        if (again)
            lead(probe);
        else if (w_.by_probe && tunnel_of(state_).mains_as_probed())
            probe.state = StepState::done;
        else if (w_.by_probe && is({TunnelStep::torque_caps, TunnelStep::caps_off}))
            r_.hold(probe, Rule::conditions, "tunnel/torque");
        else if (reading_turn())
            probe.aside = true;
        else
            probe.state = StepState::stale;
    }

    void add_readings() {
        const bool by_gauge = !w_.by_probe || !w_.to_read.empty();
        for (const auto what : {Measuring::main_sizes, Measuring::saddle_heights}) {
            if (!by_gauge || (what == Measuring::saddle_heights && intake_of(state_).blueprint->mains.size() < 3))
                continue;
            for (const MeasuredAt& at : chosen_places(state_, what, "")) {
                Step& step = r_.add_reading(at, Stage::tunnel);
                const block::MeasuredPlace* known = r_.place(at);
                const bool wanted = std::ranges::find(w_.to_read, at) != w_.to_read.end();
                if (wanted)
                    step.second_look = w_.second_look;
                if (wanted && reading_turn())
                    step.state = StepState::ready;
                else if (known && counts(*known))
                    step.state = StepState::done;
                else if (is({TunnelStep::torque_caps, TunnelStep::caps_off}))
                    step.state = StepState::ready, r_.hold(step, Rule::conditions, "tunnel/torque");
                else
                    step.state = known ? StepState::stale : StepState::ready;
                step.aside = w_.by_probe || (!wanted && step.state == StepState::ready);
                if (!tunnel_of(state_).as_found && readings_of(state_).places.empty())
                    r_.hold(step, Rule::clean_first, "cleaned/wash");
                lead(step);
            }
        }
        // A place left out of the plan can still be the one in doubt.
        if (w_.step == TunnelStep::read_again && !w_.by_probe && lead_.empty() && !w_.to_read.empty())
            lead(r_.add_reading(w_.to_read.front(), Stage::tunnel));
        if (lead_.empty() && reading_turn()) // it waits itself: for a wash, or with the probe
            lead_ = w_.by_probe ? "tunnel/probe" : w_.to_read.empty() ? "as_found/log" : reading_id(w_.to_read.front());
    }

    void add_doubts() {
        if (w_.step == TunnelStep::state_caps) {
            Step& step = r_.add(Task::state_caps, "tunnel/conditions", Stage::tunnel);
            step.asks = {{"torqued", AskKind::tick, 1, {}, {}}};
            lead(step);
        }
        if (w_.step == TunnelStep::settle && !w_.by_probe) {
            Step& step = r_.add(Task::settle, "tunnel/settle", Stage::tunnel);
            if (const block::MeasuredPlace* place = seldomest_doubtful(state_, r_.a.gauge)) {
                step.place = place->at;
                step.about = place->at.feature;
            }
            step.asks = {{"value", AskKind::length, {}, {}, {}}};
            lead(step);
        }
        if (w_.step == TunnelStep::no_limits)
            add_decision(Task::give_limits, "tunnel/limits");
        if (w_.step == TunnelStep::decide)
            add_decision(Task::plan_tunnel, "tunnel/plan",
                         w_.begun ? std::vector<std::string>{"work_again", "go_on"} : std::vector<std::string>{});
        if (w_.step == TunnelStep::too_large)
            add_decision(Task::decide_main, "tunnel/large", {"work_again", "replace_cap", "go_on"});
        if (w_.step == TunnelStep::cannot_settle)
            add_decision(Task::decide_doubt, "tunnel/doubt");
    }

    void add_decision(Task task, const char* id, std::vector<std::string> choices = {}) {
        Step& step = r_.add(task, id, Stage::tunnel);
        if (!choices.empty())
            step.asks.push_back({"choice", AskKind::choice, {}, {}, {}, std::move(choices)});
        step.asks.push_back({"reason", AskKind::text, {}, {}, {}});
        lead(step);
    }

    /// The place of the gauges that is nearest to a limit, or that contradicts the probe.
    bool caps_wanted() const {
        return w_.study && w_.study->plan.feasible && w_.study->plan.max_cap_cut >= too_little &&
               w_.verdict != metrology::Verdict::meets && !w_.begun;
    }

    void add_caps() {
        if (w_.begun && !tunnel_of(state_).caps_cut.empty() &&
            tunnel_of(state_).caps_cut.back().sequence > tunnel_of(state_).tunnel_done) {
            Step& done = r_.add(Task::cut_caps, "tunnel/caps", Stage::tunnel);
            done.state = StepState::done;
            done.why = {tunnel_of(state_).caps_cut.back().sequence};
            return;
        }
        if (!caps_wanted())
            return;
        Step& step = r_.add(Task::cut_caps, "tunnel/caps", Stage::tunnel);
        step.number = w_.study->plan.max_cap_cut;
        step.asks = {{"as_planned", AskKind::tick, 1, {}, {}}};
        if (w_.step != TunnelStep::cut_caps)
            r_.hold(step, rule(), lead_);
        lead(step);
    }

    void add_torque() {
        const bool due = is({TunnelStep::torque_caps, TunnelStep::caps_off});
        if (!due && !caps_wanted())
            return;
        Step& step = r_.add(Task::torque_caps, "tunnel/torque", Stage::tunnel);
        step.asks = torque_asks();
        if (!due)
            r_.hold(step, Rule::order, "tunnel/caps");
        else if (lead_.empty() || is({TunnelStep::torque_caps, TunnelStep::caps_off}))
            lead_ = step.id;
    }

    /// What the bar needs to be set, and what each of its passes left.
    void add_bar() {
        if (w_.step == TunnelStep::give_bar) {
            Step& step = r_.add(Task::give_bar, "tunnel/bar", Stage::tunnel);
            step.asks = {{"tunnel_plan/bar_mm", AskKind::length, {}, 5, 500}};
            lead(step);
        }
        for (const block::FeatureId& main : w_.to_mark) {
            Step& step = r_.add(Task::mark_main, main.text() + "/mark", Stage::tunnel, main);
            step.asks = {
                {"mark", AskKind::choice, {}, {}, {}, {block::bar_mark_keys.begin(), block::bar_mark_keys.end()}}};
            lead(step);
        }
        if (w_.step == TunnelStep::not_clean)
            add_decision(Task::decide_bored, "tunnel/not_clean");
    }

    void add_machining() {
        const bool done = tunnel_of(state_).tunnel_done > 0 && !w_.begun;
        if (!w_.begun && w_.step == TunnelStep::good && !done)
            return; // good as found
        const bool hone = w_.method == block::TunnelMethod::hone;
        Step& step =
            r_.add(hone ? Task::hone_tunnel : Task::bore_tunnel, hone ? "tunnel/hone" : "tunnel/bore", Stage::tunnel);
        if (done && w_.step == TunnelStep::good) {
            step.state = StepState::done;
            step.why = {tunnel_of(state_).tunnel_done};
            return;
        }
        if (hone)
            step.asks = {{"strokes", AskKind::count, strokes_to_go(), 1, 10000}};
        else
            step.asks = {{"protrusion", AskKind::length, w_.next_protrusion, {}, {}},
                         {"new_cutter", AskKind::tick, {}, {}, {}}};
        if (w_.step == TunnelStep::log_finished) {
            step.state = StepState::done;
        } else if (w_.step == TunnelStep::machine) {
            if (w_.dwell)
                step.number = hone ? std::max(0.0, w_.dwell->left) : w_.dwell->size + w_.dwell->left;
            if (const auto least = window(true), most = window(false); least && most) {
                step.least = least;
                step.most = most;
            }
        } else {
            r_.hold(step, rule(), lead_);
        }
        if (!hone && !dial_in_.empty())
            r_.hold(step, Rule::order, dial_in_);
        lead(step);
    }
    /// As many as are safe before it is measured again; where the last go opened nothing that can be told, as many
    /// again.
    std::optional<double> strokes_to_go() const {
        if (w_.forecast)
            return w_.forecast->at_once;
        return w_.last_strokes > 0 ? std::optional<double>(w_.last_strokes) : std::nullopt;
    }
    std::optional<double> window(bool least) const {
        if (!w_.dwell)
            return std::nullopt;
        const block::MainBlueprint& main = meant(state_, w_.dwell->at.feature);
        return least ? main.diameter.smallest() : main.diameter.largest();
    }

    void add_ends() {
        if (w_.step == TunnelStep::good && tunnel_of(state_).tunnel_done == 0)
            return;
        Step& step = r_.add(Task::finish_tunnel, "tunnel/finish", Stage::tunnel);
        step.asks = {{"done", AskKind::tick, 1, {}, {}}, {"note", AskKind::text, {}, {}, {}}};
        if (w_.step == TunnelStep::good)
            step.state = StepState::done, step.why = {tunnel_of(state_).tunnel_done};
        else if (w_.step != TunnelStep::log_finished)
            r_.hold(step, Rule::order, lead_);
        lead(step);
    }

    Route& r_;
    const JobState& state_;
    const TunnelWork& w_;
    std::string lead_;
    std::string dial_in_; ///< what stands between the bar and its line
};

} // namespace

void hold_for_caps(Route& route) {
    if (readings_of(route.state).conditions.caps_torqued != false)
        return;
    for (const Stage stage : {Stage::decks, Stage::cylinders, Stage::mock_up}) {
        const auto needs_them = [stage](const Step& s) {
            return s.stage == stage && (s.task == Task::bore || s.task == Task::press || s.task == Task::probe ||
                                        (s.place && block::is_from_mains(s.place->quantity)));
        };
        if (std::ranges::none_of(route.steps, [&](const Step& s) {
                return needs_them(s) && s.leads && !s.aside && s.state == StepState::ready;
            }))
            continue;
        const auto asked = std::ranges::find_if(route.steps, [](const Step& s) {
            return s.task == Task::torque_caps && s.state == StepState::ready && !s.aside;
        });
        const bool asked_already = asked != route.steps.end();
        const std::string id =
            asked_already ? asked->id : std::string(block::stage_keys[static_cast<std::size_t>(stage)]) + "/caps";
        for (Step& step : route.steps)
            if (needs_them(step)) {
                route.hold(step, Rule::conditions, id);
                step.leads = step.leads && asked_already;
            }
        if (asked_already)
            continue;
        Step& caps = route.add(Task::torque_caps, id, stage);
        caps.asks = torque_asks();
        caps.leads = true;
    }
}

/// Everything else hangs on it: caps, torque, strokes or bar, and the readings between.
void add_tunnel_steps(Route& route) {
    if (wanted(route.state, Stage::tunnel))
        TunnelPart(route).add();
}

} // namespace pallix::planning
