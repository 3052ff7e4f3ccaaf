// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/feature.h"
#include "metrology/geometry.h"

#include <array>
#include <map>
#include <optional>
#include <string>
#include <vector>

namespace pallix::block {

// What a person decided on a cylinder or lifter bore, did to it, or knows of what goes into it. All lengths mm, angles
// rad, on diameter unless it says else.

/// Where the centre of a cylinder goes.
enum class CentreSchool {
    free,      ///< wherever the smallest bore cleans up
    top,       ///< on the unworn top, as found
    blueprint, ///< where the blueprint has it
    limited,   ///< as far from the top towards the blueprint as size and walls allow
};

/// Which sides of a cylinder take the thrust, seen from the rear.
enum class ThrustSide { both, left, right };

/// How the cylinders shall become, and by which limits.
struct CylinderPlanChosen {
    CentreSchool centre = CentreSchool::top;
    std::vector<double> oversizes;           ///< over nominal; may hold 0
    double margin = 0;                       ///< on top of what just cleans up
    std::optional<double> oversize;          ///< decided on; nothing: what the plan finds
    std::optional<double> wall_thrust, wall; ///< least wall, thrust side and other; nothing: no limit was stated
    ThrustSide thrust = ThrustSide::both;
    bool operator==(const CylinderPlanChosen&) const = default;
};

/// Rust, a groove or a pit in a wall.
struct BorePitted {
    FeatureId bore;
    double depth = 0; ///< radially, from the wall beside it
    std::string level, direction;
    std::string note;
    bool operator==(const BorePitted&) const = default;
};

enum class BoreChoice { with_the_rest, sleeve, leave, scrap };
enum class LifterChoice { leave, hone, bush };

/// What shall become of one cylinder.
struct BoreDecided {
    FeatureId bore;
    BoreChoice choice = BoreChoice::with_the_rest;
    std::string note;
    bool operator==(const BoreDecided&) const = default;
};

enum class PistonAlloy { cast, high_silicon_forged, low_silicon_forged };
/// The pistons on hand and how a bore becomes theirs.
struct PistonsStated {
    PistonAlloy alloy = PistonAlloy::cast;
    std::optional<double> clearance;     ///< from the piston maker's sheet; nothing: the usual one
    std::optional<double> size;          ///< of all of them, measured
    std::map<FeatureId, double> sizes{}; ///< where they were measured one by one
    double hone_stock = 0.1;             ///< finish less rough
    double tolerance = 0.0127;           ///< of a rough bore, either way
    double largest_cut = 2.54;           ///< of one go of the tool
    double finish_tolerance = 0.0127;    ///< the finished bore: from clearance to this much over it
    double shape = 0.0076;               ///< taper and oval of a finished bore
    bool measure_each = true;            ///< every hole before the next; else only the first and the last
    bool operator==(const PistonsStated&) const = default;
};

enum class BoreOperation { rough, finish, hone };

/// One go of the tool through one cylinder or lifter bore. What was measured in it before holds no longer.
struct BoreCut {
    FeatureId bore;
    BoreOperation operation = BoreOperation::rough;
    std::optional<double> target;  ///< what it was meant to become
    std::optional<double> setting; ///< diameter the tool was set to
    bool new_edge = false;         ///< a fresh or looked-at cutting edge
    int strokes = 0;               ///< of the hone
    std::string step;              ///< of the hone plan
    std::optional<double> load;    ///< of the hone, % of its meter
    std::string note;
    bool operator==(const BoreCut&) const = default;
};

/// A sleeve in a cylinder or a bush in a lifter bore: what was measured of it before it goes in.
struct InsertMeasured {
    FeatureId bore;
    std::array<double, 6> outside{}; ///< top, middle, bottom; each two ways, 90° apart
    double inside = 0;               ///< as it comes
    double length = 0;               ///< that is pressed
    double interference = 0;         ///< the shop's number
    double parent_outside = 0;       ///< of the metal that holds it
    double insert_modulus = 110000;  ///< N/mm²
    double parent_modulus = 110000;  ///< N/mm²
    double insert_poisson = 0.26;    ///< of grey iron, from memory
    double parent_poisson = 0.26;    ///
    double friction = 0.12;          ///< common practice
    double slide = 0.03;             ///< clearance wanted where the parent is heated instead of pressed
    bool heated = false;             ///< the parent is heated, the insert dropped in
    std::optional<double> ledge;     ///< step left at the bottom for a sleeve to sit on, along the bore
    bool operator==(const InsertMeasured&) const = default;
};
struct InsertFitted {
    FeatureId bore;
    double proud = 0;                ///< above the deck, − is below it
    std::optional<double> key_angle; ///< of a keyed bush, from the front towards +v
    std::optional<double> height;    ///< of a bush's top over its boss
    std::string note;
    bool operator==(const InsertFitted&) const = default;
};

/// A step of one bore that is ticked with a reading or a look.
struct BoreStepDone {
    FeatureId bore;
    std::string step; ///< "chamfer, top"
    std::optional<double> reading;
    std::string note; ///< what was seen
    bool operator==(const BoreStepDone&) const = default;
};

enum class Abrasive { vitrified, diamond, brush };
/// From which grit to which, and how the hone moves.
struct HonePlanChosen {
    struct Step {
        std::string grit;
        Abrasive abrasive = Abrasive::vitrified;
        double leaves = 0; ///< stock on diameter when the next step takes over
        bool operator==(const Step&) const = default;
    };
    std::vector<Step> steps;
    double speed = 0;           ///< rev/min
    double stroke = 0;          ///< mm, length of a stroke
    double rate = 0;            ///< strokes per minute
    bool there_and_back = true; ///< what one stroke of that rate is
    bool operator==(const HonePlanChosen&) const = default;
};

/// The block stands still until it is itself again.
struct RestBegun {
    double minutes = 0;
    std::string until; ///< UTC, ISO 8601
    bool operator==(const RestBegun&) const = default;
};

/// A roughness trace of a cylinder's wall.
struct TraceTaken {
    FeatureId bore;
    std::string file;
    std::string sha256; ///< of the text, hexadecimal
    std::string text;
    bool operator==(const TraceTaken&) const = default;
};

/// What a ring pack wants of the wall. Heights mm, ratios 0 to 1; what is not stated is not limited.
struct TextureLimits {
    struct Range {
        std::optional<double> least, most;
        bool operator==(const Range&) const = default;
    };
    std::string rings;
    Range ra, rz, rk, rpk, rvk, mr1, mr2;
    bool operator==(const TextureLimits&) const = default;
};

enum class LifterSchool { bush_all, in_limits };
enum class Follower { roller, flat };
/// How the lifter bores shall become.
struct LifterPlanChosen {
    LifterSchool school = LifterSchool::in_limits;
    std::optional<double> lifter; ///< diameter of the lifters on hand
    std::optional<double> clearance_least, clearance_most;
    std::optional<double> position;                   ///< mm off its place at which a bore is bushed
    std::optional<double> bush_outside, interference; ///< the shop's number: no default
    Follower follower = Follower::roller;
    std::optional<double> base_radius, roller_radius; ///< of cam and follower
    bool cam_turns_left = true;                       ///< its top, seen from the rear
    bool keyed = false;
    std::optional<double> key_angle, height; ///< of a keyed bush
    bool operator==(const LifterPlanChosen&) const = default;
};
struct LifterDecided {
    FeatureId lifter;
    LifterChoice choice = LifterChoice::leave;
    std::string note;
    bool operator==(const LifterDecided&) const = default;
};

} // namespace pallix::block
