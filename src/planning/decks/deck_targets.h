// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/forward.h"
#include "block/state/deck_state.h"
#include "block/units.h"
#include "planning/decks/deck_plan.h"
#include "planning/tunnel/tunnel_plan.h"

#include <optional>

namespace pallix::planning {

/// A clean surface is not cut again for less: what a surfacer's hand wheel is set to (common practice, no source).
inline constexpr double least_cut = block::mm_per_thou / 10; // mm

/// A finishing cut since it was dark for the last time.
[[nodiscard]] bool finished(const block::DeckState& deck);
/// Where a deck's highest place stands: by its newest heights and the passes since. Whatever is compared is told in
/// this one way, or a micrometre between ledger and gauge would be cut again and again.
[[nodiscard]] double stands_at(const block::DeckMeasurement& newest, const block::DeckState& deck);
/// The least cut as it is made: down to where it is clean, by the heights until marks tell more, and the finishing cut
/// under that. Where one bank had to go deeper to clean, equal banks go with it.
/// @param line where the tunnel will be, if that is somewhere else: decks are then planned as measured
void move_targets(DeckPlan& plan, const block::JobState& state, const block::PassPlanChosen& chosen,
                  const std::optional<CentreLine>& line, const CleanDepths& depths);

} // namespace pallix::planning
