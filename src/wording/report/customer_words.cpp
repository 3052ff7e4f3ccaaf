// SPDX-License-Identifier: GPL-3.0-or-later
#include "wording/report/customer_words.h"

#include "block/state/bore_state.h"
#include "block/state/card_state.h"
#include "block/state/deck_state.h"
#include "block/state/tunnel_state.h"
#include "planning/common/assessment.h"
#include "planning/common/shop_limits.h"
#include "wording/common/phrases.h"
#include "wording/decks/deck_words.h"
#include "wording/report/outcome_words.h"
#include "wording/shop/shop_words.h"
#include "wording/steps/step_words.h"

#include <algorithm>

namespace pallix::wording {
namespace {

using block::JobState;
using metrology::Verdict;
using planning::Outcome;
using planning::Told;

/// What an owner calls it, the trade's word in brackets.
std::string plain_name(const JobState& state, const Outcome& o) {
    const bool banks = intake_of(state).blueprint->banks.size() > 1;
    const std::string side = banks && !o.bank.empty() ? ", " + bank_name(bank_of(state, o.bank)) : "";
    switch (o.what) {
    case Told::tunnel_line:
        return "The line of bearings that carries the crankshaft (main tunnel)";
    case Told::main_size:
        return "The bores that hold the crankshaft's bearings (mains)";
    case Told::cam_distance:
        return "The distance from crankshaft to camshaft";
    case Told::deck_height:
        return "The face that the cylinder head sits on" + side + " (deck)";
    case Told::deck_flatness:
        return "That face" + side + " (deck flatness)";
    case Told::bore_size:
        return "The cylinders" + side;
    case Told::bore_shape:
        return "The least round and straight of the cylinders" + side + " (out of round, taper)";
    case Told::bore_across:
        return "The cylinder furthest off its place across the crankshaft" + side;
    case Told::bore_along:
        return "The cylinder furthest off its place along the crankshaft" + side;
    case Told::lifter_place:
        break;
    }
    return "The valve lifter bore furthest off its place";
}

/// "measured 73.990 to 73.998 mm", "was bent by 0.085 mm"
std::string measured_words(const Outcome& o, const planning::Span& span, bool now, const LengthText& l) {
    const std::string size = span_text(o, span, l) + " " + l.unit_name();
    switch (o.what) {
    case Told::tunnel_line:
        return now ? "is straight within " + size : "was out of line by " + size;
    case Told::main_size:
    case Told::bore_size:
        return (now ? "measure " : "measured ") + size;
    case Told::cam_distance:
        return (now ? "is off its size by " : "was off its size by ") + size;
    case Told::deck_height:
        return (now ? "stands " : "stood ") + size + " above the crankshaft's axis";
    case Told::deck_flatness:
        return now ? "is flat within " + size : "was uneven by " + size;
    case Told::bore_shape:
        return (now ? "differs by " : "differed by ") + size + " from its largest to its smallest diameter";
    default:
        return (now ? "is off by " : "was off by ") + size;
    }
}

/// "; at most 0.050 mm is right"
std::string right_words(const Outcome& o, const LengthText& l) {
    const std::string limits = limits_text(o.limits, l);
    return limits.empty() ? "" : "; " + limits + " " + l.unit_name() + " is right";
}

/// As it was measured when the block came, beyond what it may be.
bool came_beyond(const Outcome& o) {
    return o.found && ((o.limits.upper && o.found->most > *o.limits.upper) ||
                       (o.limits.lower && o.found->least < *o.limits.lower));
}

void add(std::vector<std::string>& all, std::string sentence) {
    if (!sentence.empty())
        all.push_back(std::move(sentence));
}

std::string times(std::size_t n) {
    return n == 1 ? "once" : n == 2 ? "twice" : count_words(n, "time", "times");
}

/// What was done to the main tunnel, the decks, cylinders and lifters, by the ledger.
std::vector<std::string> done_sentences(const JobState& state, const planning::Assessment& a, const LengthText& l) {
    std::vector<std::string> out;
    const block::TunnelState& t = tunnel_of(state);
    if (!t.caps_cut.empty())
        out.push_back("Metal was taken off the bearing caps' faces " + times(t.caps_cut.size()) +
                      ", so that the bores could be made round again (cap cutting).");
    std::size_t strokes = 0, passes = 0;
    for (const block::TakenPass& pass : t.tunnel_passes)
        ++(pass.pass.kind == block::TunnelPassKind::strokes ? strokes : passes);
    if (strokes > 0)
        out.push_back("The bearing bores were honed together, in line, in " + count_words(strokes, "go", "goes") +
                      " (line honing).");
    if (passes > 0)
        out.push_back("The bearing bores were bored together, in line, in " + count_words(passes, "pass", "passes") +
                      " (line boring).");
    for (const planning::BankProgress& b : a.banks) {
        const block::DeckState& deck = decks_of(state).deck(b.plan.bank);
        if (const double off = deck.depth_in_all(); !deck.cuts.empty() && off > 0)
            out.push_back(l.with_unit(off) + " was taken off the face under the cylinder head" +
                          (a.banks.size() > 1 ? ", " + bank_name(bank_of(state, b.plan.bank)) : "") + ", in " +
                          count_words(deck.cuts.size(), "pass", "passes") + " (decking).");
    }
    std::size_t bored = 0, honed = 0, sleeved = 0, bushed = 0, lifters = 0;
    for (const auto& [id, work] : bores_of(state).bores) {
        const bool lifter = id.kind == block::FeatureKind::lifter;
        if (work.fitted)
            ++(lifter ? bushed : sleeved);
        if (lifter) {
            lifters += work.cuts.empty() ? 0 : 1;
            continue;
        }
        const auto is_hone = [](const auto& cut) { return cut.payload.operation == block::BoreOperation::hone; };
        honed += std::ranges::any_of(work.cuts, is_hone) ? 1 : 0;
        bored += std::ranges::all_of(work.cuts, is_hone) ? 0 : 1;
    }
    if (sleeved > 0)
        out.push_back(capitalised(count_words(sleeved, "cylinder", "cylinders")) +
                      " got a new wall pressed in (sleeve).");
    if (bored > 0)
        out.push_back(capitalised(count_words(bored, "cylinder was", "cylinders were")) + " bored to a new size.");
    if (honed > 0)
        out.push_back(capitalised(count_words(honed, "cylinder was", "cylinders were")) +
                      " finished with stones that leave the scratches oil holds on to (honing).");
    if (lifters > 0)
        out.push_back(
            capitalised(count_words(lifters, "lifter bore was", "lifter bores were")) + " worked on" +
            (bushed > 0 ? ", " + count_words(bushed, "of them got", "of them got") + " a bronze lining (bush)" : "") +
            ".");
    return out;
}

} // namespace

std::string found_sentence(const JobState& state, const Outcome& o, const LengthText& l) {
    return o.found ? plain_name(state, o) + " " + measured_words(o, *o.found, false, l) + right_words(o, l) + "." : "";
}

std::string now_sentence(const JobState& state, const Outcome& o, const LengthText& l) {
    if (!o.left)
        return "";
    std::string words = plain_name(state, o) + " " + measured_words(o, *o.left, true, l);
    if (o.verdict && *o.verdict == Verdict::meets)
        words += right_words(o, l) + ": good";
    else if (o.verdict)
        words += right_words(o, l);
    return words + ".";
}

std::string otherwise_sentence(const Outcome& o) {
    if (!o.worked || !came_beyond(o))
        return "";
    switch (o.what) { // common practice, no source
    case Told::tunnel_line:
        return "A crankshaft that turns in bores out of line bends at every turn: its bearings wear early, and it can "
               "break.";
    case Told::main_size:
        return "Bearings in bores of the wrong size turn along, or lose their oil.";
    case Told::deck_height:
        return "On a face of the wrong height pistons come too near the valves, or compression is lost.";
    case Told::deck_flatness:
        return "On an uneven face the head gasket leaks: water, oil or gas finds its way.";
    case Told::bore_size:
    case Told::bore_shape:
        return "Rings do not seal in a worn cylinder: the engine burns oil, loses power, and starts badly.";
    case Told::bore_across:
    case Told::bore_along:
        return "A piston in a cylinder off its place pulls to one side: it wears, and friction takes power.";
    case Told::cam_distance:
    case Told::lifter_place:
        break;
    }
    return "";
}

std::string watch_sentence(const JobState& state, const Outcome& o) {
    const std::string name = told_name(state, o);
    if (o.unproven())
        return "Not measured since it was cut: " + name + ". How good it is, nobody vouches for.";
    if (o.verdict == Verdict::fails)
        return "Outside its limit: " + name + ".";
    if (o.verdict == Verdict::cannot_tell)
        return "Too near its limit to say on which side it lies: " + name + ".";
    return "";
}

std::string owner_sentence(const std::vector<Outcome>& all) {
    std::size_t right = 0, wrong = 0, unknown = 0;
    for (const Outcome& o : all)
        if (o.unproven() || o.verdict == Verdict::cannot_tell)
            ++unknown;
        else if (o.verdict)
            ++(*o.verdict == Verdict::meets ? right : wrong);
    if (right + wrong + unknown == 0)
        return "Nothing of the block is held against a limit yet.";
    std::string words = wrong + unknown == 0 ? "Everything that was held against a limit is right"
                                             : capitalised(count_words(right, "thing is", "things are")) + " right";
    if (wrong > 0)
        words += ", " + count_words(wrong, "is", "are") + " not";
    if (unknown > 0)
        words += ", of " + count_words(unknown, "it is", "it is") + " not known yet";
    return words + (wrong + unknown > 0 ? ": see What to watch." : ".");
}

CustomerReport customer_report(const JobState& state, const planning::Assessment& a, const LengthText& l) {
    CustomerReport r;
    if (!intake_of(state).blueprint)
        return r;
    const block::JobCard& card = card_of(state).card;
    if (!card.complaint.empty())
        r.found.push_back("You told us: " + card.complaint + (card.complaint.ends_with('.') ? "" : "."));
    for (const auto& [what, inspected] : card_of(state).inspected)
        if (what == block::Inspection::cracks)
            r.found.push_back("Cracks were looked for" +
                              (inspected.payload.method.empty() ? "" : ", by " + inspected.payload.method) + ": " +
                              (inspected.payload.found.empty() ? "none was found" : inspected.payload.found) + ".");
    const auto all = planning::outcomes(state, a);
    for (const Outcome& o : all) {
        add(r.found, found_sentence(state, o, l));
        const std::string why = otherwise_sentence(o);
        if (std::ranges::find(r.otherwise, why) == r.otherwise.end())
            add(r.otherwise, why);
        add(r.now, now_sentence(state, o, l));
        add(r.watch, watch_sentence(state, o));
    }
    for (const block::KnownFlaw& flaw : decks_of(state).flaws) {
        add(r.found, "Seen on the block: " + flaw_sentence(state, flaw, l) + ".");
        if (flaw.decided && flaw.decided->choice == block::FlawChoice::watch)
            add(r.watch, "It was decided to leave and watch this: " + flaw_sentence(state, flaw, l) + ".");
    }
    r.done = done_sentences(state, a, l);
    if (bores_of(state).cylinder_plan && a.cylinders && a.cylinders->study.oversize && !r.done.empty() &&
        std::ranges::any_of(all, [](const Outcome& o) { return o.what == Told::bore_size && o.left; }))
        add(r.watch, "The cylinders are now " + l.with_unit(*a.cylinders->study.oversize) +
                         " larger than new (oversize): pistons of that size belong in them.");
    for (const auto& gate : intake_of(state).gates)
        add(r.watch,
            "Decided on the way (" + std::string(rule_name(gate.payload.rule)) + "): " + gate.payload.reason + ".");
    for (const auto& left_out : intake_of(state).skipped)
        add(r.watch, "Left out on purpose: " + left_out.payload.reason + ".");
    return r;
}

} // namespace pallix::wording
