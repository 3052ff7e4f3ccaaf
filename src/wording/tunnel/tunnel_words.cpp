// SPDX-License-Identifier: GPL-3.0-or-later
#include "wording/tunnel/tunnel_words.h"

#include "block/state/intake_state.h"
#include "block/state/tunnel_state.h"
#include "wording/common/lengths.h"
#include "wording/readings/readings.h"
#include "wording/shop/memory_words.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <functional>
#include <numbers>
#include <set>

namespace pallix::wording {

using planning::BindingPoint;
using planning::TunnelPlan;

std::string clock_words(double clock) {
    const int hour = static_cast<int>(std::lround(clock * 6 / std::numbers::pi));
    return std::to_string((hour + 11 + 12) % 12 + 1) + " o'clock";
}

std::string binding_words(const BindingPoint& point) {
    return "main " + std::to_string(point.id.number) + "'s " + (point.cap ? "cap" : "saddle") + " at " +
           clock_words(point.clock);
}

std::string limit_name(planning::TunnelLimit limit) {
    constexpr std::array names{"a larger finished size", "more cap cut", "more rise", "more side step"};
    return names[static_cast<std::size_t>(limit)];
}

namespace {

constexpr const char* at_one_temperature = "Caps torqued as they will run; block and gauge at one temperature.";

std::string capitalised_bank(const block::Blueprint& b, const std::string& id) {
    std::string name = bank_name(*b.bank(id));
    if (name[0] >= 'a' && name[0] <= 'z')
        name[0] = static_cast<char>(name[0] - 'a' + 'A');
    return name;
}

std::string join(const std::vector<std::string>& parts, const char* last) {
    std::string out;
    for (std::size_t i = 0; i < parts.size(); ++i)
        out += (i == 0 ? "" : i + 1 == parts.size() ? last : ", ") + parts[i];
    return out;
}

/// Saddles set the line, caps follow it: each named once.
std::string why(const TunnelPlan& plan) {
    std::vector<std::string> saddles, caps;
    std::set<std::string> said;
    for (const BindingPoint& b : plan.binding) {
        const std::string words = binding_words(b);
        if (said.insert(words).second)
            (b.cap ? caps : saddles).push_back(words);
    }
    if (saddles.empty() && caps.empty())
        return "";
    constexpr std::size_t most = 4;
    if (caps.size() > most) {
        caps.resize(most);
        caps.emplace_back("others");
    }
    if (saddles.empty())
        return "Set by " + join(caps, " and ") + ".";
    return "Set by " + join(saddles, " and ") + (caps.empty() ? "." : "; " + join(caps, " and ") + " follow.");
}

} // namespace

std::vector<std::string> tunnel_plan_sentences(const TunnelPlan& plan, const LengthText& l) {
    std::vector<std::string> out;
    if (!plan.feasible) {
        out.push_back("No cap cutting within the limits gives a straight, round tunnel in size.");
        out.push_back(plan.short_by ? "It is short by " + l.with_unit(*plan.short_by) + " of radius."
                                    : std::string("No finished size would mend it: the line breaks a limit."));
        std::vector<std::string> ways;
        for (const auto limit : plan.limits_to_give)
            ways.push_back(limit_name(limit));
        out.push_back(ways.empty() ? "No single limit, loosened, would do: another line, or repaired caps."
                                   : "Any one of these would do: " + join(ways, " or ") + ".");
        return out;
    }
    const bool hone = plan.method == block::TunnelMethod::hone;
    out.push_back(plan.max_cap_cut > 0
                      ? "Cut caps by up to " + l.with_unit(plan.max_cap_cut) +
                            (hone ? ", then line hone." : ", then line bore.")
                      : std::string(hone ? "No cap needs cutting: line hone." : "No cap needs cutting: line bore."));
    out.push_back(std::abs(plan.rise) < 5e-4
                      ? "The centre line stays where it is."
                      : "The centre line " + std::string(hone ? "is forecast to move " : "moves ") +
                            l.with_unit(std::abs(plan.rise)) +
                            (plan.rise > 0 ? " towards the cam." : " away from the cam."));
    if (const std::string reason = why(plan); !reason.empty())
        out.push_back(reason);
    return out;
}

// ---- the work -----------------------------------------------------------------------------------------------------

namespace {

constexpr const char* line_hone_caution =
    "Honing oil on skin and near sparks, no sleeves near the mandrel. Stop it and see it stopped before reaching in.";
constexpr const char* bar_caution =
    "Dry-run the bar first. Stop the spindle and see it stopped before clearing chips, never by hand.";

std::string dwell_words(const block::Blueprint& b, const planning::StockLeft& s, const LengthText& l) {
    return place_of_reading(b, s.at) + ": " + l.with_unit(std::max(0.0, s.left)) + " left to the middle of the window";
}

CallText cut_caps_text(const planning::TunnelWork& work, const LengthText& l) {
    CallText t{"Cut the caps", l.with_unit(work.study->plan.max_cap_cut), {}, cap_caution};
    std::string list;
    for (const planning::CapCut& cut : work.to_cut)
        list +=
            (list.empty() ? "" : "; ") + std::string("main ") + std::to_string(cut.id.number) + " " + l.plain(cut.cut);
    t.reasons.push_back("Off each parting face, in " + l.unit_name() + ": " + list + ".");
    for (const std::string& sentence : tunnel_plan_sentences(work.study->plan, l))
        t.reasons.push_back(sentence);
    return t;
}

CallText work_text(const block::JobState& state, const planning::TunnelWork& work, const LengthText& l) {
    const bool hone = work.method == block::TunnelMethod::hone;
    CallText t{hone                    ? "Line hone"
               : work.establishing_due ? "Establishing pass"
                                       : "Final pass",
               "",
               {},
               hone ? line_hone_caution : bar_caution};
    if (work.dwell)
        t.number = l.with_unit(std::max(0.0, work.dwell->left));
    if (work.dwell && hone)
        t.reasons.push_back("Dwell at " + dwell_words(*intake_of(state).blueprint, *work.dwell, l) + ".");
    if (hone && work.forecast)
        t.reasons.push_back("The last " + std::to_string(work.forecast->strokes) + " strokes took " +
                            l.with_unit(work.forecast->per_stroke * work.forecast->strokes) +
                            " where they cut; about " + fixed(work.forecast->strokes_left, 0) + " strokes more, " +
                            fixed(work.forecast->at_once, 0) + " before it is measured again" +
                            widened_words(work.forecast->widened) + ".");
    if (hone)
        t.reasons.emplace_back("Short goes: it warms. Between them one way of each main is enough.");
    if (!hone && work.establishing_due)
        t.reasons.emplace_back("A light pass that is measured before the final one; a new cutter asks for it again.");
    if (!hone && work.next_protrusion)
        t.reasons.push_back("Set the cutter out to " + l.with_unit(*work.next_protrusion) +
                            "; check it again after clamping: the clamp moves it.");
    if (!hone)
        for (const std::string& sentence : contact_sentences(work.contacts))
            t.reasons.push_back(sentence);
    return t;
}

/// "12 of 35 still to read: mains 2, 3 and the saddles of 1, 4."
std::string still_to_read(const planning::TunnelWork& work) {
    std::vector<std::string> mains, saddles;
    for (const block::MeasuredAt& at : work.to_read) {
        auto& list = at.quantity == block::Quantity::saddle ? saddles : mains;
        const std::string number = std::to_string(at.feature.number);
        if (std::ranges::find(list, number) == list.end())
            list.push_back(number);
    }
    if (work.to_read.empty())
        return "A probe log, or a gauge.";
    std::string words =
        std::to_string(work.to_read.size()) + (work.to_read.size() == 1 ? " place" : " places") + " still to read: ";
    if (!mains.empty())
        words += (mains.size() == 1 ? "main " : "mains ") + join(mains, " and ");
    if (!saddles.empty())
        words += std::string(mains.empty() ? "" : "; ") + (saddles.size() == 1 ? "the saddle of " : "the saddles of ") +
                 join(saddles, " and ");
    return words + ".";
}

CallText settle_text(const block::JobState& state, const planning::TunnelWork& work) {
    CallText t{
        "The tunnel: can't tell yet", "", {}, "Caps torqued as they will run; block and gauge at one temperature."};
    if (work.by_probe && tunnel_of(state).latest && !tunnel_of(state).latest->mains_uncertainty())
        t.reasons.emplace_back("How sure a touch is was not stated: probe it again and state it.");
    else if (work.by_probe)
        t.reasons.emplace_back("Something stands too near its limit: touch it more often, at both ends of each main.");
    else
        t.reasons.emplace_back("Something stands too near its limit, or gauge and probe say different things: read it "
                               "again, several times, or with a better gauge.");
    t.reasons.emplace_back("A doubt is settled by measuring, not by cutting. A coin-flip is not a pass.");
    return t;
}

CallText decide_text(const planning::TunnelWork& work, const LengthText& l) {
    CallText t{work.begun ? "In size, and not straight or round" : "No plan within the limits", "", {}, ""};
    if (work.study && !work.study->plan.feasible)
        for (const std::string& sentence : tunnel_plan_sentences(work.study->plan, l))
            t.reasons.push_back(sentence);
    t.reasons.emplace_back("Loosen a limit, choose another school, or mark a cap as replaced; or say that it is "
                           "done and work it a second time.");
    return t;
}

CallText read_again_text(const block::JobState& state, const planning::TunnelWork& work, const LengthText& l) {
    CallText t{"A size is not what the cut should have made of it: read it once more", "", {}, at_one_temperature};
    t.reasons = prediction_sentences(*intake_of(state).blueprint, work.predictions, l);
    t.reasons.emplace_back("The cap may sit on a burr, the cut may not be what was written, or the reading slipped.");
    return t;
}

} // namespace

CallText tunnel_call(const block::JobState& state, const planning::TunnelWork& work, const LengthText& l) {
    using enum planning::TunnelStep;
    const std::string care = at_one_temperature;
    switch (work.step) {
    case measure:
        return {work.by_probe ? "Probe the tunnel again" : "Measure the tunnel",
                "",
                {"Everything is measured from the mains: each at both ends, at least four touches round each, or sizes "
                 "three ways and the saddles.",
                 tunnel_of(state).mains_round > 0 && work.by_probe
                     ? "What was probed of it holds no longer: " + tunnel_of(state).mains_round_because + "."
                     : "A probe log, or a gauge."},
                care};
    case read:
        return {"Read the rest of the mains",
                "",
                {still_to_read(work), "Nothing is planned on less: the line and the tightest place are not known."},
                care};
    case caps_off:
        return {"Caps on, torqued as they will run",
                "",
                {"They are stated off: what is read without them is not the tunnel.",
                 "Lubricant, torque or stretch, pattern and steps as they will run; then everything is read."},
                cap_caution};
    case state_caps:
        return {
            "Say whether the caps were torqued",
            "",
            {"Nobody has said so, and a main is another without them. State it, and that it held for what was read."},
            ""};
    case settle:
        return settle_text(state, work);
    case cannot_settle:
        return {"The tunnel: too near a limit to tell",
                "",
                {work.by_probe ? "It was probed three times as it is now; once more tells nothing."
                               : "What it hangs on was read four times with this gauge; once more tells nothing.",
                 "A surer probe or gauge settles it; or somebody goes on with it as it is, with a reason."},
                ""};
    case decide:
        return decide_text(work, l);
    case good:
        return {"The tunnel is good", "", {"Every main in size, round and in line: leave it."}, ""};
    case cut_caps:
        return cut_caps_text(work, l);
    case torque_caps:
        return {"Torque the caps",
                "",
                {"Deburred, registers snug and not tight, back in their places, same way round; lubricant, torque or "
                 "stretch, pattern and steps as they will run.",
                 "The sizes are measured after that."},
                cap_caution};
    case measure_caps:
        return {"Measure the mains again",
                "",
                {"Before less cut should be what you find; a disagreement is named.", still_to_read(work)},
                care};
    case read_again:
        return read_again_text(state, work, l);
    case machine:
        return work_text(state, work, l);
    case measure_work:
        return {"Measure the mains again",
                "",
                {"Sizes from before the last go hold no longer.", still_to_read(work)},
                "Stop the machine and see it stopped; wipe the bores dry."};
    case log_finished:
        return {
            "Every main is in size: stop",
            "",
            {"Enough: more strokes would only take metal. Say that the tunnel is done; what was read last is as left.",
             "From then on what was measured from the old tunnel is measured again."},
            ""};
    case no_limits:
        return {"The blueprint gives no limits for a main's size",
                "",
                {"Sizes are taken and kept; nothing is judged or planned by them without limits.",
                 "Amend the blueprint with the mains' limits, or go on without the tunnel, with a reason."},
                ""};
    case give_bar:
    case mark:
    case not_clean:
        return bar_call(work);
    case too_large:
        break;
    }
    return {"A main is too large",
            "",
            {"Metal that is off does not come back.",
             "Work it again: its cap comes down by what it is over and the tunnel is honed or bored a second time. A "
             "cap that is cracked, or was spun in, is replaced and cut on its own. Or go on, with shells of larger "
             "outside, and say why."},
            ""};
}

namespace {

/// "A hone follows the middles: main 1 rises 0.050 mm, main 5 0.041, ± 0.002; off the caps about 0.030, off the saddles
/// 0.028."
std::string forecast_sentence(const planning::TunnelStudy& study, const LengthText& l) {
    const planning::HoneForecast &front = study.forecast.front(), &rear = study.forecast.back();
    const auto moves = [&](const planning::HoneForecast& f) {
        return "main " + std::to_string(f.main.number) + " " + l.with_unit(std::abs(f.rise)) +
               (f.rise < 0 ? " away from the cam" : " towards the cam");
    };
    double cap = 0, saddle = 0;
    for (const planning::HoneForecast& f : study.forecast) {
        cap += f.cap / static_cast<double>(study.forecast.size());
        saddle += f.saddle / static_cast<double>(study.forecast.size());
    }
    return "A hone follows the middles of the housings: the line is forecast to move at " + moves(front) + ", at " +
           moves(rear) +
           (front.uncertainty ? ", ± " + l.with_unit(2 * *front.uncertainty) + widened_words(study.widened) : "") +
           "; off the caps about " + l.with_unit(cap) + ", off the saddles " + l.with_unit(saddle) + ".";
}

std::string ideal_sentence(const planning::TunnelStudy& study, const LengthText& l) {
    const std::string why = "the hone cannot be told one: main " + std::to_string(study.astray->main.number) +
                            "'s middle stands " + l.with_unit(std::abs(study.astray->off)) +
                            (study.astray->off > 0 ? " towards the cam" : " away from the cam") +
                            " of the line it follows.";
    return study.ideal->feasible ? "A line that could be chosen would need caps by up to " +
                                       l.with_unit(study.ideal->max_cap_cut) + "; " + why
                                 : "Not even a line that could be chosen would do; " + why;
}

} // namespace

std::vector<std::string> study_sentences(const planning::TunnelStudy& study, const LengthText& l) {
    std::vector<std::string> out;
    if (study.housings.source == planning::HousingSource::gauge)
        out.emplace_back(
            "From gauge sizes and saddle heights: housings taken as centred sideways, end mains' saddles on the line.");
    if (!study.forecast.empty())
        out.push_back(forecast_sentence(study, l));
    if (study.astray)
        out.push_back(ideal_sentence(study, l));
    for (const planning::LoosenedLimit& x : study.loosened)
        out.push_back("A thou of " + limit_name(x.limit) + " would save " + l.with_unit(x.saves) +
                      " of the largest cut.");
    if (study.sure)
        out.push_back(study.sure->feasible
                          ? "To clean up with 95 % certainty: caps by up to " + l.with_unit(study.sure->max_cap_cut) +
                                "."
                          : std::string("With 95 % certainty it does not clean up within the limits."));
    if (!study.readings.empty()) {
        auto readings = study.readings;
        std::ranges::stable_sort(readings, std::ranges::greater{}, &planning::TunnelStudy::Reading::saves);
        std::string text = "One more reading of main " + std::to_string(readings.front().main.number) + " would save " +
                           l.with_unit(readings.front().saves) + " of cap in all";
        std::vector<std::string> others;
        for (std::size_t i = 1; i < readings.size(); ++i)
            others.push_back(std::to_string(readings[i].main.number));
        if (!others.empty())
            text += ", of main " + join(others, " or ") + " at most " + l.with_unit(readings[1].saves);
        out.push_back(text + ".");
    }
    return out;
}

std::vector<std::string> consequence_sentences(const block::Blueprint& b, const planning::TunnelConsequences& c,
                                               const LengthText& l) {
    std::vector<std::string> out;
    if (b.cam)
        out.push_back("Cam at the front " + l.side_with_unit(c.cam_distance_change, "further away", "nearer") + ".");
    if (c.chain)
        out.push_back("Chain: " + l.with_unit(std::max(0.0, c.chain->excess)) + " of slack, sags " +
                      l.with_unit(c.chain->sag) + " one way (pitch circles).");
    if (c.backlash_change)
        out.push_back("Gear backlash " + l.side_with_unit(*c.backlash_change, "more", "less") + ".");
    for (const auto& d : c.decks)
        out.push_back(capitalised_bank(b, d.bank) + ": deck " + l.side_with_unit(d.height_change, "higher", "lower") +
                      ", cylinders " + across_text(*b.bank(d.bank), d.side_change, l) + ".");
    if (c.bearing_clearance)
        out.push_back("Bearing clearance at the finished size " + l.with_unit(*c.bearing_clearance) + ".");
    if (c.roll != 0)
        out.push_back(roll_sentence(c.roll));
    return out;
}

std::vector<std::string> jack_sentences(const std::vector<planning::JackMove>& moves, const LengthText& l) {
    constexpr double enough = 2 * 0.00254; // mm; two tenths is as good as it gets (common practice, no source)
    std::vector<std::string> out;
    for (const planning::JackMove& m : moves) {
        const std::string where = "Jack at " + l.with_unit(m.station) + ": ";
        if (std::hypot(m.up, m.towards_3) < enough)
            out.push_back(where + "enough, within two tenths.");
        else
            out.push_back(where + (m.up >= 0 ? "raise by " : "lower by ") + l.with_unit(std::abs(m.up)) + ", push " +
                          l.with_unit(std::abs(m.towards_3)) + (m.towards_3 >= 0 ? " towards 3" : " towards 9") +
                          " o'clock.");
    }
    return out;
}

std::vector<std::string> prediction_sentences(const block::Blueprint& b,
                                              const std::vector<planning::CapPrediction>& predictions,
                                              const LengthText& l) {
    std::vector<std::string> out;
    for (const planning::CapPrediction& p : predictions)
        if (p.disagrees())
            out.push_back(
                "Not as cut: " + place_of_reading(b, p.at) + " was " + l.plain(p.before) + ", cut by " +
                l.plain(p.cut) + ", should be " + l.plain(p.predicted) + ", is " + l.with_unit(*p.after) +
                (p.widened ? "; as such sizes come here it might be " + l.with_unit(p.allowed) + " off" : "") + ".");
    return out;
}

std::string roll_sentence(double roll) {
    return "The line moves sideways, so a later measurement clocked by the cam will read turned by " +
           fixed(std::abs(roll) * 180 / std::numbers::pi, 4) + "°: deck and bore positions then read differently.";
}

namespace {

std::string words(const block::TunnelPolicy& p, const LengthText& l) {
    return std::string("tunnel plan: ") + (p.method == block::TunnelMethod::hone ? "line hone" : "line bore") +
           (p.caps == block::CapCuts::equal ? ", caps equal" : ", each cap its own") +
           (p.target_diameter ? ", to " + l.with_unit(*p.target_diameter) : std::string());
}

std::string words(const block::CapsCut& p, const LengthText& l) {
    std::string list;
    for (const auto& [id, cut] : p.cuts)
        if (cut > 0)
            list += (list.empty() ? "" : ", ") + std::to_string(id.number) + " by " + l.plain(cut);
    return "caps cut: " + (list.empty() ? std::string("none") : list) + " " + l.unit_name();
}

std::string words(const block::TunnelPass& p, const LengthText& l) {
    constexpr std::array names{"line hone", "caps-only pass", "establishing pass", "final pass"};
    std::string text = names[static_cast<std::size_t>(p.kind)];
    if (p.kind == block::TunnelPassKind::strokes)
        text += ", " + std::to_string(p.strokes) + " strokes";
    if (p.protrusion)
        text += ", cutter out " + l.with_unit(*p.protrusion);
    return text + (p.new_cutter ? ", new cutter" : "");
}

std::string words(const block::MainMarked& p, const LengthText&) {
    return "main " + std::to_string(p.main.number) + " " + bar_mark_name(p.mark);
}

std::string words(const block::IndicatorSag& p, const LengthText& l) {
    return "the indicator on the bar sags: a round ring reads " + l.side(p.at_12, "inwards", "outwards") + " at 12, " +
           l.side(p.at_6, "inwards", "outwards") + " at 6 o'clock";
}

std::string words(const block::StepDone& p, const LengthText&) {
    return "done: " + p.step;
}

std::string words(const block::TunnelForecastKept& p, const LengthText& l) {
    const auto highest = std::ranges::max_element(p.rises, {}, &block::TunnelForecastKept::Rise::rise);
    return "the hone is expected to bring the line up by " + l.with_unit(highest->rise) + " at main " +
           std::to_string(highest->main.number) + ", the most of " + std::to_string(p.rises.size());
}

std::string words(const block::TunnelCut& p, const LengthText&) {
    return std::string("tunnel ") + (p.method == block::TunnelMethod::hone ? "honed" : "bored") +
           (p.note.empty() ? std::string() : ": " + p.note);
}

} // namespace

std::string entry_words(block::TunnelKinds kinds, const block::Payload& entry, const LengthText& l) {
    std::string said;
    kinds.take(entry, [&](const auto& p) { said = words(p, l); });
    return said;
}

} // namespace pallix::wording
