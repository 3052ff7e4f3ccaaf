// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/common/correction_plan.h"

#include "metrology/enclosing_circle.h"
#include "planning/decks/deck_work.h"
#include "planning/tunnel/moved_axis.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace pallix::planning {
namespace {

using block::HoleResult;
using metrology::Vec2;
using metrology::Vec3;

double clean_size(const HoleResult& bore, const block::HoleBlueprint& meant, const MovedAxis& axis,
                  CentreSchool centre) {
    const std::vector<Vec2> points = bore_points(bore, axis);
    if (centre == CentreSchool::free)
        return 2 * metrology::enclosing_circle(points).radius;
    return clean_about(points, centre == CentreSchool::blueprint ? Vec2{meant.u, meant.v} : top_centre(bore, axis));
}

} // namespace

std::vector<DeckCorrection> correct_decks(const block::Blueprint& blueprint,
                                          const std::vector<block::DeckResult>& decks, const CentreLine& line,
                                          const block::DeckTargetChosen& target) {
    std::vector<block::DeckResult> moved;
    std::vector<DeckToPlan> to_plan;
    moved.reserve(decks.size());
    for (const block::DeckResult& deck : decks) {
        moved.push_back(measured_from(deck, line));
        to_plan.push_back({blueprint.bank(deck.id.bank), &moved.back()});
    }
    std::vector<DeckCorrection> corrections;
    for (const BankPlan& bank : plan_decks(to_plan, target).banks)
        corrections.push_back({{block::FeatureKind::deck, bank.bank}, bank.target, bank.low, bank.high, bank.short_by});
    return corrections;
}

BoresPlan correct_bores(const block::Blueprint& blueprint, const block::Evaluation& evaluation, const CentreLine& line,
                        const BoresPolicy& policy) {
    BoresPlan plan;
    const Vec3 origin = origin_dowel(blueprint, evaluation);
    double most = -std::numeric_limits<double>::infinity();
    bool all_found = !evaluation.bores.empty();
    for (const HoleResult& bore : evaluation.bores) { // in the blueprint's order
        const block::HoleBlueprint& meant = *blueprint.hole(bore.id);
        BoreNeed need{bore.id, meant.diameter.nominal, 0, 0, {}};
        need.clean = clean_size(bore, meant, {line, blueprint.bank(bore.id.bank)->angle, origin}, policy.centre);
        const auto pit = policy.pits.find(bore.id);
        need.needed = need.clean + policy.margin + (pit == policy.pits.end() ? 0 : 2 * pit->second);
        for (const double oversize : policy.oversizes)
            if (need.nominal + oversize >= need.needed &&
                oversize < need.oversize.value_or(std::numeric_limits<double>::infinity()))
                need.oversize = oversize;
        if (need.needed - need.nominal > most) {
            most = need.needed - need.nominal;
            plan.set_by = bore.id;
        }
        all_found = all_found && need.oversize;
        plan.each.push_back(need);
    }
    if (all_found)
        for (const BoreNeed& need : plan.each)
            plan.oversize = std::max(plan.oversize.value_or(0), *need.oversize);
    return plan;
}

CorrectionPlan plan_corrections(const block::Blueprint& blueprint, const block::Evaluation& evaluation,
                                const PlanPolicy& policy) {
    CorrectionPlan plan;
    const std::vector<Housing> mains = housings_of(blueprint, evaluation, policy.tunnel);
    plan.tunnel = plan_tunnel(mains, policy.tunnel, given_line(evaluation, policy.tunnel.line));
    // Without a feasible tunnel the rest is planned from datum A as measured.
    plan.roll = plan.tunnel.feasible ? roll_after(blueprint, evaluation, mains, plan.tunnel.line) : 0;
    plan.decks = correct_decks(blueprint, evaluation.decks, plan.tunnel.line, policy.decks);
    plan.bores = correct_bores(blueprint, evaluation, plan.tunnel.line, policy.bores);
    return plan;
}

} // namespace pallix::planning
