// SPDX-License-Identifier: GPL-3.0-or-later
#include "metrology/outlier.h"

#include <Eigen/LU>
#include <Eigen/QR>
#include <cmath>
#include <gtest/gtest.h>
#include <random>
#include <vector>

using namespace pallix::metrology;

namespace {

using Rows = std::vector<std::array<double, 3>>;

/// The same without shortcuts: every value left out in turn, the others fitted anew.
FurthestOff one_by_one(const Rows& rows, const std::vector<double>& values) {
    FurthestOff found;
    double least = 1e300;
    for (std::size_t out = 0; out < rows.size(); ++out) {
        Eigen::MatrixXd a(rows.size() - 1, 3);
        Eigen::VectorXd b(rows.size() - 1);
        for (std::size_t i = 0, at = 0; i < rows.size(); ++i)
            if (i != out) {
                a.row(static_cast<Eigen::Index>(at)) << rows[i][0], rows[i][1], rows[i][2];
                b[static_cast<Eigen::Index>(at++)] = values[i];
            }
        const Eigen::Vector3d fit = a.colPivHouseholderQr().solve(b), row(rows[out].data());
        const double squares = (b - a * fit).squaredNorm();
        if (squares >= least)
            continue;
        least = squares;
        const double scatter = std::sqrt(squares / static_cast<double>(rows.size() - 4));
        const double k = std::sqrt(1 + row.dot((a.transpose() * a).inverse() * row));
        const double off = values[out] - row.dot(fit);
        found = {out, off, scatter, off / (scatter * k), rows.size() - 4};
    }
    return found;
}

} // namespace

TEST(Outlier, IsTheOneThatTheOthersFitBestWithout) {
    std::mt19937 random(3);
    std::normal_distribution<double> normal;
    for (int trial = 0; trial < 200; ++trial) {
        const int count = 5 + trial % 20;
        Rows rows;
        std::vector<double> values;
        for (int i = 0; i < count; ++i) {
            rows.push_back({1, normal(random), normal(random)});
            values.push_back(0.002 * normal(random) + 0.3 * rows.back()[1] + (i == 2 ? 0.02 : 0));
        }
        const auto found = furthest_off(rows, values);
        const FurthestOff expected = one_by_one(rows, values);
        ASSERT_TRUE(found);
        EXPECT_EQ(found->index, expected.index) << trial;
        EXPECT_NEAR(found->off, expected.off, 1e-10);
        EXPECT_NEAR(found->scatter, expected.scatter, 1e-10);
        EXPECT_NEAR(found->ratio, expected.ratio, 1e-6 * std::abs(expected.ratio));
        EXPECT_EQ(found->free, expected.free);
    }
}

TEST(Outlier, OfTooFewOrOnOneLineIsNotLookedFor) {
    EXPECT_FALSE(furthest_off(Rows(4, {1, 0, 0}), std::vector<double>(4)));
    EXPECT_FALSE(furthest_off(Rows{{1, 0, 0}, {1, 1, 0}, {1, 2, 0}, {1, 3, 0}, {1, 4, 0}}, std::vector<double>(5)));
}
