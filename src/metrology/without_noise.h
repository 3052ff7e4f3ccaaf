// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <Eigen/Core>
#include <limits>
#include <vector>

namespace pallix::metrology {

class Deviates;

/// Values that were measured with noise of a known size, and how the true ones may hang together.
struct NoisyValues {
    Eigen::VectorXd values; ///< n, mm
    Eigen::MatrixXd free;   ///< n×p: patterns that may have any size (a plane's three, a circle's three), p ≤ n
    std::vector<Eigen::MatrixXd>
        shapes;                 ///< n×n covariances of size 1 of what stands beside them; at least one where p < n
    double noise = 0;           ///< mm, standard, of each value; > 0
    Eigen::MatrixXd features{}; ///< n×f, highest place 1: something that stands in one place (a hollow, a low corner),
                                ///< of which there may be one
    double features_of = 0;     ///< of so many these are the likely ones; 0: they are all
};

/// What such values may be without their noise. What stands beside the free patterns is a Gaussian process of one of
/// the shapes, a part that each place has for itself, and at most one feature. Shape, sizes and feature are averaged
/// over, weighted by how well they explain what the free patterns leave (restricted likelihood; Rasmussen and
/// Williams, Gaussian Processes for Machine Learning, 2006, sections 2.7 and 5.4.1). Noise that is added to noisy
/// values makes every zone wider; a zone of these draws is as wide as the thing itself, on average.
class WithoutNoise {
  public:
    WithoutNoise() = default; ///< of no values
    explicit WithoutNoise(const NoisyValues& noisy);
    /// @return by how much the true values may differ from those that were measured, n, mm
    [[nodiscard]] Eigen::VectorXd draw(Deviates& deviates) const;
    /// The same with the free patterns left as they were measured.
    [[nodiscard]] Eigen::VectorXd draw_beside(Deviates& deviates) const;

  private:
    struct Ways {                 ///< of one shape: independent patterns of what the free ones leave
        Eigen::MatrixXd patterns; ///< n×(n − p), orthonormal
        Eigen::VectorXd found;    ///< (n − p): how much of each the values hold, mm
        Eigen::MatrixXd features; ///< (n − p)×f: how much of each a feature holds
    };
    struct Sizes {
        std::size_t shape = 0;
        Eigen::VectorXd kept; ///< (n − p): share of what was found that is true
        double evidence = 0;
    };
    struct Choice {
        std::size_t sizes = 0;
        Eigen::Index feature = -1;            ///< none
        double height = 0, height_spread = 0; ///< of the feature, mm
        double evidence = 0;
        double upto = 0; ///< weights so far, of 1
    };
    void weigh(const Eigen::ArrayXd& variances);
    void weigh_features(std::size_t sizes);
    void offer(const Choice& choice);
    void keep_the_likely();

    double noise_ = 0, features_of_ = 0;
    Eigen::MatrixXd free_; ///< n×p, orthonormal
    std::vector<Ways> ways_;
    std::vector<Sizes> sizes_;
    std::vector<Choice> choices_;
    double best_ = -std::numeric_limits<double>::infinity();
};

/// The same of one value whose noise was drawn about it already.
/// @param value as measured; @param drawn value + noise; @param noise standard, of the value; all in one unit, mm or
/// mm per mm
[[nodiscard]] double draw_without_noise(double value, double drawn, double noise, Deviates& deviates);

/// Covariance of size 1 by distance (Matérn 5/2; Rasmussen and Williams, 4.17).
[[nodiscard]] Eigen::MatrixXd matern(const Eigen::MatrixXd& distance, double length);

} // namespace pallix::metrology
