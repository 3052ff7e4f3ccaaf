// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/blueprint.h"
#include "block/entries/route_entries.h"
#include "block/forward.h"
#include "metrology/decision.h"

#include <optional>

namespace pallix::planning {

/// Where neither blueprint nor shop has set a limit (common practice, no source): flat within 2 thou over all and one
/// in a window of 75 mm, banks alike within one, the tunnel straight within one and half of it from main to main. For
/// the shape of mains and the place of cylinders there is none. Guard band: twice the standard uncertainty.
[[nodiscard]] block::LimitsChosen usual_limits();

/// What holds in a job; the blueprint's own limits go before it.
[[nodiscard]] block::LimitsChosen limits_of(const block::JobState& state);

[[nodiscard]] metrology::DecisionRule rule_of(const block::LimitsChosen& limits);
[[nodiscard]] metrology::DecisionRule rule_of(const block::JobState& state);

/// What roundness (minimum zone, on radius) and taper (on diameter) of a main may be: as the shop has it, else half of
/// its size window, so that opposite places of a section stay within the window together (common practice, no source).
/// @return nothing where the window has no width and nobody has set it
[[nodiscard]] std::optional<double> main_shape_limit(const block::LimitsChosen& limits, const block::Tolerance& window);

/// How flat a deck is to be over all.
[[nodiscard]] double flatness_limit(const block::LimitsChosen& limits, const block::BankBlueprint& bank);

} // namespace pallix::planning
