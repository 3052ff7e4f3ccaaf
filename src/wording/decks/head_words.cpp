// SPDX-License-Identifier: GPL-3.0-or-later
// How a bank or a head lies on the machine, and what is cut of a head.
#include "wording/decks/deck_words.h"

#include "block/state/deck_state.h"
#include "block/state/intake_state.h"
#include "planning/common/assessment.h"
#include "planning/common/shop_limits.h"
#include "planning/decks/compression.h"
#include "planning/decks/deck_verdict.h"
#include "wording/common/phrases.h"
#include "wording/readings/readings.h"

#include <algorithm>

namespace pallix::wording {

namespace {

std::string clamp_sentence(const block::BankBlueprint& bank, const planning::ClampEase& ease, const LengthText& l) {
    return "The " + corner_words(bank, ease.rear, ease.positive_v) +
           " corner is pulled down: ease its clamp until it has come up by " + l.with_unit(ease.by) +
           ", tighten all of them evenly.";
}

std::vector<std::string> feet_sentences(const planning::SetUpCorrection& c, const LengthText& l) {
    std::vector<std::string> out;
    if (c.spread <= planning::level_enough) {
        out.push_back("Level enough: the readings agree within " + l.with_unit(c.spread) + ".");
        return out;
    }
    if (c.tilt <= planning::level_enough) {
        out.push_back("Level within " + l.with_unit(c.tilt) + "; what the corners differ by beside that, " +
                      l.with_unit(c.spread) + ", is the surface itself, or was misread.");
        return out;
    }
    std::string moves;
    for (const planning::FootMove& m : c.moves)
        moves += (moves.empty() ? "" : "; ") + m.name +
                 (m.raise < 5e-4 ? std::string(": leave") : ": raise " + l.with_unit(m.raise));
    out.push_back(moves + ".");
    if (c.left > planning::level_enough)
        out.push_back("Two feet take out only the tilt along the line through them: " + l.with_unit(c.left) +
                      " stays across it.");
    if (c.misfit > planning::level_enough)
        out.push_back("One reading is " + l.with_unit(c.misfit) +
                      " off the plane of the others: the surface is not flat there, or it was misread.");
    return out;
}

} // namespace

std::vector<std::string> set_up_sentences(const block::BankBlueprint& bank, const planning::SetUpLie& lie,
                                          const LengthText& l) {
    std::vector<std::string> out;
    if (lie.ease)
        out.push_back(clamp_sentence(bank, *lie.ease, l));
    else if (lie.correction)
        out = feet_sentences(*lie.correction, l);
    if (out.empty())
        return out;
    if (lie.by_level)
        out.emplace_back("Told by the precision level; what it shows on the machine's own table is its zero.");
    if (lie.less_its_own)
        out.emplace_back("What the deck itself rises by, measured from the tunnel, is taken off the readings.");
    else if (lie.read.surface == "deck")
        out.emplace_back("By its own surface: what that slopes against the tunnel, nobody has measured.");
    return out;
}

std::vector<std::string> levelling_reasons(const block::JobState& state, const std::string& bank, bool head,
                                           const LengthText& l) {
    const planning::SetUpLie lie = planning::set_up_lie(state, planning::set_up_of(state, bank, head));
    std::vector<std::string> why = set_up_sentences(bank_of(state, bank), lie, l);
    why.push_back(std::string(lie.by_level ? "Then the level is laid on again" : "Then the corners are read again") +
                  ", until they agree within " + l.with_unit(planning::level_enough) + ": a cut follows the table.");
    return why;
}

std::string chamber_sentence(const planning::HeadState& head, const LengthText& l) {
    if (head.cut_since_chamber <= 0)
        return "";
    return "The head's chambers were not measured since " + l.with_unit(head.cut_since_chamber) +
           " came off: taken smaller by the bore's area.";
}

std::vector<std::string> head_sentences(const block::JobState& state, const planning::HeadProgress& head,
                                        const LengthText& l) {
    std::vector<std::string> out;
    const double limit = planning::flatness_limit(planning::limits_of(state), bank_of(state, head.bank));
    const auto felt = std::ranges::max_element(
        head.lines, {}, [](const planning::EdgeComparison& e) { return e.goes_in.value_or(-1); });
    if (felt != head.lines.end() && felt->goes_in)
        out.push_back(l.with_unit(*felt->goes_in) + " goes in under the straightedge (" + felt->line.name + "); " +
                      l.with_unit(limit) + " is allowed.");
    if (head.flatness)
        out.push_back("By " + count_words(head.points.size(), "height", "heights") + " flat within " +
                      l.with_unit(*head.flatness) + "; " + l.with_unit(limit) + " is allowed.");
    if (head.flat == metrology::Verdict::meets)
        out.emplace_back("Its face is flat.");
    if (head.to_clean)
        out.push_back("As it lies its lowest place is " + l.with_unit(*head.to_clean) +
                      " under the highest, as measured: so much cleans it, and the finishing cut under that.");
    else if (!head.cut && !head.passes.empty())
        out.emplace_back("Nothing says how deep its lowest place lies: pass by pass until it is touched everywhere.");
    const planning::HeadState now = planning::head_state(state, head.bank);
    if (now.cut > 0)
        out.push_back(l.with_unit(now.cut) + " off the head in all.");
    if (const std::string chambers = chamber_sentence(now, l); !chambers.empty())
        out.push_back(chambers);
    return out;
}

std::string head_line(const block::JobState& state, const planning::HeadProgress& head, const LengthText& l) {
    std::string said = "head of " + the_bank(state, head.bank) + ":";
    for (const std::string& sentence : head_sentences(state, head, l))
        said += " " + sentence;
    return said;
}

} // namespace pallix::wording
