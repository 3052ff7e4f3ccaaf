// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/fault.h"
#include "block/forward.h"
#include "block/ledger.h"
#include "planning/steps/step.h"

#include <map>
#include <string>
#include <variant>
#include <vector>

namespace pallix::planning {

struct Assessment;

/// What a person answers, by the keys of the step's asks: a length in mm or a count, a tick, or words.
using Answers = std::map<std::string, std::variant<double, bool, std::string>>;

/// The answers a step proposes; an ask without a proposal is left out.
[[nodiscard]] Answers proposed(const Step& step);
/// Whether one key answers it: nothing but ticks, and no metal comes off.
[[nodiscard]] bool answers_itself(const Step& step);

/// The entries that an answer makes. Readings and files have their own ways into the ledger.
/// @param at UTC, the time of answering
/// @return faults that name the ask, or what the step waits for
[[nodiscard]] block::Result<std::vector<block::Payload>> answer(const block::JobState& state,
                                                                const Assessment& assessment, const Step& step,
                                                                const Answers& answers, const std::string& at);

/// A rest of so many minutes from a time on.
/// @param at UTC, ISO 8601
[[nodiscard]] block::RestBegun rest_begun(const std::string& at, double minutes);

} // namespace pallix::planning
