// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/steps/any_time.h"
#include "planning/steps/contributors.h"
#include "planning/steps/shop_steps.h"

#include "block/state/bore_state.h"
#include "block/state/deck_state.h"
#include "block/state/intake_state.h"
#include "block/state/readings_state.h"
#include "block/state/tunnel_state.h"
#include "planning/common/assessment.h"
#include "planning/decks/set_up.h"
#include "planning/steps/steps.h"
#include "planning/tunnel/tunnel_work.h"

#include <algorithm>
#include <array>

namespace pallix::planning {
namespace {

using block::FeatureId;
using block::FeatureKind;
using block::JobState;
using block::Stage;

template <class Keys>
std::vector<std::string> list(const Keys& keys) {
    return {keys.begin(), keys.end()};
}

Ask choice(const char* key, std::vector<std::string> choices) {
    return {key, AskKind::choice, {}, {}, {}, std::move(choices)};
}
Ask length_if(const char* key, double least, double most) {
    return {key, AskKind::length, {}, least, most, {}, true};
}
const Ask note{"note", AskKind::text, {}, {}, {}};

class Steps {
  public:
    Steps(const JobState& state, const std::optional<FeatureId>& about) : state_(state), about_(about) {}

    std::vector<Step> all;

    Step& add(Task task, const std::string& what, Stage stage, std::vector<Ask> asks) {
        Step step;
        step.task = task;
        step.id =
            (about_ ? about_->text() : std::string(block::stage_keys[static_cast<std::size_t>(stage)])) + "/" + what;
        step.kind = kind_of(task);
        step.stage = stage;
        step.about = about_;
        step.asks = std::move(asks);
        step.cannot_be_undone = step.kind == StepKind::cut;
        step.where = where_of(task, intake_of(state_).blueprint->mains.size(), about_);
        all.push_back(std::move(step));
        return all.back();
    }

  private:
    const JobState& state_;
    const std::optional<FeatureId>& about_;
};

/// What holds for the readings to come: as it is stated now, but for what is changed.
void add_conditions(Steps& steps, const JobState& state) {
    const block::Conditions& now = readings_of(state).conditions;
    const auto stated = [](const char* key, const std::optional<bool>& value) {
        Ask ask = choice(key, {"not_stated", "yes", "no"});
        ask.proposed = !value ? 0 : *value ? 1 : 2;
        return ask;
    };
    steps.add(Task::state_conditions, "any/conditions", Stage::cleaned,
              {stated("caps", now.caps_torqued),
               stated("plate", now.plate_on),
               {"part_c", AskKind::count, now.part_c, -40, 120, {}, true},
               {"gauge_c", AskKind::count, now.gauge_c, -40, 120, {}, true},
               {"fasteners", AskKind::text, {}, {}, {}},
               {"also_before", AskKind::tick, {}, {}, {}}});
}

/// A crack, pit or mark in something that is no deck, and those that were decided on there.
void add_flaw(Steps& steps, const JobState& state, const std::optional<FeatureId>& about,
              std::vector<std::string> where) {
    std::vector<Ask> asks{choice("flaw", list(block::flaw_kind_keys)), length_if("depth", 0, block::longest), note};
    if (where.size() > 1)
        asks.insert(asks.begin(), choice("where", std::move(where)));
    steps.add(Task::mark_flaw, "any/flaw", Stage::cleaned, std::move(asks));
    for (const block::KnownFlaw& known : decks_of(state).flaws)
        if (known.flaw.where != block::FlawWhere::deck && known.flaw.feature == about && known.decided)
            steps
                .add(Task::decide_flaw, "any/flaw/" + std::to_string(known.sequence), Stage::cleaned,
                     flaw_asks(known.flaw.where))
                .why = {known.sequence};
}

void add_of_deck(Steps& steps, const JobState& state, const std::string& bank) {
    steps.add(Task::mark_flaw, "any/flaw", Stage::decks,
              {choice("flaw", list(block::flaw_kind_keys)), choice("near", list(block::flaw_near_keys)),
               length_if("depth", 0, block::longest), note});
    for (const block::KnownFlaw& known : decks_of(state).flaws)
        if (known.flaw.bank == bank && known.decided) // what was decided can be decided otherwise
            steps
                .add(Task::decide_flaw, "any/flaw/" + std::to_string(known.sequence), Stage::decks,
                     {choice("choice", list(block::flaw_choice_keys)), note})
                .why = {known.sequence};
    if (!decks_of(state).deck(bank).cuts.empty())
        steps.add(Task::note_finish, "any/finish", Stage::decks,
                  {choice("cutter", list(block::cutter_state_keys)),
                   {"ra_um", AskKind::count, {}, 0.001, 1000, {}, true},
                   note});
    Ask surface = choice("surface", {"deck", "plate", "bar"});
    const auto read_on = std::ranges::find(surface.choices, set_up_of(state, bank).surface);
    surface.proposed = static_cast<double>(read_on - surface.choices.begin());
    steps.add(Task::read_set_up_on, "any/set_up", Stage::decks, {surface});
    steps.add(
        Task::work_head, "any/head", Stage::decks,
        {{"cut", AskKind::length, {}, 0, 5}, {"engine_figures/chamber_mm3", AskKind::count, {}, 0, 1e9, {}, true}});
}

void add_of_bore(Steps& steps) {
    steps.add(Task::choose_bore, "any/decide", Stage::cylinders,
              {choice("choice", list(block::bore_choice_keys)), note});
    steps.add(Task::note_pit, "any/pit", Stage::cylinders,
              {{"depth", AskKind::length, {}, 0, 10},
               choice("level", {"top", "middle", "bottom"}),
               choice("side", {"right", "rear", "left", "front"})});
    std::vector<Ask> numbers; // heights in µm, ratios in per cent
    for (const char* key : {"ra_um", "rz_um", "rk_um", "rpk_um", "rvk_um", "mr1_percent", "mr2_percent"})
        numbers.push_back({key, AskKind::count, {}, 0, 100, {}, true});
    steps.add(Task::note_roughness, "any/roughness", Stage::cylinders, std::move(numbers));
}

void add_of_tunnel(Steps& steps, const JobState& state) {
    for (const std::string& what : cap_steps()) {
        Step& step = steps.add(Task::tick_tunnel, "any/tick/" + id_part(what), Stage::tunnel,
                               {{"done", AskKind::tick, 1, {}, {}}});
        const bool done = std::ranges::any_of(tunnel_of(state).steps, [&](const auto& s) {
            return s.second == what && s.first > tunnel_of(state).tunnel_done;
        });
        if (done)
            step.state = StepState::done;
    }
    steps.add(Task::pass_tunnel, "any/pass", Stage::tunnel,
              {choice("pass", list(block::tunnel_pass_keys)),
               {"strokes", AskKind::count, {}, 1, 10000, {}, true},
               length_if("protrusion", 0, block::longest)});
    steps.add(Task::cut_tunnel, "any/cut", Stage::tunnel, {choice("method", list(block::tunnel_method_keys)), note});
}

} // namespace

std::vector<Step> any_time_steps(const JobState& state, const std::optional<FeatureId>& about) {
    if (!intake_of(state).blueprint || !intake_of(state).troubles.empty())
        return {};
    Steps steps(state, about);
    if (!about) {
        add_conditions(steps, state);
        steps.add(Task::test_pressure, "any/pressure", Stage::cleaned, {choice("result", {"tight", "leaks"}), note});
        add_of_tunnel(steps, state);
        add_flaw(steps, state, about, {"outside"});
        for (Step& step : shop_steps(state))
            steps.all.push_back(std::move(step));
        return steps.all;
    }
    switch (about->kind) {
    case FeatureKind::deck:
        if (intake_of(state).blueprint->bank(about->bank))
            add_of_deck(steps, state, about->bank);
        break;
    case FeatureKind::bore:
        add_of_bore(steps);
        add_flaw(steps, state, about, {"bore"});
        break;
    case FeatureKind::main:
        add_flaw(steps, state, about, {"saddle", "web"});
        break;
    case FeatureKind::lifter:
        steps.add(Task::choose_lifter, "any/decide", Stage::lifters,
                  {choice("choice", list(block::lifter_choice_keys)), note});
        break;
    default:
        break;
    }
    return steps.all;
}

std::optional<Step> step_by_id(const JobState& state, const Assessment& assessment, const std::string& id) {
    if (const Step* listed = assessment.steps.find(id))
        return *listed;
    const std::vector<Step> any = any_time_steps(state, block::FeatureId::parse(id.substr(0, id.find('/'))));
    const auto found = std::ranges::find(any, id, &Step::id);
    return found == any.end() ? std::nullopt : std::optional(*found);
}

} // namespace pallix::planning
