// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/frame/drawn_page.h"

#include <string>

namespace pallix::ui {

/// How one deck lies, what it was held against, what was taken off it: a line for each.
[[nodiscard]] TwinTable deck_facts(const Context& context, const std::string& bank_id);

} // namespace pallix::ui
