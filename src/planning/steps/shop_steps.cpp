// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/steps/shop_steps.h"

#include "block/state/card_state.h"
#include "block/state/deck_state.h"
#include "block/state/intake_state.h"
#include "planning/steps/contributors.h"
#include "planning/steps/steps.h"

#include <algorithm>

namespace pallix::planning {
namespace {

using namespace block;

const char* key_of(Stage stage) {
    return stage_keys[static_cast<std::size_t>(stage)];
}

Ask text(const char* key, const std::string& stands = {}) {
    return {key, AskKind::text, {}, {}, {}, {}, true, stands};
}
Ask choice_of(const char* key, std::vector<std::string> choices, std::optional<double> proposed) {
    return {key, AskKind::choice, proposed, {}, {}, std::move(choices)};
}
constexpr double longest_clock = 30.0 * 24 * 60; // minutes
Ask minutes(double proposed) {
    return {"minutes", AskKind::count, proposed, 1, longest_clock};
}

/// What waits for it: a stage, or nothing of the metal.
Ask waiting_stage() {
    std::vector<std::string> stages{"hand_over"};
    for (const Stage stage : optional_stages)
        stages.emplace_back(key_of(stage));
    return choice_of("waiting", std::move(stages), 0);
}

class Card {
  public:
    explicit Card(const JobState& state) : state_(state), card_(card_of(state).card) {}

    std::vector<Step> all() {
        const JobCard& c = card_;
        line("block", {text("identity", c.identity)});
        line("customer", {text("customer", intake_of(state_).customer), text("reach", c.reach)});
        line("complaint", {text("complaint", c.complaint), text("history", c.history)});
        std::vector<std::string> uses{"not_stated"};
        uses.insert(uses.end(), use_keys.begin(), use_keys.end());
        line("use", {choice_of("use", std::move(uses), c.use ? 1 + static_cast<double>(*c.use) : 0),
                     text("fuel", c.fuel), text("boost", c.boost)});
        line("gasket", {text("gasket", c.gasket)});
        line("wanted", {text("wanted", c.wanted), {"oversize", AskKind::length, c.oversize, 0, 20, {}, true}});
        line("promised", {text("promised", c.promised)});
        add(Task::choose_scope, "scope", scope());
        add(Task::choose_target, "target", target());
        add(Task::note_part, "part", {text("part"), text("where"), text("due"), waiting_stage()});
        for (const auto& part : card_of(state_).parts)
            if (!part.payload.here)
                about(add(Task::part_came, "part/" + std::to_string(part.sequence), {done()}), part.sequence);
        add(Task::place_hold, "hold", {text("with"), text("what"), waiting_stage()});
        for (const auto& hold : card_of(state_).holds)
            about(add(Task::lift_hold, "hold/" + std::to_string(hold.sequence), {done(), text("note")}), hold.sequence);
        add(Task::set_clock, "clock", {text("what"), minutes(60)});
        add(Task::soak, "soak", {minutes(4 * 60)}, Stage::cleaned); // common practice, no source
        for (const char* what : inspection_keys) {
            std::vector<Ask> asks{done(), text("found")};
            if (std::string_view(what) == "cracks")
                asks.insert(asks.begin() + 1, choice_of("method", {"dye", "magnetic", "eye"}, 0));
            add(Task::inspect_one, what, std::move(asks), Stage::cleaned);
        }
        if (!card_of(state_).practice)
            add(Task::hand_over, "hand_over", {text("to"), text("note")}, Stage::passport);
        return std::move(all_);
    }

  private:
    static Ask done() { return {"done", AskKind::tick, 1, {}, {}}; }
    static void about(Step& step, std::int64_t sequence) { step.why = {sequence}; }

    Step& add(Task task, const std::string& what, std::vector<Ask> asks, Stage stage = Stage::received) {
        Step step;
        step.task = task;
        step.id = std::string(key_of(stage)) + "/any/" + what;
        step.kind = kind_of(task);
        step.stage = stage;
        step.asks = std::move(asks);
        step.where = where_of(task, 0, {});
        all_.push_back(std::move(step));
        return all_.back();
    }
    void line(const char* what, std::vector<Ask> asks) { add(Task::fill_card, what, std::move(asks)); }

    [[nodiscard]] std::vector<Ask> scope() const {
        std::vector<Ask> asks{text("reason")};
        for (const Stage stage : optional_stages)
            asks.push_back({key_of(stage), AskKind::tick, wanted(state_, stage) ? 1.0 : 0.0, {}, {}});
        return asks;
    }
    [[nodiscard]] std::vector<Ask> target() const {
        const DeckTargetChosen& t = decks_of(state_).target;
        return {{"height", AskKind::length, t.height, 0, longest, {}, true},
                {"clearance", AskKind::length, t.clearance, -10, 10, {}, true},
                {"ratio", AskKind::count, t.ratio, 4, 30, {}, true}};
    }

    const JobState& state_;
    const JobCard& card_;
    std::vector<Step> all_;
};

std::string any(const char* what, std::int64_t sequence) {
    return std::string("received/any/") + what + "/" + std::to_string(sequence);
}

/// A stage's metal; without a stage, handing over.
bool waits_for_part(const Step& step, const std::optional<Stage>& stage) {
    return stage ? step.stage == *stage && (step.cannot_be_undone || step.kind == StepKind::fit)
                 : step.task == Task::hand_over;
}
bool waits_for_person(const Step& step, const std::optional<Stage>& stage) {
    return step.task == Task::hand_over || (step.cannot_be_undone && (!stage || step.stage == *stage));
}

} // namespace

std::vector<Step> shop_steps(const JobState& state) {
    return Card(state).all();
}

void hold_for_shop(Route& route) {
    const CardState& card = card_of(route.state);
    for (Step& step : route.steps) {
        for (const auto& part : card.parts)
            if (!part.payload.here && waits_for_part(step, part.payload.stage))
                route.hold(step, {Rule::part_here, any("part", part.sequence), "", part.payload.name, ""});
        for (const auto& hold : card.holds)
            if (waits_for_person(step, hold.payload.stage))
                route.hold(step, {Rule::part_here, any("hold", hold.sequence), "", "", hold.payload.with});
        for (const auto& clock : card.clocks)
            if (clock.payload.stage == step.stage && clock.payload.until > route.at && !step.aside)
                route.hold(step, {Rule::rest_over, "", clock.payload.until, "", ""});
    }
}

} // namespace pallix::planning
