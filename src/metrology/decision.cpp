// SPDX-License-Identifier: GPL-3.0-or-later
#include "metrology/decision.h"

namespace pallix::metrology {

Verdict decide(double value, std::optional<double> standard_uncertainty, const Limits& limits, DecisionRule rule) {
    if (!standard_uncertainty)
        return Verdict::cannot_tell;
    const double guard = rule.coverage * *standard_uncertainty;
    Verdict verdict = Verdict::meets;
    const auto hold = [&](double room) { // distance to the limit, + inside
        if (room < -guard)
            verdict = Verdict::fails;
        else if (room < guard)
            verdict = worse(verdict, Verdict::cannot_tell);
    };
    if (limits.lower)
        hold(value - *limits.lower);
    if (limits.upper)
        hold(*limits.upper - value);
    return verdict;
}

} // namespace pallix::metrology
