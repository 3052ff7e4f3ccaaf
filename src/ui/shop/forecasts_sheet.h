// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "session/shop_model.h"
#include "ui/frame/line_drawing.h"

#include <vector>

namespace pallix::ui {

/// How often what was foretold held, by kind, by gauge and by whose readings it was.
[[nodiscard]] std::vector<SheetLine> forecasts_sheet(const session::ShopModel& shop);

} // namespace pallix::ui
