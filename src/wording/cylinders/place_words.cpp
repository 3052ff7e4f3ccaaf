// SPDX-License-Identifier: GPL-3.0-or-later
// Where cylinders lie, and where they are to be bored.
#include "block/state/intake_state.h"
#include "wording/common/sentences.h"
#include "wording/cylinders/cylinder_words.h"
#include "wording/readings/readings.h"

#include <algorithm>

namespace pallix::wording {

using block::JobState;
using metrology::Vec2;

namespace {

std::string held(const std::optional<double>& most, metrology::Verdict verdict, const LengthText& l) {
    return most ? " (at most " + l.plain(*most) + " — " + verdict_word(verdict) + ")" : "";
}

} // namespace

std::string place_sentence(const JobState& state, const planning::Placed& p, const LengthText& l) {
    const block::BankBlueprint& bank = *intake_of(state).blueprint->bank(p.id.bank);
    return across_words(bank, p.error.y, l) + (p.uncertainty ? " ±" + l.fine(2 * p.uncertainty->y) : std::string()) +
           held(p.most_across, p.across, l) + ", " + along_words(p.error.x, l) +
           (p.uncertainty ? " ±" + l.fine(2 * p.uncertainty->x) : std::string()) + held(p.most_along, p.along, l);
}

std::string centre_sentence(const JobState& state, const planning::CylinderNeed& need, const LengthText& l) {
    if (!need.centre || !need.found.top)
        return "";
    const block::Blueprint& b = *intake_of(state).blueprint;
    const block::BankBlueprint& bank = *b.bank(need.found.id.bank);
    constexpr double nothing = 5e-4; // mm
    const Vec2 move = *need.centre - *need.found.top;
    std::string words = norm(move) < nothing ? "Centre: where the unworn top has it"
                                             : "Centre: move " + across_words(bank, move.y, l) + " and " +
                                                   along_words(move.x, l) + " from where the unworn top has it";
    const auto dowel = std::ranges::find_if(b.dowels, [&](const auto& d) { return d.id.bank == bank.id; });
    if (dowel != b.dowels.end()) {
        const Vec2 from = *need.centre - Vec2{dowel->u, dowel->v};
        words += "; it lies " + along_words(from.x, l) + " and " + across_words(bank, from.y, l) + " of " +
                 feature_words(b, dowel->id);
    }
    return words + ".";
}

CallText place_call(const JobState& state, const planning::CylinderWork& w, const LengthText& l) {
    const std::string bore = w.bore ? feature_words(*intake_of(state).blueprint, *w.bore) : "";
    const auto p = std::ranges::find_if(w.placed, [&w](const auto& x) { return w.bore == x.id; });
    const std::string place = p == w.placed.end() ? "" : capitalised(place_sentence(state, *p, l)) + ".";
    if (w.step == planning::CylinderStep::decide_place) {
        std::vector<std::string> why{place, "A hone follows the bore it finds: it moves no centre."};
        if (p != w.placed.end() && p->in_reach)
            why.emplace_back(*p->in_reach ? "The finished size still reaches the blueprint's place: bored again about "
                                            "that centre it cleans up."
                                          : "About the blueprint's place it does not clean up at the finished size any "
                                            "more: a larger one, a sleeve, or it stays so with a reason.");
        return {"Off its place: " + bore, "", why, ""};
    }
    std::vector<std::string> why{
        "A limit is set for where cylinders lie, and the finished ones are not proven: probe them "
        "with the dowels and the mains."};
    if (!place.empty())
        why.push_back(capitalised(bore) + ": " + place_sentence(state, *p, l) + ".");
    return {"Probe the finished cylinders", "", why, ""};
}

} // namespace pallix::wording
