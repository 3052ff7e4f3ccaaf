// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/hole_evaluation.h"

#include "block/section_fit.h"
#include "metrology/enclosing_circle.h"
#include "metrology/line_fit.h"
#include "metrology/minimum_zone.h"

#include <algorithm>
#include <cmath>
#include <functional>

namespace pallix::block {
namespace {

using metrology::PlaneBasis;
using metrology::Vec2;
using metrology::Vec3;

/// The bank's axes as the machine sees them.
struct Turned {
    PlaneBasis plane; ///< u, v
    Vec3 w;
    Vec2 origin; ///< of the block frame in the plane: what to take away from projected points
    double origin_w;

    Turned(const BlockFrame& frame, double angle) {
        const BankAxes axes(angle);
        const auto machine = [&frame](Vec3 d) { return d.x * frame.x + d.y * frame.y + d.z * frame.z; };
        plane = {machine(axes.u), machine(axes.v)};
        w = machine(axes.w);
        origin = plane.project(frame.origin);
        origin_w = dot(frame.origin, w);
    }
};

HoleLevel level_of(const HoleSource& source, const Section& section, const Turned& bank, Scatter& scatter) {
    RoundSection round = fit_round(source.probe, section, bank.plane);
    scatter.add(round.squares, round.surface.size());
    HoleLevel level;
    level.level = section.level;
    level.w = dot(mean_of(section.touches), bank.w) - bank.origin_w;
    level.centre = round.centre - bank.origin;
    level.diameter = 2 * round.radius;
    level.roundness_lsq = round.range;
    level.surface = std::move(round.surface);
    for (Vec2& p : level.surface)
        p = p - bank.origin;
    for (const Touch& t : section.touches)
        level.heights.push_back(dot(t.position, bank.w) - bank.origin_w);
    if (source.detail == Detail::whole)
        level.roundness_mz = metrology::roundness_zone(level.surface, level.centre).width;
    return level;
}

double twice_largest_distance(const std::vector<Vec2>& points, Vec2 centre) {
    double largest = 0;
    for (const Vec2 p : points)
        largest = std::max(largest, norm(p - centre));
    return 2 * largest;
}

Vec2 lean_of(const std::vector<HoleLevel>& levels) {
    std::vector<Vec3> centres;
    centres.reserve(levels.size());
    for (const HoleLevel& l : levels)
        centres.push_back({l.centre.x, l.centre.y, l.w});
    const auto line = metrology::fit_line(centres);
    if (!line || line->direction.z == 0)
        return {};
    return {line->direction.x / line->direction.z, line->direction.y / line->direction.z};
}

} // namespace

std::optional<HoleResult> evaluate_hole(const HoleSource& source, const HoleBlueprint& meant, double angle,
                                        Scatter& scatter) {
    const Turned bank(source.frame, angle);
    HoleResult hole;
    hole.id = meant.id;
    for (const Section& s : source.probe.sections)
        if (s.feature == meant.id)
            hole.levels.push_back(level_of(source, s, bank, scatter));
    if (hole.levels.empty())
        return std::nullopt;
    std::ranges::stable_sort(hole.levels, std::ranges::greater{}, &HoleLevel::w);
    hole.centre = hole.levels.front().centre;
    hole.place_known = !meant.place_assumed;
    const Vec2 should = hole.place_known ? Vec2{meant.u, meant.v} : hole.centre;
    hole.error = hole.centre - should;
    hole.lean = lean_of(hole.levels);
    std::vector<Vec2> all;
    for (const HoleLevel& l : hole.levels)
        all.insert(all.end(), l.surface.begin(), l.surface.end());
    if (source.detail == Detail::whole)
        hole.clean_free = 2 * metrology::enclosing_circle(all).radius;
    hole.clean_top = twice_largest_distance(all, hole.centre);
    hole.clean_blueprint = twice_largest_distance(all, should);
    return hole;
}

} // namespace pallix::block
