// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/tunnel_plan.h"
#include "wording/lengths.h"

#include <string>
#include <vector>

namespace pallix::wording {

/// "1 o'clock", as seen from the rear; 12 towards the cam.
[[nodiscard]] std::string clock_words(double clock);
/// "main 3's saddle at 1 o'clock"
[[nodiscard]] std::string binding_words(const planning::BindingPoint& point);
[[nodiscard]] std::string limit_name(planning::TunnelLimit limit);

/// What to cut, what it does to the line, and why: which places set it.
[[nodiscard]] std::vector<std::string> tunnel_plan_sentences(const planning::TunnelPlan& plan,
                                                             const LengthText& lengths);
/// That a later measurement will read turned.
[[nodiscard]] std::string roll_sentence(double roll);

} // namespace pallix::wording
