// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/context.h"
#include "ui/frame/line_drawing.h"

#include <vector>

namespace pallix::ui {

/// The job card of the open job, line by line: what is known of it, what is waited for, what was looked over, pictures.
/// The id of a line is the step that fills it.
[[nodiscard]] std::vector<SheetLine> card_sheet(const Context& context);

/// A time of the ledger as the clock on the wall has it: "14:05", with its day where that is not today.
[[nodiscard]] QString wall_time(const std::string& utc);
/// A day as the person's locale writes it.
[[nodiscard]] QString day_words(const std::string& day);

} // namespace pallix::ui
