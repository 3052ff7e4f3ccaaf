// SPDX-License-Identifier: GPL-3.0-or-later
#include "wording/lifters/lifter_words.h"

#include "block/state/intake_state.h"
#include "metrology/uncertainty.h"
#include "wording/common/pick.h"
#include "wording/cylinders/cylinder_words.h"
#include "wording/readings/readings.h"

#include <algorithm>
#include <array>
#include <cctype>
#include <cmath>
#include <numbers>

namespace pallix::wording {

using block::FeatureId;
using block::JobState;
using planning::LifterStep;

namespace {} // namespace

std::string lifter_choice_name(block::LifterChoice choice) {
    return pick(choice, std::array{"leave", "hone", "bush"});
}

std::string lifter_school_name(block::LifterSchool school) {
    return pick(school, std::array{"bush every one", "leave what is in limits"});
}

std::string lifter_reason_words(planning::LifterReason reason) {
    return pick(reason, std::array{"in limits", "tight on its lifter", "loose on its lifter", "off its place",
                                   "too near the limit of its place to tell", "every one is bushed", "decided",
                                   "a number is missing to say"});
}

std::string timing_words(double cam_angle) {
    const double at_cam = std::abs(cam_angle) / block::radians_per_degree;
    const char* way = cam_angle >= 0 ? " late" : " early";
    return fixed(at_cam, 2) + "°" + (at_cam < 0.005 ? "" : way) + ", " + fixed(2 * at_cam, 2) + "° at the crankshaft";
}

std::vector<std::string> lifter_sentences(const JobState& state, const planning::LifterWork& work,
                                          const FeatureId& lifter, const LengthText& l) {
    std::vector<std::string> out;
    const planning::LifterNeed* n = work.study.lifter(lifter);
    if (!n)
        return out;
    const block::LifterPlanChosen plan = planning::lifter_plan_of(state);
    std::string what = lifter_choice_name(n->choice) + ": " + lifter_reason_words(n->reason);
    what[0] = static_cast<char>(std::toupper(static_cast<unsigned char>(what[0])));
    out.push_back(what + ".");
    if (n->clearance)
        out.push_back("Clearance " + l.with_unit(*n->clearance) + ".");
    if (n->timing)
        out.push_back("Timing " + timing_words(*n->timing) + ".");
    if (n->choice == block::LifterChoice::hone && plan.lifter && plan.clearance_least && plan.clearance_most)
        out.push_back("Hone it to " + l.with_unit(*plan.lifter + (*plan.clearance_least + *plan.clearance_most) / 2) +
                      ".");
    if (n->choice == block::LifterChoice::bush && n->seat)
        out.push_back("Bush seat " + l.with_unit(*n->seat) +
                      (n->covers == true && n->covers_chance.value_or(1) < metrology::sure_enough
                           ? ": it takes in the old bore about the right place as probed, not with 95 % certainty."
                       : n->covers == true  ? ": it takes in the old bore about the right place."
                       : n->covers == false ? ": it does not take in the old bore; a bush of " +
                                                  l.with_unit(n->bush_needed.value_or(0)) + " and more would."
                                            : "; whether it covers the move, a probe would tell."));
    if (n->choice == block::LifterChoice::bush && plan.keyed)
        out.push_back(
            "Keyed: index " +
            (plan.key_angle ? fixed(*plan.key_angle / block::radians_per_degree, 1) + "°" : std::string("not stated")) +
            ", height " + (plan.height ? l.with_unit(*plan.height) : std::string("not stated")) + ".");
    const auto p = std::ranges::find(work.board.each, lifter, &planning::LifterProgress::id);
    if (p != work.board.each.end() && p->position && p->state != planning::LifterState::near_limit)
        out.push_back("Proven: " + l.with_unit(*p->position) + " off its place.");
    return out;
}

std::string spread_sentence(const planning::LifterWork& w) {
    if (!w.study.before)
        return "";
    const auto degrees = [](const planning::TimingSpread& s) {
        return fixed(2 * s.spread() / block::radians_per_degree, 2) + "°";
    };
    // Valves of one kind are compared with one another, cylinder against cylinder.
    std::string found;
    if (w.study.by_valve.size() > 1 || w.study.by_valve.front().valve)
        for (const planning::ValveTiming& v : w.study.by_valve)
            found += (found.empty() ? "" : ", ") + degrees(v.before) +
                     (!v.valve                           ? " the others"
                      : *v.valve == block::Valve::intake ? " intake"
                                                         : " exhaust");
    std::string s =
        "Timing spread at the crankshaft: " + (found.empty() ? degrees(*w.study.before) : found) + " as found";
    if (w.board.after)
        s += ", " + degrees(*w.board.after) + " as probed since";
    else if (w.study.planned && w.study.planned->spread() != w.study.before->spread())
        s += ", " + degrees(*w.study.planned) + " as planned";
    return s + ". Tuning cannot take that out.";
}

CallText lifter_call(const JobState& state, const planning::LifterWork* w, const LengthText& l) {
    if (!w)
        return {"Measure the lifter bores",
                "",
                {"Probe them at 12, 3, 6 and 9 o'clock on two levels, or read their sizes "
                 "(Ctrl+R)."},
                ""};
    const std::string lifter = w->board.lifter ? feature_words(*intake_of(state).blueprint, *w->board.lifter) : "";
    const auto p = std::ranges::find_if(w->board.each, [&](const auto& x) { return x.id == w->board.lifter; });
    const std::string spread = spread_sentence(*w);
    CallText call{"", "", {}, ""};
    switch (w->board.step) {
    case LifterStep::measure:
        return lifter_call(state, nullptr, l);
    case LifterStep::give_numbers: {
        std::string list;
        for (const std::string& m : w->study.missing)
            list += (list.empty() ? "" : "; ") + m;
        call = {"Give the shop's numbers", "", {"Still needed on the page Work: " + list + "."}, ""};
        break;
    }
    case LifterStep::bush_too_small:
        call = {"The bush does not cover " + lifter, "", lifter_sentences(state, *w, *w->board.lifter, l), ""};
        break;
    case LifterStep::cut:
        call = {(p->inside ? "Inside of the bush: " : "") + operation_name(p->next->operation) + " " + lifter,
                l.plain(p->next->to),
                {"To " + l.with_unit(p->next->to) + ", at the blueprint's place."},
                bore_caution};
        break;
    case LifterStep::measure_cut:
        call = {"Measure " + lifter + " before it is cut again", "", {}, ""};
        if (w->board.drift)
            call.reasons.push_back(
                "The last of the row came out " + l.with_unit(std::abs(w->board.drift->by)) +
                (w->board.drift->by < 0 ? " smaller" : " larger") +
                " than the first: a worn edge, or heat. Those between are measured too; look at the edge.");
        else if (p->compared)
            call.reasons.emplace_back("The first of a row sets the tool, the last shows whether it held.");
        break;
    case LifterStep::press:
        call = {"Press the bush into " + lifter, "", lifter_sentences(state, *w, *w->board.lifter, l), press_caution};
        break;
    case LifterStep::too_large:
        call = {"Stop: " + lifter + " is too large", "", {"A larger bush, or another lifter: decide on it."}, ""};
        break;
    case LifterStep::prove:
        call = {"Probe the lifters again", "", {}, ""};
        if (p == w->board.each.end() || p->state != planning::LifterState::near_limit)
            call.reasons.emplace_back("Position and size are proven by a log taken after the last cut.");
        if (p != w->board.each.end() && p->position)
            call.reasons.push_back("It stands " + l.with_unit(*p->position) +
                                   " off its place: too near the limit to tell. State how sure a touch is, or touch it "
                                   "more often.");
        break;
    case LifterStep::off_place:
        call = {lifter + " is off its place", "", lifter_sentences(state, *w, *w->board.lifter, l), ""};
        break;
    case LifterStep::cannot_be_told:
        call = {lifter + ": nobody can tell whether it is off its place",
                "",
                {"Probed so often, once more with the same probe tells nothing: decide on it."},
                ""};
        if (p->position)
            call.reasons.push_back("It stands " + l.with_unit(*p->position) + " off its place; " +
                                   l.with_unit(planning::lifter_plan_of(state).position.value_or(0)) + " is allowed.");
        break;
    case LifterStep::done:
        call = {"The lifters are done", "", {"Nothing is left to cut."}, ""};
        break;
    }
    call.headline[0] = static_cast<char>(std::toupper(static_cast<unsigned char>(call.headline[0])));
    if (!spread.empty())
        call.reasons.push_back(spread);
    return call;
}

namespace {

std::string words(const block::LifterPlanChosen& p, const LengthText& l) {
    return "lifter plan: " + lifter_school_name(p.school) +
           (p.lifter ? ", lifters " + l.with_unit(*p.lifter) : std::string()) +
           (p.interference ? ", interference " + l.with_unit(*p.interference) : std::string());
}

std::string words(const block::LifterDecided& p, const LengthText&) {
    return "decided: " + lifter_choice_name(p.choice) + (p.note.empty() ? "" : " (" + p.note + ")");
}

} // namespace

std::string entry_words(block::LifterKinds kinds, const block::Payload& entry, const LengthText& l) {
    std::string said;
    kinds.take(entry, [&](const auto& p) { said = words(p, l); });
    return said;
}

} // namespace pallix::wording
