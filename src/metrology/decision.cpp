// SPDX-License-Identifier: GPL-3.0-or-later
#include "metrology/decision.h"

#include <cmath>
#include <limits>

namespace pallix::metrology {

Verdict decide(double value, std::optional<double> standard_uncertainty, const Limits& limits, DecisionRule rule) {
    if (!standard_uncertainty || !std::isfinite(value) || (!limits.lower && !limits.upper))
        return Verdict::cannot_tell;
    const double guard = rule.coverage * *standard_uncertainty;
    const auto is_number = [](const std::optional<double>& limit) { return !limit || !std::isnan(*limit); };
    if (!std::isfinite(guard) || guard < 0 || !is_number(limits.lower) || !is_number(limits.upper))
        return Verdict::cannot_tell;
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

double noise_in_extreme(double noise, std::size_t count) {
    return count > 1 ? noise * std::sqrt(2 * std::log(static_cast<double>(count))) : 0;
}

Verdict decide_extreme(double value, std::optional<double> standard_uncertainty, double noise, const Limits& limits,
                       DecisionRule rule) {
    const Verdict verdict = decide(value, standard_uncertainty, limits, rule);
    if (verdict != Verdict::fails)
        return verdict;
    const bool over = limits.upper && value > *limits.upper;
    const bool proven = decide(over ? value - noise : value + noise, standard_uncertainty, limits, rule) == verdict;
    return proven ? Verdict::fails : Verdict::cannot_tell;
}

double Sureness::standard_uncertainty() const {
    return std::hypot(fixed, of_one / std::sqrt(static_cast<double>(std::max<std::size_t>(taken, 1))));
}

Settling settle(double value, const Sureness& sureness, const Limits& limits, DecisionRule rule) {
    if ((!limits.lower && !limits.upper) ||
        decide(value, sureness.standard_uncertainty(), limits, rule) != Verdict::cannot_tell)
        return {};
    double room = std::numeric_limits<double>::infinity(); // to the nearest limit, on either side of it
    for (const auto& limit : {limits.lower, limits.upper})
        if (limit)
            room = std::min(room, std::abs(value - *limit));
    const double wanted = room / rule.coverage;
    // A ten-thousandth of a micrometre is no distance at all.
    if (wanted < 1e-7)
        return {SettledBy::nothing_will, 0, 0};
    const double to_spare = wanted * wanted - sureness.fixed * sureness.fixed;
    if (sureness.of_one > 0 && to_spare > 0) {
        const double needed = std::ceil(sureness.of_one * sureness.of_one / to_spare *
                                        (1 - 1e-9)); // of 64 mm a difference keeps 12 digits
        if (needed <= static_cast<double>(sureness.taken + most_readings_to_ask_for))
            return {SettledBy::more_readings,
                    std::max(static_cast<std::size_t>(needed), sureness.taken + 1) - sureness.taken, wanted};
    }
    return {SettledBy::better_gauge, 0, wanted};
}

} // namespace pallix::metrology
