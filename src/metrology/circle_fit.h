// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "metrology/fit_fault.h"
#include "metrology/geometry.h"

#include <span>
#include <tl/expected.hpp>

namespace pallix::metrology {

struct CircleFit {
    Vec2 centre;             ///< mm
    double radius{};         ///< mm
    double range{};          ///< mm, largest less smallest distance from the centre: roundness against the LSQ circle
    double sum_of_squares{}; ///< mm², of the deviations from the circle
    int iterations{};
};

/// Geometric least-squares circle: minimises the sum of (|p − c| − r)² (Gander, Golub, Strebel, BIT 34, 1994).
/// Newton steps on the full Hessian from a Kåsa start, damped (Levenberg) where a step does not help.
/// Centre better than 1e-9 mm for arcs of 60° and more, 1e-6 mm at 10° (checked in
/// tests/metrology/circle_fit_test.cpp).
/// @param points mm, in the measuring plane, at least 3, not on one line
[[nodiscard]] tl::expected<CircleFit, FitFault> fit_circle(std::span<const Vec2> points);

} // namespace pallix::metrology
