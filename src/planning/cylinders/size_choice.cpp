// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/cylinders/size_choice.h"

#include <algorithm>
#include <cstdlib>

namespace pallix::planning {
namespace {

/// Over nominal, by the chosen centre, with what was seen in the wall since.
double needed_over(const CylinderNeed& n, block::CentreSchool centre, double margin) {
    const SchoolNeed* need = n.by(centre);
    if (!need)
        need = n.by(block::CentreSchool::top);
    const double needed = need ? need->needed_at_most : n.found.worn;
    return std::max(needed, n.found.pitted_to > 0 ? n.found.pitted_to + margin : 0) - n.found.nominal;
}

} // namespace

SizeChoice size_choice(const block::JobState& state, const CylinderStudy& study, const block::FeatureId& bore) {
    constexpr double rounding = 1e-6; // mm
    SizeChoice choice;
    const CylinderNeed* n = study.bore(bore);
    if (!n)
        return choice;
    const block::CylinderPlanChosen plan = cylinder_plan_of(state);
    const double needs = needed_over(*n, plan.centre, plan.margin);
    for (const double size : plan.oversizes)
        if (size >= needs - rounding && (!choice.all_at || size < *choice.all_at))
            choice.all_at = size;
    const CommonSize* common = study.by(plan.centre);
    choice.stay_at = common && common->set_by == bore ? common->without : study.oversize;
    if (choice.all_at && choice.stay_at)
        choice.more_off = *choice.all_at - *choice.stay_at;
    for (const CylinderNeed& other : study.each) {
        if (other.found.id == bore)
            continue;
        if (other.found.id.bank == bore.bank && std::abs(other.found.id.number - bore.number) == 1)
            choice.beside.push_back(other.found.id);
        if (other.sleeved || other.left_out)
            continue;
        ++choice.others;
        for (const WallAt& w : other.found.walls) {
            if (!choice.all_at)
                break;
            const double grown = study.oversize ? *choice.all_at - *study.oversize
                                                : other.found.nominal + *choice.all_at - other.found.diameter;
            const double then = (study.oversize ? w.planned : w.before) - grown / 2;
            if (!choice.wall || then < *choice.wall) {
                choice.wall = then;
                choice.wall_of = other.found.id;
            }
            choice.thin = choice.thin || (w.least && then < *w.least - rounding);
        }
    }
    return choice;
}

} // namespace pallix::planning
