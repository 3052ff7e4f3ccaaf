// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/forward.h"
#include "block/ledger.h"
#include "planning/shop/work_times.h"
#include "planning/steps/step.h"

#include <map>
#include <optional>
#include <string>
#include <vector>

namespace pallix::planning {

struct Assessment;

/// What a job waits for, as the shop sees it; in the order of the board.
enum class WaitsFor {
    part,     ///< that has not come
    person,   ///< somebody is waited for
    decision, ///< a choice that is somebody's
    machine,  ///< the called step is done on one
    ready,    ///< at the bench or the desk: a reading, a figure
    time,     ///< a clock runs
    delivered,
    practice, ///< nobody waits for it
};
inline constexpr std::array waits_for_keys{"part",  "person", "decision",  "machine",
                                           "ready", "time",   "delivered", "practice"};
/// Whether it is work of the shop that is not done yet.
[[nodiscard]] constexpr bool is_at_work(WaitsFor waits) {
    return waits != WaitsFor::delivered && waits != WaitsFor::practice;
}

/// A job that is practice, and how it ended.
struct Practised {
    std::string exercise;
    std::int64_t number = 1, level = 1;
    std::optional<double> score; ///< 0 to 100; nothing until the truth was opened
    std::string person, day;     ///< who opened it, and when
};

/// A clock that runs with a job.
struct RunningClock {
    std::string what;
    std::string until; ///< UTC
};

/// Where a job stands, as the board has it: what the shop has to know without opening the job.
struct JobStanding {
    WaitsFor waits = WaitsFor::ready;
    std::string step; ///< id of what is called, or of what waits first
    Machine machine = Machine::desk;
    /// What must be set up for it: machine, how the block lies, and the angle between its banks; jobs that have it in
    /// common can follow one another without setting up anew.
    std::string fixture;
    std::string part, due, person; ///< of what is waited for; the part that is due first
    std::vector<RunningClock> clocks;
    std::string promised, delivered;      ///< days
    std::map<block::Stage, double> left;  ///< stages that ask for something yet, with minutes spent on each
    std::map<Work, int> open;             ///< work that the steps listed now ask for, how often
    double spent = 0;                     ///< minutes, by the ledger
    Machine last_machine = Machine::desk; ///< where metal was cut last
    std::string last_time;                ///< of the newest entry, UTC
    std::optional<Practised> practised;
    std::string words; ///< all that it can be searched by, in small letters
};

/// @param at UTC
[[nodiscard]] JobStanding standing_of(const block::JobState& state, const Assessment& assessment,
                                      const std::vector<block::Entry>& entries, const std::string& at);

/// A machine of the shop with the jobs whose called step is done on it, as indices.
struct MachineRow {
    Machine machine{};
    std::optional<std::size_t> on;   ///< what was cut on it last, and is to be again
    std::vector<std::size_t> next{}; ///< what could go on it: first what needs no other set-up, then by promised day
    std::vector<std::vector<std::size_t>> shared{}; ///< two and more of them that need the same set-up
};
/// Machines that a job waits for, in the order of the work. @param jobs where each stands
[[nodiscard]] std::vector<MachineRow> machine_rows(const std::vector<JobStanding>& jobs);

/// The part that is due first, of those that have not come; null where none is waited for.
[[nodiscard]] const block::PartNoted* part_due_first(const block::JobState& state);

} // namespace pallix::planning
