// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/forward.h"
#include "block/ledger.h"
#include "block/state/measured.h"
#include "metrology/decision.h"

#include <optional>
#include <string>
#include <vector>

namespace pallix::planning {

/// A size measured by hand against its window.
struct SizeFinding {
    block::MeasuredPlace place;
    metrology::Limits limits; ///< mm
    metrology::Verdict verdict{};
    metrology::Settling settling; ///< what would settle a doubt
};

/// A main, cylinder or lifter bore by its sizes.
struct BoreFinding {
    block::FeatureId id;
    std::vector<SizeFinding> sizes; ///< those that hold, or all of them when none does
    double out_of_round = 0;        ///< mm, largest less smallest size at one level, the worst level
    double taper = 0;               ///< mm, largest difference between the means of two levels
    metrology::Verdict verdict{};
    bool stale = false;
};

/// The saddles' heights as a straight line through the end mains would have them.
struct SaddleFinding {
    struct Saddle {
        block::FeatureId main;
        double x = 0;   ///< mm
        double off = 0; ///< mm over the line through the end mains, + towards the cam
    };
    std::vector<Saddle> saddles;
    std::vector<block::FeatureId> missing; ///< mains whose saddle was not read: they may stand anywhere
    double straightness = 0;               ///< mm, minimum zone
    std::optional<double> uncertainty;
    metrology::Verdict verdict{}; ///< against the usual straightness; never meets while one is missing
};

/// Where a bar with an indicator stands in a bore: what to move the block by.
struct SweepFinding {
    block::FeatureId main;
    double up = 0;        ///< mm, the bar above the bore's centre: raise the block by it
    double towards_3 = 0; ///< mm, the bar off towards 3 o'clock: push the block by it that way
    std::optional<double> uncertainty;
};

/// What feelers under a straightedge say of a deck: along its lines, no more.
struct FeelerFinding {
    std::string bank;
    double at_least = 0; ///< mm, the thickest that went in anywhere
    double at_most = 0;  ///< mm, the largest of the thinnest that did not, over the lines laid
    std::string where;   ///< the line it went in furthest
    std::size_t lines = 0;
    metrology::Verdict
        verdict{}; ///< fails where a feeler thicker than the limit goes in; else can't tell: lines are no surface
};

struct ClearanceFinding {
    block::FeatureId bore;
    double clearance = 0; ///< mm, piston below the deck, mean of both sides of the pin
    double rock = 0;      ///< mm, difference of the two sides
    std::optional<double> uncertainty;
};

struct WallFinding {
    block::FeatureId bore;
    double thinnest = 0; ///< mm
    std::string where;   ///< "top, right"
};

/// Gauge and probe say different things of one place.
struct Disagreement {
    block::MeasuredAt at;
    std::string words;
    double by_gauge = 0; ///< mm
    double by_probe = 0; ///< mm
    double allowed = 0;  ///< mm: twice their combined standard uncertainty, of many places more
};

/// Readings of one feature under conditions that may not be compared.
struct ConditionWarning {
    block::FeatureId feature;
    std::string words; ///< what differs
};

struct GaugeFindings {
    std::vector<BoreFinding> mains, cylinders, lifters;
    std::optional<SaddleFinding> saddles;
    std::vector<SweepFinding> sweeps;
    std::vector<FeelerFinding> feelers;
    std::vector<ClearanceFinding> clearances;
    std::vector<WallFinding> walls;
    std::vector<Disagreement> disagreements;
    std::vector<ConditionWarning> warnings;
    std::vector<std::string> measure_again; ///< places whose readings no longer hold, in words

    [[nodiscard]] const BoreFinding* bore(const block::FeatureId& id) const; ///< main, cylinder or lifter
};

/// @param oversize the cylinders are bored to, where one is known: they are held against it once they are cut
[[nodiscard]] GaugeFindings gauge_findings(const block::JobState& state, const std::optional<double>& oversize = {});

} // namespace pallix::planning
