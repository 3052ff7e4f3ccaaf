// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/entries/entry_fields.h"

#include <algorithm>
#include <numbers>

namespace pallix::block {
namespace {

constexpr std::array centre_names{"free", "top", "blueprint", "limited"};
constexpr std::array thrust_sides{"both", "left", "right"};
constexpr std::array bore_choices{"with_the_rest", "sleeve", "leave", "scrap"};
constexpr std::array lifter_choices{"leave", "hone", "bush"};
constexpr std::array alloys{"cast", "high_silicon_forged", "low_silicon_forged"};
constexpr std::array operations{"rough", "finish", "hone"};
constexpr std::array abrasives{"vitrified", "diamond", "brush"};
constexpr std::array lifter_schools{"bush_all", "in_limits"};
constexpr std::array followers{"roller", "flat"};

constexpr Range angle_range{-2 * std::numbers::pi, 2 * std::numbers::pi};
constexpr Range small_size{0, 100, true}; // mm: tolerances, cuts of one go
constexpr Range modulus{0, 1e7, true};    // N/mm²
constexpr Range poisson{0, 0.5};

void bore(Fields& f, FeatureId& id, Fields::Key key = "bore") {
    f.feature(key, id, {FeatureKind::bore, FeatureKind::lifter});
}

/// Heights in mm, ratios up to 1.
void limits(Fields& f, Fields::Key key, TextureLimits::Range& range, double most) {
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

} // namespace

void fields(Fields& f, CylinderPlanChosen& p) {
    f.choice("centre", p.centre, centre_names);
    f.list("oversizes_mm", p.oversizes, {1, 100}, [&](double& oversize) { f.number("", oversize, {0, 10}); });
    f.number("margin_mm", p.margin, {0, 10});
    f.choice("thrust", p.thrust, thrust_sides);
    f.number("oversize_mm", p.oversize, {0, 10});
    f.number("wall_thrust_mm", p.wall_thrust, small_size);
    f.number("wall_mm", p.wall, small_size);
}

void fields(Fields& f, BorePitted& p) {
    bore(f, p.bore);
    f.number("depth_mm", p.depth, {0, 10, true});
    f.text("level", p.level);
    f.text("direction", p.direction);
    f.text("note", p.note, 10 * short_text);
}

void fields(Fields& f, BoreDecided& p) {
    bore(f, p.bore);
    f.choice("choice", p.choice, bore_choices);
    f.text("note", p.note, 10 * short_text);
}

void fields(Fields& f, PistonsStated& p) {
    f.choice("alloy", p.alloy, alloys);
    by_feature(f, "sizes_mm", p.sizes, FeatureKind::bore, size_range);
    f.number("hone_stock_mm", p.hone_stock, {0, 1});
    f.number("tolerance_mm", p.tolerance, small_size);
    f.number("largest_cut_mm", p.largest_cut, small_size);
    f.number("finish_tolerance_mm", p.finish_tolerance, small_size);
    f.number("shape_mm", p.shape, small_size);
    f.flag("measure_each", p.measure_each);
    f.number("clearance_mm", p.clearance, small_size);
    f.number("size_mm", p.size, size_range);
}

void fields(Fields& f, BoreCut& p) {
    bore(f, p.bore);
    f.choice("operation", p.operation, operations);
    f.number("target_mm", p.target, size_range);
    f.number("setting_mm", p.setting, size_range);
    f.flag_if("new_edge", p.new_edge);
    if (f.left_out("strokes", p.strokes == 0))
        p.strokes = 0;
    else
        f.whole("strokes", p.strokes, {0, 100000});
    f.text_if("step", p.step);
    f.number("load_percent", p.load, {0, 1000});
    f.text("note", p.note, 10 * short_text);
}

void fields(Fields& f, InsertMeasured& p) {
    bore(f, p.bore);
    f.numbers("outside_mm", p.outside, size_range);
    f.number("inside_mm", p.inside, size_range);
    f.number("length_mm", p.length, size_range);
    f.number("interference_mm", p.interference, {0, 10});
    f.number("parent_outside_mm", p.parent_outside, size_range);
    f.number("insert_modulus", p.insert_modulus, modulus);
    f.number("parent_modulus", p.parent_modulus, modulus);
    f.number("insert_poisson", p.insert_poisson, poisson);
    f.number("parent_poisson", p.parent_poisson, poisson);
    f.number("friction", p.friction, {0, 10});
    f.number("slide_mm", p.slide, {0, 10});
    f.flag("heated", p.heated);
    f.number("ledge_mm", p.ledge, length_range);
}

void fields(Fields& f, InsertFitted& p) {
    bore(f, p.bore);
    f.number("proud_mm", p.proud, {-50, 50});
    f.text("note", p.note, 10 * short_text);
    f.number("key_angle_rad", p.key_angle, angle_range);
    f.number("height_mm", p.height, any_length);
}

void fields(Fields& f, BoreStepDone& p) {
    bore(f, p.bore);
    f.text("step", p.step);
    f.text("note", p.note, 10 * short_text);
    f.number("reading_mm", p.reading, any_length);
    f.demand(!p.step.empty(), "step", "is empty", "what was done");
}

void fields(Fields& f, HonePlanChosen& p) {
    f.list("steps", p.steps, {1, 20}, [&](HonePlanChosen::Step& s) {
        f.group("", [&] {
            f.text("grit", s.grit);
            f.choice("abrasive", s.abrasive, abrasives);
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

void fields(Fields& f, RestBegun& p) {
    f.number("minutes", p.minutes, {0, 24 * 60, true});
    f.text("until", p.until);
}

void fields(Fields& f, TraceTaken& p) {
    bore(f, p.bore);
    f.text("file", p.file);
    f.text("sha256", p.sha256);
    f.text("text", p.text, long_text);
}

void fields(Fields& f, TextureLimits& p) {
    f.text("rings", p.rings);
    limits(f, "ra", p.ra, 1);
    limits(f, "rz", p.rz, 1);
    limits(f, "rk", p.rk, 1);
    limits(f, "rpk", p.rpk, 1);
    limits(f, "rvk", p.rvk, 1);
    limits(f, "mr1", p.mr1, 1);
    limits(f, "mr2", p.mr2, 1);
}

void fields(Fields& f, LifterPlanChosen& p) {
    f.choice("school", p.school, lifter_schools);
    f.choice("follower", p.follower, followers);
    f.flag("cam_turns_left", p.cam_turns_left);
    f.flag("keyed", p.keyed);
    f.number("lifter_mm", p.lifter, size_range);
    f.number("clearance_least_mm", p.clearance_least, {0, 10});
    f.number("clearance_most_mm", p.clearance_most, {0, 10});
    f.number("position_mm", p.position, small_size);
    f.number("bush_outside_mm", p.bush_outside, size_range);
    f.number("interference_mm", p.interference, small_size);
    f.number("base_radius_mm", p.base_radius, size_range);
    f.number("roller_radius_mm", p.roller_radius, size_range);
    f.number("key_angle_rad", p.key_angle, angle_range);
    f.number("height_mm", p.height, any_length);
    f.demand(!p.clearance_least || !p.clearance_most || *p.clearance_least <= *p.clearance_most, "clearance_most_mm",
             "is less than the least", "the smaller clearance first");
    f.demand(!p.lifter || !p.bush_outside || *p.bush_outside > *p.lifter, "bush_outside_mm",
             "is no larger than the lifter in it", "an outside greater than the lifter's");
    f.demand(!p.keyed || p.key_angle, "key_angle_rad", "is missing", "the angle of a keyed bush");
}

void fields(Fields& f, LifterDecided& p) {
    bore(f, p.lifter, "lifter");
    f.choice("choice", p.choice, lifter_choices);
    f.text("note", p.note, 10 * short_text);
}

} // namespace pallix::block
