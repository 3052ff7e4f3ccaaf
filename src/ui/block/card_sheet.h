// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "session/wall_time.h"
#include "ui/context.h"
#include "ui/frame/line_drawing.h"

#include <vector>

namespace pallix::ui {

/// The job card of the open job, line by line: what is known of it, what is waited for, what was looked over, pictures.
/// The id of a line is the step that fills it.
[[nodiscard]] std::vector<SheetLine> card_sheet(const Context& context);

} // namespace pallix::ui
