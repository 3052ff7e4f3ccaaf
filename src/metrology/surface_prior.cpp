// SPDX-License-Identifier: GPL-3.0-or-later
#include "metrology/surface_prior.h"

#include "metrology/monte_carlo.h"

#include <Eigen/QR>
#include <algorithm>
#include <functional>
#include <limits>
#include <numbers>
#include <numeric>

namespace pallix::metrology {
namespace {

using Eigen::Index;

constexpr int patterns_of_each = 90;
constexpr double told_within = 5; ///< mm, standard, of where a hollow lies that paint or a touch told of

double between(Deviates& draw, double low, double high) {
    return low + (high - low) * draw.uniform();
}
double between_scales(Deviates& draw, double low, double high) {
    return low * std::exp(std::log(high / low) * draw.uniform());
}
double bell(double distance, double width) {
    return std::exp(-distance * distance / (2 * width * width));
}

/// How deep a shape is at the deepest place within `patch` (mm) of a place; at the shallowest where that is negative.
using Shape = std::function<double(Vec2 place, double patch)>;

/// Draws shapes on the extent of the nodes.
class ShapeDrawer {
  public:
    ShapeDrawer(const SurfaceQuestion& q, Deviates& draw) : q_(q), draw_(draw) {
        for (const Vec2 n : q.nodes) {
            low_ = {std::min(low_.x, n.x), std::min(low_.y, n.y)};
            high_ = {std::max(high_.x, n.x), std::max(high_.y, n.y)};
        }
        for (const CutSeen& cut : q.cuts)
            for (const auto& mark : cut.marks)
                dark_.push_back(q.nodes[mark.front()]);
        find_low_touches();
    }

    std::vector<Shape> of(SurfaceFeature kind) {
        switch (kind) {
        case SurfaceFeature::hollows: {
            std::vector<Shape> shapes;
            const int count = 1 + static_cast<int>(draw_.uniform() * most_shapes);
            shapes.reserve(most_shapes);
            for (int i = 0; i < count; ++i)
                shapes.push_back(hollow());
            return shapes;
        }
        case SurfaceFeature::corner: {
            std::vector<Shape> shapes{corner()};
            if (draw_.uniform() < 0.3)
                shapes.push_back(corner());
            return shapes;
        }
        case SurfaceFeature::edge:
            return {edges()};
        case SurfaceFeature::rings:
            return {round_openings(between(draw_, 0, 10), between_scales(draw_, 1.5, 8), true)};
        case SurfaceFeature::wear:
            return {round_openings(0, between_scales(draw_, 3, 30), true)};
        case SurfaceFeature::webs:
            return {webs()};
        case SurfaceFeature::step:
            return {step()};
        }
        return {};
    }

  private:
    /// Anywhere; or where paint stayed dark or a touch lies low, since few of those drawn anywhere would lie there.
    Vec2 somewhere() {
        const double way = draw_.uniform();
        const std::vector<Vec2>& told = way < 0.3 && !dark_.empty() ? dark_ : low_touches_;
        if (way < 0.6 && !told.empty()) {
            const Vec2 c = told[static_cast<std::size_t>(draw_.uniform() * static_cast<double>(told.size()))];
            return c + Vec2{told_within * draw_.normal(), told_within * draw_.normal()};
        }
        return {between(draw_, low_.x, high_.x), between(draw_, low_.y, high_.y)};
    }
    Shape hollow() {
        const Vec2 c = somewhere();
        const double radius = between_scales(draw_, 5, 60);
        return [=](Vec2 p, double patch) { return bell(std::max(0.0, norm(p - c) - patch), radius / 2); };
    }
    Shape corner() {
        const Vec2 c{draw_.uniform() < 0.5 ? low_.x : high_.x, draw_.uniform() < 0.5 ? low_.y : high_.y};
        const double along = between_scales(draw_, 15, 150), across = between_scales(draw_, 15, 100);
        const bool bent = draw_.uniform() < 0.5; // falls away in a curve, or straight
        return [=](Vec2 p, double) {
            const double d = std::abs(p.x - c.x) / along + std::abs(p.y - c.y) / across;
            return bent ? std::exp(-d * d) : std::exp(-d);
        };
    }
    Shape edges() {
        const double width = between_scales(draw_, 2, 25);
        std::array<bool, 4> rolled{};
        const bool all = draw_.uniform() < 0.5;
        for (bool& r : rolled)
            r = all || draw_.uniform() < 0.4;
        rolled[static_cast<std::size_t>(draw_.uniform() * 4)] = true;
        return [=, low = low_, high = high_](Vec2 p, double patch) {
            const std::array distance{p.x - low.x, high.x - p.x, p.y - low.y, high.y - p.y};
            double deepest = 0;
            for (std::size_t i = 0; i < 4; ++i)
                if (rolled[i])
                    deepest = std::max(deepest, bell(std::max(0.0, distance[i] - patch), width));
            return deepest;
        };
    }
    /// Rings at a distance from the edges of the openings: of all of them, or of some.
    Shape round_openings(double off, double width, bool some) {
        std::vector<Opening> chosen;
        const bool all = !some || draw_.uniform() < 0.6;
        for (const Opening& o : q_.openings)
            if (all || draw_.uniform() < 0.5)
                chosen.push_back(o);
        return [=](Vec2 p, double patch) {
            double deepest = 0;
            for (const Opening& o : chosen)
                deepest = std::max(deepest,
                                   bell(std::max(0.0, std::abs(norm(p - o.centre) - o.radius - off) - patch), width));
            return deepest;
        };
    }
    /// Between neighbours the metal is thin and hot: it sinks.
    Shape webs() {
        std::vector<std::pair<Vec2, Vec2>> between_bores; // middle, unit direction from one to the other
        for (std::size_t i = 0; i + 1 < q_.openings.size(); ++i) {
            const Vec2 d = q_.openings[i + 1].centre - q_.openings[i].centre;
            between_bores.emplace_back(0.5 * (q_.openings[i].centre + q_.openings[i + 1].centre), (1 / norm(d)) * d);
        }
        const double along = between_scales(draw_, 4, 20), across = between_scales(draw_, 10, 45);
        return [=](Vec2 p, double patch) {
            double deepest = 0;
            for (const auto& [middle, d] : between_bores) {
                const Vec2 off = p - middle;
                const double x = std::max(0.0, std::abs(dot(off, d)) - patch),
                             y = std::max(0.0, std::abs(cross(off, d)) - patch);
                deepest = std::max(deepest, bell(x, along) * bell(y, across));
            }
            return deepest;
        };
    }
    Shape step() {
        const double turn = std::numbers::pi * 2 * draw_.uniform();
        const Vec2 at{between(draw_, low_.x, high_.x), between(draw_, low_.y, high_.y)},
            d{std::cos(turn), std::sin(turn)};
        if (draw_.uniform() < 0.5)
            return [=](Vec2 p, double patch) { return dot(p - at, d) > -patch ? 1.0 : 0.0; };
        const double radius = between_scales(draw_, 15, 80); // a patch that was welded and dressed
        return [=](Vec2 p, double patch) { return norm(p - at) < radius + patch ? 1.0 : 0.0; };
    }

    /// The touches that lie lowest off their plane, a tenth of them.
    void find_low_touches() {
        if (q_.seen.size() < 10)
            return;
        Eigen::MatrixXd plane(static_cast<Index>(q_.seen.size()), 3);
        Eigen::VectorXd height(plane.rows());
        for (Index i = 0; i < plane.rows(); ++i) {
            const HeightSeen& s = q_.seen[static_cast<std::size_t>(i)];
            plane.row(i) << 1, s.place.x, s.place.y;
            height[i] = s.height;
        }
        const Eigen::VectorXd off = height - plane * plane.colPivHouseholderQr().solve(height);
        std::vector<Index> order(q_.seen.size());
        std::iota(order.begin(), order.end(), Index{0});
        std::ranges::sort(order, {}, [&off](Index i) { return off[i]; });
        for (std::size_t i = 0; i < order.size() / 10; ++i)
            low_touches_.push_back(q_.seen[static_cast<std::size_t>(order[i])].place);
    }

    const SurfaceQuestion& q_;
    Deviates& draw_;
    std::vector<Vec2> dark_, low_touches_;
    Vec2 low_{1e300, 1e300}, high_{-1e300, -1e300};
};

/// How deep the shapes are at every touch and node.
void lay_out(SurfacePattern& p, const std::vector<Shape>& shapes, const SurfaceQuestion& q, double patch) {
    const auto seen = static_cast<Index>(q.seen.size()), nodes = static_cast<Index>(q.nodes.size()),
               count = static_cast<Index>(shapes.size());
    if (count == 0)
        return; // the pattern of nothing
    p.at_seen.resize(seen, count);
    p.at_nodes.resize(nodes, count);
    p.at_tops.resize(nodes, count);
    p.at_places.resize(nodes, count);
    for (Index s = 0; s < count; ++s) {
        const Shape& shape = shapes[static_cast<std::size_t>(s)];
        for (Index n = 0; n < seen; ++n)
            p.at_seen(n, s) = -shape(q.seen[static_cast<std::size_t>(n)].place, 0);
        for (Index n = 0; n < nodes; ++n) {
            const Vec2 node = q.nodes[static_cast<std::size_t>(n)];
            p.at_nodes(n, s) = -shape(node, patch);
            p.at_tops(n, s) = -shape(node, -patch);
            p.at_places(n, s) = -shape(node, 0);
        }
    }
}

} // namespace

std::vector<SurfacePattern> draw_patterns(const SurfaceQuestion& q, double patch, Deviates& draw,
                                          std::optional<SurfaceFeature> only) {
    std::vector<SurfacePattern> patterns(1);
    std::vector<std::vector<Shape>> shapes(1);
    ShapeDrawer drawer(q, draw);
    for (std::size_t k = 0; k < surface_features; ++k) {
        const auto kind = static_cast<SurfaceFeature>(k);
        const bool round =
            kind == SurfaceFeature::rings || kind == SurfaceFeature::wear || kind == SurfaceFeature::webs;
        if ((only && *only != kind) || (round && q.openings.empty()) ||
            (kind == SurfaceFeature::webs && q.openings.size() < 2))
            continue;
        const int count = patterns_of_each * (only ? 4 : kind == SurfaceFeature::hollows ? 3 : 1);
        for (int i = 0; i < count; ++i) {
            SurfacePattern p;
            p.kind = kind;
            shapes.push_back(drawer.of(kind));
            for (std::size_t s = 0; s < shapes.back().size(); ++s)
                p.spread.push_back(between_scales(draw, 0.006, 0.04));
            patterns.push_back(std::move(p));
        }
    }
    in_parallel(patterns.size(), 0, [&](std::size_t i) { lay_out(patterns[i], shapes[i], q, patch); });
    return patterns;
}

} // namespace pallix::metrology
