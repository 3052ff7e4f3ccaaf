// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/fault.h"
#include "block/job_state.h"

#include <optional>

namespace pallix::session {

// Why an entry about cylinders or lifters cannot be: the place and what was expected; nothing where it can.

using MaybeFault = std::optional<block::Fault>;

[[nodiscard]] MaybeFault fault_of(const block::JobState& state, const block::CylinderPlanChosen& p);
[[nodiscard]] MaybeFault fault_of(const block::JobState& state, const block::BorePitted& p);
[[nodiscard]] MaybeFault fault_of(const block::JobState& state, const block::BoreDecided& p);
[[nodiscard]] MaybeFault fault_of(const block::JobState& state, const block::PistonsStated& p);
[[nodiscard]] MaybeFault fault_of(const block::JobState& state, const block::BoreCut& p);
[[nodiscard]] MaybeFault fault_of(const block::JobState& state, const block::InsertMeasured& p);
[[nodiscard]] MaybeFault fault_of(const block::JobState& state, const block::InsertFitted& p);
[[nodiscard]] MaybeFault fault_of(const block::JobState& state, const block::BoreStepDone& p);
[[nodiscard]] MaybeFault fault_of(const block::JobState& state, const block::HonePlanChosen& p);
[[nodiscard]] MaybeFault fault_of(const block::JobState& state, const block::RestBegun& p);
[[nodiscard]] MaybeFault fault_of(const block::JobState& state, const block::TextureLimits& p);
[[nodiscard]] MaybeFault fault_of(const block::JobState& state, const block::LifterPlanChosen& p);
[[nodiscard]] MaybeFault fault_of(const block::JobState& state, const block::LifterDecided& p);

} // namespace pallix::session
