// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/unnamed/touch_groups.h"

#include "metrology/circle_fit.h"
#include "metrology/plane_fit.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <numbers>
#include <optional>

namespace pallix::block {

using namespace metrology;

namespace {

// What tells one place from the next, mm; wide against any wear, narrow against the places' distances.
constexpr double out_of_plane = 0.6, out_of_round = 0.3;
constexpr double smallest_radius = 2, largest_radius = 120;
constexpr double widest_gap = 1.4 * std::numbers::pi; // a hole is touched all round, a main with its cap off half round
constexpr std::size_t fewest = 3;

/// What a run costs in the story: holes that prove themselves least.
constexpr double cost_hole = 1, cost_hole_of_three = 1.1, cost_face = 1, cost_face_touch = 0.35, cost_stray = 3;

std::vector<Vec3> places(std::span<const LooseTouch> touches) {
    std::vector<Vec3> all;
    all.reserve(touches.size());
    for (const LooseTouch& t : touches)
        all.push_back(t.position);
    return all;
}

double largest_gap(const std::vector<Vec2>& points, Vec2 centre) {
    std::vector<double> angles;
    angles.reserve(points.size());
    for (const Vec2 p : points)
        angles.push_back(std::atan2(p.y - centre.y, p.x - centre.x));
    std::ranges::sort(angles);
    double gap = 2 * std::numbers::pi - (angles.back() - angles.front());
    for (std::size_t i = 1; i < angles.size(); ++i)
        gap = std::max(gap, angles[i] - angles[i - 1]);
    return gap;
}

double largest_distance(std::span<const Vec3> points, const PlaneFit& plane) {
    double most = 0;
    for (const Vec3 p : points)
        most = std::max(most, std::abs(dot(p - plane.point, plane.normal)));
    return most;
}

std::optional<TouchGroup> face_of(std::span<const Vec3> points) {
    const auto plane = fit_plane(points);
    if (!plane)
        return std::nullopt;
    TouchGroup g;
    g.kind = TouchGroup::Kind::face;
    g.centre = plane->point;
    g.axis = plane->normal;
    g.off = largest_distance(points, *plane);
    return g.off <= out_of_plane ? std::optional(g) : std::nullopt;
}

/// Touches in one plane on one circle, and how far apart they stand on it.
struct Arc {
    TouchGroup group;
    double gap; ///< rad, the widest between two of them
};

std::optional<Arc> arc_of(std::span<const Vec3> points) {
    auto g = face_of(points);
    if (!g)
        return std::nullopt;
    const PlaneBasis basis = plane_basis(g->axis);
    std::vector<Vec2> flat;
    flat.reserve(points.size());
    for (const Vec3 p : points)
        flat.push_back(basis.project(p - g->centre));
    const auto circle = fit_circle(flat);
    if (!circle || circle->range > 2 * out_of_round)
        return std::nullopt;
    g->kind = TouchGroup::Kind::hole;
    g->centre = g->centre + circle->centre.x * basis.first + circle->centre.y * basis.second;
    g->radius = circle->radius;
    g->off = circle->range / 2;
    return Arc{*g, largest_gap(flat, circle->centre)};
}

/// A section of a hole: as large as holes are, and not all on one side.
bool is_hole(const Arc& arc) {
    return arc.group.radius >= smallest_radius && arc.group.radius <= largest_radius && arc.gap <= widest_gap;
}

std::optional<TouchGroup> hole_of(std::span<const Vec3> points) {
    const auto arc = arc_of(points);
    return arc && is_hole(*arc) ? std::optional(arc->group) : std::nullopt;
}

TouchGroup stray_of(std::span<const Vec3> points) {
    TouchGroup g;
    for (const Vec3 p : points)
        g.centre = g.centre + (1.0 / static_cast<double>(points.size())) * p;
    g.axis = {0, 0, 1};
    return g;
}

/// The touches of one stretch in which the log parts nothing.
class Story {
  public:
    explicit Story(std::span<const Vec3> points)
        : points_(points), sections_(points.size() + 1),
          best_(points.size() + 1, std::numeric_limits<double>::infinity()), from_(points.size() + 1),
          told_(points.size() + 1) {}

    std::vector<TouchGroup> told() {
        best_[0] = 0;
        for (std::size_t i = 0; i < points_.size(); ++i) {
            relax(i, 1, cost_stray, stray_of(points_.subspan(i, 1)));
            for (const TouchGroup& hole : sections(i))
                if (!everywhere(i, hole))
                    relax(i, hole.count, hole.count > fewest ? cost_hole : cost_hole_of_three, hole);
            faces_from(i);
        }
        std::vector<TouchGroup> groups;
        for (std::size_t end = points_.size(); end > 0; end = from_[end])
            groups.push_back(told_[end]);
        std::ranges::reverse(groups);
        return groups;
    }

  private:
    /// Holes that begin at a touch: by each of its first touches, and by all that follow them on the same circle.
    const std::vector<TouchGroup>& sections(std::size_t i) {
        if (!sections_[i])
            sections_[i] = find_sections(i);
        return *sections_[i];
    }
    [[nodiscard]] std::vector<TouchGroup> find_sections(std::size_t i) const {
        std::vector<TouchGroup> found;
        const auto take = [&](const Arc& arc, std::size_t n) {
            if (is_hole(arc)) {
                found.push_back(arc.group);
                found.back().first = i;
                found.back().count = n;
            }
        };
        constexpr std::size_t each = 16, enough = 8; // enough touches to have begun to bend in any hole
        const std::size_t most = points_.size() - i;
        std::optional<Arc> arc;
        std::size_t n = fewest;
        for (; n <= std::min(each, most); ++n) {
            arc = arc_of(points_.subspan(i, n));
            if (!arc || (n >= enough && arc->group.radius > 2 * largest_radius))
                return found;
            take(*arc, n);
        }
        if (!arc)
            return found;
        std::size_t fitted = n - 1;
        for (; n <= most && near_circle(points_[i + n - 1], arc->group); ++n)
            if (n >= 2 * fitted) {
                arc = arc_of(points_.subspan(i, n));
                fitted = n;
                if (!arc)
                    return found;
            }
        if (n - 1 > each)
            if (const auto all = arc_of(points_.subspan(i, n - 1)))
                take(*all, n - 1);
        return found;
    }
    static bool near_plane(Vec3 p, const TouchGroup& plane) {
        return std::abs(dot(p - plane.centre, plane.axis)) < out_of_plane / 2;
    }
    static bool near_circle(Vec3 p, const TouchGroup& hole) {
        return near_plane(p, hole) &&
               std::abs(norm(perpendicular(p - hole.centre, hole.axis)) - hole.radius) < out_of_round;
    }
    /// Whether circles as large begin at its next touches as well, and go on past its end: a pattern over a face.
    bool everywhere(std::size_t i, const TouchGroup& hole) {
        constexpr std::size_t far_enough = 16;
        for (std::size_t at = i + 1; at < std::min(i + std::min(hole.count, far_enough), points_.size()); ++at)
            for (const TouchGroup& other : sections(at))
                if (other.count == hole.count && std::abs(hole.radius - other.radius) < out_of_round &&
                    norm(hole.centre - other.centre) > out_of_round)
                    return true;
        return false;
    }
    void relax(std::size_t i, std::size_t n, double cost, TouchGroup group) {
        if (best_[i] + cost >= best_[i + n])
            return;
        best_[i + n] = best_[i] + cost;
        from_[i + n] = i;
        group.first = i;
        group.count = n;
        told_[i + n] = std::move(group);
    }
    /// A face goes on as far as its plane does, or to where a hole may begin.
    void faces_from(std::size_t i) {
        constexpr std::size_t first_ones = 12;
        constexpr double off_the_line = 0.5; // mm, from which touches span a plane
        const Vec3 first = points_[i];
        std::optional<Vec3> line;
        std::optional<TouchGroup> plane;
        bool spans = false;
        std::size_t fitted = 0;
        for (std::size_t n = 2; i + n <= points_.size(); ++n) {
            const Vec3 p = points_[i + n - 1], way = p - first;
            if (!line && norm(way) > off_the_line)
                line = unit(way);
            spans = spans || (line && norm(perpendicular(way, *line)) > off_the_line);
            if (!spans || n < fewest)
                continue;
            // Fitted anew at each of the first touches, then as they double: the plane is known by then.
            if (!plane || n <= first_ones || n >= 2 * fitted || !near_plane(p, *plane)) {
                plane = face_of(points_.subspan(i, n));
                fitted = n;
                if (!plane)
                    return;
            }
            const std::size_t end = i + n;
            if (end == points_.size() || !sections(end).empty() || !near_plane(points_[end], *plane))
                relax(i, n, cost_face + cost_face_touch * static_cast<double>(n), *plane);
        }
    }

    std::span<const Vec3> points_;
    std::vector<std::optional<std::vector<TouchGroup>>> sections_; ///< by their first touch
    std::vector<double> best_;
    std::vector<std::size_t> from_;
    std::vector<TouchGroup> told_; ///< by where it ends
};

/// What the log itself keeps together: one hole, one face, or, under one label, a hole's sections.
std::vector<TouchGroup> parts_of(std::span<const Vec3> run, bool labelled) {
    if (run.size() >= fewest) {
        if (const auto hole = hole_of(run))
            return {*hole};
        if (const auto face = labelled ? face_of(run) : std::nullopt)
            return {*face};
    }
    return Story(run).told();
}

} // namespace

std::vector<TouchGroup> group_touches(std::span<const LooseTouch> touches) {
    const std::vector<Vec3> points = places(touches);
    const std::span<const Vec3> all(points);
    std::vector<TouchGroup> groups;
    for (std::size_t i = 0, end = 0; i < touches.size(); i = end) {
        for (end = i + 1; end < touches.size() && touches[end].label == touches[i].label && !touches[end].after_gap;)
            ++end;
        const bool stands_alone = end - i < touches.size();
        const auto run = all.subspan(i, end - i);
        std::vector<TouchGroup> parts = stands_alone ? parts_of(run, !touches[i].label.empty()) : Story(run).told();
        for (TouchGroup& g : parts) {
            g.first = g.count == 0 ? i : g.first + i;
            g.count = g.count == 0 ? run.size() : g.count;
            g.label = touches[i].label;
            groups.push_back(std::move(g));
        }
    }
    return groups;
}

} // namespace pallix::block
