// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/evaluation.h"
#include "planning/tunnel/tunnel_plan.h"

#include <vector>

namespace pallix::planning {

/// Positions of a bank's points once the tunnel's axis has become the new line (docs/method.md, plan of the bores).
class MovedAxis {
  public:
    /// @param origin_dowel its centre in the block frame, mm
    MovedAxis(const CentreLine& line, double bank_angle, metrology::Vec3 origin_dowel);

    /// @param p (u, v, w) in the bank frame, mm
    /// @return (u, v) as it will be measured
    [[nodiscard]] metrology::Vec2 of(metrology::Vec3 p) const;

  private:
    CentreLine line_;
    double cos_, sin_;
    metrology::Vec3 origin_;
};

/// Centre of the origin dowel in the block frame; the origin where it was not measured.
[[nodiscard]] metrology::Vec3 origin_dowel(const block::Blueprint& blueprint, const block::Evaluation& evaluation);

/// Every point of a bore, projected along w.
[[nodiscard]] std::vector<metrology::Vec2> bore_points(const block::HoleResult& bore, const MovedAxis& axis);
/// Its centre at the top level.
[[nodiscard]] metrology::Vec2 top_centre(const block::HoleResult& bore, const MovedAxis& axis);
/// Twice the largest distance of the points from a centre, mm.
[[nodiscard]] double clean_about(const std::vector<metrology::Vec2>& points, metrology::Vec2 centre);

} // namespace pallix::planning
