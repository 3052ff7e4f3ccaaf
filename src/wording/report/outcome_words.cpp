// SPDX-License-Identifier: GPL-3.0-or-later
#include "wording/report/outcome_words.h"

#include "block/state/card_state.h"
#include "planning/common/assessment.h"
#include "wording/common/phrases.h"
#include "wording/common/pick.h"

#include <algorithm>

namespace pallix::wording {
namespace {

using planning::Outcome;
using planning::Told;

constexpr std::array told_words{"straightness",
                                "diameters",
                                "distance of the camshaft, off",
                                "deck height",
                                "deck flatness",
                                "cylinder diameters",
                                "cylinders out of round, taper",
                                "cylinders off place, across",
                                "cylinders off place, along",
                                "lifters, off place"};

std::string names_of(const block::JobState& state, const std::vector<const Outcome*>& which) {
    std::string names;
    for (const Outcome* o : which)
        names += (names.empty() ? "" : "; ") + told_name(state, *o);
    return names;
}

} // namespace

std::string told_name(const block::JobState& state, const Outcome& o) {
    std::string what = pick(o.what, told_words);
    switch (o.what) {
    case Told::tunnel_line:
        return "main tunnel, " + what;
    case Told::main_size:
        return "mains, " + what;
    case Told::cam_distance:
    case Told::lifter_place:
        return what;
    default:
        return intake_of(state).blueprint->banks.size() == 1 ? what : bank_name(bank_of(state, o.bank)) + ", " + what;
    }
}

std::string span_text(const Outcome& o, const std::optional<planning::Span>& span, const LengthText& l) {
    if (!span)
        return "";
    if (o.what == Told::cam_distance)
        return l.with_sign(span->most);
    const std::string least = l.plain(span->least), most = l.plain(span->most);
    const bool worst = o.what == Told::bore_shape;
    return least == most || worst ? most : least + " to " + most;
}

std::string limits_text(const metrology::Limits& limits, const LengthText& l) {
    if (limits.lower && limits.upper)
        return l.plain(*limits.lower) + " to " + l.plain(*limits.upper);
    if (limits.upper)
        return "at most " + l.plain(*limits.upper);
    return limits.lower ? "at least " + l.plain(*limits.lower) : "";
}

std::string standing_words(const Outcome& o) {
    if (o.unproven())
        return "not measured since";
    return o.verdict ? verdict_word(*o.verdict) : "no limit";
}

std::string overall_sentence(const block::JobState& state, const std::vector<Outcome>& all) {
    std::vector<const Outcome*> fail, doubt, unproven;
    std::size_t judged = 0;
    for (const Outcome& o : all) {
        if (o.unproven())
            unproven.push_back(&o);
        if (!o.verdict)
            continue;
        ++judged;
        if (*o.verdict == metrology::Verdict::fails)
            fail.push_back(&o);
        if (*o.verdict == metrology::Verdict::cannot_tell)
            doubt.push_back(&o);
    }
    if (all.empty())
        return "Nothing was measured yet.";
    const std::string of = " of " + std::to_string(judged);
    std::string words;
    if (judged > 0 && fail.empty() && doubt.empty())
        words = judged == 1 ? "The one line that has a limit and was measured meets it."
                            : "All " + std::to_string(judged) + " lines that have a limit and were measured meet it.";
    if (judged == 0)
        words = "No line is held against a limit.";
    if (!fail.empty())
        words += std::to_string(fail.size()) + of + (fail.size() == 1 ? " fails: " : " fail: ") +
                 names_of(state, fail) + ".";
    if (!doubt.empty())
        words += (words.empty() ? "" : " ") + std::to_string(doubt.size()) + of +
                 " cannot be told: " + names_of(state, doubt) + ".";
    if (!unproven.empty())
        words += (words.empty() ? "" : " ") + std::to_string(unproven.size()) +
                 (unproven.size() == 1 ? " was cut and not measured since: " : " were cut and not measured since: ") +
                 names_of(state, unproven) + ".";
    return words;
}

std::string still_open_sentence(const planning::Assessment& a) {
    std::vector<std::string> open;
    for (const planning::Step& step : a.steps.steps)
        if (const std::string stage = stage_name(step.stage);
            planning::is_open(step) && step.task != planning::Task::hand_over &&
            step.task != planning::Task::open_truth && std::ranges::find(open, stage) == open.end())
            open.push_back(stage);
    std::string names;
    for (std::size_t i = 0; i < open.size(); ++i)
        names += (i == 0 ? "" : i + 1 == open.size() ? " and " : ", ") + open[i];
    return open.empty() ? "" : "The work is not finished: steps are open at " + names + ".";
}

namespace {

/// The size as it is now; nothing where it was cut and not measured since.
std::optional<planning::Span> now(const Outcome& o) {
    return o.worked ? o.left : o.found;
}

std::optional<std::string> size_of(const std::vector<Outcome>& all, Told what, const std::string& bank,
                                   const LengthText& l) {
    const auto o = std::ranges::find_if(
        all, [&](const Outcome& one) { return one.what == what && (bank.empty() || one.bank == bank) && now(one); });
    return o == all.end() ? std::nullopt : std::optional(span_text(*o, now(*o), l));
}

} // namespace

std::vector<std::string> key_sizes(const block::JobState& state, const planning::Assessment& a, const LengthText& l) {
    const auto all = planning::outcomes(state, a);
    std::vector<std::string> sizes;
    if (const auto main = size_of(all, Told::main_size, "", l))
        sizes.push_back("main " + *main);
    if (!intake_of(state).blueprint)
        return sizes;
    const auto& banks = intake_of(state).blueprint->banks;
    for (const auto& [what, word] : {std::pair(Told::bore_size, "bore"), std::pair(Told::deck_height, "deck")})
        for (const block::BankBlueprint& bank : banks)
            if (const auto size = size_of(all, what, bank.id, l))
                sizes.push_back(word + (banks.size() > 1 ? " " + bank.id : std::string()) + " " + *size);
    return sizes;
}

std::string engraving_line(const std::string& pattern, const block::JobState& state, const planning::Assessment& a,
                           const LengthText& l) {
    const auto all = planning::outcomes(state, a);
    const auto& serial = card_of(state).serial;
    std::string line = pattern;
    for (const auto& [name, value] :
         {std::pair<std::string, std::string>("{serial}", serial ? serial->payload.serial : ""),
          {"{main}", size_of(all, Told::main_size, "", l).value_or("-")},
          {"{bore}", size_of(all, Told::bore_size, "", l).value_or("-")},
          {"{deck}", size_of(all, Told::deck_height, "", l).value_or("-")}})
        for (auto at = line.find(name); at != std::string::npos; at = line.find(name, at + value.size()))
            line.replace(at, name.size(), value);
    return line;
}

} // namespace pallix::wording
