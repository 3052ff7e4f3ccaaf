// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/entries/kinds.h"

#include <algorithm>
#include <array>
#include <map>
#include <numbers>
#include <optional>
#include <string>
#include <vector>

namespace pallix::block {

// What a person decided on a cylinder or lifter bore, did to it, or knows of what goes into it. All lengths mm, angles
// rad, on diameter unless it says else.

inline constexpr Range angle_range{-2 * std::numbers::pi, 2 * std::numbers::pi};
inline constexpr Range hatch_range{0, std::numbers::pi, true};
inline constexpr Range small_size_range{0, 100, true}; // mm: tolerances, cuts of one go

inline void bore_field(Fields& f, FeatureId& id, Fields::Key key = "bore") {
    f.feature(key, id, {FeatureKind::bore, FeatureKind::lifter});
}

/// Where the centre of a cylinder goes.
enum class CentreSchool {
    free,      ///< wherever the smallest bore cleans up
    top,       ///< on the unworn top, as found
    blueprint, ///< where the blueprint has it
    limited,   ///< as far from the top towards the blueprint as size and walls allow
};
inline constexpr std::array centre_school_keys{"free", "top", "blueprint", "limited"};

/// Which sides of a cylinder take the thrust, seen from the rear.
enum class ThrustSide { both, left, right };
inline constexpr std::array thrust_side_keys{"both", "left", "right"};

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
template <>
inline constexpr std::string_view entry_kind<CylinderPlanChosen> = "cylinder_plan";
inline void fields(Fields& f, CylinderPlanChosen& p) {
    f.choice("centre", p.centre, centre_school_keys);
    f.list("oversizes_mm", p.oversizes, {1, 100}, [&](double& oversize) { f.number("", oversize, {0, 10}); });
    f.number("margin_mm", p.margin, {0, 10});
    f.choice("thrust", p.thrust, thrust_side_keys);
    f.number("oversize_mm", p.oversize, {0, 10});
    f.number("wall_thrust_mm", p.wall_thrust, small_size_range);
    f.number("wall_mm", p.wall, small_size_range);
}

/// Rust, a groove or a pit in a wall.
struct BorePitted {
    FeatureId bore;
    double depth = 0; ///< radially, from the wall beside it
    std::string level, direction;
    std::string note;
    bool operator==(const BorePitted&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<BorePitted> = "bore_pit";
inline void fields(Fields& f, BorePitted& p) {
    bore_field(f, p.bore);
    f.number("depth_mm", p.depth, {0, 10, true});
    f.text("level", p.level);
    f.text("direction", p.direction);
    f.text("note", p.note, 10 * short_text);
}

enum class BoreChoice { with_the_rest, sleeve, leave, scrap };
inline constexpr std::array bore_choice_keys{"with_the_rest", "sleeve", "leave", "scrap"};

/// What shall become of one cylinder.
struct BoreDecided {
    FeatureId bore;
    BoreChoice choice = BoreChoice::with_the_rest;
    std::string note;
    bool operator==(const BoreDecided&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<BoreDecided> = "bore_decided";
inline void fields(Fields& f, BoreDecided& p) {
    bore_field(f, p.bore);
    f.choice("choice", p.choice, bore_choice_keys);
    f.text("note", p.note, 10 * short_text);
}

enum class PistonAlloy { cast, high_silicon_forged, low_silicon_forged };
inline constexpr std::array piston_alloy_keys{"cast", "high_silicon_forged", "low_silicon_forged"};
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
template <>
inline constexpr std::string_view entry_kind<PistonsStated> = "pistons";
inline void fields(Fields& f, PistonsStated& p) {
    f.choice("alloy", p.alloy, piston_alloy_keys);
    by_feature(f, "sizes_mm", p.sizes, FeatureKind::bore, size_range);
    f.number("hone_stock_mm", p.hone_stock, {0, 1});
    f.number("tolerance_mm", p.tolerance, small_size_range);
    f.number("largest_cut_mm", p.largest_cut, small_size_range);
    f.number("finish_tolerance_mm", p.finish_tolerance, small_size_range);
    f.number("shape_mm", p.shape, small_size_range);
    f.flag("measure_each", p.measure_each);
    f.number("clearance_mm", p.clearance, small_size_range);
    f.number("size_mm", p.size, size_range);
}

enum class BoreOperation { rough, finish, hone };
inline constexpr std::array bore_operation_keys{"rough", "finish", "hone"};

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
    std::optional<double> hatch{}; ///< rad, between the scratches of the hone as they were seen
    bool operator==(const BoreCut&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<BoreCut> = "bore_cut";
inline void fields(Fields& f, BoreCut& p) {
    bore_field(f, p.bore);
    f.choice("operation", p.operation, bore_operation_keys);
    f.number("target_mm", p.target, size_range);
    f.number("setting_mm", p.setting, size_range);
    f.flag_if("new_edge", p.new_edge);
    if (f.left_out("strokes", p.strokes == 0))
        p.strokes = 0;
    else
        f.whole("strokes", p.strokes, {0, 100000});
    f.text_if("step", p.step);
    f.number("load_percent", p.load, {0, 1000});
    f.number("cross_hatch_rad", p.hatch, hatch_range);
    f.text("note", p.note, 10 * short_text);
}

/// A sleeve in a cylinder or a bush in a lifter bore: what was measured of it before it goes in.
struct InsertMeasured {
    FeatureId bore;
    std::array<double, 6> outside{};           ///< top, middle, bottom; each two ways, 90° apart
    double inside = 0;                         ///< as it comes
    double length = 0;                         ///< that is pressed
    double interference = 0;                   ///< the shop's number
    double parent_outside = 0;                 ///< of the metal that holds it
    double insert_modulus = 110000;            ///< N/mm²
    double parent_modulus = 110000;            ///< N/mm²
    double insert_poisson = 0.26;              ///< of grey iron, from memory
    double parent_poisson = 0.26;              ///
    double friction = 0.12;                    ///< common practice
    double slide = 0.03;                       ///< clearance wanted where the parent is heated instead of pressed
    bool heated = false;                       ///< the parent is heated, the insert dropped in
    std::optional<double> ledge;               ///< step left at the bottom for a sleeve to sit on, along the bore
    std::optional<double> interference_most{}; ///< more would split the metal round it; nothing: nobody has said
    bool operator==(const InsertMeasured&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<InsertMeasured> = "insert_measured";
inline void fields(Fields& f, InsertMeasured& p) {
    bore_field(f, p.bore);
    f.numbers("outside_mm", p.outside, size_range);
    f.number("inside_mm", p.inside, size_range);
    f.number("length_mm", p.length, size_range);
    f.number("interference_mm", p.interference, {0, 10});
    f.number("parent_outside_mm", p.parent_outside, size_range);
    constexpr Range modulus{0, 1e7, true}, poisson{0, 0.5}; // modulus N/mm²
    f.number("insert_modulus", p.insert_modulus, modulus);
    f.number("parent_modulus", p.parent_modulus, modulus);
    f.number("insert_poisson", p.insert_poisson, poisson);
    f.number("parent_poisson", p.parent_poisson, poisson);
    f.number("friction", p.friction, {0, 10});
    f.number("slide_mm", p.slide, {0, 10});
    f.flag("heated", p.heated);
    f.number("ledge_mm", p.ledge, length_range);
    f.number("interference_most_mm", p.interference_most, {0, 10});
    f.demand(!p.interference_most || *p.interference_most >= p.interference, "interference_most_mm",
             "is less than the interference", "the largest it may become");
}
struct InsertFitted {
    FeatureId bore;
    double proud = 0;                ///< above the deck, − is below it
    std::optional<double> key_angle; ///< of a keyed bush, from the front towards +v
    std::optional<double> height;    ///< of a bush's top over its boss
    std::string note;
    bool operator==(const InsertFitted&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<InsertFitted> = "insert_fitted";
inline void fields(Fields& f, InsertFitted& p) {
    bore_field(f, p.bore);
    f.number("proud_mm", p.proud, {-50, 50});
    f.text("note", p.note, 10 * short_text);
    f.number("key_angle_rad", p.key_angle, angle_range);
    f.number("height_mm", p.height, any_length);
}

/// A step of one bore that is ticked with a reading or a look.
struct BoreStepDone {
    FeatureId bore;
    std::string step; ///< "chamfer, top"
    std::optional<double> reading;
    std::string note; ///< what was seen
    bool operator==(const BoreStepDone&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<BoreStepDone> = "bore_step";
inline void fields(Fields& f, BoreStepDone& p) {
    bore_field(f, p.bore);
    f.text("step", p.step);
    f.text("note", p.note, 10 * short_text);
    f.number("reading_mm", p.reading, any_length);
    f.demand(!p.step.empty(), "step", "is empty", "what was done");
}

enum class Abrasive { vitrified, diamond, brush };
inline constexpr std::array abrasive_keys{"vitrified", "diamond", "brush"};
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
template <>
inline constexpr std::string_view entry_kind<HonePlanChosen> = "hone_plan";
inline void fields(Fields& f, HonePlanChosen& p) {
    f.list("steps", p.steps, {1, 20}, [&](HonePlanChosen::Step& s) {
        f.group("", [&] {
            f.text("grit", s.grit);
            f.choice("abrasive", s.abrasive, abrasive_keys);
            f.number("leaves_mm", s.leaves, {0, 10});
        });
    });
    f.number("speed_rev_min", p.speed, {0, 100000, true});
    f.number("stroke_mm", p.stroke, size_range);
    f.number("strokes_per_min", p.rate, {0, 10000, true});
    f.flag("there_and_back", p.there_and_back);
    const bool less = std::ranges::is_sorted(p.steps, std::ranges::greater(), &HonePlanChosen::Step::leaves);
    f.demand(less, "steps", "leave more after a later step", "less and less stock");
}

/// The block stands still until it is itself again.
struct RestBegun {
    double minutes = 0;
    std::string until; ///< UTC, ISO 8601
    bool operator==(const RestBegun&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<RestBegun> = "rest";
inline void fields(Fields& f, RestBegun& p) {
    f.number("minutes", p.minutes, {0, 24 * 60, true});
    f.text("until", p.until);
}

/// A roughness trace of a cylinder's wall.
struct TraceTaken {
    FeatureId bore;
    std::string file;
    std::string sha256; ///< of the text, hexadecimal
    std::string text;
    bool operator==(const TraceTaken&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<TraceTaken> = "profile_trace";
inline void fields(Fields& f, TraceTaken& p) {
    bore_field(f, p.bore);
    f.text("file", p.file);
    f.text("sha256", p.sha256);
    f.text("text", p.text, long_text);
}

/// What a roughness tester showed of a wall, without its trace. Heights mm, ratios 0 to 1.
struct RoughnessRead {
    FeatureId bore;
    std::optional<double> ra, rz, rk, rpk, rvk, mr1, mr2;
    bool operator==(const RoughnessRead&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<RoughnessRead> = "roughness";
inline void fields(Fields& f, RoughnessRead& p) {
    bore_field(f, p.bore);
    constexpr Range height{0, 1, true}, ratio{0, 1};
    f.number("ra_mm", p.ra, height);
    f.number("rz_mm", p.rz, height);
    f.number("rk_mm", p.rk, height);
    f.number("rpk_mm", p.rpk, height);
    f.number("rvk_mm", p.rvk, height);
    f.number("mr1", p.mr1, ratio);
    f.number("mr2", p.mr2, ratio);
    f.demand(p.ra || p.rz || p.rk || p.rpk || p.rvk || p.mr1 || p.mr2, "ra_mm", "is missing", "one number at least");
}

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
/// Heights in mm, ratios up to 1.
inline void limits_field(Fields& f, Fields::Key key, TextureLimits::Range& range, double most) {
    if (f.left_out(key, !range.least && !range.most)) {
        range = {};
        return;
    }
    f.group(key, [&] {
        f.number("least", range.least, {0, most});
        f.number("most", range.most, {0, most});
        f.demand(!range.least || !range.most || *range.least <= *range.most, "most", "is less than the least",
                 "the smaller number first");
    });
}
template <>
inline constexpr std::string_view entry_kind<TextureLimits> = "texture_limits";
inline void fields(Fields& f, TextureLimits& p) {
    f.text("rings", p.rings);
    limits_field(f, "ra", p.ra, 1);
    limits_field(f, "rz", p.rz, 1);
    limits_field(f, "rk", p.rk, 1);
    limits_field(f, "rpk", p.rpk, 1);
    limits_field(f, "rvk", p.rvk, 1);
    limits_field(f, "mr1", p.mr1, 1);
    limits_field(f, "mr2", p.mr2, 1);
}

using CylinderKinds =
    Kinds<CylinderPlanChosen, BorePitted, BoreDecided, PistonsStated, BoreCut, InsertMeasured, InsertFitted,
          BoreStepDone, HonePlanChosen, RestBegun, TraceTaken, TextureLimits, RoughnessRead>;

} // namespace pallix::block
