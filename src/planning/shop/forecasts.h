// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/entries/memory_entries.h"
#include "block/entries/tunnel_entries.h"
#include "block/forward.h"
#include "block/ledger.h"
#include "planning/common/experience.h"
#include "planning/decks/deck_belief.h"
#include "planning/shop/kind_memory.h"
#include "planning/tunnel/tunnel_study.h"

#include <optional>
#include <string>
#include <vector>

namespace pallix::planning {

/// What a forecast says holds in 95 of 100 cases.
inline constexpr double forecast_claim = 0.95;

/// A forecast held against what came.
struct ForecastCame {
    block::ForecastKind kind{};
    MeasuredBy by;
    /// How far what came lay from the middle of the interval, in halves of it, as it is without any stretching.
    double miss = 0;
    bool held = false; ///< within what was told, stretched or not
};
/// Deck by deck what came off until it was clean; place by place the sizes after each cut of caps; the rise of the
/// line, where cam and mains were probed before and after; go by go what a stroke of the hone took.
[[nodiscard]] std::vector<ForecastCame> forecasts_that_came(const block::JobState& state);

/// Counted by kind, by kind and gauge, by kind and person. An interval that held less often than it claims, and by more
/// than chance has it once in twenty (binomial), is to be stretched until it would have held: to the
/// ⌈0.95 (n + 1)⌉-th smallest miss, the largest where there are fewer (split conformal prediction: Vovk, Gammerman and
/// Shafer, Algorithmic Learning in a Random World, 2005, chapter 2). Before there are five nothing is concluded.
[[nodiscard]] std::vector<block::ForecastRecord> count_forecasts(const std::vector<ForecastCame>& came);

/// What the shop's other jobs teach one of this kind.
[[nodiscard]] block::Experience experience_from(const std::vector<BlockTraits>& of_kind,
                                                const std::vector<ForecastCame>& of_shop);

// ---- keeping forecasts --------------------------------------------------------------------------------------------

/// Whether a cut is the first since a deck was measured, and nobody has said yet what it is expected to take.
[[nodiscard]] bool keeps_deck_forecast(const block::JobState& state, const block::DeckCut& cut);
[[nodiscard]] block::DeckForecastKept kept_forecast(const DeckBelief& belief);
/// Whether a go with the hone is the first since caps were cut, or of its campaign.
[[nodiscard]] bool keeps_rise_forecast(const block::JobState& state, const block::TunnelPass& pass);
/// @param study explained
/// @return nothing where it forecasts no line
[[nodiscard]] std::optional<block::TunnelForecastKept> kept_forecast(const TunnelStudy& study);

} // namespace pallix::planning
