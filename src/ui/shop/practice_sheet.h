// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "session/shop_model.h"
#include "ui/frame/line_drawing.h"
#include "workshop/practice/exercise.h"

#include <string>
#include <vector>

namespace pallix::ui {

/// The exercises, each with how far somebody has come in it, and what was practised so far.
/// @param person whose scores count
[[nodiscard]] std::vector<SheetLine> practice_sheet(const session::ShopModel& shop, const std::string& person);

/// The level that somebody takes a theme at next: one further once it went well.
[[nodiscard]] int level_for(const session::ShopModel& shop, const std::string& person, workshop::Theme theme);

} // namespace pallix::ui
