// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/steps/step.h"

namespace pallix::planning {
namespace {

/// Of a reading by gauge: the block lies as the machine needs it that works on the same place.
SetUp set_up_for(const std::optional<block::FeatureId>& about) {
    if (!about)
        return SetUp::any;
    switch (about->kind) {
    case block::FeatureKind::main:
        return SetUp::mains_up;
    case block::FeatureKind::deck:
    case block::FeatureKind::bore:
        return SetUp::deck_up;
    case block::FeatureKind::lifter:
        return SetUp::lifters_up;
    default:
        return SetUp::any;
    }
}

} // namespace

Where where_of(Task task, std::size_t mains, const std::optional<block::FeatureId>& about) {
    const double each = static_cast<double>(mains);
    using enum Task;
    switch (task) {
    case soak:
        return {Machine::washer, SetUp::any, {}};
    case inspect_one:
        return {Machine::bench, SetUp::any, 10};
    case wash:
        return {Machine::washer, SetUp::any, 45};
    case inspect:
        return {Machine::bench, SetUp::any, 30};
    case take_log:
    case probe:
        return {Machine::probe, SetUp::any, 20};
    case prove_lifters:
        return {Machine::probe, SetUp::lifters_up, 20};
    case read:
        return {Machine::bench, set_up_for(about), 1};
    case settle:
        return {Machine::bench, set_up_for(about), 5};
    case mark_main:
        return {Machine::bench, SetUp::mains_up, 1};
    case give_bar:
    case state_conditions:
        return {Machine::bench, SetUp::any, 1};
    case torque_caps:
        return {Machine::bench, SetUp::mains_up, 3 * each};
    case cut_caps:
        return {Machine::cap_grinder, SetUp::caps_off, 8 * each};
    case hone_tunnel:
        return {Machine::tunnel_hone, SetUp::mains_up, 10};
    case bore_tunnel:
    case pass_tunnel:
    case cut_tunnel:
        return {Machine::line_bar, SetUp::mains_up, 20};
    case test_pressure:
        return {Machine::bench, SetUp::any, 30};
    case finish_tunnel:
    case tick_tunnel:
        return {Machine::bench, SetUp::mains_up, 15};
    case confirm_datum:
    case level:
    case ease_clamp:
        return {Machine::surfacer, SetUp::deck_up, 10};
    case cut_deck:
    case flush_deck:
        return {Machine::surfacer, SetUp::deck_up, 12};
    case level_head:
        return {Machine::surfacer, SetUp::head_up, 10};
    case cut_head:
    case work_head:
        return {Machine::surfacer, SetUp::head_up, 12};
    case look_at_touch:
        return {Machine::probe, SetUp::any, 5};
    case look_why_dark:
    case mark_flaw:
    case note_finish:
        return {Machine::surfacer, SetUp::deck_up, 2};
    case feel:
        return {Machine::bench, SetUp::deck_up, 5};
    case read_set_up_on:
        return {Machine::surfacer, SetUp::deck_up, 1};
    case measure_insert:
        return {Machine::bench, SetUp::any, 5};
    case bore:
        return {Machine::boring_bar, SetUp::deck_up, 15};
    case look_at_edge:
    case judge_trial:
        return {Machine::boring_bar, SetUp::deck_up, 2};
    case press:
        return {Machine::press, SetUp::deck_up, 20};
    case put_plate_on:
        return {Machine::bench, SetUp::deck_up, 15};
    case hone_bore:
        return {Machine::cylinder_hone, SetUp::deck_up, 10};
    case rest: // as long as it rests
        return {Machine::bench, SetUp::any, {}};
    case dress:
        return {Machine::bench, SetUp::deck_up, 3};
    case cut_lifter:
        return {Machine::reamer, SetUp::lifters_up, 6};
    case press_bush:
        return {Machine::press, SetUp::lifters_up, 5};
    case open_truth:
        return {Machine::desk, SetUp::any, 2};
    case hand_over:
        return {Machine::desk, SetUp::any, 15};
    default:
        return {}; // decided or given at the desk
    }
}

} // namespace pallix::planning
