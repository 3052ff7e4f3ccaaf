// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/common/chain_drive.h"

#include <cmath>
#include <numbers>

namespace pallix::planning {
namespace {

double pitch_radius(double pitch, int teeth) {
    return pitch / (2 * std::sin(std::numbers::pi / teeth));
}

double wrap_angle(const ChainDrive& c, double centre_distance) {
    return std::asin((pitch_radius(c.pitch, c.teeth_cam) - pitch_radius(c.pitch, c.teeth_crank)) / centre_distance);
}

} // namespace

double chain_length(const ChainDrive& c, double centre_distance) {
    const double a = wrap_angle(c, centre_distance);
    return 2 * centre_distance * std::cos(a) +
           c.pitch * (c.teeth_crank * (0.5 - a / std::numbers::pi) + c.teeth_cam * (0.5 + a / std::numbers::pi));
}

ChainSlack chain_slack(const ChainDrive& c, double length, double centre_distance) {
    ChainSlack s;
    s.excess = length - chain_length(c, centre_distance);
    const double run = centre_distance * std::cos(wrap_angle(c, centre_distance));
    s.sag = s.excess > 0 ? std::sqrt(3 * run * s.excess / 8) : 0;
    return s;
}

double cam_retard(const ChainDrive& chain, double distance, double closer) {
    const double large = pitch_radius(chain.pitch, chain.teeth_cam),
                 step = large - pitch_radius(chain.pitch, chain.teeth_crank);
    // The taut run with what lies on both sprockets, as far as it changes with the distance.
    const auto run = [step](double c) { return std::sqrt(c * c - step * step) + step * std::asin(step / c); };
    return (run(distance) - run(distance - closer)) / large;
}

} // namespace pallix::planning
