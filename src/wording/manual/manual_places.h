// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/entries/route_entries.h"
#include "block/shorthand.h"
#include "planning/common/blueprint_check.h"
#include "planning/practice/coach.h"
#include "planning/readings/second_look.h"
#include "planning/shop/instrument_care.h"
#include "planning/steps/step.h"

#include <string>

namespace pallix::wording {

// Where the manual speaks of what the program may ask, hold back or doubt: ids of its sections.

[[nodiscard]] std::string manual_place(planning::Task task);
[[nodiscard]] std::string manual_place(planning::StepKind kind);
[[nodiscard]] std::string manual_place(block::Rule rule);
[[nodiscard]] std::string manual_place(planning::SecondLook why);
[[nodiscard]] std::string manual_place(block::Suspicion why);
[[nodiscard]] std::string manual_place(planning::ZeroDoubted why);
[[nodiscard]] std::string manual_place(planning::BlueprintDoubtKind doubt);
[[nodiscard]] std::string manual_place(planning::RemarkKind remark);

} // namespace pallix::wording
