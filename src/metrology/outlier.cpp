// SPDX-License-Identifier: GPL-3.0-or-later
#include "metrology/outlier.h"

#include <Eigen/Cholesky>
#include <Eigen/Core>
#include <algorithm>
#include <cmath>

namespace pallix::metrology {

std::optional<FurthestOff> furthest_off(std::span<const std::array<double, 3>> rows, std::span<const double> values) {
    constexpr double alone = 1e-9; // 1 − leverage of a value that nothing but itself fixes
    if (values.size() < 5 || rows.size() != values.size())
        return std::nullopt;
    Eigen::Matrix3d normal = Eigen::Matrix3d::Zero();
    Eigen::Vector3d right = Eigen::Vector3d::Zero();
    for (std::size_t i = 0; i < rows.size(); ++i) {
        const Eigen::Map<const Eigen::Vector3d> row(rows[i].data());
        normal += row * row.transpose();
        right += row * values[i];
    }
    const Eigen::LDLT<Eigen::Matrix3d> factor(normal);
    const Eigen::Vector3d pivots = factor.vectorD();
    if (!(pivots.minCoeff() > alone * pivots.maxCoeff()))
        return std::nullopt;
    const Eigen::Vector3d fit = factor.solve(right);
    double squares = 0;
    for (std::size_t i = 0; i < rows.size(); ++i) {
        const double off = values[i] - Eigen::Map<const Eigen::Vector3d>(rows[i].data()).dot(fit);
        squares += off * off;
    }
    std::optional<FurthestOff> furthest;
    double most = -1;
    for (std::size_t i = 0; i < rows.size(); ++i) {
        const Eigen::Map<const Eigen::Vector3d> row(rows[i].data());
        const double room = 1 - row.dot(factor.solve(row)), off = values[i] - row.dot(fit);
        if (room < alone || off * off / room <= most)
            continue;
        most = off * off / room; // by so much the squares fall without it
        FurthestOff f{i, off / room, 0, 0, values.size() - 4};
        f.scatter = std::sqrt(std::max(0.0, squares - most) / static_cast<double>(f.free));
        f.ratio = f.scatter > 0 ? f.off * std::sqrt(room) / f.scatter : std::copysign(HUGE_VAL, f.off);
        furthest = f;
    }
    return furthest;
}

} // namespace pallix::metrology
