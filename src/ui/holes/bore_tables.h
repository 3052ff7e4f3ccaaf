// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "ui/frame/drawn_page.h"

#include <string>

namespace pallix::ui {

// What the drawings of cylinders and lifters show, as tables.

[[nodiscard]] TwinTable size_table(const Context& context);
[[nodiscard]] TwinTable boring_table(const Context& context);
[[nodiscard]] TwinTable hone_table(const Context& context);
[[nodiscard]] TwinTable sleeve_table(const Context& context);
[[nodiscard]] TwinTable lifter_table(const Context& context, const std::string& bank);

} // namespace pallix::ui
