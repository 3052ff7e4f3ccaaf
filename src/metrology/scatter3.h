// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "metrology/geometry.h"

#include <Eigen/Core>
#include <span>

namespace pallix::metrology {

/// Centroid and second moments about it (not divided by n). Two passes, so that large offsets cost no digits.
struct Scatter3 {
    Vec3 mean;
    Eigen::Matrix3d moments = Eigen::Matrix3d::Zero();
};

inline Scatter3 scatter_of(std::span<const Vec3> points) {
    Scatter3 s;
    for (const Vec3 p : points)
        s.mean = s.mean + p;
    s.mean = (1.0 / static_cast<double>(points.size())) * s.mean;
    double xx = 0, yy = 0, zz = 0, xy = 0, xz = 0, yz = 0;
    for (const Vec3 p : points) {
        const Vec3 q = p - s.mean;
        xx += q.x * q.x;
        yy += q.y * q.y;
        zz += q.z * q.z;
        xy += q.x * q.y;
        xz += q.x * q.z;
        yz += q.y * q.z;
    }
    s.moments << xx, xy, xz, xy, yy, yz, xz, yz, zz;
    return s;
}

} // namespace pallix::metrology
