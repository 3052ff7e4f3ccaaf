// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/tunnel/tunnel_consequences.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace pallix::planning {
double backlash_change(double closer, double pressure_angle) {
    return -2 * closer * std::tan(pressure_angle);
}

double bearing_clearance(double housing, double shell, double journal) {
    return housing - 2 * shell - journal;
}

TunnelConsequences consequences_of(const block::Blueprint& blueprint, const block::Evaluation* evaluation,
                                   const std::vector<Housing>& mains, const CentreLine& line) {
    TunnelConsequences c;
    if (mains.empty())
        return c;
    const double front = mains.front().mean_x(), middle = (front + mains.back().mean_x()) / 2;
    if (blueprint.cam) {
        const bool measured = evaluation && evaluation->cam;
        const double y = measured ? evaluation->cam->y : blueprint.cam->y,
                     z = measured ? evaluation->cam->z : blueprint.cam->z;
        const double distance = std::hypot(y, z);
        c.cam_distance_change = -(line.y(front) * y + line.z(front) * z) / distance;
        if (const auto& drive = blueprint.cam_drive) {
            if (drive->pitch > 0) {
                const ChainDrive chain{drive->teeth_crank, drive->teeth_cam, drive->pitch};
                const double length = drive->chain_length.value_or(chain_length(chain, distance));
                c.chain = chain_slack(chain, length, distance + c.cam_distance_change);
            } else {
                c.backlash_change = backlash_change(-c.cam_distance_change, drive->pressure_angle);
            }
        }
        if (evaluation)
            c.roll = roll_after(blueprint, *evaluation, mains, line);
    }
    if (blueprint.main_bearing)
        c.bearing_clearance = bearing_clearance(mains.front().target_diameter, blueprint.main_bearing->shell,
                                                blueprint.main_bearing->journal);
    for (const block::BankBlueprint& bank : blueprint.banks) {
        const double s = std::sin(bank.angle), k = std::cos(bank.angle);
        c.decks.push_back(
            {bank.id, -(line.y(middle) * s + line.z(middle) * k), -(line.y(middle) * k - line.z(middle) * s)});
    }
    return c;
}

std::vector<JackMove> jack_moves(const block::Blueprint& blueprint, const std::vector<SweepFinding>& sweeps,
                                 const std::vector<double>& stations) {
    const auto at = [&](const SweepFinding& s) {
        return std::ranges::find(blueprint.mains, s.main, &block::MainBlueprint::id)->x;
    };
    std::vector<JackMove> moves;
    if (sweeps.size() < 2)
        return moves;
    const SweepFinding &first = sweeps.front(), &last = sweeps.back();
    for (const double x : stations) {
        const double share = (x - at(first)) / (at(last) - at(first));
        moves.push_back(
            {x, first.up + share * (last.up - first.up), first.towards_3 + share * (last.towards_3 - first.towards_3)});
    }
    return moves;
}

} // namespace pallix::planning
