// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/entries/memory_entries.h"
#include "planning/shop/forecasts.h"
#include "session/shop_model.h"

#include <string>
#include <vector>

namespace pallix::session {

/// What every job of the shop foretold, held against what came.
[[nodiscard]] std::vector<planning::ForecastCame> forecasts_of_shop(const ShopModel& shop);

/// What the shop's jobs teach one that is about to begin: how blocks of the kind come, how often forecasts held.
[[nodiscard]] block::Experience experience_of_shop(storage::ShopBook& book, const Preferences& preferences,
                                                   const Session::Clock& clock, const std::string& engine);

} // namespace pallix::session
