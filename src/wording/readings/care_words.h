// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/instrument_event.h"
#include "planning/readings/gauge_study_plan.h"
#include "planning/shop/instrument_care.h"
#include "wording/common/lengths.h"

#include <string>

namespace pallix::wording {

/// "Its zero was set 9 hours ago": why a gauge should be zeroed again.
[[nodiscard]] std::string zero_doubt_words(const planning::ZeroDoubt& doubt, const LengthText& l);

/// A line of an instrument's history: "checked on 73.990 mm: 0.002 mm too much".
[[nodiscard]] std::string event_words(const block::InstrumentEvent& event, const LengthText& l);

/// What its history comes to, in one or two sentences.
[[nodiscard]] std::string record_sentence(const planning::InstrumentRecord& record, const LengthText& l);
/// "check due 2026-03-20", "check overdue since 2026-03-20"; empty where none was asked for.
[[nodiscard]] std::string due_words(const planning::InstrumentRecord& record);

/// What a gauge study found, or how far it has come.
[[nodiscard]] std::string study_sentence(const planning::StudyStanding& standing, const LengthText& l);

} // namespace pallix::wording
