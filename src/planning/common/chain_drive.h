// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

namespace pallix::planning {

/// A chain over two sprockets by the pitch-circle model: L = 2C·cos α + p[N1(1/2 − α/π) + N2(1/2 + α/π)],
/// R = p/(2 sin(π/N)), α = asin((R2 − R1)/C). The polygon formula of chain handbooks differs by about 0.06 links.
struct ChainDrive {
    int teeth_crank = 0, teeth_cam = 0;
    double pitch = 0; ///< mm
};
[[nodiscard]] double chain_length(const ChainDrive& chain, double centre_distance);
/// How far the free run sags one way when a chain of this length runs on this centre distance: f ≈ √(3·s·e/8).
struct ChainSlack {
    double excess = 0; ///< mm of chain
    double sag = 0;    ///< mm, one way; play felt by finger is twice it
};
[[nodiscard]] ChainSlack chain_slack(const ChainDrive& chain, double length, double centre_distance);

/// How a cam in the head is turned when its sprocket comes nearer by `closer`: the taut run keeps its length, so what
/// it is too long runs over the cam's sprocket (pitch-circle model).
/// @return rad at the cam, retarded
[[nodiscard]] double cam_retard(const ChainDrive& chain, double distance, double closer);

} // namespace pallix::planning
