// SPDX-License-Identifier: GPL-3.0-or-later
#include "metrology/plane_fit.h"

#include "metrology/scatter3.h"

#include <Eigen/Eigenvalues>
#include <algorithm>
#include <limits>

namespace pallix::metrology {

tl::expected<PlaneFit, FitFault> fit_plane(std::span<const Vec3> points) {
    if (points.size() < 3)
        return tl::unexpected(FitFault::too_few_points);
    const Scatter3 s = scatter_of(points);
    const Eigen::SelfAdjointEigenSolver<Eigen::Matrix3d> solver(s.moments);
    if (!(solver.eigenvalues()[1] > 1e-12 * solver.eigenvalues()[2]))
        return tl::unexpected(FitFault::degenerate);
    const Eigen::Vector3d axis = solver.eigenvectors().col(0);
    const Vec3 normal = unit({axis[0], axis[1], axis[2]});
    double low = std::numeric_limits<double>::infinity(), high = -low;
    for (const Vec3 p : points) {
        const double d = dot(p - s.mean, normal);
        low = std::min(low, d);
        high = std::max(high, d);
    }
    return PlaneFit{s.mean, normal, high - low};
}

tl::expected<HeightFit, FitFault> fit_heights(std::span<const Vec3> points) {
    if (points.size() < 3)
        return tl::unexpected(FitFault::too_few_points);
    const Scatter3 s = scatter_of(points);
    const double uu = s.moments(0, 0), vv = s.moments(1, 1), uv = s.moments(0, 1);
    const double det = uu * vv - uv * uv;
    if (!(det > 1e-12 * (uu + vv) * (uu + vv)))
        return tl::unexpected(FitFault::degenerate);
    const double a = (s.moments(0, 2) * vv - s.moments(1, 2) * uv) / det;
    const double b = (s.moments(1, 2) * uu - s.moments(0, 2) * uv) / det;
    return HeightFit{s.mean.z - a * s.mean.x - b * s.mean.y, a, b};
}

} // namespace pallix::metrology
