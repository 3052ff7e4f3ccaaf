// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/entries/deck_entries.h"

#include <optional>
#include <string>
#include <vector>

namespace pallix::planning {

/// What is clamped to a throw while its crankshaft is balanced, in place of pistons and rods. Masses g.
struct Bobweight {
    double turning = 0; ///< of one rod: big end and shells; the throw's oil once
    double moving = 0;  ///< of one piston: with pin, rings, locks and the rod's small end
    double weight = 0;  ///< of one throw: the turning of all its rods, the oil, and the share of what moves
};
/// @return nothing as long as a mass is missing
[[nodiscard]] std::optional<Bobweight> bobweight(const block::BalanceCard& card);
/// Residual unbalance that is allowed in all, g·mm: 9549·G·m/n (ISO 21940-11; m kg, n 1/min, G mm/s).
/// @return nothing as long as mass or speed is missing
[[nodiscard]] std::optional<double> permissible_unbalance(const block::BalanceCard& card);
/// What is missing of either, in words.
[[nodiscard]] std::vector<std::string> missing_for_balance(const block::BalanceCard& card);

} // namespace pallix::planning
