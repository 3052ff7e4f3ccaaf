// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/forward.h"
#include "block/touch_outliers.h"
#include "planning/steps/step.h"

#include <optional>
#include <string>

namespace pallix::planning {

struct Assessment;

/// The one list of what is to be done on a block, as a pure function of its state: nothing else in the program decides
/// what comes next.
/// @param at UTC, ISO 8601: rests hang on it
[[nodiscard]] StepList steps_of(const block::JobState& state, const Assessment& assessment, const std::string& at);

/// Whether a person went on against a rule with a reason.
/// @param about a feature or stage; a gate passed without one holds for all
/// @param since entry that the decision must be newer than: what was not yet known then was not decided on
[[nodiscard]] bool gate_passed(const block::JobState& state, block::Rule rule, const std::string& about,
                               std::int64_t since = 0);

/// How ticks with a meaning are written into the ledger.
[[nodiscard]] std::string datum_confirmed(const std::string& bank);
[[nodiscard]] std::string looked_why_dark(const std::string& bank);
/// Of a section, that a touch of it which stands out is so; what somebody saw there follows.
[[nodiscard]] std::string touch_is_so(const block::TouchStandingOut& touch);
/// The touch that a step of that kind asks about; null where it is none.
[[nodiscard]] const block::TouchStandingOut* touch_of(const Assessment& assessment, const Step& step);
/// "chamfer_top" of "chamfer, top": a part of an id.
[[nodiscard]] std::string id_part(std::string words);

/// The tunnel meets as it now is, or somebody answers for it: a gate passed for a stage, or a scope without it.
[[nodiscard]] bool tunnel_stands(const block::JobState& state, const Assessment& assessment, block::Stage stage);

/// How far a sleeve stands proud where a deck has not had its pass since; nothing where none does.
[[nodiscard]] std::optional<double> flush_due(const block::JobState& state, const std::string& bank);

/// The stages in the order of a preset; `received` first and `passport` last in all of them.
[[nodiscard]] std::vector<block::Stage> order_of(block::RoutePreset preset);
/// The order that holds for a job.
[[nodiscard]] std::vector<block::Stage> route_of(const block::JobState& state);
/// Whether a stage is to ask for anything. Without a scope: what the job holds says it.
[[nodiscard]] bool wanted(const block::JobState& state, block::Stage stage);

} // namespace pallix::planning
