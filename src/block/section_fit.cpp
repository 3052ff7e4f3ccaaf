// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/section_fit.h"

#include "metrology/circle_fit.h"

#include <algorithm>

namespace pallix::block {

using metrology::PlaneBasis;
using metrology::Vec2;
using metrology::Vec3;

Vec3 mean_of(const std::vector<Touch>& touches) {
    Vec3 sum;
    for (const Touch& t : touches)
        sum = sum + t.position;
    return (1.0 / static_cast<double>(touches.size())) * sum;
}

RoundSection fit_round(const ProbeSet& probe, const Section& section, const PlaneBasis& basis) {
    std::vector<Vec2> points;
    points.reserve(section.touches.size());
    for (const Touch& t : section.touches)
        points.push_back(basis.project(t.position));
    const auto refuse = [&] {
        return Refused{probe.fault(section, "the points of " + section.feature.text() + " do not fix a circle",
                                   "points spread round the bore")};
    };
    auto fit = metrology::fit_circle(points);
    if (!fit)
        throw refuse();
    if (std::ranges::any_of(section.touches, [](const Touch& t) { return t.tip_radius > 0; })) {
        for (std::size_t i = 0; i < points.size(); ++i) {
            const Vec2 out = points[i] - fit->centre;
            points[i] = points[i] + (section.touches[i].tip_radius / norm(out)) * out;
        }
        fit = metrology::fit_circle(points);
        if (!fit)
            throw refuse();
    }
    return {fit->centre, fit->radius, fit->range, fit->sum_of_squares, std::move(points)};
}

Vec3 centre_in_space(const RoundSection& round, const Section& section, const PlaneBasis& basis, Vec3 axis) {
    return round.centre.x * basis.first + round.centre.y * basis.second + dot(mean_of(section.touches), axis) * axis;
}

} // namespace pallix::block
