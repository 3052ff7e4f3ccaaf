// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/decks/pass_plan.h"

#include "block/units.h"

#include <algorithm>
#include <cmath>

namespace pallix::planning {

using block::PassKind;

namespace {

/// Equal passes, none deeper than `deepest`.
void add_equal(std::vector<Pass>& passes, double depth, double deepest) {
    if (depth < least_infeed)
        return;
    const int count = std::max(1, static_cast<int>(std::ceil(depth / deepest - 1e-9)));
    for (int i = 0; i < count; ++i)
        passes.push_back({PassKind::pass, depth / count});
}

} // namespace

block::PassPlanChosen usual_passes() {
    return {1 * block::mm_per_thou, 2 * block::mm_per_thou, 1 * block::mm_per_thou, 2};
}

std::vector<Pass> plan_passes(double remaining, const block::PassPlanChosen& chosen, bool first, double maybe) {
    std::vector<Pass> passes;
    if (remaining < least_infeed)
        return passes;
    const double finish = std::min(chosen.finish, remaining);
    double left = remaining - finish;
    if (first && left >= least_infeed) {
        const double witness = std::min(chosen.witness, left);
        if (witness >= least_infeed) {
            passes.push_back({PassKind::witness, witness});
            left -= witness;
        }
    }
    const double deepest = std::max(chosen.pass, least_infeed);
    maybe = maybe < least_infeed ? 0 : left - maybe < least_infeed ? left : maybe;
    left -= maybe;
    if (left > roughing_from && deepest < roughing_pass) {
        const double rough = left - roughing_from / 2;
        add_equal(passes, rough, roughing_pass);
        left -= rough;
    }
    add_equal(passes, left, deepest);
    add_equal(passes, maybe, std::max(deepest / 2, least_infeed));
    if (finish >= least_infeed)
        passes.push_back({PassKind::finish, finish});
    else if (!passes.empty())
        passes.back().depth += finish;
    for (int i = 0; i < chosen.spring_passes; ++i)
        passes.push_back({PassKind::spring, 0});
    return passes;
}

} // namespace pallix::planning
