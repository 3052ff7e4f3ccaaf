// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/state/intake_state.h"
#include "planning/decks/flaw_risk.h"
#include "wording/common/phrases.h"
#include "wording/common/pick.h"
#include "wording/decks/deck_words.h"
#include "wording/readings/readings.h"

#include <array>

namespace pallix::wording {

std::string flaw_place_words(const block::Blueprint& blueprint, const block::FlawMarked& flaw) {
    if (flaw.where == block::FlawWhere::outside)
        return "the outside of the block";
    if (flaw.where == block::FlawWhere::deck)
        return "the deck";
    return std::string(pick(flaw.where, std::array{"", "the wall of ", "the saddle of ", "the web of ", ""})) +
           feature_words(blueprint, *flaw.feature);
}

std::string flaw_sentence(const block::JobState& state, const block::KnownFlaw& f, const LengthText& l) {
    const block::Blueprint& blueprint = *intake_of(state).blueprint;
    if (const auto* bank = blueprint.bank(f.flaw.bank); bank && f.flaw.where == block::FlawWhere::deck)
        return flaw_sentence(*bank, f, l);
    return flaw_place_words(blueprint, f.flaw) + ": " + entry_words(block::DeckKinds(), f.flaw, l) +
           (f.decided ? " — " + flaw_choice_name(f.decided->choice) : " — not decided");
}

std::string flaw_risk_sentence(const block::Blueprint& blueprint, const block::FlawMarked& flaw, const LengthText& l) {
    const planning::FlawRisk r = planning::flaw_risk(blueprint, flaw);
    constexpr double at_the_edge = 0.1; // mm
    std::string where;
    if (r.cylinder && flaw.where == block::FlawWhere::deck)
        where = (r.to_edge < at_the_edge ? "It runs to the edge of "
                                         : "It comes within " + l.with_unit(r.to_edge) + " of the edge of ") +
                feature_words(blueprint, *r.cylinder) + ". ";
    switch (r.danger) {
    case planning::FlawDanger::little:
        return where + "There it does little harm; look at it again after each cut.";
    case planning::FlawDanger::some:
        return where + "There it may leak or grow: pressure test it, and look at it again after each cut.";
    case planning::FlawDanger::great:
        break;
    }
    return where + "There it is loaded or has to seal: it grows, or it leaks.";
}

} // namespace pallix::wording
