// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/tunnel/moved_axis.h"

#include <algorithm>
#include <cmath>

namespace pallix::planning {

using metrology::Vec2;
using metrology::Vec3;

MovedAxis::MovedAxis(const CentreLine& line, double bank_angle, Vec3 origin_dowel)
    : line_(line), cos_(std::cos(bank_angle)), sin_(std::sin(bank_angle)), origin_(origin_dowel) {}

Vec2 MovedAxis::of(Vec3 p) const {
    const double y = p.y * cos_ + p.z * sin_, z = p.z * cos_ - p.y * sin_;
    return {p.x + line_.yk * (y - origin_.y) + line_.zk * (z - origin_.z),
            p.y - (line_.y(p.x) * cos_ - line_.z(p.x) * sin_)};
}

Vec3 origin_dowel(const block::Blueprint& blueprint, const block::Evaluation& e) {
    if (!blueprint.origin_dowel)
        return {};
    const auto dowel = std::ranges::find(e.dowels, *blueprint.origin_dowel, &block::DowelResult::id);
    if (dowel == e.dowels.end())
        return {};
    const double angle = blueprint.bank(dowel->id.bank)->angle;
    return {dowel->u, dowel->v * std::cos(angle) + dowel->w * std::sin(angle),
            dowel->w * std::cos(angle) - dowel->v * std::sin(angle)};
}

std::vector<Vec2> bore_points(const block::HoleResult& bore, const MovedAxis& axis) {
    std::vector<Vec2> points;
    for (const block::HoleLevel& level : bore.levels)
        for (std::size_t i = 0; i < level.surface.size(); ++i)
            points.push_back(axis.of({level.surface[i].x, level.surface[i].y, level.heights[i]}));
    return points;
}

Vec2 top_centre(const block::HoleResult& bore, const MovedAxis& axis) {
    const block::HoleLevel& top = bore.levels.front();
    return axis.of({top.centre.x, top.centre.y, top.w});
}

double clean_about(const std::vector<Vec2>& points, Vec2 centre) {
    double largest = 0;
    for (const Vec2 p : points)
        largest = std::max(largest, norm(p - centre));
    return 2 * largest;
}

} // namespace pallix::planning
