// SPDX-License-Identifier: GPL-3.0-or-later
#include "wording/report/estimate_words.h"

#include "block/state/card_state.h"
#include "block/state/intake_state.h"
#include "planning/common/assessment.h"
#include "wording/common/phrases.h"
#include "wording/common/pick.h"
#include "wording/shop/memory_words.h"

#include <algorithm>
#include <cmath>

namespace pallix::wording {
namespace {

using planning::MayTurnUp;

std::string stage_sentence(block::Stage stage) {
    constexpr std::array words{
        "The block is taken in: what it is, and what is wanted of it.",
        "The block is cleaned: dirt is not measured.",
        "Everything is measured as it came, before any metal comes off.",
        "The line of bearings that carries the crankshaft (main tunnel) is put right.",
        "The faces that the cylinder heads sit on (decks) are cut flat and to height.",
        "The cylinders are bored and honed to size.",
        "The valve lifter bores are put right.",
        "Parts are put together once for trial (mock-up), and clearances measured.",
        "Edges are broken, and the block is washed and looked over a last time.",
        "It is handed over with its paper (passport).",
    };
    static_assert(words.size() == block::stage_keys.size());
    return pick(stage, words);
}

std::string hours_text(double minutes) {
    const double hours = minutes / 60;
    return fixed(hours, hours < 10 ? 1 : 0) + " hours";
}

std::string percent(double chance) {
    const double in_hundred = std::round(100 * chance);
    return in_hundred >= 100 ? "as good as certain"
           : in_hundred < 1  ? "less than 1 in 100"
                             : fixed(in_hundred, 0) + " in 100";
}

std::string surprise(MayTurnUp what) {
    constexpr std::array words{
        "Cracks were not looked for yet: one where the block is loaded or has to seal may end the work.",
        "How thick the cylinders' walls are was not measured yet: a thin one asks for a new wall (sleeve).",
        "The line of bearings (main tunnel) was not measured yet: bent, it asks for more work than is listed here.",
        "The faces under the heads (decks) were not measured yet: how much has to come off is not known.",
        "The cylinders were not measured yet: the worst of them sets the size of all.",
        "The valve lifter bores were not measured yet: worn ones get linings (bushes).",
        "Something was seen on the block that nobody has decided on yet.",
        "No size on offer may be enough for every cylinder: then one gets a new wall (sleeve), or larger pistons are "
        "found.",
    };
    return pick(what, words);
}

} // namespace

EstimateWords estimate_words(const block::JobState& state, const planning::Estimate& e, const LengthText& l) {
    EstimateWords out;
    for (const block::Stage stage : e.scope)
        out.scope.push_back(stage_sentence(stage));
    if (const auto& scope = intake_of(state).scope)
        out.scope.push_back("As it was agreed: " + entry_words(scope->payload, l) + ".");
    if (e.hours.least && e.hours.most)
        out.hours.push_back("About " + hours_text(e.hours.minutes) + "; between " + hours_text(*e.hours.least) +
                            " and " + hours_text(*e.hours.most) + " in " + fixed(std::floor(10 * e.hours.holds), 0) +
                            " of 10 such jobs here (" +
                            count_words(static_cast<std::size_t>(e.hours.jobs), "job", "jobs") +
                            (e.hours.same_engine ? " of this engine" : "") + ").");
    else if (e.hours.minutes > 0)
        out.hours.push_back(
            "About " + hours_text(e.hours.minutes) +
            " for the steps that are known now, by usual times; what measuring brings up comes on top.");
    if (e.sizes_known) {
        const std::string basis = e.blocks > 0
                                      ? "by " + std::to_string(e.blocks) + " blocks of this kind that were here before"
                                      : "by what was measured";
        for (const planning::SizeChance& size : e.sizes)
            out.sizes.push_back((size.oversize > 0 ? "Cylinders " + l.with_unit(size.oversize) + " larger than new"
                                                   : std::string("Cylinders as large as new")) +
                                ": " + percent(size.chance) + ", " + basis + ".");
        if (e.no_size > 0)
            out.sizes.push_back("No size on offer: " + percent(e.no_size) + ", " + basis + ".");
    }
    for (const MayTurnUp what : e.may_turn_up)
        out.may_turn_up.push_back(surprise(what));
    for (const block::UsualTrait& usual : e.usual)
        out.may_turn_up.push_back(capitalised(trait_name(state, {usual.trait, usual.about})) + ": " +
                                  usual_words(state, usual, l) + ".");
    return out;
}

} // namespace pallix::wording
