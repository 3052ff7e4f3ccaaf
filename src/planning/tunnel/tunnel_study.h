// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/entries/memory_entries.h"
#include "block/evaluation.h"
#include "block/forward.h"
#include "block/ledger.h"
#include "planning/tunnel/hone_line.h"

#include <optional>
#include <string>
#include <vector>

namespace pallix::planning {

/// Where the old surface of the mains is known from.
enum class HousingSource { none, probe, gauge };

struct KnownHousings {
    HousingSource source = HousingSource::none;
    std::vector<Housing> mains;
    std::optional<double> uncertainty; ///< mm, standard, of one point's distance
    CentreLine ends;                   ///< through the centres of the end mains
    /// By gauge: mains whose saddle was not read. Two saddles lie on a line; of more, nothing is known while one is
    /// missing: it is not 0.
    std::vector<block::FeatureId> saddles_missing;
};

/// From probe points where they hold; else from sizes in three directions and saddle heights, with the assumption that
/// each housing is centred sideways and that the end mains' saddles lie on the datum.
/// @param policy whose target diameter counts
[[nodiscard]] KnownHousings known_housings(const block::JobState& state, const TunnelPolicy& policy);

/// What one limit, loosened by a thou, would save of the largest cap cut.
struct LoosenedLimit {
    TunnelLimit limit{};
    double saves = 0; ///< mm
};

/// Another way of doing it, beside the chosen one.
struct TunnelSchool {
    std::string name; ///< "hone, each its own", "hone, line kept"
    TunnelPolicy policy;
    TunnelPlan plan;
};

/// What comes of honing at one main, mm.
struct HoneForecast {
    block::FeatureId main;
    double rise = 0, side = 0;              ///< of the line, as it will be measured from the old one
    double cap = 0, saddle = 0;             ///< off the middle of either half, after the cap is cut
    std::optional<double> uncertainty = {}; ///< standard, of rise and side each; nobody stated how sure a touch is
};

/// The plan with what explains it.
struct TunnelStudy {
    KnownHousings housings;
    TunnelPolicy policy;
    TunnelPlan plan; ///< honing: the line is the one the hone will follow
    // What explains it:
    std::optional<TunnelPlan> ideal;              ///< honing: what a line would need that could be chosen
    std::optional<HoneLine> followed;             ///< honing: what leads the mandrel
    std::vector<HoneForecast> forecast;           ///< honing: main by main
    std::optional<block::ForecastRecord> widened; ///< why that is less sure than the touches alone have it
    /// Honing, where the hone needs half a thou more or less off a cap than a chosen line would: the main whose middle
    /// stands furthest off the line that they all lead, and how far.
    struct Astray {
        block::FeatureId main;
        double off = 0; ///< mm, + towards the cam
    };
    std::optional<Astray> astray;
    std::vector<LoosenedLimit> loosened; ///< those that save something
    std::vector<TunnelSchool> schools;
    std::optional<TunnelPlan> sure; ///< every point together cleans up with 95 % certainty
    struct Reading {
        block::FeatureId main;
        double saves = 0; ///< mm of the sure plan's cuts together, were this main measured once more
    };
    std::vector<Reading> readings; ///< mains where another reading would save something
};
/// What is planned by until somebody chooses: line hone, equal caps, two thou on diameter in each of the three ways
/// that a gauge reads (from 30° off the parting line), 12° of relief (common practice, no source).
[[nodiscard]] TunnelPolicy usual_tunnel_policy();
[[nodiscard]] TunnelPolicy tunnel_policy_of(const block::JobState& state);
/// The plan by the chosen policy; nothing where the tunnel is not known.
[[nodiscard]] std::optional<TunnelStudy> study_tunnel(const block::JobState& state);
/// Adds what explains it: limits loosened, other schools, certainty. A score of plans: for when someone looks.
/// @param drawn the mains as they may truly be; none: each point is as sure as it is by itself
void explain(TunnelStudy& study, const std::vector<std::vector<Housing>>& drawn = {});
/// @return the probed mains as they may truly be, drawn 300 times; none where they are known by gauge, or nobody stated
/// how sure a touch is
[[nodiscard]] std::vector<std::vector<Housing>> draw_housings(const block::JobState& state, const TunnelStudy& study);

} // namespace pallix::planning
