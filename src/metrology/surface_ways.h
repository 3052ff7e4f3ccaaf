// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

// Internal to the metrology library: surfaces given the heights that were seen of them.

#include "metrology/surface_belief.h"
#include "metrology/surface_prior.h"

#include <Eigen/Cholesky>
#include <array>
#include <cstdint>
#include <optional>
#include <vector>

namespace pallix::metrology {

class Deviates;

/// All ways a surface may be, each as likely as the heights say: choices of waves, with a pattern of features whose
/// heights follow from the heights that were seen.
class SurfaceWays {
  public:
    SurfaceWays(const SurfaceQuestion& question, std::uint64_t seed, std::optional<SurfaceFeature> only);

    /// How many numbers a way's waves are made of; others are not looked at.
    [[nodiscard]] Eigen::Index waves_in(std::size_t way) const { return waves_[ways_[way].waves].root.cols(); }
    [[nodiscard]] std::size_t pick(Deviates& deviates) const;
    /// What independent standard normal numbers make of a way's waves, mm at each node.
    [[nodiscard]] Eigen::VectorXd waved(std::size_t way, const Eigen::VectorXd& wave) const;
    /// The lowest place of every patch, and the highest of all; mm over `level`.
    struct Laid {
        Eigen::VectorXd nodes, tops; ///< of each patch; `tops` only where a way has shapes
        double top = 0;
    };
    /// @param shapes `most_shapes` standard normal numbers
    void lay(std::size_t way, const Eigen::VectorXd& waved, const Eigen::VectorXd& shapes, Laid& laid) const;
    /// The middle of every patch.
    [[nodiscard]] Eigen::VectorXd places(std::size_t way, const Eigen::VectorXd& waved,
                                         const Eigen::VectorXd& shapes) const;
    /// Mean of the measured heights, mm: all others are over it.
    [[nodiscard]] double level() const { return level_; }

  private:
    /// One choice of size, length and noise of the waves, and the nodes given the heights by it.
    struct Waves {
        double size = 0, length = 0, noise = 0;
        double log_weight = 0;
        Eigen::MatrixXd root_seen; ///< L of the heights' covariance, lower
        Eigen::VectorXd told;      ///< L⁻¹ of the heights
        Eigen::MatrixXd across;    ///< nodes × seen: covariance, then what each height says of each node
        Eigen::VectorXd mean;
        Eigen::MatrixXd root; ///< of the nodes' covariance given the heights
    };

    /// Waves and a pattern, with the heights of its shapes given the heights that were seen.
    struct Way {
        std::size_t waves = 0, pattern = 0;
        double log_weight = 0, upto = 0;
        Eigen::VectorXd height; ///< of the shapes, mm
        Eigen::MatrixXd spread; ///< a root of their covariance
        Eigen::MatrixXd at_nodes, at_tops,
            at_places; ///< what a mm of each adds to the nodes, the heights being as they are
    };

    /// What every choice of waves needs of two sets of places: the trend's part of their covariance, and distances.
    struct Pairs {
        Eigen::MatrixXd trend, distance;
    };
    [[nodiscard]] Eigen::Matrix<double, 6, 1> trend(Vec2 p) const;
    [[nodiscard]] Pairs pairs_of(const std::vector<Vec2>& a, const std::vector<Vec2>& b) const;
    static Eigen::MatrixXd covariance(const Pairs& pairs, const Waves& waves);
    void weigh_ways();
    [[nodiscard]] std::vector<Way> ways_with(std::size_t waves, const Eigen::MatrixXd& shapes,
                                             const std::array<double, surface_features>& of_kind, double kinds) const;
    void keep_likely_ways();
    void find_nodes(Waves& waves) const;

    const SurfaceQuestion& q_;
    std::optional<SurfaceFeature> only_;
    Vec2 middle_, half_;
    double level_ = 0;
    double patch_ = 0; ///< mm, radius of what a node stands for
    Eigen::VectorXd heights_;
    Pairs seen_seen_, nodes_seen_, nodes_nodes_;
    std::vector<SurfacePattern> patterns_;
    std::vector<Waves> waves_;
    std::vector<Way> ways_;
};

} // namespace pallix::metrology
