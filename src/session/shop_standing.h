// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/shop/forecasts.h"
#include "session/shop_model.h"

#include <QString>
#include <vector>

namespace pallix::session {

/// A row as the book remembers it, and back. What is remembered can be thrown away at any time.
[[nodiscard]] QString remembered(const ShopModel::Row& row);
[[nodiscard]] ShopModel::Row recalled(const storage::JobRow& job);

/// What was foretold and what came, short enough to be remembered with every job of a long list; and back.
[[nodiscard]] QString forecasts_text(const std::vector<planning::ForecastCame>& all);
[[nodiscard]] std::vector<planning::ForecastCame> forecasts_in(const QString& text);

} // namespace pallix::session
