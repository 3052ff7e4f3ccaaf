// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/tunnel/tunnel_plan.h"

#include <utility>
#include <vector>

namespace pallix::planning {

/// Where a line hone goes. It does not choose its line: the mandrel follows the straight line through the middles of
/// the housings it meets, front and rear of each (least squares), and takes cap and saddle alike. Cutting a cap by c
/// puts its housing's middle c/2 higher. A main whose cap is replaced does not lead: where its middle will be is not
/// known.
struct HoneLine {
    /// The middle of a housing at one of its ends, mm.
    struct Middle {
        std::size_t main;
        double x, y, z;
    };
    std::vector<Middle> middles; ///< those that lead, as found; none: fewer than two mains keep their caps
    CentreLine uncut;            ///< with no cap cut
    std::vector<std::pair<double, double>> gained; ///< for each main: z0 and zk that 1 mm off its cap adds
    [[nodiscard]] bool leads() const { return !middles.empty(); }
    /// @param cuts mm, of each main in their order
    [[nodiscard]] CentreLine with(const std::vector<double>& cuts) const;
};
/// How far the mandrel may run off that line, mm, standard, at a main: it meets some places before others, and has worn
/// them when it comes to the rest. A share of how far the middles stand off the line they lead.
[[nodiscard]] double follows_within(const HoneLine& line, const std::vector<double>& cuts);
[[nodiscard]] HoneLine hone_line(const std::vector<Housing>& mains, const TunnelPolicy& policy);

} // namespace pallix::planning
