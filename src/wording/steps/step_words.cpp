// SPDX-License-Identifier: GPL-3.0-or-later
#include "wording/steps/step_words.h"

#include "block/ledger.h"
#include "block/state/card_state.h"
#include "block/state/deck_state.h"
#include "block/state/intake_state.h"
#include "block/state/readings_state.h"
#include "planning/decks/deck_work.h"
#include "planning/decks/set_up.h"
#include "planning/steps/answer.h"
#include "wording/common/phrases.h"
#include "wording/cylinders/cylinder_words.h"
#include "wording/decks/deck_words.h"
#include "wording/lifters/lifter_words.h"
#include "wording/readings/readings.h"
#include "wording/shop/shop_words.h"
#include "wording/tunnel/tunnel_words.h"

#include <algorithm>
#include <array>

namespace pallix::wording {

using block::JobState;
using planning::Assessment;
using planning::Stage;
using planning::Step;
using planning::StepState;
using planning::Task;

std::string rule_name(block::Rule rule) {
    constexpr std::array names{"clean first",
                               "caps, plate and temperature as it needs them",
                               "readings are missing",
                               "something changed since it was read",
                               "it cannot be told yet",
                               "the main tunnel first",
                               "the datum after the block was rolled",
                               "a flaw nobody has decided on",
                               "looked over for cracks first",
                               "the size first",
                               "a wall nobody has decided on",
                               "a number is missing",
                               "the worst hole first, alone",
                               "the sleeve first",
                               "flush with the deck first",
                               "it rests",
                               "a decision with a reason",
                               "a part that has not come",
                               "its turn"};
    static_assert(names.size() == block::rule_keys.size());
    return names[static_cast<std::size_t>(rule)];
}

std::string route_name(block::RoutePreset preset) {
    constexpr std::array names{"mains first", "one clamping", "least metal", "decks twice", "sleeves first"};
    static_assert(names.size() == block::route_preset_keys.size());
    return names[static_cast<std::size_t>(preset)];
}

namespace {

/// The number with its unit, where a step has one to dial in.
std::string number_words(const Step& step, const LengthText& l) {
    if (!step.number || step.state == StepState::done)
        return "";
    return *step.number == 0 && (step.task == Task::cut_deck || step.task == Task::cut_head)
               ? "no infeed"
               : l.with_unit(*step.number);
}

constexpr const char* take_log_care = "Caps torqued as they will run; block and gauge at one temperature.";

std::string second_look_reason(planning::SecondLook why) {
    switch (why) {
    case planning::SecondLook::stands_out:
        return "It stands far off the other sizes of this main: more likely a slip than a main like that.";
    case planning::SecondLook::too_large:
        return "By one reading it is too large, and nobody decides on one reading what becomes of it.";
    case planning::SecondLook::sets_size:
        return "By this reading alone every cylinder would go up a size.";
    case planning::SecondLook::twisted:
        return "The corners disagree across the diagonals: a twist, or one of them slipped.";
    case planning::SecondLook::near_limit:
        return "It is too near the end of its window to tell on which side it lies: under is cut again, over stops "
               "everything.";
    case planning::SecondLook::learner:
        return "Read once, by somebody who is learning: a cut hangs on it, so it is read a second time.";
    case planning::SecondLook::between:
        break;
    }
    return "Its heights are good, and too few to call it flat: they say nothing of what lies between them.";
}

std::string standing_out_sentence(const block::TouchStandingOut& t, const LengthText& l) {
    const std::string by = l.with_unit(std::abs(t.off));
    if (!t.touch)
        return "Of four touches one diameter is " + by +
               " longer than the other: a fifth would tell which touch it is.";
    const char* way =
        block::is_round(t.feature.kind) ? (t.off > 0 ? " outside" : " inside") : (t.off > 0 ? " above" : " below");
    return "Touch " + std::to_string(*t.touch) + " of " + std::to_string(t.of) + " lies " + by + way +
           " where the others put it; they scatter by " + l.with_unit(t.scatter) + ".";
}

/// What stands behind a step besides what its part of the block says.
std::vector<std::string> own_reasons(const JobState& state, const Assessment& a, const Step& step,
                                     const LengthText& l) {
    if (step.second_look)
        return {second_look_reason(*step.second_look),
                step.second_look == planning::SecondLook::between
                    ? "Lay the straightedge along each line, or read nine heights and more: the reading plan "
                      "(Ctrl+Shift+P) "
                      "has both sides and the middle between all bores."
                    : "Read it once more before anything is cut; what slipped is struck, and stays readable."};
    switch (step.task) {
    case Task::wash:
        return {"Dirt is not measured, and grit under a gauge is a thou.",
                "Whoever takes a reading or a log in without a word of it counts as past it."};
    case Task::inspect:
        return {"Cracks by dye or magnetic particles, pressure test where water runs; threads, caps and registers.",
                "A crack, pit or mark is drawn on the deck as found and decided on there."};
    case Task::take_log:
        return {"It holds mains, the origin dowel and the decks.",
                "No probe: go to the tunnel or the decks and read by gauge."};
    case Task::state_conditions:
        return {"Now: " + conditions_words(readings_of(state).conditions) + ".",
                "Fasteners: lubricant, torque or stretch, pattern, steps; left empty they stay as they are."};
    case Task::torque_caps:
        if (step.stage == Stage::tunnel)
            return {};
        return {step.stage == Stage::cylinders
                    ? "They are stated off: a cylinder is bored, sleeved and read with them as they will run."
                    : "They are stated off: a height from mains without their caps is none.",
                "Lubricant, torque or stretch, pattern and steps as they will run."};
    case Task::accept:
        return {"Whoever goes on against a rule says why, once; it stands in the passport."};
    case Task::look_at_touch:
        if (const auto* touch = planning::touch_of(a, step))
            return {standing_out_sentence(*touch, l),
                    "A chip, dirt or a burr is no shape: wipe it, and touch there and "
                    "beside it once more; the new log takes its place.",
                    "Drop that log on this window, or Ctrl+I. Until then it counts, and no metal comes off by it."};
        return {};
    case Task::confirm_datum:
        return {"The block was rolled: probe both dowels of this bank, or find the one at its place by indicator.",
                "Until then nothing is cut on it: what was set up before the roll may not be where it was."};
    case Task::decide_flaw: {
        const auto flaw = std::ranges::find(decks_of(state).flaws, step.why.front(), &block::KnownFlaw::sequence);
        if (flaw == decks_of(state).flaws.end())
            return {};
        const std::string what = capitalised(flaw_sentence(state, *flaw, l)) + ".",
                          risk = flaw_risk_sentence(*intake_of(state).blueprint, flaw->flaw, l);
        if (flaw->flaw.where == block::FlawWhere::deck)
            return {what, risk, "Watch it, stop and pin it, sleeve, or scrap: nothing is cut on this deck before."};
        return {what, risk, "What hangs on it waits until somebody has decided."};
    }
    case Task::level:
    case Task::ease_clamp:
    case Task::level_head:
        return levelling_reasons(state, step.about->bank, step.task == Task::level_head, l);
    case Task::cut_head:
        if (const planning::HeadProgress* head = a.head(step.about->bank))
            return head_sentences(state, *head, l);
        return {};
    case Task::read_set_up_on:
        return {"On the deck itself, what its heights say that it rises by is taken off; on a plate or a bar from the "
                "tunnel nothing is."};
    case Task::read_ring:
        return {
            "Turned over, an indicator hangs by its own weight: what it reads at 12 and at 6 o'clock in a ring that is "
            "round is taken off every sweep.",
            "Then sweep both end mains, move the block, and sweep again until within two tenths: that is enough."};
    case Task::move_bar: {
        std::vector<std::string> why = dial_in_sentences(state, a, l);
        why.emplace_back("Turn jacks and screws by that, clamp, then both ends are swept again: the clamp moves it. "
                         "Within two tenths is enough; a needle's width is noise.");
        return why;
    }
    case Task::flush_deck:
        return {"A sleeve stands that much proud: heights, hone and mock-up would be read over it.",
                "Both decks get the pass, so that they stay alike."};
    case Task::rest:
        return {"It is resting: sizes read before it has are not what the bore will be."};
    case Task::open_truth:
        return {"Everything that the exercise asks for is done.",
                "Opening ends it: what is done after it does not count."};
    case Task::hand_over:
        if (a.decks.kind != planning::DeckStep::done || a.banks.empty())
            return {"Everything that was asked for is done."};
        return deck_call(state, a, l).reasons;
    default:
        return shop_reasons(state, step);
    }
}

std::vector<std::string> mend_reasons(const JobState& state) {
    constexpr std::size_t most = 5;
    std::vector<std::string> sentences;
    for (const block::Trouble& trouble : intake_of(state).troubles) {
        if (sentences.size() == most) {
            sentences.push_back("… and " + std::to_string(intake_of(state).troubles.size() - most) + " more.");
            break;
        }
        sentences.push_back(capitalised(trouble.words) + ".");
    }
    return sentences;
}

/// What its part of the block says of a step that it is at.
CallText part_text(const JobState& state, const Assessment& a, const Step& step, const LengthText& l) {
    switch (step.stage) {
    case Stage::tunnel:
        return tunnel_call(state, a.tunnel_work, l);
    case Stage::decks:
    case Stage::mock_up:
        return deck_call(state, a, l);
    case Stage::cylinders:
        return cylinder_call(state, a.cylinders ? &*a.cylinders : nullptr, l);
    case Stage::lifters:
        return lifter_call(state, a.lifters ? &*a.lifters : nullptr, l);
    default:
        return {};
    }
}

/// Steps that the part's own text does not speak of.
bool speaks_for_itself(const Step& step) {
    if (step.second_look)
        return true;
    switch (step.task) {
    case Task::wash:
    case Task::inspect:
    case Task::take_log:
    case Task::accept:
    case Task::confirm_datum:
    case Task::decide_flaw:
    case Task::flush_deck:
    case Task::level:
    case Task::ease_clamp:
    case Task::level_head:
    case Task::cut_head:
    case Task::read_set_up_on:
    case Task::read_ring:
    case Task::move_bar:
    case Task::open_truth:
    case Task::hand_over:
    case Task::sign_off:
        return true;
    case Task::rest:
        return step.state == StepState::waits;
    case Task::torque_caps:
        return step.stage != Stage::tunnel;
    default:
        return !step.leads;
    }
}

} // namespace

std::string wait_words(const JobState& state, const Assessment& a, const planning::Wait& wait, const LengthText& l) {
    if (!wait.person.empty())
        return wait.person + " is waited for";
    std::string words = rule_name(wait.rule);
    if (const Step* first = wait.step.empty() ? nullptr : a.steps.find(wait.step))
        words += ": " + lowered(step_headline(state, *first, l));
    if (!wait.until.empty())
        words += " until " + wait.until;
    if (!wait.part.empty())
        words += ": " + wait.part;
    return words;
}

CallText step_text(const JobState& state, const Assessment& a, const Step& step, const LengthText& l) {
    CallText t{step_headline(state, step, l), number_words(step, l), own_reasons(state, a, step, l), ""};
    if (step.task == Task::mend_blueprint || step.task == Task::mend_ledger) {
        t.reasons = mend_reasons(state);
        if (step.task == Task::mend_ledger)
            t.reasons.emplace_back("It may have been a cut, so nothing is called before it is put right: strike it in "
                                   "the ledger and log again what was done.");
        return t;
    }
    if (!speaks_for_itself(step)) {
        CallText part = part_text(state, a, step, l);
        // Of what is read, the step names the place; the part says why.
        if (step.task == Task::read && part.headline != t.headline)
            t.reasons.push_back(part.headline + ".");
        else if (step.task != Task::mark_main && !part.headline.empty())
            t.headline = part.headline;
        if (!part.number.empty())
            t.number = part.number;
        t.reasons.insert(t.reasons.end(), part.reasons.begin(), part.reasons.end());
        t.caution = part.caution;
    }
    if (step.task == Task::take_log)
        t.caution = take_log_care;
    if (step.task == Task::torque_caps)
        t.caution = cap_caution;
    for (const planning::Wait& wait : step.waits_for)
        t.reasons.push_back("Waits: " + wait_words(state, a, wait, l) + ".");
    if (!step.reason.empty())
        t.reasons.push_back("Left out: " + step.reason + ".");
    if (!intake_of(state).unknown.empty())
        t.reasons.insert(t.reasons.begin(),
                         "Entry " + std::to_string(intake_of(state).unknown.front()) +
                             " is of a kind that this version does not know and has no part in what is said here.");
    return t;
}

namespace {

const Step* first_waiting(const Assessment& a) {
    const auto waiting = std::ranges::find(a.steps.steps, StepState::waits, &Step::state);
    return waiting == a.steps.steps.end() ? nullptr : &*waiting;
}

} // namespace

CallText call_text(const JobState& state, const Assessment& a, const LengthText& l) {
    if (const Step* now = a.steps.now())
        return step_text(state, a, *now, l);
    if (const Step* waiting = first_waiting(a))
        return step_text(state, a, *waiting, l);
    if (const auto& delivered = card_of(state).delivered)
        return {"Delivered" + (delivered->payload.to.empty() ? "" : " to " + delivered->payload.to),
                "",
                {"On " + card_of(state).delivered_at.substr(0, 10) + "."},
                ""};
    if (const auto& opened = card_of(state).truth_opened)
        return {"The exercise is over",
                "",
                {fixed(opened->payload.score, 0) + " of 100: the reckoning says why (Ctrl+Alt+U).",
                 "The next one is chosen from the blocks to practise on (Ctrl+Alt+B)."},
                ""};
    return {"Nothing is left to do", "", {}, ""};
}

std::string waits_for(const JobState& state, const Assessment& a, const LengthText& l) {
    const Step* step = a.steps.now();
    if (!step) {
        const Step* waiting = first_waiting(a);
        return waiting && !waiting->waits_for.empty() ? wait_words(state, a, waiting->waits_for.front(), l) : "nothing";
    }
    const CallText t = step_text(state, a, *step, l);
    const std::string headline = step->task == Task::cut_deck ? step_headline(state, *step, l) : t.headline;
    if (step->task == Task::mend_ledger)
        return "the ledger: entry " + std::to_string(intake_of(state).troubles.front().sequence) + " cannot be used";
    if (step->task == Task::hand_over)
        return "nothing: print the passport";
    if (step->task == Task::open_truth)
        return "nothing: open its truth";
    // A number without its unit is what the tool is set to, for whoever stands at the machine.
    // How deep a pass goes that is made until it is clean hangs on what is believed of the deck: the job says it.
    const bool believed = step->task == Task::cut_deck && a.decks.pass && a.decks.pass->kind == block::PassKind::pass &&
                          planning::cut_until_clean(state, block::PassKind::pass);
    const bool more =
        t.number.find(' ') != std::string::npos && headline.find(t.number) == std::string::npos && !believed;
    return lowered(headline) + (more ? ", " + t.number : "");
}

} // namespace pallix::wording
