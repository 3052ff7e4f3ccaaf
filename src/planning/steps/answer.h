// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/fault.h"
#include "block/forward.h"
#include "block/ledger.h"
#include "block/units.h"
#include "planning/steps/step.h"

#include "metrology/geometry.h"

#include <map>
#include <optional>
#include <string>
#include <tl/expected.hpp>
#include <variant>
#include <vector>

namespace pallix::planning {

struct Assessment;

/// What a person answers, by the keys of the step's asks: a length in mm or a count, a tick, words or the key of a
/// choice, or places drawn on a deck, (u, v) mm.
using Answers = std::map<std::string, std::variant<double, bool, std::string, std::vector<metrology::Vec2>>>;

/// The answers a step proposes; an ask without a proposal is left out.
[[nodiscard]] Answers proposed(const Step& step);
/// Reads what was typed for a length or a count: shorthand where a size is proposed.
/// @return nothing where it was left empty and need not be stated; why it cannot be read
[[nodiscard]] tl::expected<std::optional<double>, std::string> read_ask(const Ask& ask, const std::string& typed,
                                                                        block::Unit bench);

/// The entries that an answer makes. Readings and files have their own ways into the ledger.
/// @param at UTC, the time of answering
/// @return faults that name the ask, or what the step waits for
[[nodiscard]] block::Result<std::vector<block::Payload>> answer(const block::JobState& state,
                                                                const Assessment& assessment, const Step& step,
                                                                const Answers& answers, const std::string& at);

/// The time some minutes later.
/// @param at UTC, ISO 8601; else Refused is thrown
[[nodiscard]] std::string later(const std::string& at, double minutes);
/// A rest of so many minutes from a time on.
/// @param at UTC, ISO 8601
[[nodiscard]] block::RestBegun rest_begun(const std::string& at, double minutes);

} // namespace pallix::planning
