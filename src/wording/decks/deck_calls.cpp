// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/state/card_state.h"
#include "block/state/deck_state.h"
#include "wording/common/phrases.h"
#include "wording/decks/deck_words.h"
#include "wording/readings/readings.h"
#include "wording/steps/step_words.h"

#include <algorithm>
#include <cmath>

namespace pallix::wording {
namespace {

using block::JobState;
using metrology::Verdict;
using planning::Assessment;
using planning::BankProgress;
using planning::DeckStep;

constexpr const char* deck_reading_caution = "Spindle stopped, deck wiped, block and gauge at one temperature.";
constexpr const char* mill_caution =
    "Guards shut, eyes covered, no gloves near the cutter. Stop the spindle and see it stopped before clearing chips.";

/// How deep it has to go to be clean as surely as was chosen.
std::string doubt_words(const JobState& state, const planning::BankPlan& plan, const LengthText& l) {
    if (std::abs(plan.doubt) < planning::least_infeed)
        return "";
    return std::string(" as measured, ") +
           (decks_of(state).target.clean == block::Sureness::sure ? "as sure as 95 %" : "as likely as not") + " by " +
           l.with_unit(plan.high - plan.low + plan.doubt);
}

/// Why a cut is asked for, and what else it touches.
std::vector<std::string> cut_reasons(const JobState& state, const Assessment& a, const BankProgress& b,
                                     const LengthText& l) {
    std::vector<std::string> reasons;
    const bool several = a.banks.size() > 1;
    if (b.taken == 0 && several && a.plan.start_with == b.plan.bank)
        reasons.push_back("Start here: " + the_bank(state, b.plan.bank) + " lies lowest.");
    const double finish = b.plan.finish.value_or(0);
    const bool rough = !b.passes.empty() && b.passes.front().kind <= block::PassKind::pass;
    reasons.push_back(
        capitalised(place_words(b.plan.lowest)) + " is the lowest place; it cleans up " +
        l.with_unit(b.plan.high - b.plan.low) + " below the highest point" + doubt_words(state, b.plan, l) +
        (rough && finish > 0
             ? "; the finishing cut of " + l.with_unit(finish) + " comes under that, once it is marked clean."
             : std::string(".")));
    reasons.push_back(
        "Cut to " + l.with_unit(b.plan.target) + " (" + school_name(decks_of(state).target.school) +
        (decks_of(state).target.equal && several && decks_of(state).target.school == block::TargetSchool::least_cut
             ? ", both banks equal"
             : "") +
        ")" +
        (rough && planning::cut_until_clean(state, b.passes.front().kind)
             ? ", " + count_words(b.passes.size(), "pass", "passes") + " by the plan."
             : "."));
    if (b.plan.moved > planning::least_infeed)
        reasons.push_back(std::string(!b.plan.follows
                                          ? "Places stayed dark at the planned depth: within what the heights "
                                            "could not tell, so it goes "
                                          : "The other bank had to go deeper to clean, so this one goes with "
                                            "it: ") +
                          l.with_unit(b.plan.moved) + " deeper than planned.");
    else if (b.plan.moved < -planning::least_infeed && !b.passes.empty() &&
             b.passes.front().kind == block::PassKind::finish)
        reasons.push_back("Clean sooner than the lowest place said: " + l.with_unit(-b.plan.moved) +
                          " less than planned.");
    if (b.taken > 0)
        reasons.push_back(l.with_unit(b.taken) + " taken so far, " + l.with_unit(std::max(0.0, b.remaining)) +
                          " to go.");
    if (a.tunnel_to_come)
        reasons.push_back("Planned from the tunnel as it will be: cut that first, then measure again.");
    for (const std::string& flaw : flaw_reasons(state, b.plan.bank, l))
        reasons.insert(reasons.begin(), flaw);
    if (b.plan.over_lower_limit.value_or(0) < 0)
        reasons.push_back("That is " + l.with_unit(-*b.plan.over_lower_limit) + " below the blueprint's lower limit.");
    return reasons;
}

CallText cut_text(const JobState& state, const Assessment& a, const LengthText& l) {
    const BankProgress& b = *a.bank(a.decks.bank);
    const planning::Pass& pass = *a.decks.pass;
    CallText t;
    t.headline =
        capitalised(bank_name(bank_of(state, a.decks.bank))) + ": " + pass_name(pass.kind) + ", " +
        (planning::cut_until_clean(state, pass.kind) ? "until it is clean"
                                                     : count_words(a.decks.passes_left, "pass", "passes") + " left");
    t.number = pass.kind == block::PassKind::spring ? "no infeed" : l.with_unit(pass.depth);
    t.reasons = cut_reasons(state, a, b, l);
    if (decks_of(state).cutter) {
        const auto extent = planning::deck_extent(bank_of(state, a.decks.bank));
        t.reasons.insert(t.reasons.begin(),
                         capitalised(milling_sentence(
                             planning::milling_for(decks_of(state).cutter->payload, pass.kind, extent.length()), l)) +
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
    case block::PassKind::flush:
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
    if (const BankProgress* b = a.bank(a.decks.bank); b && b->verdict)
        for (const planning::DeckCheck& check : b->verdict->checks)
            if (check.verdict == Verdict::cannot_tell && (!hardest || check.settling.by > hardest->by))
                hardest = &check.settling;
    return hardest ? settling_sentence(*hardest, l) : "Measure again, several times, or with a better gauge.";
}

CallText verdict_text(const JobState& state, const Assessment& a, Verdict verdict, const LengthText& l) {
    CallText t;
    const bool fails = verdict == Verdict::fails;
    if (a.decks.bank.empty()) {
        t.headline = fails ? "The banks differ too much" : "Too near the limit to tell the banks apart";
        t.reasons.push_back(capitalised(pair_sentence(*a.pair, bank_of(state, a.banks[0].plan.bank), l)) + ".");
    } else {
        t.headline = capitalised(bank_name(bank_of(state, a.decks.bank))) + (fails ? " fails" : ": can't tell yet");
        t.reasons = open_checks(*a.bank(a.decks.bank), verdict, l);
    }
    if (!fails) {
        const bool unstated = std::ranges::any_of(a.banks, [&](const BankProgress& b) {
            return !decks_of(state).deck(b.plan.bank).latest->standard_uncertainty;
        });
        if (a.decks.kind == DeckStep::cannot_be_told)
            t.reasons.emplace_back("Every place was read so often that this gauge tells no more: take a better one, or "
                                   "decide, with a reason. A coin-flip is not a pass.");
        else
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

std::string why_measured_again(const JobState& state, const Assessment& a, const LengthText& l) {
    const BankProgress* b = a.bank(a.decks.bank);
    if (const auto& measured = decks_of(state).deck(a.decks.bank).latest; measured && measured->caps_off)
        return "It was measured from mains with their caps off: that is no height.";
    if (b && b->clean_too_soon)
        return "It came clean " + l.with_unit(*b->clean_too_soon) +
               " sooner than its heights say: one of them is wrong, or a pass was not what it was set to. No deeper on "
               "such heights.";
    if (decks_of(state).deck(a.decks.bank).flushed_since())
        return "A sleeve was taken flush: how much of the deck's own metal went with it nobody knows.";
    if (b && planning::springs_change_nothing(decks_of(state).deck(b->plan.bank)))
        return "Three spring passes changed nothing: that is deflection, not stock. Nothing is proven until it is "
               "measured.";
    return "Its heights are from before the cut: nothing is proven until it is measured.";
}

CallText will_not_clean_text(const JobState& state, const Assessment& a, const LengthText& l) {
    const BankProgress& b = *a.bank(a.decks.bank);
    return {
        capitalised(bank_name(bank_of(state, a.decks.bank))) + " will not clean up",
        l.with_unit(b.plan.short_by),
        {capitalised(place_words(b.plan.lowest)) + " stays that far below a cut at " + l.with_unit(b.plan.target) + ".",
         "Least cut would go to " + l.with_unit(b.plan.low) + ".",
         "Choose another target on the decks page, or log passes as they are."},
        ""};
}

CallText under_limit_text(const JobState& state, const Assessment& a, const LengthText& l) {
    const BankProgress& b = *a.bank(a.decks.bank);
    const double least = *bank_of(state, a.decks.bank).deck_height.smallest();
    CallText t;
    t.headline = capitalised(bank_name(bank_of(state, a.decks.bank))) + ": under the blueprint's least height";
    const double height =
        b.below_blueprint ? decks_of(state).deck(a.decks.bank).latest->result.height_min : b.plan.target;
    t.number = l.with_unit(least - height);
    t.reasons.push_back((b.below_blueprint ? "Its lowest place stands at " : "The plan cuts it to ") +
                        l.with_unit(height) + ", the blueprint allows " + l.plain(least) + " and no less.");
    if (b.verdict && b.verdict->verdict == Verdict::meets)
        t.reasons.emplace_back("It meets what was planned; that is another statement.");
    t.reasons.emplace_back("Piston to head and valve to piston come nearer by as much, the ratio rises.");
    t.reasons.emplace_back(
        b.below_blueprint
            ? "Metal that is off does not come back: a thicker gasket, other pistons, or go on with a reason."
            : "Choose a higher target, or go on with a reason.");
    return t;
}

CallText by_feel_text(const JobState& state, const Assessment& a, const LengthText& l) {
    const planning::FeelProgress& f = *a.feel(a.decks.bank);
    if (f.over) {
        const double wanted = *decks_of(state).target.clearance;
        return {capitalised(bank_name(bank_of(state, a.decks.bank))) + ": " + pass_name(a.decks.pass->kind),
                a.decks.pass->kind == block::PassKind::spring ? "no infeed" : l.with_unit(a.decks.pass->depth),
                {"Its highest piston is " + l.with_unit(*f.over + wanted) + " below the deck, " + l.with_unit(wanted) +
                     " is wanted: " + l.with_unit(std::max(0.0, *f.over)) + " to go.",
                 "The cut follows the mock-up; where the deck stands from the tunnel, and how square, nobody has "
                 "measured."},
                mill_caution};
    }
    CallText t{capitalised(bank_name(bank_of(state, a.decks.bank))) + ": " + pass_name(a.decks.pass->kind),
               a.decks.pass->kind == block::PassKind::spring ? "no infeed" : l.with_unit(a.decks.pass->depth),
               {!f.cut      ? "A light first cut shows where it touches. Paint what stays dark."
                : !f.clean  ? "Places stayed dark: go on until it is clean, then finish it."
                : f.verdict ? "It is clean, and its lines say that it is not flat."
                            : "It is clean: finish it, let the metal spring, then lay the straightedge again.",
                "How much must come off a straightedge cannot tell: the cut stays parallel to the tunnel, and the last "
                "low corner decides. Four heights would."},
               mill_caution};
    for (const std::string& sentence : feeler_bound_sentences(f.bounds, l))
        if (f.verdict)
            t.reasons.push_back(sentence);
    return t;
}

CallText flat_by_feel_text(const JobState& state, const Assessment& a, const LengthText& l) {
    const planning::FeelProgress* called = a.feel(a.decks.bank);
    const bool flat = !called || called->verdict != Verdict::fails;
    CallText t{flat ? "Flat along its lines: read the heights" : "At its clearance and not flat: read the heights",
               "",
               {},
               deck_reading_caution};
    for (const planning::FeelProgress& f : a.by_feel) {
        t.reasons.push_back(capitalised(bank_name(bank_of(state, f.bank))) + ": " + l.with_unit(f.taken) + " came off" +
                            (f.verdict == Verdict::meets   ? "; by feelers it meets."
                             : f.verdict == Verdict::fails ? "; by feelers it fails."
                                                           : "; by feelers it can't be told yet."));
        for (const std::string& sentence : feeler_bound_sentences(f.bounds, l))
            t.reasons.push_back(sentence);
    }
    t.reasons.emplace_back("Its height and how square it is nobody knows: four heights prove them. Where there is "
                           "neither bridge nor probe, go on with a reason; the passport says so.");
    return t;
}

} // namespace

CallText hand_over_text(const JobState& state, const Assessment& a, const LengthText& l) {
    CallText t;
    const bool cut = std::ranges::any_of(a.banks, [](const BankProgress& b) { return b.taken > 0; });
    t.headline = "Print the passport";
    const auto over = [](const BankProgress& b) {
        const auto* highest = b.verdict ? b.verdict->check(planning::CheckKind::highest_height) : nullptr;
        return highest && highest->verdict != Verdict::meets ? highest : nullptr;
    };
    // Of a deck that nobody measured, or not since it was cut, nothing is said.
    const auto meets = [](const BankProgress& b) { return b.verdict && b.verdict->verdict == Verdict::meets; };
    if (!a.banks.empty() && std::ranges::none_of(a.banks, over) && std::ranges::all_of(a.banks, meets))
        t.reasons.emplace_back(a.banks.size() > 1 ? "Both decks meet." : "The deck meets.");
    for (const BankProgress& b : a.banks)
        if (const auto* highest = over(b))
            t.reasons.push_back(capitalised(bank_name(bank_of(state, b.plan.bank))) + ": as planned; " +
                                check_sentence(*highest, l) + ".");
    for (const BankProgress& b : a.banks)
        t.reasons.push_back(
            capitalised(bank_name(bank_of(state, b.plan.bank))) + ": " +
            (cut ? l.with_unit(b.taken) + " came off in all." : std::string("nothing needs to come off.")));
    if (a.pair)
        t.reasons.push_back(capitalised(pair_sentence(*a.pair, bank_of(state, a.banks[0].plan.bank), l)) + ".");
    if (std::ranges::none_of(
            a.banks, [&](const BankProgress& b) { return over(b) && over(b)->verdict == Verdict::cannot_tell; }))
        t.reasons.emplace_back("Enough: more readings would change nothing.");
    if (const auto& serial = card_of(state).serial; serial && serial->payload.engraved.empty())
        t.reasons.push_back("Mark the block: " + serial->payload.serial + " does not stand on it yet.");
    return t;
}

CallText deck_call(const JobState& state, const Assessment& a, const LengthText& l) {
    const auto bank = [&] { return the_bank(state, a.decks.bank); };
    switch (a.decks.kind) {
    case DeckStep::measure:
        return {"Read the deck heights",
                "",
                {"Four places of each bank, from a bar through the mains or a bridge on it."},
                deck_reading_caution};
    case DeckStep::cut_by_feel:
        return by_feel_text(state, a, l);
    case DeckStep::feel_again:
        return {"Lay the straightedge on " + bank() + " again",
                "",
                {"It is clean after " + l.with_unit(a.feel(a.decks.bank)->taken) +
                     "; what was felt before the cut is void.",
                 "Lines lengthwise, both diagonals, across between the cylinders."},
                "Spindle stopped, deck wiped."};
    case DeckStep::flat_by_feel:
        return flat_by_feel_text(state, a, l);
    case DeckStep::give_height:
        return {"Give the number to cut to",
                "",
                {capitalised(school_name(decks_of(state).target.school)) +
                 " was chosen as the target: type it on the decks page."},
                ""};
    case DeckStep::read_pistons:
        return {"Read the pistons at top dead centre",
                "",
                {"The target comes from the mock-up: crank, one rod and piston per corner, both sides of the pin.",
                 "What is read is what stands between crown and deck."},
                "Hands clear when the crank is turned; turn it by the bar, not by the pistons."};
    case DeckStep::give_figures: {
        std::string lacking;
        for (const std::string& word : planning::missing_figures(state))
            lacking += (lacking.empty() ? "" : ", ") + word;
        return {"Give the volumes",
                "",
                {"A compression ratio needs: " + lacking + ". They stand on the mock-up page."},
                ""};
    }
    case DeckStep::cut:
        return cut_text(state, a, l);
    case DeckStep::look_why_dark:
        return {"Still dark at depth: look why",
                "",
                {capitalised(bank()) + " took its planned depth and is not clean everywhere.",
                 "Wrong depth, a moved block or a bad touch: measure it again before cutting on."},
                ""};
    case DeckStep::measure_again:
        return {"Measure " + bank() + " again",
                "",
                {why_measured_again(state, a, l), "Four heights by hand, or a second probe log."},
                "Spindle stopped, deck wiped, block back at the temperature of the gauge."};
    case DeckStep::see_flatness:
    case DeckStep::settle_doubt:
    case DeckStep::cannot_be_told:
        return verdict_text(state, a, Verdict::cannot_tell, l);
    case DeckStep::no_limits:
        return {"The blueprint gives no limits for the height of " + bank(),
                "",
                {"It was measured, and there is nothing to hold its height against.",
                 "Amend the blueprint with its limits, or go on with a reason."},
                ""};
    case DeckStep::under_limit:
        return under_limit_text(state, a, l);
    case DeckStep::fails:
        return verdict_text(state, a, Verdict::fails, l);
    case DeckStep::will_not_clean:
        return will_not_clean_text(state, a, l);
    case DeckStep::done:
        break;
    }
    return hand_over_text(state, a, l);
}

} // namespace pallix::wording
