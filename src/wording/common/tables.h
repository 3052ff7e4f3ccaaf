// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/evaluation.h"
#include "planning/common/correction_plan.h"
#include "wording/common/lengths.h"

#include <string>

namespace pallix::wording {

/// The evaluation as tables to read in a terminal (`pallix-cli evaluate --format text`).
[[nodiscard]] std::string evaluation_table(const block::Blueprint& blueprint, const block::Evaluation& evaluation,
                                           const LengthText& lengths);

/// The correction plan as tables (`pallix-cli plan --format text`).
[[nodiscard]] std::string plan_table(const block::Blueprint& blueprint, const planning::CorrectionPlan& plan,
                                     const LengthText& lengths);

} // namespace pallix::wording
