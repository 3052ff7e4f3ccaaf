// SPDX-License-Identifier: GPL-3.0-or-later
#include "metrology/minimum_zone.h"

#include "metrology/plane_fit.h"

#include <algorithm>
#include <limits>
#include <numbers>
#include <vector>

namespace pallix::metrology {
namespace {

constexpr double infinity = std::numeric_limits<double>::infinity();

/// Andrew's monotone chain, counter-clockwise, without the points on its edges.
std::vector<Vec2> convex_hull(std::span<const Vec2> points) {
    std::vector<Vec2> sorted(points.begin(), points.end());
    std::ranges::sort(sorted, [](Vec2 a, Vec2 b) { return a.x < b.x || (a.x == b.x && a.y < b.y); });
    std::vector<Vec2> hull;
    const auto add_chain = [&hull](auto first, auto last) {
        const std::size_t base = hull.size();
        for (; first != last; ++first) {
            while (hull.size() >= base + 2 && cross(hull.back() - hull[hull.size() - 2], *first - hull.back()) <= 0)
                hull.pop_back();
            hull.push_back(*first);
        }
        hull.pop_back();
    };
    add_chain(sorted.begin(), sorted.end());
    add_chain(sorted.rbegin(), sorted.rend());
    return hull;
}

struct Extent {
    double low = infinity;
    double high = -infinity;
    std::size_t lowest = 0;
    std::size_t highest = 0;
    double width() const { return high - low; }
};

/// Range of value(point), given up early once it is wider than `limit`.
template <class Point, class Value>
Extent extent(std::span<const Point> points, Value value, double limit = infinity) {
    Extent e;
    for (std::size_t i = 0; i < points.size(); ++i) {
        const double v = value(points[i]);
        if (v < e.low) {
            e.low = v;
            e.lowest = i;
        }
        if (v > e.high) {
            e.high = v;
            e.highest = i;
        }
        if (e.high - e.low > limit)
            break;
    }
    return e;
}

/// The points a zone is solved on, by index, and whether a point is among them.
template <class Point>
struct WorkingSet {
    std::vector<Point> points;
    std::vector<std::size_t> indices;

    bool add(std::span<const Point> all, std::size_t index) {
        if (std::ranges::find(indices, index) != indices.end())
            return false;
        indices.push_back(index);
        points.push_back(all[index]);
        return true;
    }
};

// ---- two parallel planes -------------------------------------------------------------------------------------------

void try_normal(std::span<const Vec3> points, Vec3 direction, double floor, PlaneZone& best) {
    const double length = norm(direction);
    if (!(length > floor))
        return;
    const Vec3 n = (1.0 / length) * direction;
    const Extent e = extent(
        points, [n](Vec3 p) { return dot(p, n); }, best.width);
    if (e.width() < best.width)
        best = {e.width(), n};
}

/// Every normal at which a zone can be held, tried on all points of a small set: O(n⁵) at worst, cut short in practice.
PlaneZone exhaustive_plane_zone(std::span<const Vec3> p, double scale) {
    PlaneZone best{infinity, {0, 0, 1}};
    const double floor = 1e-13 * scale * scale;
    struct Edge {
        std::size_t from, to;
        Vec3 along;
    };
    std::vector<Edge> edges;
    for (std::size_t i = 0; i < p.size(); ++i)
        for (std::size_t j = i + 1; j < p.size(); ++j)
            edges.push_back({i, j, p[j] - p[i]});
    for (std::size_t a = 0; a < edges.size(); ++a)
        for (std::size_t b = a + 1; b < edges.size(); ++b)
            // Edges that share a point give the plane through three points; the others two edges against each other.
            try_normal(p, cross(edges[a].along, edges[b].along), floor, best);
    return best;
}

/// Points that stand out in sixteen directions within the plane and in both across it.
WorkingSet<Vec3> plane_anchors(std::span<const Vec3> all, const PlaneFit& fit) {
    WorkingSet<Vec3> set;
    const PlaneBasis basis = plane_basis(fit.normal);
    constexpr int directions = 4;
    for (int k = 0; k < directions; ++k) {
        const double angle = std::numbers::pi * k / directions;
        const Vec3 d = std::cos(angle) * basis.first + std::sin(angle) * basis.second;
        const Extent e = extent(all, [d](Vec3 p) { return dot(p, d); });
        set.add(all, e.lowest);
        set.add(all, e.highest);
    }
    return set;
}

} // namespace

double strip_width(std::span<const Vec2> points) {
    if (points.size() < 3)
        return 0;
    const std::vector<Vec2> hull = convex_hull(points);
    if (hull.size() < 3)
        return 0;
    double best = infinity;
    for (std::size_t i = 0; i < hull.size(); ++i) {
        const Vec2 edge = hull[(i + 1) % hull.size()] - hull[i];
        double farthest = 0;
        for (const Vec2 p : hull)
            farthest = std::max(farthest, cross(edge, p - hull[i]));
        best = std::min(best, farthest / norm(edge));
    }
    return best;
}

PlaneZone flatness_zone(std::span<const Vec3> points) {
    const auto fit = fit_plane(points);
    if (points.size() < 4 || !fit)
        return {0, fit ? fit->normal : Vec3{0, 0, 1}};
    // Work about the centroid: heights of a few µm on coordinates of hundreds of mm keep their digits.
    std::vector<Vec3> centred(points.size());
    std::ranges::transform(points, centred.begin(), [&](Vec3 p) { return p - fit->point; });
    const std::span<const Vec3> all(centred);

    WorkingSet<Vec3> set = plane_anchors(all, *fit);
    const std::size_t anchors = set.points.size();
    double scale = 0;
    for (const Vec3 p : set.points)
        scale = std::max(scale, norm(p));
    const double tolerance = 1e-11 + 1e-14 * scale;

    PlaneZone zone{0, fit->normal}; // where to look first; nothing is proven by it
    double proven = -1;
    for (bool solved = false;; solved = true) {
        const Vec3 n = zone.normal;
        const Extent e = extent(all, [n](Vec3 p) { return dot(p, n); });
        if (e.width() <= zone.width + tolerance)
            return {e.width(), n};
        // Keep what holds the zone; what has slack may go as long as the zone keeps growing.
        if (solved && zone.width > proven + tolerance) {
            WorkingSet<Vec3> kept;
            const Extent held = extent(std::span<const Vec3>(set.points), [n](Vec3 p) { return dot(p, n); });
            for (std::size_t i = 0; i < set.points.size(); ++i) {
                const double d = dot(set.points[i], n);
                if (i < anchors || d < held.low + 1e-9 || d > held.high - 1e-9)
                    kept.add(all, set.indices[i]);
            }
            set = std::move(kept);
            proven = zone.width;
        }
        const bool low_is_new = set.add(all, e.lowest);
        const bool high_is_new = set.add(all, e.highest);
        if (solved && !low_is_new && !high_is_new)
            return {e.width(), n}; // only rounding is left between the two
        zone = exhaustive_plane_zone(set.points, scale);
    }
}

// ---- two concentric circles ----------------------------------------------------------------------------------------

namespace {

/// Millimetres are far from where squares overflow, and std::hypot takes three times as long.
double distance(Vec2 a, Vec2 b) {
    return std::sqrt(dot(a - b, a - b));
}

void try_centre(std::span<const Vec2> points, Vec2 centre, RingZone& best) {
    if (!std::isfinite(centre.x) || !std::isfinite(centre.y))
        return;
    const Extent e = extent(
        points, [centre](Vec2 p) { return distance(p, centre); }, best.width);
    if (e.width() < best.width)
        best = {e.width(), centre};
}

/// The line of centres that are equally far from two points: dot(normal, c) = offset.
struct Bisector {
    Vec2 normal;
    double offset;
    std::size_t from, to;
};

RingZone exhaustive_ring_zone(std::span<const Vec2> p) {
    RingZone best{infinity, {}};
    std::vector<Bisector> bisectors;
    for (std::size_t i = 0; i < p.size(); ++i)
        for (std::size_t j = i + 1; j < p.size(); ++j)
            bisectors.push_back({p[j] - p[i], 0.5 * (dot(p[j], p[j]) - dot(p[i], p[i])), i, j});
    // Two bisectors that share a point meet in the centre through three points; the others hold two against two.
    for (std::size_t a = 0; a < bisectors.size(); ++a)
        for (std::size_t b = a + 1; b < bisectors.size(); ++b) {
            const Bisector &one = bisectors[a], &two = bisectors[b];
            const double det = cross(one.normal, two.normal);
            if (det == 0)
                continue;
            try_centre(p,
                       {(one.offset * two.normal.y - two.offset * one.normal.y) / det,
                        (one.normal.x * two.offset - two.normal.x * one.offset) / det},
                       best);
        }
    return best;
}

} // namespace

RingZone roundness_zone(std::span<const Vec2> points, Vec2 near) {
    if (points.size() < 4)
        return {0, near};
    std::vector<Vec2> centred(points.size());
    std::ranges::transform(points, centred.begin(), [near](Vec2 p) { return p - near; });
    const std::span<const Vec2> all(centred);

    WorkingSet<Vec2> set;
    for (std::size_t k = 0; k < 4; ++k)
        set.add(all, k * points.size() / 4);
    double scale = 0;
    for (const Vec2 p : all)
        scale = std::max(scale, norm(p));
    const double tolerance = 1e-12 + 1e-14 * scale;

    RingZone zone{0, {}}; // where to look first; nothing is proven by it
    double proven = -1;
    for (bool solved = false;; solved = true) {
        const Vec2 c = zone.centre;
        const Extent e = extent(all, [c](Vec2 p) { return distance(p, c); });
        if (e.width() <= zone.width + tolerance)
            return {e.width(), c + near};
        if (solved && zone.width > proven + tolerance) {
            WorkingSet<Vec2> kept;
            const Extent held = extent(std::span<const Vec2>(set.points), [c](Vec2 p) { return distance(p, c); });
            for (std::size_t i = 0; i < set.points.size(); ++i) {
                const double d = distance(set.points[i], c);
                if (set.points.size() <= 6 || d < held.low + 1e-9 || d > held.high - 1e-9)
                    kept.add(all, set.indices[i]);
            }
            set = std::move(kept);
            proven = zone.width;
        }
        const bool low_is_new = set.add(all, e.lowest);
        const bool high_is_new = set.add(all, e.highest);
        if (solved && !low_is_new && !high_is_new)
            return {e.width(), c + near};
        zone = exhaustive_ring_zone(set.points);
    }
}

} // namespace pallix::metrology
