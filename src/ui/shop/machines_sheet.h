// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "session/shop_model.h"
#include "ui/frame/line_drawing.h"

#include <vector>

namespace pallix::ui {

/// The machines of the shop that a job waits for: what is on each, what could go next, what shares a set-up. The id of
/// a line is its job's.
[[nodiscard]] std::vector<SheetLine> machines_sheet(const session::ShopModel& shop, block::Unit unit);

} // namespace pallix::ui
