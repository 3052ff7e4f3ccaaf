// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/shop/standing.h"

#include "block/state/bore_state.h"
#include "block/state/card_state.h"
#include "block/state/intake_state.h"
#include "planning/common/assessment.h"
#include "planning/steps/contributors.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <tuple>

namespace pallix::planning {
namespace {

using namespace block;

/// The angle between the banks, whole degrees; nothing for a block of one bank.
std::string bank_angle(const JobState& state) {
    const auto& blueprint = intake_of(state).blueprint;
    if (!blueprint || blueprint->banks.size() != 2)
        return "";
    const double radians = std::abs(blueprint->banks[0].angle - blueprint->banks[1].angle);
    return std::to_string(std::lround(radians * 180 / std::numbers::pi));
}

std::string fixture_of(const JobState& state, const Step& step) {
    if (step.where.machine == Machine::desk || step.where.machine == Machine::bench)
        return "";
    std::string fixture = std::string(machine_keys[static_cast<std::size_t>(step.where.machine)]) + "/" +
                          set_up_keys[static_cast<std::size_t>(step.where.set_up)];
    const bool tilted = step.where.set_up == SetUp::deck_up || step.where.set_up == SetUp::lifters_up;
    if (const std::string angle = bank_angle(state); tilted && !angle.empty())
        fixture += "/" + angle;
    return fixture;
}

std::optional<Machine> machine_of(const Payload& payload) {
    const auto work = work_of(payload);
    if (!work)
        return std::nullopt;
    switch (*work) {
    case Work::line_hone:
        return Machine::tunnel_hone;
    case Work::line_bore:
        return Machine::line_bar;
    case Work::deck_pass:
    case Work::head_pass:
    case Work::set_up:
        return Machine::surfacer;
    case Work::bore:
        return Machine::boring_bar;
    case Work::hone:
        return Machine::cylinder_hone;
    case Work::lifter:
        return Machine::reamer;
    default:
        return std::nullopt;
    }
}

void add_words(std::string& all, const std::string& more) {
    constexpr std::size_t enough = 1500; // of one job
    if (more.empty() || all.size() > enough)
        return;
    all += " ";
    for (const char c : more.substr(0, enough))
        all += c >= 'A' && c <= 'Z' ? static_cast<char>(c - 'A' + 'a') : c == '\n' ? ' ' : c;
}

/// What people wrote, and what the job is called by.
std::string words_of(const JobState& state, const std::vector<Entry>& entries) {
    const JobCard& card = card_of(state).card;
    std::string all;
    for (const std::string& line : {intake_of(state).title, intake_of(state).customer, card.identity, card.reach,
                                    card.complaint, card.history, card.fuel, card.gasket, card.wanted})
        add_words(all, line);
    if (const auto& serial = card_of(state).serial)
        add_words(all, serial->payload.serial);
    if (const auto& blueprint = intake_of(state).blueprint)
        add_words(all, blueprint->name);
    for (const auto& part : card_of(state).parts)
        add_words(all, part.payload.name);
    const auto out = struck(entries);
    for (std::size_t i = entries.size(); i-- > 0;)
        if (const auto* note = out[i] ? nullptr : std::get_if<Note>(&entries[i].payload))
            add_words(all, note->text);
    return all;
}

void tell_wait(JobStanding& s, const JobState& state, const Step& step, const std::string& at) {
    for (const Wait& wait : step.waits_for) {
        if (!wait.part.empty()) {
            s.waits = WaitsFor::part;
            s.part = wait.part;
            const auto& parts = card_of(state).parts;
            const auto part = std::ranges::find_if(parts, [&](const auto& p) { return p.payload.name == wait.part; });
            s.due = part == parts.end() ? "" : part->payload.due;
            return;
        }
        if (!wait.person.empty()) {
            s.waits = WaitsFor::person;
            s.person = wait.person;
            return;
        }
        if (wait.until > at) {
            s.waits = WaitsFor::time;
            return;
        }
    }
}

/// What nothing can be done about from here goes before what only comes later.
const Step* first_held(const StepList& list) {
    const Step* first = nullptr;
    for (const Step& step : list.steps)
        if (is_held_from_outside(step))
            return &step;
        else if (!first && step.state == StepState::waits)
            first = &step;
    return first;
}

std::optional<Practised> practised(const JobState& state, const std::vector<Entry>& entries) {
    const CardState& card = card_of(state);
    if (!card.practice)
        return std::nullopt;
    const PracticeBegun& begun = card.practice->payload;
    Practised p{begun.exercise, begun.number, begun.level, std::nullopt, "", ""};
    for (const Entry& entry : entries)
        if (card.truth_opened && entry.sequence == card.truth_opened->sequence) {
            p.score = card.truth_opened->payload.score;
            p.person = entry.person;
            p.day = entry.time.substr(0, 10);
        }
    return p;
}

WaitsFor wanted_for(const Step& step) {
    if (step.kind == StepKind::decide)
        return WaitsFor::decision;
    return step.where.machine == Machine::desk || step.where.machine == Machine::bench ? WaitsFor::ready
                                                                                       : WaitsFor::machine;
}

} // namespace

std::vector<MachineRow> machine_rows(const std::vector<JobStanding>& jobs) {
    std::map<Machine, std::vector<std::size_t>> waiting;
    for (std::size_t i = 0; i < jobs.size(); ++i)
        if (jobs[i].waits == WaitsFor::machine)
            waiting[jobs[i].machine].push_back(i);
    std::vector<MachineRow> rows;
    for (auto& [machine, all] : waiting) {
        MachineRow row{machine, {}, {}, {}};
        for (const std::size_t i : all)
            if (jobs[i].last_machine == machine && (!row.on || jobs[i].last_time > jobs[*row.on].last_time))
                row.on = i;
        std::map<std::string, std::vector<std::size_t>> alike;
        for (const std::size_t i : all) {
            alike[jobs[i].fixture].push_back(i);
            if (row.on != i)
                row.next.push_back(i);
        }
        std::ranges::stable_sort(row.next, {}, [&](std::size_t i) {
            const bool as_it_stands = row.on && jobs[i].fixture == jobs[*row.on].fixture;
            return std::tuple(!as_it_stands, jobs[i].promised.empty(), jobs[i].promised);
        });
        for (auto& [fixture, group] : alike)
            if (group.size() > 1)
                row.shared.push_back(std::move(group));
        rows.push_back(std::move(row));
    }
    return rows;
}

const PartNoted* part_due_first(const JobState& state) {
    const PartNoted* first = nullptr;
    for (const auto& part : card_of(state).parts) {
        const bool sooner = first && !part.payload.due.empty() && (first->due.empty() || part.payload.due < first->due);
        if (!part.payload.here && (!first || sooner))
            first = &part.payload;
    }
    return first;
}

JobStanding standing_of(const JobState& state, const Assessment& a, const std::vector<Entry>& entries,
                        const std::string& at) {
    JobStanding s;
    s.promised = card_of(state).card.promised;
    s.words = words_of(state, entries);
    for (const auto& clock : card_of(state).clocks)
        s.clocks.push_back({clock.payload.what, clock.payload.until});
    if (const auto& rest = bores_of(state).rest)
        s.clocks.push_back({"rest", rest->payload.until});
    std::erase_if(s.clocks, [&at](const RunningClock& clock) { return clock.until <= at; });
    const auto spent = job_hours(entries, "", false).minutes;
    for (const auto& [stage, minutes] : spent)
        s.spent += minutes;
    if (!entries.empty())
        s.last_time = entries.back().time;
    for (const Entry& entry : entries)
        if (const auto machine = machine_of(entry.payload))
            s.last_machine = *machine;
    if (card_of(state).delivered && !card_of(state).practice) {
        s.waits = WaitsFor::delivered;
        s.delivered = card_of(state).delivered_at.substr(0, 10);
        return s;
    }
    for (const Step& step : a.steps.steps)
        if (step.state <= StepState::waits && !step.aside) {
            const auto so_far = spent.find(step.stage);
            s.left[step.stage] = so_far == spent.end() ? 0 : so_far->second;
            if (const auto work = work_of(step))
                ++s.open[*work];
        }
    s.practised = practised(state, entries);
    const Step* step = a.steps.now();
    if (step) {
        s.waits = wanted_for(*step);
    } else if ((step = first_held(a.steps))) {
        tell_wait(s, state, *step, at);
    }
    if (step) {
        s.step = step->id;
        s.machine = step->where.machine;
        s.fixture = fixture_of(state, *step);
    }
    if (const PartNoted* part = part_due_first(state); part && s.part.empty()) { // it is waited for beside the work
        s.part = part->name;
        s.due = part->due;
    }
    if (s.practised)
        s.waits = WaitsFor::practice;
    return s;
}

} // namespace pallix::planning
