// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <algorithm>
#include <cstddef>
#include <optional>

namespace pallix::metrology {

/// The only three things Pallix says of a measured value and its limits.
enum class Verdict { meets, cannot_tell, fails };

/// @return the verdict on several values together: one failure fails, one doubt leaves doubt
constexpr Verdict worse(Verdict a, Verdict b) {
    return std::max(a, b);
}

/// Limits of a value, mm. An absent side does not limit.
struct Limits {
    std::optional<double> lower;
    std::optional<double> upper;
};

/// ISO 14253-1: conformity is proven only inside the limits reduced by the guard band, failure only outside the limits
/// widened by it. `coverage` times the standard uncertainty is the guard band: 2 is the expanded uncertainty of the
/// older edition, 1.65 the one-sided 95 % of the newer (both from memory of the standard).
struct DecisionRule {
    double coverage = 2.0;
};

/// @param value measured, mm
/// @param standard_uncertainty mm, ≥ 0; unknown uncertainty proves nothing, nor does a value without any limit, so the
/// verdict is cannot_tell, as it is for
/// whatever is no finite number or less than 0 here
[[nodiscard]] Verdict decide(double value, std::optional<double> standard_uncertainty, const Limits& limits,
                             DecisionRule rule = {});

/// How much noise adds to the outermost of several values, on average, at most: √(2·ln n) of it (the expectation of the
/// largest of n normal deviates; by Jensen's inequality on its moment generating function).
/// @param noise mm, standard, of one value
[[nodiscard]] double noise_in_extreme(double noise, std::size_t count);
/// The same decision on a value that noise can only push outwards (a lowest or highest height, a zone): it fails only
/// where it lies beyond its limit by more than the guard band and what noise may have added.
/// @param noise mm, that noise may have added
[[nodiscard]] Verdict decide_extreme(double value, std::optional<double> standard_uncertainty, double noise,
                                     const Limits& limits, DecisionRule rule = {});

/// How sure a mean of readings is, in the two parts that behave differently.
struct Sureness {
    double fixed = 0;      ///< mm, standard uncertainty that repeating does not lower: gauge, setting ring, temperature
    double of_one = 0;     ///< mm, standard deviation of one reading: falls with the root of their number
    std::size_t taken = 1; ///< readings so far, at least 1
    [[nodiscard]] double standard_uncertainty() const;
};

enum class SettledBy {
    nothing_needed, ///< meets or fails already: more would change nothing, it is enough
    more_readings,  ///< `readings` more of the same would do, if the mean stays where it is
    better_gauge,   ///< no number of readings will; a gauge with `gauge_uncertainty` would
    nothing_will,   ///< the value lies on its limit
};

/// What would settle a doubt.
struct Settling {
    SettledBy by = SettledBy::nothing_needed;
    std::size_t readings = 0;     ///< still to take, for more_readings
    double gauge_uncertainty = 0; ///< mm, the largest standard uncertainty that would settle it with the mean as it is
};

/// More readings than this are no answer: a better gauge is.
inline constexpr std::size_t most_readings_to_ask_for = 30;

[[nodiscard]] Settling settle(double value, const Sureness& sureness, const Limits& limits, DecisionRule rule = {});

} // namespace pallix::metrology
