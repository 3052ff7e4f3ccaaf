// SPDX-License-Identifier: GPL-3.0-or-later
#include "metrology/line_fit.h"

#include "metrology/scatter3.h"

#include <Eigen/Eigenvalues>
#include <algorithm>

namespace pallix::metrology {

tl::expected<LineFit, FitFault> fit_line(std::span<const Vec3> points) {
    if (points.size() < 2)
        return tl::unexpected(FitFault::too_few_points);
    const Scatter3 s = scatter_of(points);
    const Eigen::SelfAdjointEigenSolver<Eigen::Matrix3d> solver(s.moments);
    // Eigenvalues ascend; two equal largest ones leave the direction open.
    if (!(solver.eigenvalues()[2] > 0) || solver.eigenvalues()[1] > 0.999999 * solver.eigenvalues()[2])
        return tl::unexpected(FitFault::degenerate);
    const Eigen::Vector3d axis = solver.eigenvectors().col(2);
    Vec3 direction = unit({axis[0], axis[1], axis[2]});
    if (dot(direction, points.back() - points.front()) < 0)
        direction = -direction;
    double largest = 0;
    for (const Vec3 p : points)
        largest = std::max(largest, norm(perpendicular(p - s.mean, direction)));
    return LineFit{s.mean, direction, largest};
}

} // namespace pallix::metrology
