// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/state/intake_state.h"
#include "block/state/readings_state.h"
#include "block/state/tunnel_state.h"

#include <algorithm>
#include <cstdint>
#include <limits>
#include <numbers>
#include <optional>
#include <string>
#include <tuple>
#include <vector>

namespace pallix::planning {

// What the files about the main tunnel have in common.

inline const block::MainBlueprint& meant(const block::JobState& state, const block::FeatureId& id) {
    return *std::ranges::find(intake_of(state).blueprint->mains, id, &block::MainBlueprint::id);
}

inline double target_of(const block::MainBlueprint& main, const block::TunnelPolicy& policy) {
    return policy.target_diameter.value_or(main.diameter.middle());
}

/// Angle of a size's direction from upright, rad.
inline std::optional<double> angle_of(const std::string& direction) {
    if (direction == "upright")
        return 0.0;
    if (direction == "60 left")
        return -std::numbers::pi / 3;
    return direction == "60 right" ? std::optional(std::numbers::pi / 3) : std::nullopt;
}

/// Read with the caps torqued, for all that was said, and nothing changed since.
inline bool counts(const block::MeasuredPlace& place) {
    return !place.stale() && place.conditions.caps_torqued != false;
}

/// The newest size of each place of the mains, from the first main's front on, whether or not it still holds.
/// @param before entry that a reading must be older than
inline std::vector<const block::TakenReading*>
last_sizes(const block::JobState& state, std::int64_t before = std::numeric_limits<std::int64_t>::max()) {
    const auto place_of = [](const block::TakenReading* r) {
        return std::tie(r->reading.at.feature, r->reading.at.level, r->reading.at.direction);
    };
    std::vector<const block::TakenReading*> last;
    for (const block::TakenReading& r : readings_of(state).readings) {
        if (r.reading.at.feature.kind != block::FeatureKind::main || r.reading.at.quantity != block::Quantity::size ||
            r.sequence >= before)
            continue;
        const auto known = std::ranges::lower_bound(last, place_of(&r), {}, place_of);
        if (known != last.end() && place_of(*known) == place_of(&r))
            *known = &r;
        else
            last.insert(known, &r);
    }
    return last;
}

} // namespace pallix::planning
