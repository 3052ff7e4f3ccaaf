// SPDX-License-Identifier: GPL-3.0-or-later
#include "wording/report/coordinate_words.h"

#include "block/blueprint.h"
#include "planning/decks/deck_plan.h"
#include "wording/common/phrases.h"
#include "wording/readings/readings.h"

namespace pallix::wording {

std::string origin_words(const block::JobState& state, const planning::CoordinateSheet& sheet) {
    if (!sheet.origin)
        return sheet.lifters ? "the datum along the crankshaft, its axis across"
                             : "the datum along the crankshaft, its axis across: the blueprint names no dowel there";
    const std::string dowel = feature_words(*intake_of(state).blueprint, *sheet.origin) +
                              (sheet.origin_measured ? ", where it was probed" : ", where the blueprint has it");
    return sheet.lifters ? dowel + ", along; across from the plane through the crankshaft's axis" : dowel;
}

std::string plus_across(const block::BankBlueprint& bank) {
    return across_word(planning::positive_side(bank));
}

std::string sheet_name(const block::JobState& state, const planning::CoordinateSheet& sheet) {
    return bank_name(bank_of(state, sheet.bank)) +
           (sheet.lifters ? ", lifters at " + fixed(sheet.angle / block::radians_per_degree, 2) + "°"
                          : std::string(", cylinders"));
}

} // namespace pallix::wording
