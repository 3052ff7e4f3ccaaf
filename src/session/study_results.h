// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/instrument_event.h"
#include "planning/readings/gauge_study_plan.h"
#include "storage/shop_book.h"

#include <optional>

namespace pallix::session {

/// A gauge study as its job's ledger has it.
/// @param event of an instrument's history
/// @return nothing where it is none, or the job cannot be read
[[nodiscard]] std::optional<planning::StudyStanding> study_result(const storage::ShopBook& book,
                                                                  const block::InstrumentEvent& event);

} // namespace pallix::session
