// SPDX-License-Identifier: GPL-3.0-or-later
#include "wording/sentences.h"

#include "block/job_state.h"
#include "wording/cylinder_words.h"
#include "wording/deck_words.h"
#include "wording/lifter_words.h"
#include "wording/readings.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace pallix::wording {

using block::JobState;
using metrology::Verdict;
using planning::Across;
using planning::Along;
using planning::Assessment;
using planning::BankProgress;
using planning::CallKind;
using planning::CheckKind;
using planning::Stage;
using planning::StageMark;

std::string verdict_word(Verdict verdict) {
    switch (verdict) {
    case Verdict::meets:
        return "meets";
    case Verdict::cannot_tell:
        return "can't tell yet";
    case Verdict::fails:
        break;
    }
    return "fails";
}

std::string stage_name(Stage stage) {
    constexpr std::array names{"received", "as found", "tunnel", "decks", "cylinders", "lifters", "passport"};
    return names[static_cast<std::size_t>(stage)];
}

std::string stage_word(StageMark mark) {
    constexpr std::array words{"", "now", "done", "meets", "can't tell yet", "fails", "measure again"};
    return words[static_cast<std::size_t>(mark)];
}

std::string along_word(Along along) {
    constexpr std::array words{"front", "middle", "rear"};
    return words[static_cast<std::size_t>(along)];
}

std::string across_word(Across across) {
    constexpr std::array words{"inboard", "outboard", "left side", "right side", "middle"};
    return words[static_cast<std::size_t>(across)];
}

std::string place_words(planning::PlaceOnDeck place) {
    if (place.along == Along::middle && place.across == Across::middle)
        return "middle";
    if (place.across == Across::middle)
        return along_word(place.along) + ", between the edges";
    if (place.along == Along::middle)
        return "halfway along, " + across_word(place.across);
    return along_word(place.along) + ", " + across_word(place.across);
}

std::string corner_words(const block::BankBlueprint& bank, bool rear, bool positive_v) {
    return place_words({rear ? Along::rear : Along::front,
                        positive_v ? planning::positive_side(bank) : planning::negative_side(bank)});
}

std::string bank_name(const block::BankBlueprint& bank) {
    if (bank.id == "R")
        return "right bank";
    if (bank.id == "L")
        return "left bank";
    return bank.id == "C" ? "deck" : "bank " + bank.id;
}

std::string pass_name(block::PassKind kind) {
    constexpr std::array names{"witness cut", "pass", "finishing cut", "spring pass"};
    return names[static_cast<std::size_t>(kind)];
}

std::string school_name(block::TargetSchool school) {
    constexpr std::array names{"least cut", "blueprint height", "given height", "piston clearance",
                               "compression ratio"};
    return names[static_cast<std::size_t>(school)];
}

std::string clocking_name(block::Clocking clocking) {
    constexpr std::array names{"cam", "pan rail", "decks"};
    return names[static_cast<std::size_t>(clocking)];
}

namespace {

const block::BankBlueprint& bank_of(const JobState& state, const std::string& id) {
    return *state.blueprint->bank(id);
}

std::string capitalised(std::string text) {
    if (!text.empty() && text[0] >= 'a' && text[0] <= 'z')
        text[0] = static_cast<char>(text[0] - 'a' + 'A');
    return text;
}

/// "the right bank", "the deck"
std::string the_bank(const JobState& state, const std::string& id) {
    return "the " + bank_name(bank_of(state, id));
}

std::string count_words(std::size_t n, const std::string& one, const std::string& many) {
    constexpr std::array small{"no", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine"};
    return (n < small.size() ? small[n] : std::to_string(n)) + " " + (n == 1 ? one : many);
}

/// The bore an entry is about; null for other entries.
template <class Payload>
const block::FeatureId* bore_of(const Payload& p) {
    if constexpr (requires { p.bore; })
        return &p.bore;
    else if constexpr (std::is_same_v<Payload, block::LifterDecided>)
        return &p.lifter;
    else
        return nullptr;
}

template <class First, class Second>
struct EitherOf : First, Second {
    using First::operator();
    using Second::operator();
};

constexpr const char* mill_caution =
    "Guards shut, eyes covered, no gloves near the cutter. Stop the spindle and see it stopped before clearing chips.";

/// Why a cut is asked for, and what else it touches.
std::vector<std::string> cut_reasons(const JobState& state, const Assessment& a, const BankProgress& b,
                                     const LengthText& l) {
    std::vector<std::string> reasons;
    const bool several = a.banks.size() > 1;
    if (b.taken == 0 && several && a.plan.start_with == b.plan.bank)
        reasons.push_back("Start here: " + the_bank(state, b.plan.bank) + " lies lowest.");
    reasons.push_back(capitalised(place_words(b.plan.lowest)) + " is the lowest place; it cleans up " +
                      l.with_unit(b.plan.cut) + " below the highest point.");
    reasons.push_back("Cut to " + l.with_unit(b.plan.target) + " (" + school_name(state.target.school) +
                      (state.target.equal && several && state.target.school == block::TargetSchool::least_cut
                           ? ", both banks equal"
                           : "") +
                      ").");
    if (b.taken > 0)
        reasons.push_back(l.with_unit(b.taken) + " taken so far, " + l.with_unit(std::max(0.0, b.remaining)) +
                          " to go.");
    if (a.tunnel_to_come)
        reasons.push_back("Planned from the tunnel as it will be: cut that first, then measure again.");
    for (const std::string& flaw : flaw_reasons(state, b.plan.bank, l))
        reasons.insert(reasons.begin(), flaw);
    if (b.plan.over_lower_limit < 0)
        reasons.push_back("That is " + l.with_unit(-b.plan.over_lower_limit) + " below the blueprint's lower limit.");
    return reasons;
}

CallText cut_text(const JobState& state, const Assessment& a, const LengthText& l) {
    const BankProgress& b = *a.bank(a.call.bank);
    const planning::Pass& pass = *a.call.pass;
    CallText t;
    t.headline = capitalised(bank_name(bank_of(state, a.call.bank))) + ": " + pass_name(pass.kind) + ", " +
                 count_words(a.call.passes_left, "pass", "passes") + " left";
    t.number = pass.kind == block::PassKind::spring ? "no infeed" : l.with_unit(pass.depth);
    t.reasons = cut_reasons(state, a, b, l);
    if (state.cutter) {
        const auto extent = planning::deck_extent(bank_of(state, a.call.bank));
        t.reasons.insert(
            t.reasons.begin(),
            capitalised(milling_sentence(planning::milling_for(state.cutter->payload, pass.kind, extent.length()), l)) +
                ".");
    }
    switch (pass.kind) {
    case block::PassKind::witness:
        t.reasons.insert(t.reasons.begin(),
                         "A light first cut shows where it touches: see that it agrees with the map.");
        break;
    case block::PassKind::finish:
        t.reasons.insert(t.reasons.begin(), "Cutter faster, feed slower; change a dull insert before this cut.");
        break;
    case block::PassKind::spring:
        t.reasons.insert(t.reasons.begin(),
                         "The thin metal round the bores springs away: again, until marker lines vanish evenly.");
        break;
    case block::PassKind::pass:
        break;
    }
    t.caution = mill_caution;
    return t;
}

/// The checks that are not met yet, as sentences.
std::vector<std::string> open_checks(const BankProgress& b, Verdict verdict, const LengthText& l) {
    std::vector<std::string> out;
    if (b.verdict)
        for (const planning::DeckCheck& check : b.verdict->checks)
            if (check.verdict == verdict)
                out.push_back(capitalised(check_sentence(check, l)) + ".");
    return out;
}

/// The doubt that takes most to settle speaks for all.
std::string what_settles(const Assessment& a, const LengthText& l) {
    const metrology::Settling* hardest = nullptr;
    if (const BankProgress* b = a.bank(a.call.bank); b && b->verdict)
        for (const planning::DeckCheck& check : b->verdict->checks)
            if (check.verdict == Verdict::cannot_tell && (!hardest || check.settling.by > hardest->by))
                hardest = &check.settling;
    return hardest ? settling_sentence(*hardest, l) : "Measure again, several times, or with a better gauge.";
}

CallText verdict_text(const JobState& state, const Assessment& a, Verdict verdict, const LengthText& l) {
    CallText t;
    const bool fails = verdict == Verdict::fails;
    if (a.call.bank.empty()) {
        t.headline = fails ? "The banks differ too much" : "Too near the limit to tell the banks apart";
        t.reasons.push_back(capitalised(pair_sentence(*a.pair, bank_of(state, a.banks[0].plan.bank), l)) + ".");
    } else {
        t.headline = capitalised(bank_name(bank_of(state, a.call.bank))) + (fails ? " fails" : ": can't tell yet");
        t.reasons = open_checks(*a.bank(a.call.bank), verdict, l);
    }
    if (!fails) {
        const bool unstated = std::ranges::any_of(
            a.banks, [&](const BankProgress& b) { return !state.deck(b.plan.bank).latest->standard_uncertainty; });
        t.reasons.push_back(unstated ? "The gauge's uncertainty was not stated: measure again and state it."
                                     : what_settles(a, l) + " A coin-flip is not a pass.");
    } else if (std::ranges::any_of(a.banks, [](const BankProgress& b) { return b.remaining > 0; })) {
        t.reasons.push_back("Choose a lower target, or accept it with a note.");
    } else {
        t.reasons.push_back(
            "Metal that is off does not come back: a gasket of other thickness, or accept it with a note.");
    }
    return t;
}

CallText will_not_clean_text(const JobState& state, const Assessment& a, const LengthText& l) {
    const BankProgress& b = *a.bank(a.call.bank);
    return {
        capitalised(bank_name(bank_of(state, a.call.bank))) + " will not clean up",
        l.with_unit(b.plan.short_by),
        {capitalised(place_words(b.plan.lowest)) + " stays that far below a cut at " + l.with_unit(b.plan.target) + ".",
         "Least cut would go to " + l.with_unit(b.plan.low) + ".",
         "Choose another target on the decks page, or log passes as they are."},
        ""};
}

CallText done_text(const JobState& state, const Assessment& a, const LengthText& l) {
    CallText t;
    const bool cut = std::ranges::any_of(a.banks, [](const BankProgress& b) { return b.taken > 0; });
    t.headline = a.banks.size() > 1 ? "Both decks meet" : "The deck meets";
    for (const BankProgress& b : a.banks)
        t.reasons.push_back(
            capitalised(bank_name(bank_of(state, b.plan.bank))) + ": " +
            (cut ? l.with_unit(b.taken) + " came off in all." : std::string("nothing needs to come off.")));
    if (a.pair)
        t.reasons.push_back(capitalised(pair_sentence(*a.pair, bank_of(state, a.banks[0].plan.bank), l)) + ".");
    t.reasons.push_back("Enough: more readings would change nothing. Print the passport.");
    return t;
}

/// Entries that could not be used, in their own words; of many the first.
std::vector<std::string> trouble_sentences(const JobState& state) {
    constexpr std::size_t most = 5;
    std::vector<std::string> sentences;
    for (const block::Trouble& trouble : state.troubles) {
        if (sentences.size() == most) {
            sentences.push_back("… and " + std::to_string(state.troubles.size() - most) + " more.");
            break;
        }
        sentences.push_back(capitalised(trouble.words) + ".");
    }
    return sentences;
}

CallText mend_ledger_text(const JobState& state) {
    CallText t{"Mend the ledger first", "", trouble_sentences(state), ""};
    t.reasons.push_back("It may have been a cut, so nothing is called before it is put right: strike it in the ledger "
                        "(Ctrl+L) and log again what was done.");
    return t;
}

CallText call_of(const JobState& state, const Assessment& a, const LengthText& l) {
    switch (a.call.kind) {
    case CallKind::mend_blueprint:
        return {"The blueprint cannot be read", "", trouble_sentences(state), ""};
    case CallKind::mend_ledger:
        return mend_ledger_text(state);
    case CallKind::take_probe_log:
        return {"Take the probe log in",
                "",
                {"Drop a .csv file here, or choose it under Job.",
                 "It holds mains, the origin dowel and the decks, caps torqued as they will run.",
                 "No probe: go to the tunnel or the decks and type what the gauges say into the line below."},
                ""};
    case CallKind::measure_decks:
        return {"Read the deck heights",
                "",
                {"Four places of each bank, from a bar through the mains or a bridge on it.",
                 "Go to the decks (F4) and type them into the line below (Ctrl+R)."},
                "Spindle stopped, deck wiped, block and gauge at one temperature."};
    case CallKind::cut_by_feel: {
        const planning::FeelProgress& f = *a.feel(a.call.bank);
        CallText t{
            capitalised(bank_name(bank_of(state, a.call.bank))) + ": " + pass_name(a.call.pass->kind),
            l.with_unit(a.call.pass->depth),
            {f.cut ? "Places stayed dark: go on until it is clean, then lay the straightedge again."
                   : "A light first cut shows where it touches. Paint what stays dark.",
             "How much must come off a straightedge cannot tell: the cut stays parallel to the tunnel, and the last "
             "low corner decides. Four heights would."},
            mill_caution};
        for (const std::string& sentence : feeler_bound_sentences(f.bounds, l))
            if (f.verdict)
                t.reasons.push_back(sentence);
        return t;
    }
    case CallKind::feel_again:
        return {
            "Lay the straightedge on " + the_bank(state, a.call.bank) + " again",
            "",
            {"It is clean after " + l.with_unit(a.feel(a.call.bank)->taken) + "; what was felt before the cut is void.",
             "Lines lengthwise, both diagonals, across between the cylinders."},
            "Spindle stopped, deck wiped."};
    case CallKind::flat_by_feel: {
        CallText t{"Flat along its lines", "", {}, ""};
        for (const planning::FeelProgress& f : a.by_feel) {
            t.reasons.push_back(
                capitalised(bank_name(bank_of(state, f.bank))) + ": " + l.with_unit(f.taken) + " came off" +
                (f.verdict == Verdict::meets ? "; by feelers it meets." : "; by feelers it can't be told yet."));
            for (const std::string& sentence : feeler_bound_sentences(f.bounds, l))
                t.reasons.push_back(sentence);
        }
        t.reasons.push_back("Its height and how square it is nobody knows: read four heights to prove them.");
        return t;
    }
    case CallKind::give_height:
        return {
            "Give the number to cut to",
            "",
            {capitalised(school_name(state.target.school)) + " was chosen as the target: type it on the decks page."},
            ""};
    case CallKind::read_pistons:
        return {"Read the pistons at top dead centre",
                "",
                {"The target comes from the mock-up: crank, one rod and piston per corner, both sides of the pin.",
                 "Decks (F4), then type what stands between crown and deck into the line below (Ctrl+R)."},
                "Hands clear when the crank is turned; turn it by the bar, not by the pistons."};
    case CallKind::give_figures: {
        std::string lacking;
        for (const std::string& word : planning::missing_figures(state.figures))
            lacking += (lacking.empty() ? "" : ", ") + word;
        return {"Give the volumes",
                "",
                {"A compression ratio needs: " + lacking + ". They stand on the mock-up page."},
                ""};
    }
    case CallKind::cut:
        return cut_text(state, a, l);
    case CallKind::look_why_dark:
        return {"Still dark at depth: look why",
                "",
                {capitalised(the_bank(state, a.call.bank)) + " took its planned depth and is not clean everywhere.",
                 "Wrong depth, a moved block or a bad touch: measure it again before cutting on."},
                ""};
    case CallKind::measure_tunnel:
        return {"Measure the tunnel again",
                "",
                {"It was cut: heights and positions measured from the old one no longer hold.",
                 "Probe it, or read its sizes and saddle heights below. Then the decks, from the new tunnel."},
                "Caps torqued as they will run; block and gauge at one temperature."};
    case CallKind::measure_again:
        return {"Measure " + the_bank(state, a.call.bank) + " again",
                "",
                {"Its heights are from before the cut: nothing is proven until it is measured.",
                 "Type the heights below, or take in a second probe log."},
                "Spindle stopped, deck wiped, block back at the temperature of the gauge."};
    case CallKind::settle_doubt:
        return verdict_text(state, a, Verdict::cannot_tell, l);
    case CallKind::fails:
        return verdict_text(state, a, Verdict::fails, l);
    case CallKind::will_not_clean:
        return will_not_clean_text(state, a, l);
    case CallKind::cylinders:
        return cylinder_call(state, &*a.cylinders, l);
    case CallKind::lifters:
        return lifter_call(state, &*a.lifters, l);
    case CallKind::done:
        break;
    }
    return done_text(state, a, l);
}

} // namespace

CallText call_text(const JobState& state, const Assessment& a, const LengthText& l) {
    CallText t = call_of(state, a, l);
    if (a.call.kind == CallKind::mend_blueprint || a.call.kind == CallKind::mend_ledger)
        return t;
    if (a.tunnel_fails())
        t.reasons.insert(
            t.reasons.begin(),
            "The main tunnel fails: whatever is cut from it moves when it is put right. Tunnel first (F3).");
    if (!state.unknown.empty())
        t.reasons.insert(t.reasons.begin(),
                         "Entry " + std::to_string(state.unknown.front()) +
                             " is of a kind that this version does not know and has no part in what is said here.");
    return t;
}

namespace {

std::string lowered(std::string text) {
    if (!text.empty())
        text[0] = static_cast<char>(std::tolower(static_cast<unsigned char>(text[0])));
    return text;
}

} // namespace

std::string waits_for(const JobState& state, const Assessment& a, const LengthText& l) {
    if (a.call.kind == CallKind::mend_ledger)
        return "the ledger: entry " + std::to_string(state.troubles.front().sequence) + " cannot be used";
    if (a.tunnel_fails())
        return "the main tunnel: it fails";
    switch (a.call.kind) {
    case CallKind::mend_blueprint:
    case CallKind::mend_ledger:
        return "a blueprint that can be read";
    case CallKind::take_probe_log:
        return "the probe log, as found";
    case CallKind::measure_decks:
        return "the deck heights";
    case CallKind::cut_by_feel:
        return pass_name(a.call.pass->kind) + " on " + the_bank(state, a.call.bank) + ", by straightedge";
    case CallKind::feel_again:
        return "the straightedge on " + the_bank(state, a.call.bank);
    case CallKind::flat_by_feel:
        return "four heights of each deck, to prove them";
    case CallKind::give_height:
        return "the height, clearance or ratio to cut to";
    case CallKind::read_pistons:
        return "the mock-up: pistons at top dead centre";
    case CallKind::give_figures:
        return "volumes for the compression ratio";
    case CallKind::cut:
        return pass_name(a.call.pass->kind) + " on " + the_bank(state, a.call.bank) +
               (a.call.pass->depth > 0 ? ", " + l.with_unit(a.call.pass->depth) : "");
    case CallKind::look_why_dark:
        return "a look at what stayed dark on " + the_bank(state, a.call.bank);
    case CallKind::measure_tunnel:
        return "measuring the tunnel again";
    case CallKind::measure_again:
        return "measuring " + the_bank(state, a.call.bank) + " again";
    case CallKind::settle_doubt:
        return "a surer reading";
    case CallKind::will_not_clean:
        return "another target: " + the_bank(state, a.call.bank) + " will not clean up";
    case CallKind::fails:
        return "a decision: outside the limits";
    case CallKind::cylinders:
        return "the cylinders: " + lowered(cylinder_call(state, &*a.cylinders, l).headline);
    case CallKind::lifters:
        return "the lifters: " + lowered(lifter_call(state, &*a.lifters, l).headline);
    case CallKind::done:
        break;
    }
    return "nothing: print the passport";
}

std::vector<std::string> lie_sentences(const block::BankBlueprint& bank, const planning::DeckLie& lie,
                                       const LengthText& l) {
    const auto compared = [&l](double over, const std::string& high, const std::string& low) {
        if (l.with_sign(over) == l.plain(0))
            return capitalised(high) + " and " + low + " at one height.";
        return over > 0 ? capitalised(high) + " " + l.with_unit(over) + " above " + low + "."
                        : capitalised(high) + " " + l.with_unit(-over) + " below " + low + ".";
    };
    std::vector<std::string> out;
    out.push_back(compared(lie.rear_over_front, "rear", "front"));
    const bool out_is_positive = planning::positive_side(bank) != Across::inboard;
    const Across outer = out_is_positive ? planning::positive_side(bank) : planning::negative_side(bank);
    const Across inner = out_is_positive ? planning::negative_side(bank) : planning::positive_side(bank);
    out.push_back(compared(out_is_positive ? lie.positive_over_negative : -lie.positive_over_negative,
                           across_word(outer), across_word(inner)));
    out.push_back(l.with_sign(lie.twist) == l.plain(0)
                      ? std::string("Not twisted.")
                      : "Twisted by " + l.with_unit(std::abs(lie.twist)) + ": " + across_word(outer) + " is " +
                            (lie.twist > 0 ? "higher at the front." : "higher at the rear."));
    return out;
}

std::string check_sentence(const planning::DeckCheck& check, const LengthText& l) {
    const std::string tail = " — " + verdict_word(check.verdict);
    const std::string sure = check.uncertainty ? " ±" + l.fine(2 * *check.uncertainty) : std::string();
    switch (check.kind) {
    case CheckKind::lowest_height:
        return "lowest height " + l.plain(check.value) + sure + ", at least " + l.plain(*check.limits.lower) + tail;
    case CheckKind::highest_height:
        return "highest height " + l.plain(check.value) + sure + ", at most " + l.plain(*check.limits.upper) + tail;
    case CheckKind::flatness:
        return "flatness " + l.plain(check.value) + sure + ", at most " + l.plain(*check.limits.upper) + tail;
    case CheckKind::clean:
        break;
    }
    return "places stayed dark" + tail;
}

std::string pair_sentence(const planning::PairVerdict& pair, const block::BankBlueprint& first, const LengthText& l) {
    const std::string amount = l.with_unit(std::abs(pair.difference));
    const std::string sure = pair.uncertainty ? " ±" + l.fine(2 * *pair.uncertainty) : std::string();
    return "the " + bank_name(first) + " stands " + amount + sure + (pair.difference < 0 ? " lower" : " higher") +
           " than the other, at most " + l.plain(planning::usual_pair_difference) + " — " + verdict_word(pair.verdict);
}

std::string entry_sentence(const block::Entry& entry, const JobState& state, const LengthText& l) {
    const auto bank = [&state](const std::string& id) {
        const auto* b = state.blueprint ? state.blueprint->bank(id) : nullptr;
        return b ? bank_name(*b) : "bank " + id;
    };
    struct Words {
        const LengthText& l;
        decltype(bank)& name;
        std::string operator()(const block::JobOpened& p) const { return "job opened from " + p.blueprint_file; }
        std::string operator()(const block::ProbeLogTaken& p) const {
            return "probe log " + p.file + " taken in" +
                   (p.standard_uncertainty ? ", standard uncertainty " + l.fine(*p.standard_uncertainty)
                                           : std::string());
        }
        std::string operator()(const block::Reading& p) const {
            const std::string value = p.upper
                                          ? l.with_unit(p.value) + " goes in, " + l.with_unit(*p.upper) + " does not"
                                          : quantity_text(p.at.quantity, p.value, l);
            return p.words + ": " + value + " (typed " + p.typed + "; " + p.instrument.name + ")";
        }
        std::string operator()(const block::ConditionsStated& p) const {
            return "conditions: " + conditions_words(p.conditions);
        }
        std::string operator()(const block::RingCheck& p) const {
            return p.instrument + " checked: " + l.with_unit(p.reading) + " on a size of " + l.plain(p.size) +
                   ", off by " + l.with_sign(p.reading - p.size);
        }
        std::string operator()(const block::RepeatabilityTest& p) const {
            return p.instrument + " repeated " + std::to_string(p.readings.size()) + " times at " + p.words;
        }
        std::string operator()(const block::TunnelCut& p) const {
            return std::string("tunnel ") + (p.method == block::TunnelMethod::hone ? "honed" : "bored") +
                   (p.note.empty() ? std::string() : ": " + p.note);
        }
        std::string operator()(const block::TunnelPolicy& p) const {
            return std::string("tunnel plan: ") + (p.method == block::TunnelMethod::hone ? "line hone" : "line bore") +
                   (p.caps == block::CapCuts::equal ? ", caps equal" : ", each cap its own");
        }
        std::string operator()(const block::CapsCut& p) const {
            std::string list;
            for (const auto& [id, cut] : p.cuts)
                if (cut > 0)
                    list += (list.empty() ? "" : ", ") + std::to_string(id.number) + " by " + l.plain(cut);
            return "caps cut: " + (list.empty() ? std::string("none") : list) + " " + l.unit_name();
        }
        std::string operator()(const block::TunnelPass& p) const {
            constexpr std::array names{"line hone", "caps-only pass", "establishing pass", "final pass"};
            std::string text = names[static_cast<std::size_t>(p.kind)];
            if (p.kind == block::TunnelPassKind::strokes)
                text += ", " + std::to_string(p.strokes) + " strokes";
            if (p.protrusion)
                text += ", cutter out " + l.with_unit(*p.protrusion);
            return text + (p.new_cutter ? ", new cutter" : "");
        }
        std::string operator()(const block::StepDone& p) const { return "done: " + p.step; }
        std::string operator()(const block::ReadingPlanChosen& p) const {
            return "reading plan " + p.plan + ": " + count_words(p.places.size(), "place", "places");
        }
        std::string operator()(const block::DeckCut& p) const {
            const std::string depth = p.kind == block::PassKind::spring ? std::string() : ", " + l.with_unit(p.depth);
            const std::string seen = p.clean ? ", clean"
                                     : p.dark.empty()
                                         ? ", not clean"
                                         : ", " + count_words(p.dark.size(), "place", "places") + " stayed dark";
            return name(p.bank) + ": " + pass_name(p.kind) + depth + seen;
        }
        std::string operator()(const block::DeckTargetChosen& p) const {
            const bool number = p.school == block::TargetSchool::height && p.height;
            std::string text = "target: " + school_name(p.school);
            if (number)
                text += " " + l.with_unit(*p.height);
            if (p.school == block::TargetSchool::clearance && p.clearance)
                text += " " + l.with_unit(*p.clearance);
            if (p.school == block::TargetSchool::ratio && p.ratio)
                text += " " + ratio_text(*p.ratio);
            return text + (p.equal ? ", banks equal" : ", each bank its own");
        }
        std::string operator()(const block::PassPlanChosen& p) const {
            return "passes: witness " + l.plain(p.witness) + ", pass " + l.plain(p.pass) + ", finish " +
                   l.with_unit(p.finish) + ", " +
                   count_words(static_cast<std::size_t>(p.spring_passes), "spring pass", "spring passes");
        }
        std::string operator()(const block::Note& p) const {
            const std::size_t end = p.text.find('\n');
            return "note: " + p.text.substr(0, end) + (end == std::string::npos ? "" : " …");
        }
        std::string operator()(const block::Strike& p) const {
            return "struck entry " + std::to_string(p.sequence) + (p.reason.empty() ? std::string() : ": " + p.reason);
        }
        std::string operator()(const block::UnknownPayload& p) const {
            return "an entry of kind \"" + p.kind + "\", which " +
                   (p.faults.empty() ? "this version does not know" : "cannot be read: " + p.faults.front().text());
        }
    };
    const auto of_decks = [&](const auto& p) {
        std::string of;
        if constexpr (requires { p.bank; })
            of = bank(p.bank) + ": ";
        if (const block::FeatureId* bore = bore_of(p); bore && state.blueprint && state.blueprint->hole(*bore))
            of = feature_words(*state.blueprint, *bore) + ": ";
        return of + entry_words(p, l);
    };
    return std::visit(EitherOf<Words, decltype(of_decks)>{{l, bank}, of_decks}, entry.payload);
}

} // namespace pallix::wording
