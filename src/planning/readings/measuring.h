// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/instrument.h"

#include <string>

namespace pallix::planning {

/// What a person sets out to measure by hand. Each has its places, in the order the trade goes through them.
enum class Measuring {
    main_sizes,      ///< three ways at both ends of each main
    saddle_heights,  ///< indicator over the saddles, from a bar on the end mains
    bar_sweep,       ///< indicator carried round by the bar, at both end mains
    deck_heights,    ///< four places of a bank, or both sides and the middle between all bores
    feelers,         ///< straightedge: lengthwise, diagonals, between cylinders
    deck_level,      ///< precision level along and across a bank
    cylinder_sizes,  ///< top, middle, bottom; across and along
    cylinder_walls,  ///< four sides, top and bottom
    piston_heights,  ///< both sides of the pin at top dead centre, end cylinders
    lifter_sizes,    ///< top and bottom, across and along
    temperatures,    ///< block and gauge
    set_up,          ///< indicator at the four corners of a deck, the block on its feet
    sleeve_sizes,    ///< outside of a sleeve: top, middle, bottom, two ways each
    head_feelers,    ///< straightedge on the head of a bank
    chamber_volumes, ///< burette and plate, the chamber over each cylinder of a bank
    valve_drops,     ///< indicator on the valves of a bank's first cylinder, piston up
    head_heights,    ///< indicator over the face of the head of a bank, on the machine
};
inline constexpr std::size_t measurings = 17;

/// Whether it is done bank by bank.
[[nodiscard]] bool goes_by_bank(Measuring what);
[[nodiscard]] block::InstrumentKind usual_instrument(Measuring what);
/// Name in the ledger and in settings: "main_sizes", "deck_heights R".
[[nodiscard]] std::string plan_name(Measuring what, const std::string& bank);

} // namespace pallix::planning
