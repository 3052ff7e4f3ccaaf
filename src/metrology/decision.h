// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <algorithm>
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
/// @param standard_uncertainty mm, ≥ 0; unknown uncertainty proves nothing, so the verdict is cannot_tell
[[nodiscard]] Verdict decide(double value, std::optional<double> standard_uncertainty, const Limits& limits,
                             DecisionRule rule = {});

} // namespace pallix::metrology
