// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/forward.h"
#include "block/ledger.h"
#include "block/state/read_logs.h"

#include <vector>

namespace pallix::block {

/// @param entries in the order of their sequence
/// @param logs what earlier folds have read; what this one reads is added; may be null
[[nodiscard]] JobState fold(const std::vector<Entry>& entries, ReadLogs* logs = nullptr);

/// The state of a job with one more reading, as folding all its entries anew would make it: in a long job a reading
/// must not cost what all those before it have cost.
/// @param entry a Reading, the one after the last that `state` was made from
void fold_reading(JobState& state, const Entry& entry);

} // namespace pallix::block
