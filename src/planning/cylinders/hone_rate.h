// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/feature.h"
#include "block/forward.h"

#include <map>
#include <optional>
#include <string>
#include <vector>

namespace pallix::planning {

/// What a grit takes at the load it is used with, as the goes of this job have shown.
struct HoneRate {
    double per_stroke = 0;              ///< mm on diameter
    double load = 0;                    ///< % of the meter, mean of the goes that stated it; 0 where none did
    std::vector<block::FeatureId> from; ///< bores it was seen in
    int strokes = 0;                    ///< in all
};
/// By grit. A go counts where the bore was measured before it and after it, and opened by more than its readings may
/// be off.
[[nodiscard]] std::map<std::string, HoneRate> hone_rates(const block::JobState& state);

/// Mean size of a bore after its last go, where it was measured before it: by what its grit takes.
[[nodiscard]] std::optional<double> size_by_rate(const block::JobState& state, const block::FeatureId& bore,
                                                 const std::map<std::string, HoneRate>& rates);

/// Strokes that take so much: a twentieth more than the rate says, so that no second go is needed for the last needle's
/// width; four fifths of it as long as one bore alone has shown it (common practice, no source). A load that is stated
/// now and was stated then goes into it in proportion.
/// @param stock mm on diameter
[[nodiscard]] std::optional<double> strokes_for(const HoneRate& rate, double stock, std::optional<double> load = {});

} // namespace pallix::planning
