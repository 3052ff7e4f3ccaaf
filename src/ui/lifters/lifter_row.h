// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/holes/section_row.h"

namespace pallix::ui {

/// The lifter bores of a bank, cut open: what becomes of each, its seat, its bush, its inside, and below how its valve
/// is timed.
[[nodiscard]] SectionRow* lifter_row(Context context, QWidget* parent);

} // namespace pallix::ui
