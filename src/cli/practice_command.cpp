// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/practice_command.h"

#include "block/job_file.h"
#include "block/state/card_state.h"
#include "block/state/fold.h"
#include "block/state/intake_state.h"
#include "cli/inputs.h"
#include "cli/next_command.h"
#include "planning/cylinders/cylinder_plan.h"
#include "planning/tunnel/tunnel_study.h"
#include "wording/practice/practice_words.h"
#include "workshop/practice/own_exercise.h"
#include "workshop/practice/result.h"
#include "workshop/practice/school.h"

#include <algorithm>
#include <fstream>
#include <iostream>
#include <nlohmann/json.hpp>

namespace pallix::cli {
namespace {

using Json = nlohmann::ordered_json;

int refuse(const block::Faults& faults) {
    print(faults);
    return input_is_wrong;
}

int write_text(const std::string& text, const std::string& file) {
    std::ofstream out(file, std::ios::binary);
    out << text;
    if (!out.flush())
        return refuse({{file, 0, "cannot be written", "a folder that is there, with room"}});
    return 0;
}
int write_entries(const std::vector<block::Entry>& entries, const std::string& file) {
    return write_text(block::write_job(entries), file);
}

block::Result<std::vector<block::Entry>> job_in(const std::string& file) {
    return read_file(file).and_then([](const block::NamedText& text) { return block::read_job(text.text, text.file); });
}

Json reckoning_json(const block::JobState& state, const workshop::Reckoning& r) {
    const wording::LengthText mm(block::Unit::mm);
    Json json{{"score", r.score()}, {"finished", r.finished}, {"minutes", r.minutes}, {"parts", Json::object()}};
    for (std::size_t i = 0; i < r.parts.size(); ++i)
        json["parts"][workshop::score_part_keys[i]] = r.parts[i];
    json["left"] = Json::array();
    for (const workshop::PartLeft& part : r.left)
        json["left"].push_back({{"about", part.about}, {"out", part.out}, {"good", part.good}});
    json["metal"] = Json::array();
    for (const workshop::MetalOff& off : r.metal)
        json["metal"].push_back(
            {{"about", off.about}, {"taken", off.taken}, {"knowable", off.knowable}, {"needed", off.needed}});
    json["readings"] = r.readings;
    json["needless"] = r.needless;
    json["remarks"] = wording::reckoning_sentences(state, r, mm);
    return json;
}

std::string reckoning_text(const block::JobState& state, const workshop::PracticeResult& result) {
    const wording::LengthText mm(block::Unit::mm);
    std::string text = wording::score_sentence(result.own) + "\n";
    for (std::size_t i = 0; i < result.own.parts.size(); ++i)
        text += "  " + wording::score_part_name(static_cast<workshop::ScorePart>(i)) + ": " +
                wording::fixed(result.own.parts[i], 0) + " of " + wording::fixed(workshop::score_part_most[i], 0) +
                " (the player " + wording::fixed(result.player.parts[i], 0) + ")\n";
    for (const std::string& line : wording::reckoning_sentences(state, result.own, mm))
        text += line + "\n";
    return text;
}

} // namespace

int list_exercises() {
    for (std::size_t i = 0; i < workshop::theme_keys.size(); ++i) {
        const workshop::ThemeTold& told = workshop::told_of(static_cast<workshop::Theme>(i));
        std::cout << workshop::theme_keys[i] << "\t" << told.easiest << "\t" << told.title << "\n";
    }
    return std::cout.flush() ? 0 : input_is_wrong;
}

namespace {

block::Result<workshop::Exercise> wanted_exercise(const PracticeRequest& request) {
    if (!request.exercise.empty())
        return read_file(request.exercise)
            .and_then([](const block::NamedText& text) { return workshop::read_own_exercise(text.text, text.file); })
            .and_then([](const workshop::OwnExercise& own) { return workshop::exercise_of(own); });
    if (!request.copied.empty())
        return job_in(request.copied).and_then([&request](const std::vector<block::Entry>& entries) {
            return workshop::copy_of(entries, request.number);
        });
    if (const auto theme = workshop::theme_of(request.theme))
        return workshop::exercise_of(*theme, request.level, request.number);
    std::string known;
    for (const char* key : workshop::theme_keys)
        known += (known.empty() ? "" : ", ") + std::string(key);
    return tl::unexpected(block::Faults{{"--theme", 0, "is \"" + request.theme + "\"", "one of " + known}});
}

} // namespace

int new_exercise(const PracticeRequest& request) {
    const auto exercise = wanted_exercise(request);
    if (!exercise)
        return refuse(exercise.error());
    std::vector<block::Entry> entries;
    for (block::Payload& payload : workshop::opening_of(*exercise))
        entries.push_back({static_cast<std::int64_t>(entries.size() + 1), utc_now(), "bench", std::move(payload)});
    return write_entries(entries, request.out);
}

int make_exercise(const PracticeRequest& request) {
    const auto blueprint = read_file(request.blueprint);
    if (!blueprint)
        return refuse(blueprint.error());
    workshop::OwnExercise own{request.title,   request.story, request.wanted, request.number, request.level, {},
                              blueprint->text, request.errors};
    for (const std::string& name : request.scope)
        own.scope.push_back(
            static_cast<block::Stage>(std::ranges::find(block::stage_keys, name) - block::stage_keys.begin()));
    const std::string json = workshop::own_exercise_json(own);
    const auto sound = workshop::read_own_exercise(json, request.out).and_then([](const workshop::OwnExercise& read) {
        return workshop::exercise_of(read);
    });
    if (!sound)
        return refuse(sound.error());
    return write_text(json, request.out);
}

int play_practice(const PracticeRequest& request) {
    const auto entries = job_in(request.job);
    if (!entries)
        return refuse(entries.error());
    const auto played = workshop::play_exercise(*entries, request.careless);
    if (!played)
        return refuse(played.error());
    if (!played->ended)
        std::cerr << "not finished: " << played->stuck << "\n";
    return write_entries(played->entries, request.out);
}

int score_practice(const PracticeRequest& request) {
    auto entries = job_in(request.job);
    if (!entries)
        return refuse(entries.error());
    const block::Folded state = block::fold(*entries);
    if (card_of(state).practice && !card_of(state).truth_opened && !request.open)
        return refuse({{request.job, 0, "its truth is sealed", "--open, which ends the exercise"}});
    const auto result = workshop::result_of(*entries);
    if (!result)
        return refuse(result.error());
    if (!card_of(state).truth_opened && !request.out.empty()) {
        entries->push_back({static_cast<std::int64_t>(entries->size() + 1), utc_now(), entries->back().person,
                            block::TruthOpened{result->own.score()}});
        if (const int failed = write_entries(*entries, request.out))
            return failed;
    }
    if (request.as_text)
        std::cout << reckoning_text(state, *result);
    else
        std::cout << Json{{"format", "pallix-reckoning"},
                          {"version", 1},
                          {"unit", "mm"},
                          {"own", reckoning_json(state, result->own)},
                          {"player", reckoning_json(state, result->player)}}
                         .dump(2)
                  << "\n";
    return std::cout.flush() ? 0 : input_is_wrong;
}

namespace {

template <class Enum, std::size_t N>
Enum value_of(const std::array<const char*, N>& keys, const std::string& key) {
    return static_cast<Enum>(std::ranges::find(keys, key) - keys.begin());
}

/// What the request changes of a job's plans.
std::vector<block::Payload> school_of(const block::JobState& state, const PracticeRequest& request) {
    std::vector<block::Payload> plans;
    if (!request.method.empty() || !request.caps.empty()) {
        block::TunnelPolicy policy = planning::tunnel_policy_of(state);
        if (!request.method.empty())
            policy.method = value_of<block::TunnelMethod>(block::tunnel_method_keys, request.method);
        if (!request.caps.empty())
            policy.caps = value_of<block::CapCuts>(block::cap_cuts_keys, request.caps);
        if (policy.method == block::TunnelMethod::bore)
            policy.line = block::GivenLine::ends; // which gauges know
        plans.emplace_back(policy);
    }
    if (!request.centre.empty()) {
        block::CylinderPlanChosen cylinders = planning::cylinder_plan_of(state);
        cylinders.centre = value_of<block::CentreSchool>(block::centre_school_keys, request.centre);
        plans.emplace_back(cylinders);
    }
    return plans;
}

Json tried_json(const workshop::School& school, const std::vector<workshop::TriedOnce>& tried) {
    Json json{{"school", wording::school_words(school)}};
    for (const auto& [name, figure] : workshop::tried_figures) {
        const workshop::SchoolSpread spread = workshop::spread_of(tried, figure);
        json[name] = {{"least", spread.least}, {"middle", spread.middle}, {"most", spread.most}};
    }
    json["good"] = std::ranges::count_if(tried, &workshop::TriedOnce::good);
    json["of"] = tried.size();
    return json;
}
std::string tried_text(const workshop::School& school, const std::vector<workshop::TriedOnce>& tried) {
    std::string text = wording::school_words(school) + "\n";
    for (const auto& [name, figure] : workshop::tried_figures) {
        const workshop::SchoolSpread s = workshop::spread_of(tried, figure);
        const double unit = figure == &workshop::TriedOnce::minutes ? 60 : 1;
        const int decimals = unit > 1 ? 1 : 3;
        text += "  " + wording::tried_figure_name(figure) + ": " + wording::fixed(s.least / unit, decimals) + " / " +
                wording::fixed(s.middle / unit, decimals) + " / " + wording::fixed(s.most / unit, decimals) + "\n";
    }
    return text + "  " + wording::tried_words(tried) + "\n";
}

} // namespace

int try_practice(const PracticeRequest& request) {
    const auto entries = job_in(request.job);
    if (!entries)
        return refuse(entries.error());
    const block::Folded state = block::fold(*entries);
    std::vector<workshop::School> schools{{}};
    if (std::vector<block::Payload> plans = school_of(state, request); !plans.empty())
        schools.push_back({std::move(plans)});
    else
        schools = workshop::schools_of(state);
    Json json{{"format", "pallix-school"}, {"version", 1}, {"unit", "mm"}, {"schools", Json::array()}};
    std::string text;
    for (const workshop::School& school : schools) {
        const auto tried = workshop::try_school(*entries, school.plans, request.times);
        if (!tried)
            return refuse(tried.error());
        json["schools"].push_back(tried_json(school, *tried));
        text += tried_text(school, *tried);
    }
    std::cout << (request.as_text ? text : json.dump(2) + "\n");
    return std::cout.flush() ? 0 : input_is_wrong;
}

} // namespace pallix::cli
