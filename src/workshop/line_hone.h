// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/tunnel/tunnel_plan.h"

#include <vector>

namespace pallix::workshop {

/// A line hone that is not there: a stiff mandrel whose stones are sprung outward all round at both ends of each main.
/// Wherever the old surface stands into the stones it is pressed in proportion to how far, and worn in proportion to
/// the pressure; the mandrel lies where all those forces are in balance, and its stones come out little by little until
/// they would cut the finished size. Nobody tells it a line.
struct LineHone {
    double feed = 0.001; ///< mm on radius that the stones come out at a time
    double bite = 0.3;   ///< share of what stands into them that they take meanwhile
    /// How much the stones at each end of each main cut for the same pressure, beside the mean; none: all alike. Were
    /// they alike, what is taken would balance as the forces do, and the line would stay the middles' own to the last.
    std::vector<double> sharpness{};
};

struct HonedTunnel {
    planning::CentreLine line;             ///< of the mandrel, at the end
    std::vector<planning::Housing> mains;  ///< as left
    std::vector<std::vector<double>> took; ///< mm off each place of each main
};
/// @param mains caps already cut; the front half of a main's places at its front end, the others at its rear
[[nodiscard]] HonedTunnel hone(const LineHone& hone, std::vector<planning::Housing> mains);

} // namespace pallix::workshop
