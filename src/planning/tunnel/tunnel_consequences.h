// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/evaluation.h"
#include "planning/common/chain_drive.h"
#include "planning/readings/gauge_findings.h"
#include "planning/tunnel/tunnel_plan.h"

#include <optional>
#include <string>
#include <vector>

namespace pallix::planning {

/// Backlash a gear drive gains when its centres come closer by `closer`: it loses 2·closer·tan α.
/// @param pressure_angle rad
[[nodiscard]] double backlash_change(double closer, double pressure_angle);
/// Clearance of a bearing: housing less twice the shell less the journal, mm.
[[nodiscard]] double bearing_clearance(double housing, double shell, double journal);

struct TunnelConsequences {
    double cam_distance_change = 0; ///< mm, at the timing end; − is closer
    std::optional<ChainSlack> chain;
    std::optional<double> backlash_change; ///< mm
    struct Deck {
        std::string bank;
        double height_change = 0; ///< mm, mean over its length
        double side_change = 0;   ///< mm, of cylinder positions across
    };
    std::vector<Deck> decks;
    std::optional<double> bearing_clearance; ///< mm, at the finished size
    double roll = 0;                         ///< rad
};
[[nodiscard]] TunnelConsequences consequences_of(const block::Blueprint& blueprint, const block::Evaluation* evaluation,
                                                 const std::vector<Housing>& mains, const CentreLine& line);

/// Within two tenths is as good as a bar is dialled in; a needle's width is noise (common practice, no source).
inline constexpr double dialled_in = 2 * block::mm_per_thou / 10;

/// What to move at a jack or screw so that the bar stands in the middle of the end mains.
struct JackMove {
    double station = 0;   ///< mm along the crankshaft
    double up = 0;        ///< mm, raise the block there
    double towards_3 = 0; ///< mm, push it towards 3 o'clock there, seen from the rear
};
/// Straight through what the sweeps at both end mains found, continued to the stations of jacks and screws.
/// @param stations mm along the crankshaft, as the blueprint counts x
[[nodiscard]] std::vector<JackMove> jack_moves(const block::Blueprint& blueprint,
                                               const std::vector<SweepFinding>& sweeps,
                                               const std::vector<double>& stations);

} // namespace pallix::planning
