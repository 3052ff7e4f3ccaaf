// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

// Internal to the block library: entries about cylinders and lifters as JSON. Readers throw Json::exception on what
// cannot be.

#include "block/cylinder_entries.h"
#include "block/ledger_json.h"

namespace pallix::block {

[[nodiscard]] Json to_json(const CylinderPlanChosen& p);
[[nodiscard]] CylinderPlanChosen cylinder_plan_from(const Json& j);
[[nodiscard]] Json to_json(const BorePitted& p);
[[nodiscard]] BorePitted pit_from(const Json& j);
[[nodiscard]] Json to_json(const BoreDecided& p);
[[nodiscard]] BoreDecided bore_decision_from(const Json& j);
[[nodiscard]] Json to_json(const PistonsStated& p);
[[nodiscard]] PistonsStated pistons_from(const Json& j);
[[nodiscard]] Json to_json(const BoreCut& p);
[[nodiscard]] BoreCut bore_cut_from(const Json& j);
[[nodiscard]] Json to_json(const InsertMeasured& p);
[[nodiscard]] InsertMeasured insert_from(const Json& j);
[[nodiscard]] Json to_json(const InsertFitted& p);
[[nodiscard]] InsertFitted fitted_from(const Json& j);
[[nodiscard]] Json to_json(const BoreStepDone& p);
[[nodiscard]] BoreStepDone bore_step_from(const Json& j);
[[nodiscard]] Json to_json(const HonePlanChosen& p);
[[nodiscard]] HonePlanChosen hone_plan_from(const Json& j);
[[nodiscard]] Json to_json(const RestBegun& p);
[[nodiscard]] RestBegun rest_from(const Json& j);
[[nodiscard]] Json to_json(const TraceTaken& p);
[[nodiscard]] TraceTaken trace_from(const Json& j);
[[nodiscard]] Json to_json(const TextureLimits& p);
[[nodiscard]] TextureLimits texture_limits_from(const Json& j);
[[nodiscard]] Json to_json(const LifterPlanChosen& p);
[[nodiscard]] LifterPlanChosen lifter_plan_from(const Json& j);
[[nodiscard]] Json to_json(const LifterDecided& p);
[[nodiscard]] LifterDecided lifter_decision_from(const Json& j);

} // namespace pallix::block
