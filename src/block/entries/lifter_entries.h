// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/entries/cylinder_entries.h"

#include <array>
#include <optional>
#include <string>

namespace pallix::block {

// How the lifter bores shall become. Lengths mm, angles rad.

enum class LifterSchool { bush_all, in_limits };
inline constexpr std::array lifter_school_keys{"bush_all", "in_limits"};
enum class Follower { roller, flat };
inline constexpr std::array follower_keys{"roller", "flat"};
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
template <>
inline constexpr std::string_view entry_kind<LifterPlanChosen> = "lifter_plan";
inline void fields(Fields& f, LifterPlanChosen& p) {
    f.choice("school", p.school, lifter_school_keys);
    f.choice("follower", p.follower, follower_keys);
    f.flag("cam_turns_left", p.cam_turns_left);
    f.flag("keyed", p.keyed);
    f.number("lifter_mm", p.lifter, size_range);
    f.number("clearance_least_mm", p.clearance_least, {0, 10});
    f.number("clearance_most_mm", p.clearance_most, {0, 10});
    f.number("position_mm", p.position, small_size_range);
    f.number("bush_outside_mm", p.bush_outside, size_range);
    f.number("interference_mm", p.interference, small_size_range);
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
enum class LifterChoice { leave, hone, bush };
inline constexpr std::array lifter_choice_keys{"leave", "hone", "bush"};
struct LifterDecided {
    FeatureId lifter;
    LifterChoice choice = LifterChoice::leave;
    std::string note;
    bool operator==(const LifterDecided&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<LifterDecided> = "lifter_decided";
inline void fields(Fields& f, LifterDecided& p) {
    bore_field(f, p.lifter, "lifter");
    f.choice("choice", p.choice, lifter_choice_keys);
    f.text("note", p.note, 10 * short_text);
}

using LifterKinds = Kinds<LifterPlanChosen, LifterDecided>;

} // namespace pallix::block
