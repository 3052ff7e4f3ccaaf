// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/steps/steps.h"

#include "block/state/card_state.h"
#include "block/state/intake_state.h"
#include "planning/steps/contributors.h"
#include "planning/steps/shop_steps.h"

#include <algorithm>
#include <utility>

namespace pallix::planning {

using block::JobState;
using block::MeasuredAt;
using block::Quantity;
using block::Rule;

namespace {

bool cannot_be_undone(Task task) {
    const StepKind kind = kind_of(task);
    return kind == StepKind::cut || kind == StepKind::hone || task == Task::press || task == Task::press_bush;
}

/// What a person left out, with the reason.
void skip_what_was_left_out(StepList& list, const JobState& state) {
    for (Step& step : list.steps)
        for (const block::Taken<block::StepSkipped>& left : intake_of(state).skipped)
            if (left.payload.step == step.id && step.state != StepState::done && step.task != Task::hand_over &&
                step.task != Task::open_truth) {
                step.state = StepState::skipped;
                step.reason = left.payload.reason;
            }
}

/// A step that hangs on one that is done or left out hangs on it no more.
void let_go(StepList& list) {
    for (Step& step : list.steps) {
        const bool waited = !step.waits_for.empty();
        std::erase_if(step.waits_for, [&list](const Wait& wait) {
            const Step* first = wait.step.empty() ? nullptr : list.find(wait.step);
            return first && (first->state == StepState::done || first->state == StepState::skipped);
        });
        if (waited && step.waits_for.empty() && step.state == StepState::waits)
            step.state = StepState::ready;
    }
}

/// A block that has left the shop asks for nothing more, nor does one whose truth is open.
void close(StepList& list, Task end, const std::string& reason) {
    for (Step& step : list.steps) {
        if (step.task == end)
            step.state = StepState::done;
        else if (step.state == StepState::ready || step.state == StepState::waits) {
            step.state = StepState::skipped;
            step.reason = reason;
        }
        step.waits_for.clear();
    }
}

/// One is called: the first in the order of the route that could be done at once.
void call_one(StepList& list) {
    const auto first =
        std::ranges::find_if(list.steps, [](const Step& s) { return s.state == StepState::ready && !s.aside; });
    if (first != list.steps.end()) {
        first->state = StepState::now;
        return;
    }
    // Nothing but what stands aside is left, and nothing waits for a time or a part: then that is the way on.
    const bool waits = std::ranges::any_of(list.steps, is_held_from_outside);
    const auto beside = std::ranges::find(list.steps, StepState::ready, &Step::state);
    if (!waits && beside != list.steps.end())
        beside->state = StepState::now;
}

} // namespace

bool is_held_from_outside(const Step& step) {
    return step.state == StepState::waits && std::ranges::any_of(step.waits_for, [](const Wait& w) {
               return !w.until.empty() || !w.part.empty() || !w.person.empty();
           });
}

StepKind kind_of(Task task) {
    using enum Task;
    switch (task) {
    case mend_blueprint:
    case take_log:
    case give_limits:
    case give_target:
    case give_volumes:
    case give_sizes:
    case give_lifter_numbers:
    case give_bar:
    case fill_card:
    case note_part:
    case place_hold:
        return StepKind::give;
    case mend_ledger:
    case plan_tunnel:
    case decide_main:
    case decide_bored:
    case decide_doubt:
    case accept:
    case decide_flaw:
    case decide_deck:
    case go_on_unmeasured:
    case plan_cylinders:
    case decide_size:
    case decide_wall:
    case refuse_insert:
    case decide_over:
    case decide_large:
    case decide_place:
    case decide_bush:
    case decide_lifter:
    case choose_bore:
    case choose_lifter:
    case choose_scope:
    case choose_target:
    case sign_off:
        return StepKind::decide;
    case read:
    case probe:
    case settle:
    case confirm_datum:
    case feel:
    case measure_insert:
    case read_ring:
    case prove_lifters:
        return StepKind::measure;
    case inspect:
    case look_why_dark:
    case look_at_touch:
    case look_at_edge:
    case judge_trial:
    case mark_main:
    case mark_flaw:
    case test_pressure:
    case note_finish:
    case note_pit:
    case note_roughness:
    case inspect_one:
    case open_truth:
        return StepKind::look;
    case wash:
    case state_caps:
    case state_conditions:
    case finish_tunnel:
    case level:
    case level_head:
    case ease_clamp:
    case read_set_up_on:
    case move_bar:
    case dress:
    case tick_tunnel:
    case part_came:
    case lift_hold:
        return StepKind::tick;
    case cut_caps:
    case bore_tunnel:
    case cut_deck:
    case cut_head:
    case flush_deck:
    case bore:
    case cut_lifter:
    case work_head:
    case pass_tunnel:
    case cut_tunnel:
        return StepKind::cut;
    case hone_tunnel:
    case hone_bore:
        return StepKind::hone;
    case torque_caps:
    case press:
    case put_plate_on:
    case press_bush:
        return StepKind::fit;
    case rest:
    case soak:
    case set_clock:
        return StepKind::wait;
    case hand_over:
        break;
    }
    return StepKind::hand_over;
}

const Step* StepList::now() const {
    const auto found = std::ranges::find(steps, StepState::now, &Step::state);
    return found == steps.end() ? nullptr : &*found;
}

const Step* StepList::find(std::string_view id) const {
    const auto found = std::ranges::find_if(steps, [id](const Step& s) { return s.id == id; });
    return found == steps.end() ? nullptr : &*found;
}

const Step* StepList::of(block::Stage stage) const {
    const Step* best = nullptr;
    for (const Step& s : steps)
        if (s.stage == stage && !s.aside && s.state <= StepState::waits && (!best || s.state < best->state))
            best = &s;
    return best;
}

// ---- the list while it is made ------------------------------------------------------------------------------------

Route::Route(const JobState& job, const Assessment& assessed, std::string time)
    : state(job), a(assessed), at(std::move(time)) {}

const block::MeasuredPlace* Route::place(const MeasuredAt& where) const {
    return readings_of(state).place(where);
}

Step& Route::add(Task task, std::string id, block::Stage stage, std::optional<block::FeatureId> about) {
    Step step;
    step.id = std::move(id);
    step.task = task;
    step.kind = kind_of(task);
    step.stage = stage;
    step.about = std::move(about);
    step.cannot_be_undone = cannot_be_undone(task);
    step.where = where_of(task, intake_of(state).blueprint ? intake_of(state).blueprint->mains.size() : 0, step.about);
    steps.push_back(std::move(step));
    return steps.back();
}

Step& Route::add_reading(const MeasuredAt& where, block::Stage stage) {
    Step& step = add(Task::read, reading_id(where), stage, where.feature);
    step.place = where;
    step.asks = {{"value", AskKind::length, {}, {}, {}}};
    if (block::is_on_head(where.quantity))
        step.where.set_up = SetUp::head_up;
    if (const block::MeasuredPlace* known = place(where)) {
        step.why = known->sequences;
        step.state = known->stale() ? StepState::ready : StepState::done;
    }
    return step;
}

bool Route::passed(Rule rule, const std::string& about) const {
    return gate_passed(state, rule, about);
}

void Route::hold(Step& step, Rule rule, const std::string& first) const {
    hold(step, {rule, first, "", "", ""});
}

void Route::hold(Step& step, Wait wait) const {
    if (step.state != StepState::ready && step.state != StepState::waits)
        return;
    if (wait.step == step.id || passed(wait.rule, step.about ? step.about->text() : "") ||
        passed(wait.rule, block::stage_keys[static_cast<std::size_t>(step.stage)]))
        return;
    step.state = StepState::waits;
    step.waits_for.push_back(std::move(wait));
}

std::string reading_id(const MeasuredAt& at) {
    return at.feature.text() + "/measure/" + place_id(at);
}

std::string place_id(const MeasuredAt& at) {
    std::string id;
    const auto add = [&id](const std::string& part) {
        if (!part.empty())
            id += (id.empty() ? "" : "/") + id_part(part);
    };
    if (at.quantity != Quantity::size)
        add(block::quantity_names[static_cast<std::size_t>(at.quantity)]);
    add(at.level);
    add(at.direction);
    if (block::is_at_a_place(at.quantity)) {
        const std::string key = at.key();
        const std::string words =
            at.feature.text() + " " + block::quantity_names[static_cast<std::size_t>(at.quantity)] + " ";
        add(key.starts_with(words) ? key.substr(words.size()) : key);
    }
    return id;
}

// ---- gates, scope, order ------------------------------------------------------------------------------------------

std::string id_part(std::string words) {
    std::erase(words, ',');
    std::ranges::replace(words, ' ', '_');
    return words;
}

std::string datum_confirmed(const std::string& bank) {
    return "datum confirmed on the dowel, bank " + bank;
}
std::string looked_why_dark(const std::string& bank) {
    return "looked why deck." + bank + " stayed dark";
}

bool gate_passed(const JobState& state, Rule rule, const std::string& about, std::int64_t since) {
    return std::ranges::any_of(intake_of(state).gates, [&](const block::Taken<block::GatePassed>& gate) {
        return gate.payload.rule == rule && gate.sequence > since &&
               (gate.payload.about.empty() || gate.payload.about == about);
    });
}

bool tunnel_stands(const JobState& state, const Assessment& a, block::Stage stage) {
    if (a.tunnel_work.step == TunnelStep::good || !wanted(state, block::Stage::tunnel))
        return true;
    return gate_passed(state, Rule::tunnel_first, block::stage_keys[static_cast<std::size_t>(stage)]) ||
           gate_passed(state, Rule::tunnel_first, "tunnel");
}

std::vector<block::Stage> order_of(block::RoutePreset preset) {
    using enum block::Stage;
    switch (preset) {
    case block::RoutePreset::mains_first:
    case block::RoutePreset::decks_twice: // the second time after the mock-up, by its target
        return {received, cleaned, as_found, tunnel, decks, cylinders, lifters, mock_up, finish, passport};
    case block::RoutePreset::one_clamping:
        return {received, cleaned, as_found, tunnel, cylinders, decks, lifters, mock_up, finish, passport};
    case block::RoutePreset::least_metal:
        return {received, cleaned, as_found, decks, tunnel, cylinders, lifters, mock_up, finish, passport};
    case block::RoutePreset::sleeves_first:
        break;
    }
    return {received, cleaned, as_found, cylinders, tunnel, decks, lifters, mock_up, finish, passport};
}

std::vector<block::Stage> route_of(const JobState& state) {
    if (!intake_of(state).route)
        return order_of(block::RoutePreset::mains_first);
    std::vector<block::Stage> order = intake_of(state).route->payload.order;
    for (const block::Stage stage : order_of(intake_of(state).route->payload.preset))
        if (std::ranges::find(order, stage) == order.end())
            order.push_back(stage);
    return order;
}

bool wanted(const JobState& state, block::Stage stage) {
    if (!intake_of(state).scope)
        return true;
    using enum block::Stage;
    const bool always = stage == received || stage == cleaned || stage == as_found || stage == passport;
    return always || std::ranges::find(intake_of(state).scope->payload.stages, stage) !=
                         intake_of(state).scope->payload.stages.end();
}

StepList steps_of(const JobState& state, const Assessment& assessment, const std::string& at) {
    Route route(state, assessment, at);
    if (!intake_of(state).blueprint) {
        route.add(Task::mend_blueprint, "job/blueprint", block::Stage::received);
    } else if (!intake_of(state).troubles.empty()) {
        // What could not be used may have been a cut: before it is put right nothing is called.
        route.add(Task::mend_ledger, "job/ledger", block::Stage::received).why = {
            intake_of(state).troubles.front().sequence};
    } else {
        add_intake_steps(route);
        add_flaw_steps(route);
        add_touch_steps(route);
        add_tunnel_steps(route);
        add_head_steps(route, true);
        add_deck_steps(route);
        add_head_steps(route, false);
        add_cylinder_steps(route);
        add_lifter_steps(route);
        add_mock_up_steps(route);
        add_finish_steps(route);
        hold_for_touches(route);
        hold_for_flaws(route);
        hold_for_shop(route);
    }
    StepList list{std::move(route.steps)};
    skip_what_was_left_out(list, state);
    let_go(list);
    std::swap(list.steps, route.steps); // what hangs on what could be done now
    hold_for_caps(route);
    hold_decks_for_sleeves(route);
    std::swap(list.steps, route.steps);
    const std::vector<block::Stage> order = route_of(state);
    const auto rank = [&order](const Step& s) { return std::ranges::find(order, s.stage) - order.begin(); };
    std::ranges::stable_sort(list.steps, {}, rank);
    if (card_of(state).delivered)
        close(list, Task::hand_over, "delivered before it was done");
    else if (card_of(state).truth_opened)
        close(list, Task::open_truth, "the truth was opened before it was done");
    guard_learner(list, state);
    call_one(list);
    return list;
}

} // namespace pallix::planning
