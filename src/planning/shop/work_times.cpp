// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/shop/work_times.h"

#include "block/times.h"

#include <algorithm>
#include <chrono>
#include <cmath>

namespace pallix::planning {
namespace {

using namespace block;

/// What kind of work an entry stands for.
struct WorkOf {
    using Is = std::optional<Work>;
    Is operator()(const Reading&) const { return Work::read; }
    Is operator()(const ProbeLogTaken&) const { return Work::probe; }
    Is operator()(const CapsCut&) const { return Work::caps; }
    Is operator()(const TunnelPass& p) const {
        return p.kind == TunnelPassKind::strokes ? Work::line_hone : Work::line_bore;
    }
    Is operator()(const MainMarked&) const { return Work::line_bore; }
    Is operator()(const SetUpRead&) const { return Work::set_up; }
    Is operator()(const DeckCut& p) const { return p.head ? Work::head_pass : Work::deck_pass; }
    Is operator()(const BoreCut& p) const {
        return p.bore.kind == FeatureKind::lifter   ? Work::lifter
               : p.operation == BoreOperation::hone ? Work::hone
                                                    : Work::bore;
    }
    Is operator()(const InsertFitted& p) const {
        return p.bore.kind == FeatureKind::lifter ? Work::bush : Work::sleeve;
    }
    Is operator()(const BoreStepDone&) const { return Work::dress; }
    Is operator()(const Inspected&) const { return Work::look_over; }
    Is operator()(const PressureTested&) const { return Work::look_over; }
    Is operator()(const FlawDecided&) const { return Work::decide; }
    Is operator()(const BoreDecided&) const { return Work::decide; }
    Is operator()(const LifterDecided&) const { return Work::decide; }
    Is operator()(const GatePassed&) const { return Work::decide; }
    Is operator()(const Delivered&) const { return Work::hand_over; }
    Is operator()(const StepDone& p) const {
        if (p.step.starts_with("washed"))
            return Work::wash;
        if (p.step.starts_with("inspected"))
            return Work::look_over;
        return p.step.starts_with("block levelled") ? Is(Work::set_up) : std::nullopt;
    }
    template <class Other>
    Is operator()(const Other&) const {
        return std::nullopt;
    }
};

Stage stage_of_reading(const Reading& reading) {
    switch (reading.at.feature.kind) {
    case FeatureKind::main:
        return Stage::tunnel;
    case FeatureKind::deck:
        return Stage::decks;
    case FeatureKind::bore:
        return reading.at.quantity == Quantity::piston ? Stage::mock_up : Stage::cylinders;
    case FeatureKind::lifter:
        return Stage::lifters;
    default:
        return Stage::as_found;
    }
}

Stage stage_of_work(Work work, const Payload& payload) {
    switch (work) {
    case Work::wash:
    case Work::look_over:
        return Stage::cleaned;
    case Work::read:
        if (const auto* reading = std::get_if<Reading>(&payload))
            return stage_of_reading(*reading);
        return Stage::as_found;
    case Work::caps:
    case Work::line_hone:
    case Work::line_bore:
        return Stage::tunnel;
    case Work::set_up:
    case Work::deck_pass:
    case Work::head_pass:
        return Stage::decks;
    case Work::bore:
    case Work::sleeve:
    case Work::hone:
    case Work::dress:
        return Stage::cylinders;
    case Work::lifter:
    case Work::bush:
        return Stage::lifters;
    case Work::hand_over:
        return Stage::passport;
    case Work::probe:
    case Work::decide:
        break;
    }
    return Stage::as_found;
}

/// A gap longer than this was a pause (common practice, no source).
double longest_gap(Work work) {
    constexpr double shortest_pause = 45, times = 4;
    return std::max(shortest_pause, times * usual_minutes(work));
}

double minutes_between(const std::string& from, const std::string& to) {
    const auto a = read_time(from), b = read_time(to);
    return a && b ? std::chrono::duration<double, std::ratio<60>>(*b - *a).count() : 0;
}

} // namespace

std::optional<Work> work_of(const Payload& payload) {
    return std::visit(WorkOf(), static_cast<const PayloadKinds&>(payload));
}

std::optional<Work> work_of(const Step& step) {
    using enum Task;
    switch (step.task) {
    case wash:
        return Work::wash;
    case inspect:
    case test_pressure:
    case inspect_one:
        return Work::look_over;
    case take_log:
    case probe:
    case prove_lifters:
        return Work::probe;
    case read:
    case settle:
    case feel:
    case read_ring:
    case measure_insert:
        return Work::read;
    case torque_caps:
    case cut_caps:
        return Work::caps;
    case hone_tunnel:
        return Work::line_hone;
    case bore_tunnel:
    case mark_main:
    case move_bar:
        return Work::line_bore;
    case confirm_datum:
    case level:
    case level_head:
    case ease_clamp:
        return Work::set_up;
    case cut_deck:
    case flush_deck:
        return Work::deck_pass;
    case cut_head:
        return Work::head_pass;
    case bore:
    case judge_trial:
        return Work::bore;
    case press:
        return Work::sleeve;
    case hone_bore:
        return Work::hone;
    case dress:
        return Work::dress;
    case cut_lifter:
        return Work::lifter;
    case press_bush:
        return Work::bush;
    case hand_over:
        return Work::hand_over;
    default:
        return step.kind == StepKind::decide ? std::optional(Work::decide) : std::nullopt;
    }
}

double usual_minutes(Work work) {
    constexpr std::array<double, work_keys.size()> minutes{45, 30, 20, 1,  40, 10, 20, 10, 12,
                                                           12, 15, 20, 10, 3,  6,  5,  5,  15};
    return minutes[static_cast<std::size_t>(work)];
}

std::vector<WorkTime> work_times(const std::vector<Entry>& entries) {
    std::vector<WorkTime> all;
    for (std::size_t i = 1; i < entries.size(); ++i) {
        const Entry &before = entries[i - 1], &entry = entries[i];
        const auto work = work_of(entry.payload);
        const double minutes = minutes_between(before.time, entry.time);
        if (work && minutes > 0 && minutes <= longest_gap(*work))
            all.push_back({*work, stage_of_work(*work, entry.payload), minutes, entry.person});
    }
    return all;
}

JobHours job_hours(const std::vector<Entry>& entries, const std::string& engine, bool delivered) {
    JobHours hours{engine, delivered, {}, {}};
    std::map<std::pair<Work, std::string>, std::vector<double>> each;
    for (const WorkTime& t : work_times(entries)) {
        hours.minutes[t.stage] += t.minutes;
        each[{t.work, t.person}].push_back(t.minutes);
    }
    for (auto& [what, minutes] : each) {
        const int times = static_cast<int>(minutes.size());
        hours.done.push_back({what.first, what.second, times, median(std::move(minutes))});
    }
    return hours;
}

double median(std::vector<double> values) {
    std::ranges::sort(values);
    const std::size_t half = values.size() / 2;
    return values.size() % 2 == 1 ? values[half] : (values[half - 1] + values[half]) / 2;
}

UsualTime usual_time(const std::vector<JobHours>& shop, Work work, const std::string& engine, const std::string& person,
                     const TypedTimes& typed) {
    std::array<std::vector<double>, 4> known; // that person on that engine, that engine, that person, all
    for (const JobHours& job : shop)
        for (const WorkDone& done : job.done) {
            if (done.work != work)
                continue;
            const bool same = job.engine == engine, theirs = done.person == person;
            for (const auto& [fits, values] :
                 {std::pair(same && theirs, &known[0]), {same, &known[1]}, {theirs, &known[2]}, {true, &known[3]}})
                if (fits)
                    values->push_back(done.minutes);
        }
    for (std::vector<double>& values : known)
        if (values.size() >= enough_jobs) {
            const int jobs = static_cast<int>(values.size());
            return {median(std::move(values)), jobs};
        }
    const auto own = typed.find(work);
    return {own == typed.end() ? usual_minutes(work) : own->second, 0};
}

namespace {

/// Whether a job went through the same stages: one that did not says nothing of how long they take. The hand-over and
/// what is looked at beside the metal is in every job.
bool did(const JobHours& job, const std::map<Stage, double>& left) {
    return std::ranges::all_of(left, [&job](const auto& stage) {
        using enum Stage;
        const bool of_metal = stage.first == tunnel || stage.first == decks || stage.first == cylinders ||
                              stage.first == lifters || stage.first == mock_up;
        return !of_metal || job.minutes.contains(stage.first);
    });
}

} // namespace

HoursLeft hours_left(const std::vector<JobHours>& shop, const std::string& engine, const std::map<Stage, double>& left,
                     double listed) {
    const auto cases = [&](bool same) {
        std::vector<double> known;
        for (const JobHours& job : shop) {
            if (!job.delivered || (same && job.engine != engine) || !did(job, left))
                continue;
            double minutes = 0;
            for (const auto& [stage, spent] : left)
                if (const auto took = job.minutes.find(stage); took != job.minutes.end())
                    minutes += std::max(0.0, took->second - spent);
            known.push_back(minutes);
        }
        std::ranges::sort(known);
        return known;
    };
    std::vector<double> known = cases(true);
    const bool same = known.size() >= enough_jobs;
    if (!same)
        known = cases(false);
    const auto n = known.size();
    if (n < enough_jobs)
        return {listed, {}, {}, 0, 0, false};
    // Nine of ten where there are jobs enough for that, else as wide as they go.
    const double wanted = 0.9;
    const auto k =
        std::max<std::size_t>(1, static_cast<std::size_t>(std::floor((1 - wanted) / 2 * static_cast<double>(n + 1))));
    return {median(known),       known[k - 1],
            known[n - k],        1 - 2 * static_cast<double>(k) / static_cast<double>(n + 1),
            static_cast<int>(n), same};
}

std::optional<Promise> promise(const std::string& promised, double minutes_left, double minutes_a_day,
                               const std::string& today) {
    const auto day = read_day(promised), from = read_day(today.substr(0, 10));
    if (!day || !from || !(minutes_a_day > 0))
        return std::nullopt;
    constexpr double longest = 3650; // days
    const auto days = static_cast<int>(std::ceil(std::min(longest, minutes_left / minutes_a_day)));
    const auto ready = *from + std::chrono::days(days);
    return Promise{day_text(ready), ready <= *day};
}

} // namespace pallix::planning
