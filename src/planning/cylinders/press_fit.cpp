// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/cylinders/press_fit.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <numeric>

namespace pallix::planning {
namespace {

double squared(double x) {
    return x * x;
}

} // namespace

PressStress press_stress(const PressFit& f) {
    const double d2 = squared(f.fit), i2 = squared(f.inside), o2 = squared(f.outside);
    const double insert = ((d2 + i2) / (d2 - i2) - f.insert_poisson) / f.insert_modulus;
    const double parent = ((o2 + d2) / (o2 - d2) + f.parent_poisson) / f.parent_modulus;
    PressStress s;
    s.pressure = f.interference / (f.fit * (insert + parent));
    s.parent_hoop = s.pressure * (o2 + d2) / (o2 - d2);
    s.insert_hoop = -s.pressure * (d2 + i2) / (d2 - i2);
    s.bore_hoop = -s.pressure * 2 * d2 / (d2 - i2);
    s.bore_closes = f.inside * -s.bore_hoop / f.insert_modulus;
    s.parent_grows = f.outside * s.pressure * 2 * d2 / (o2 - d2) / f.parent_modulus;
    return s;
}

double press_force(double friction, double pressure, double diameter, double length) {
    return friction * pressure * std::numbers::pi * diameter * length;
}

double heating_needed(double interference, double slide, double diameter, double expansion) {
    return (interference + slide) / (expansion * diameter);
}

InsertShape insert_shape(const std::array<double, 6>& outside, double interference) {
    InsertShape s;
    s.mean = std::accumulate(outside.begin(), outside.end(), 0.0) / static_cast<double>(outside.size());
    s.spread = std::ranges::max(outside) - std::ranges::min(outside);
    s.taper = (outside[0] + outside[1] - outside[4] - outside[5]) / 2;
    for (std::size_t level = 0; level < 3; ++level)
        s.oval = std::max(s.oval, std::abs(outside[2 * level] - outside[2 * level + 1]));
    s.verdict = s.spread <= interference / 2 ? metrology::Verdict::meets
                : s.spread < interference    ? metrology::Verdict::cannot_tell
                                             : metrology::Verdict::fails;
    return s;
}

std::optional<InsertPlan> plan_insert(const block::InsertMeasured& i, double expansion) {
    InsertPlan p;
    p.shape = insert_shape(i.outside, i.interference);
    p.seat = p.shape.mean - i.interference;
    if (!(i.inside > 0 && i.inside < p.seat && p.shape.mean < i.parent_outside && i.interference > 0))
        return std::nullopt;
    p.stress = press_stress({i.interference, p.seat, i.inside, i.parent_outside, i.insert_modulus, i.parent_modulus,
                             i.insert_poisson, i.parent_poisson});
    p.force = i.heated ? 0 : press_force(i.friction, p.stress.pressure, p.seat, i.length);
    p.heat = heating_needed(i.interference, i.slide, p.seat, expansion);
    p.inside_then = i.inside - p.stress.bore_closes;
    return p;
}

} // namespace pallix::planning
