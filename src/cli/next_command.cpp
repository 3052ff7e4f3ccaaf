// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/next_command.h"

#include "block/job_file.h"
#include "block/state/fold.h"
#include "block/state/intake_state.h"
#include "cli/inputs.h"
#include "planning/common/assessment.h"
#include "planning/decks/deck_belief.h"
#include "planning/steps/step_changes.h"
#include "wording/steps/change_words.h"
#include "wording/steps/step_words.h"

#include <array>
#include <charconv>
#include <chrono>
#include <iostream>
#include <nlohmann/json.hpp>

namespace pallix::cli {
namespace {

using Json = nlohmann::ordered_json;
using planning::Step;
using planning::StepState;

/// The lengths of the contract are millimetres, in words as in numbers.
wording::LengthText in_mm() {
    return wording::LengthText(block::Unit::mm);
}

template <std::size_t N, class Enum>
const char* key_of(const std::array<const char*, N>& keys, Enum value) {
    return keys[static_cast<std::size_t>(value)];
}

Json ask_json(const planning::Ask& ask) {
    Json json{{"key", ask.key}, {"kind", key_of(planning::ask_kind_keys, ask.kind)}};
    if (ask.proposed && ask.kind == planning::AskKind::tick)
        json["proposed"] = *ask.proposed != 0;
    else if (ask.proposed)
        json["proposed"] = *ask.proposed;
    if (ask.least)
        json["least"] = *ask.least;
    if (ask.most)
        json["most"] = *ask.most;
    if (!ask.choices.empty())
        json["choices"] = ask.choices;
    return json;
}

Json wait_json(const block::JobState& state, const planning::Assessment& a, const planning::Wait& wait) {
    Json json{{"rule", key_of(block::rule_keys, wait.rule)}};
    for (const auto& [key, value] : {std::pair("step", &wait.step), std::pair("until", &wait.until),
                                     std::pair("part", &wait.part), std::pair("person", &wait.person)})
        if (!value->empty())
            json[key] = *value;
    json["words"] = wording::wait_words(state, a, wait, in_mm());
    return json;
}

Json change_json(const planning::Change& change) {
    Json json{{"what", key_of(planning::changed_keys, change.what)}, {"about", change.about.text()}};
    if (change.from)
        json["from"] = *change.from;
    if (change.to)
        json["to"] = *change.to;
    return json;
}

Json step_json(const block::JobState& state, const planning::Assessment& a, const Step& step) {
    Json json{{"id", step.id},
              {"stage", key_of(block::stage_keys, step.stage)},
              {"kind", key_of(planning::step_kind_keys, step.kind)},
              {"state", key_of(planning::step_state_keys, step.state)}};
    if (step.about)
        json["about"] = step.about->text();
    if (step.number)
        json["number"] = *step.number;
    if (step.least || step.most) {
        json["target"] = Json::object();
        if (step.least)
            json["target"]["least"] = *step.least;
        if (step.most)
            json["target"]["most"] = *step.most;
    }
    json["cannot_be_undone"] = step.cannot_be_undone;
    json["waits_for"] = Json::array();
    for (const planning::Wait& wait : step.waits_for)
        json["waits_for"].push_back(wait_json(state, a, wait));
    json["asks"] = Json::array();
    for (const planning::Ask& ask : step.asks)
        json["asks"].push_back(ask_json(ask));
    json["machine"] = key_of(planning::machine_keys, step.where.machine);
    json["set_up"] = key_of(planning::set_up_keys, step.where.set_up);
    if (step.where.minutes)
        json["minutes"] = *step.where.minutes;
    json["changes"] = Json::array();
    for (const planning::Change& change : planning::changes_of(state, a, step))
        json["changes"].push_back(change_json(change));
    if (const std::string care = wording::step_text(state, a, step, in_mm()).caution; !care.empty())
        json["care"] = care;
    if (!step.why.empty())
        json["why"] = step.why;
    if (!step.reason.empty())
        json["reason"] = step.reason;
    json["words"] = wording::step_headline(state, step, in_mm());
    return json;
}

std::string as_json(const block::JobState& state, const planning::Assessment& a, bool all) {
    Json json{{"format", "pallix-steps"}, {"version", 1}, {"unit", "mm"}};
    const Step* now = a.steps.now();
    json["now"] = now ? Json(now->id) : Json();
    json["steps"] = Json::array();
    for (const Step& step : a.steps.steps)
        if (all || step.state <= StepState::waits)
            json["steps"].push_back(step_json(state, a, step));
    return json.dump(2) + "\n";
}

std::string as_text(const block::JobState& state, const planning::Assessment& a, bool all) {
    const wording::CallText call = wording::call_text(state, a, in_mm());
    std::string text = call.headline + (call.number.empty() ? "" : "  [" + call.number + "]") + "\n";
    for (const std::string& reason : call.reasons)
        text += "  " + reason + "\n";
    if (!call.caution.empty())
        text += "  care: " + call.caution + "\n";
    if (const Step* now = a.steps.now()) {
        if (const std::string where = wording::where_words(state, *now); !where.empty())
            text += "  " + where + "\n";
        for (const std::string& change : wording::change_words(state, planning::changes_of(state, a, *now), in_mm()))
            text += "  changes: " + change + "\n";
    }
    text += "\n";
    for (const Step& step : a.steps.steps) {
        if (!all && step.state > StepState::waits)
            continue;
        text += std::string(key_of(planning::step_state_keys, step.state)) + "\t" + step.id + "\t" +
                wording::step_headline(state, step, in_mm()) + "\n";
        for (const planning::Wait& wait : step.waits_for)
            text += "\t\twaits: " + wording::wait_words(state, a, wait, in_mm()) + "\n";
    }
    return text;
}

} // namespace

std::string utc_now() {
    const std::time_t now = std::chrono::system_clock::to_time_t(std::chrono::system_clock::now());
    std::tm utc{};
    gmtime_r(&now, &utc);
    std::array<char, 32> text{};
    const std::size_t length = std::strftime(text.data(), text.size(), "%Y-%m-%dT%H:%M:%SZ", &utc);
    return {text.data(), length};
}

bool is_utc(const std::string& text) {
    constexpr std::string_view shape = "0000-00-00T00:00:00Z";
    if (text.size() != shape.size())
        return false;
    for (std::size_t i = 0; i < shape.size(); ++i)
        if (shape[i] == '0' ? text[i] < '0' || text[i] > '9' : text[i] != shape[i])
            return false;
    const auto two = [&text](std::size_t at) { return (text[at] - '0') * 10 + text[at + 1] - '0'; };
    return two(5) >= 1 && two(5) <= 12 && two(8) >= 1 && two(8) <= 31 && two(11) < 24 && two(14) < 60 && two(17) < 61;
}

int next(const NextRequest& request) {
    const auto entries = read_file(request.job).and_then([](const block::NamedText& text) {
        return block::read_job(text.text, text.file);
    });
    if (!entries) {
        print(entries.error());
        return input_is_wrong;
    }
    const block::Folded state = block::fold(*entries);
    if (!intake_of(state).troubles.empty()) {
        block::Faults faults;
        for (const block::Trouble& trouble : intake_of(state).troubles)
            faults.push_back({request.job, 0, trouble.words, ""});
        print(faults);
        return input_is_wrong;
    }
    const planning::Assessment a =
        planning::assess(state, nullptr, request.at.empty() ? utc_now() : request.at, planning::clean_depths(state));
    std::cout << (request.as_text ? as_text(state, a, request.all) : as_json(state, a, request.all));
    return std::cout.flush() ? 0 : input_is_wrong;
}

} // namespace pallix::cli
