// SPDX-License-Identifier: GPL-3.0-or-later
#include "metrology/circle_fit.h"

#include <Eigen/Cholesky>
#include <Eigen/Core>
#include <algorithm>
#include <limits>

namespace pallix::metrology {
namespace {

/// Centre (a, b) and radius r in coordinates shifted to the centroid and scaled to unit spread.
using Parameters = Eigen::Vector3d;

struct Scatter {
    Vec2 mean;
    double xx = 0, yy = 0, xy = 0;
    double trace() const { return xx + yy; }
    double determinant() const { return xx * yy - xy * xy; }
};

Scatter scatter_of(std::span<const Vec2> points) {
    Scatter s;
    const double n = static_cast<double>(points.size());
    for (const Vec2 p : points)
        s.mean = s.mean + p;
    s.mean = (1.0 / n) * s.mean;
    for (const Vec2 p : points) {
        const Vec2 q = p - s.mean;
        s.xx += q.x * q.x / n;
        s.yy += q.y * q.y / n;
        s.xy += q.x * q.y / n;
    }
    return s;
}

/// Kåsa's linear fit (least squares of x² + y²), in centred coordinates. Good enough to start from.
Parameters linear_start(std::span<const Vec2> points, const Scatter& s, double scale) {
    double xq = 0, yq = 0;
    const double n = static_cast<double>(points.size());
    for (const Vec2 p : points) {
        const Vec2 q = (1.0 / scale) * (p - s.mean);
        xq += q.x * dot(q, q) / n;
        yq += q.y * dot(q, q) / n;
    }
    const double k = scale * scale;
    const double xx = s.xx / k, yy = s.yy / k, xy = s.xy / k;
    const double det = 2 * (xx * yy - xy * xy);
    const double a = (xq * yy - yq * xy) / det;
    const double b = (yq * xx - xq * xy) / det;
    return {a, b, std::sqrt(a * a + b * b + xx + yy)};
}

struct Local {
    double cost = 0; ///< half the sum of squares
    Eigen::Vector3d gradient = Eigen::Vector3d::Zero();
    Eigen::Matrix3d gauss = Eigen::Matrix3d::Zero();  ///< JᵀJ
    Eigen::Matrix3d newton = Eigen::Matrix3d::Zero(); ///< full second derivative
};

Local linearise(std::span<const Vec2> points, Vec2 shift, double scale, const Parameters& at) {
    Local l;
    for (const Vec2 p : points) {
        const double dx = (p.x - shift.x) / scale - at[0];
        const double dy = (p.y - shift.y) / scale - at[1];
        const double d = std::max(std::sqrt(dx * dx + dy * dy), std::numeric_limits<double>::min());
        const double e = d - at[2];
        const Eigen::Vector3d j{-dx / d, -dy / d, -1.0};
        l.cost += 0.5 * e * e;
        l.gradient += e * j;
        l.gauss += j * j.transpose();
        // d²|p−c|/dc² = (I − u uᵀ)/d
        const double c = e / d;
        l.newton(0, 0) += c * (1 - j[0] * j[0]);
        l.newton(1, 1) += c * (1 - j[1] * j[1]);
        l.newton(0, 1) -= c * j[0] * j[1];
        l.newton(1, 0) -= c * j[0] * j[1];
    }
    l.newton += l.gauss;
    return l;
}

} // namespace

tl::expected<CircleFit, FitFault> fit_circle(std::span<const Vec2> points) {
    if (points.size() < 3)
        return tl::unexpected(FitFault::too_few_points);
    const Scatter s = scatter_of(points);
    // The smaller over the larger principal spread: 1e-10 is an arc of about a hundredth of a degree.
    if (!(s.trace() > 0) || s.determinant() <= 1e-10 * s.trace() * s.trace())
        return tl::unexpected(FitFault::degenerate);
    const double scale = std::sqrt(s.trace());

    constexpr int limit = 200;
    constexpr double last_newton_step = 1e-10; // of the radius: Newton's error after it is its square
    Parameters at = linear_start(points, s, scale);
    Local here = linearise(points, s.mean, scale, at);
    double damping = 0;
    for (int iteration = 1; iteration <= limit; ++iteration) {
        Eigen::Matrix3d h = damping > 0 ? here.gauss : here.newton;
        h.diagonal().array() += damping;
        const Eigen::LLT<Eigen::Matrix3d> factor(h);
        const Eigen::Vector3d step = -factor.solve(here.gradient);
        const bool usable = factor.info() == Eigen::Success && step.allFinite();
        const Local next = usable ? linearise(points, s.mean, scale, at + step) : Local{};
        // Near the solution the cost no longer tells steps apart: take them as long as it does not grow.
        if (!usable || next.cost > here.cost * (1 + 1e-12) + 1e-32) {
            damping = damping > 0 ? damping * 4 : 1e-4 * static_cast<double>(points.size());
            if (!usable || step.norm() > last_newton_step * at[2])
                continue; // else only rounding is left
        } else {
            const bool newton = damping == 0;
            at += step;
            here = next;
            damping = damping > 1e-12 ? damping / 16 : 0;
            if (!newton || step.norm() > last_newton_step * at[2])
                continue;
        }
        const Vec2 centre{s.mean.x + scale * at[0], s.mean.y + scale * at[1]};
        const double radius = scale * at[2];
        double low = std::numeric_limits<double>::infinity(), high = 0, squares = 0;
        for (const Vec2 p : points) {
            const double d = norm(p - centre);
            low = std::min(low, d);
            high = std::max(high, d);
            squares += (d - radius) * (d - radius);
        }
        return CircleFit{centre, radius, high - low, squares, iteration};
    }
    return tl::unexpected(FitFault::no_convergence);
}

} // namespace pallix::metrology
