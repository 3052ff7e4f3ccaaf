// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/entries/route_entries.h"
#include "block/instrument.h"
#include "block/instrument_event.h"
#include "block/reading.h"

#include <optional>
#include <string>

namespace pallix::planning {

/// Why a gauge's zero is not to be trusted any more.
enum class ZeroDoubted {
    old,      ///< it was set too many hours ago
    warmed,   ///< the gauge is warmer or colder than it was then
    drifted,  ///< the last check since found it off
    repaired, ///< it was opened since
    taken,    ///< somebody at another bench set it last
};
struct ZeroDoubt {
    ZeroDoubted why{};
    double by = 0;     ///< h, °C, or mm too large
    std::string who{}; ///< that has it
    bool operator==(const ZeroDoubt&) const = default;
};
/// Of a gauge that reads from a zero and has one. What a check found counts where it is more than a step of the dial
/// and more than twice what the gauge is said to be uncertain by.
/// @param now UTC, ISO 8601
/// @param here who is at this bench, in a shop of several: a zero is in one hand at a time; empty: it is everybody's
[[nodiscard]] std::optional<ZeroDoubt>
doubt_zero(const block::Instrument& instrument, const block::Conditions& conditions, const std::string& now,
           const block::LimitsChosen& limits, const block::InstrumentHistory& history, const std::string& here = {});

/// What an instrument's history comes to. Lengths in mm; what was struck is left out, and what lies before a repair
/// tells of another instrument.
struct InstrumentRecord {
    std::string last_check; ///< day; empty where it never was
    std::string due;        ///< day by which it is to be checked again; empty where nobody asked for that
    bool overdue = false;
    std::size_t checks = 0;             ///< since it was last repaired
    std::optional<double> error;        ///< of the last check
    std::optional<double> usual_error;  ///< mean of those checks, from two on
    std::optional<double> error_spread; ///< their sample standard deviation
    std::optional<double> spread;       ///< of one reading, as last tested
    std::int64_t spread_of = 0;         ///< readings in that test
    std::string repaired;               ///< time of the last repair
};
/// @param today UTC, ISO 8601
[[nodiscard]] InstrumentRecord record_of(const block::Instrument& instrument, const block::InstrumentHistory& history,
                                         const std::string& today);

} // namespace pallix::planning
