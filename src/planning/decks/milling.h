// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/entries/deck_entries.h"
#include "planning/decks/pass_plan.h"

#include <optional>

namespace pallix::planning {

/// What to set a milling machine to, and what to expect of it.
struct MillingData {
    double rpm = 0;
    double feed_rate = 0;    ///< mm/min
    double feed_per_rev = 0; ///< mm
    double rt = 0;           ///< mm, theoretical height of the feed marks of one tooth
    double ra = 0;           ///< mm, their mean
    double minutes = 0;      ///< for one pass over the length
};
/// n = 1000·v/(π·D); Rt ≈ f²/(8r), Ra ≈ f²/(18√3·r) with f the feed that one nose leaves behind: per tooth when all
/// teeth run true, per revolution when one stands proud (the worse, taken here). Time = (length + cutter)/feed rate.
/// @param speed m/min; @param feed mm per tooth; @param length mm of deck
[[nodiscard]] MillingData milling_data(const block::CutterFitted& cutter, double speed, double feed, double length);

/// For a pass of this kind: the finishing cut and spring passes run faster and feed slower.
[[nodiscard]] MillingData milling_for(const block::CutterFitted& cutter, block::PassKind kind, double length);

/// Ra that suits a head gasket (common practice, no source; the gasket's sheet goes before it), mm.
[[nodiscard]] double usual_ra(block::GasketKind gasket);

} // namespace pallix::planning
