// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/evaluation.h"
#include "block/forward.h"
#include "block/ledger.h"
#include "block/measured.h"
#include "planning/deck_verdict.h"
#include "planning/gauge_findings.h"
#include "planning/tunnel_plan.h"

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

/// The plan with what explains it.
struct TunnelStudy {
    KnownHousings housings;
    TunnelPolicy policy;
    TunnelPlan plan;
    std::vector<LoosenedLimit> loosened; ///< those that save something
    std::vector<TunnelSchool> schools;
    std::optional<TunnelPlan> sure; ///< cleans up with 95 % certainty: each point may be 1.645 u further out
    struct Reading {
        block::FeatureId main;
        double saves = 0; ///< mm of the sure plan's cuts together, were this main measured once more
    };
    std::vector<Reading> readings; ///< mains where another reading would save something
};
/// The plan by the chosen policy; nothing where the tunnel is not known.
[[nodiscard]] std::optional<TunnelStudy> study_tunnel(const block::JobState& state);
/// Adds what explains it: limits loosened, other schools, certainty. A score of plans: for when someone looks.
void explain(TunnelStudy& study);

// ---- what it changes
// --------------------------------------------------------------------------------------------------

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

// ---- doing it
// ---------------------------------------------------------------------------------------------------------

/// A size before the caps were cut, what it should have become, and what it became.
struct CapPrediction {
    block::MeasuredAt at;
    double before = 0, cut = 0; ///< mm
    double predicted = 0;       ///< mm: a size upright shrinks by the cut, 60° off by half of it
    std::optional<double> after;
    double allowed = 0; ///< mm, what it may differ by: twice the uncertainty of both readings
    [[nodiscard]] bool disagrees() const { return after && std::abs(*after - predicted) > allowed; }
};

/// One cell of the hone board.
struct StockLeft {
    block::MeasuredAt at;
    double size = 0;        ///< mm
    double left = 0;        ///< mm to the target; − is over it
    double to_smallest = 0; ///< mm to the smallest allowed size; ≤ 0 is in size
    double to_largest = 0;  ///< mm to the largest allowed; < 0 is too large
    bool stale = false;     ///< measured before the last strokes
};

/// What the strokes so far took, and how many are left.
struct StrokeForecast {
    int strokes = 0;       ///< between the last two measurements
    double per_stroke = 0; ///< mm on diameter, mean
    double stock_left = 0; ///< mm, the largest
    double strokes_left = 0;
};

enum class TunnelStep {
    measure, ///< nothing is known of it
    decide,  ///< no plan within the limits
    good,    ///< as found it meets
    cut_caps,
    torque_caps,  ///< caps back on, torqued as they will run
    measure_caps, ///< sizes after the caps were cut
    machine,      ///< hone strokes, or passes of the bar
    measure_work, ///< sizes after strokes or a pass
    log_finished, ///< every main is in size: say that the tunnel is done
    too_large,    ///< a main is over its window
};

struct TunnelWork {
    TunnelStep step = TunnelStep::measure;
    std::optional<TunnelStudy> study;              ///< the plan; explained only where that was asked for
    std::vector<block::FeatureId> saddles_missing; ///< why there is no plan from gauges
    std::vector<CapCut> to_cut;                    ///< what the plan asks for, less what was cut
    std::vector<CapPrediction> predictions;
    std::vector<StockLeft> board;   ///< main by main, front and rear, three ways
    std::optional<StockLeft> dwell; ///< the tightest place
    std::optional<StrokeForecast> forecast;
    bool establishing_due = false;         ///< boring: a pass that is measured before the final one
    std::optional<double> next_protrusion; ///< boring: mm, t2 = t1 + (wanted − measured)/2
};
/// @param probed what the probe says of it, where that holds; may be null
[[nodiscard]] TunnelWork tunnel_work(const block::JobState& state, const GaugeFindings& gauge,
                                     const TunnelVerdict* probed = nullptr);

/// Steps around cutting caps that are ticked by hand or eye (common practice, no source).
[[nodiscard]] std::vector<std::string> cap_steps();
/// Protrusion of the cutter from a bar for a wanted bore, mm: (wanted − bar)/2.
[[nodiscard]] double cutter_protrusion(double wanted, double bar);

} // namespace pallix::planning
