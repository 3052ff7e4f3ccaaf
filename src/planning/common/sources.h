// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/feature.h"
#include "block/forward.h"

#include <cstdint>
#include <vector>

namespace pallix::planning {

/// Entries of the ledger that a bore's numbers come from, in order: readings, logs that touched it, cuts, decisions.
[[nodiscard]] std::vector<std::int64_t> sources_of(const block::JobState& state, const block::FeatureId& id);

} // namespace pallix::planning
