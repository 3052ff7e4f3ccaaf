// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <cstddef>
#include <optional>
#include <span>

namespace pallix::metrology {

/// The value of a linear fit that agrees least with what all the others say.
struct FurthestOff {
    std::size_t index = 0;
    double off = 0;       ///< the value less what the others' own fit says there
    double scatter = 0;   ///< standard deviation of the others about their own fit
    double ratio = 0;     ///< off over what it would scatter by if it were one of them; with its sign
    std::size_t free = 0; ///< degrees of freedom of the others' scatter
};

/// Externally studentised residuals of an ordinary least-squares fit with three coefficients (Belsley, Kuh and Welsch,
/// Regression Diagnostics, 1980, section 2.1; from memory, checked against fits without the value).
/// @param rows of the design, one a value
/// @return nothing for less than five values, or where the rows do not fix the coefficients
[[nodiscard]] std::optional<FurthestOff> furthest_off(std::span<const std::array<double, 3>> rows,
                                                      std::span<const double> values);

} // namespace pallix::metrology
