// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/entries/route_entries.h"
#include "block/ledger.h"
#include "planning/steps/step.h"

#include <array>
#include <map>
#include <optional>
#include <string>
#include <vector>

namespace pallix::planning {

/// Kinds of work that an entry stands for, for how long they take.
enum class Work {
    wash,
    look_over,
    probe,
    read,
    caps,
    line_hone,
    line_bore,
    set_up,
    deck_pass,
    head_pass,
    bore,
    sleeve,
    hone,
    dress,
    lifter,
    bush,
    decide,
    hand_over
};
inline constexpr std::array work_keys{"wash",      "look_over", "probe",     "read",      "caps",   "line_hone",
                                      "line_bore", "set_up",    "deck_pass", "head_pass", "bore",   "sleeve",
                                      "hone",      "dress",     "lifter",    "bush",      "decide", "hand_over"};

/// @return nothing where the entry is no work: a note, a line of the job card
[[nodiscard]] std::optional<Work> work_of(const block::Payload& payload);
/// The step's kind of work; nothing where it is none.
[[nodiscard]] std::optional<Work> work_of(const Step& step);
/// How long it takes where nothing else is known, minutes. Common practice, from memory.
[[nodiscard]] double usual_minutes(Work work);

/// A piece of work with the time it took.
struct WorkTime {
    Work work{};
    block::Stage stage{};
    double minutes = 0; ///< from the entry before it to its own
    std::string person;
};

/// What took how long, by the times of the ledger. Entries of one time are one piece of work. A gap far longer than the
/// work usually takes was a pause, and says nothing: it is left out.
[[nodiscard]] std::vector<WorkTime> work_times(const std::vector<block::Entry>& entries);

/// How long one kind of work took one person on a job.
struct WorkDone {
    Work work{};
    std::string person;
    int times = 0;
    double minutes = 0; ///< median of one
    bool operator==(const WorkDone&) const = default;
};

/// A job's hours, stage by stage.
struct JobHours {
    std::string engine;
    bool delivered = false;
    std::map<block::Stage, double> minutes; ///< spent
    std::vector<WorkDone> done;
};
[[nodiscard]] JobHours job_hours(const std::vector<block::Entry>& entries, const std::string& engine, bool delivered);

/// The middle one; of an even number the mean of the two in the middle. @param values not empty
[[nodiscard]] double median(std::vector<double> values);

/// What a piece of work takes in this shop.
struct UsualTime {
    double minutes = 0;
    int jobs = 0; ///< of the shop's own that it rests on; 0: the usual time
};
inline constexpr int enough_jobs = 5; ///< before there are so many, usual times hold
/// Minutes that somebody of the shop has typed for a kind of work, where its own jobs are too few.
using TypedTimes = std::map<Work, double>;
/// The median over the shop's own jobs: of that person on that engine where they are enough, else on that engine, else
/// of that person, else of all; else what was typed, else the usual time.
[[nodiscard]] UsualTime usual_time(const std::vector<JobHours>& shop, Work work, const std::string& engine,
                                   const std::string& person = {}, const TypedTimes& typed = {});

/// What is left of a job.
struct HoursLeft {
    double minutes = 0;                ///< as likely more as less
    std::optional<double> least, most; ///< nothing where too few jobs are known
    double holds = 0;                  ///< in how many of such cases it lies between them, as a share
    int jobs = 0;                      ///< of the shop's own that it rests on
    bool same_engine = false;
};
/// What is left, from what the same stages took in jobs that were delivered: each of them is a case of what may come. A
/// stage that is begun has what such a job had beyond what is spent already. With n cases, the k-th least and the k-th
/// most enclose the next one with 1 − 2k/(n + 1), whatever their distribution (order statistics, exchangeable jobs).
/// @param left stages that ask for something yet, with what is spent on each, minutes
/// @param listed what the steps that are listed take by usual times, minutes: where too few jobs are known
[[nodiscard]] HoursLeft hours_left(const std::vector<JobHours>& shop, const std::string& engine,
                                   const std::map<block::Stage, double>& left, double listed);

/// Whether a promised day will be kept.
struct Promise {
    std::string ready; ///< the day it will be ready at this rate
    bool kept = false;
};
/// @param minutes_a_day what the shop gets done on a job in a day
/// @return nothing where no day was promised or the rate is not known
[[nodiscard]] std::optional<Promise> promise(const std::string& promised, double minutes_left, double minutes_a_day,
                                             const std::string& today);

} // namespace pallix::planning
