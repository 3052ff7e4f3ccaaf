// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/entries/route_entries.h"
#include "block/feature.h"
#include "block/reading.h"
#include "planning/readings/second_look.h"

#include <array>
#include <cstdint>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace pallix::planning {

/// What is done.
enum class StepKind {
    give,   ///< a figure or a file that is missing
    decide, ///< a choice that is somebody's
    measure,
    look,
    tick,
    cut,  ///< any tool that takes metal with a setting
    hone, ///< strokes
    fit,  ///< press, bolt, torque
    wait,
    hand_over,
};
inline constexpr std::array step_kind_keys{"give", "decide", "measure", "look", "tick",
                                           "cut",  "hone",   "fit",     "wait", "hand_over"};

enum class StepState {
    now,   ///< at most one in a job
    ready, ///< could be done at once
    waits,
    done,
    skipped,
    stale, ///< done, and void since
};
inline constexpr std::array step_state_keys{"now", "ready", "waits", "done", "skipped", "stale"};

/// What exactly is asked for: by this the words are chosen.
enum class Task {
    mend_blueprint,
    mend_ledger,
    wash,
    inspect,
    take_log, ///< the first, as found
    read,     ///< one place, by gauge
    probe,    ///< with a log: tunnel, deck or bores anew
    state_caps,
    settle, ///< too near a limit: the same again, surer
    torque_caps,
    give_limits, ///< the blueprint has none to judge by
    plan_tunnel, ///< no plan within the limits
    cut_caps,
    hone_tunnel,
    bore_tunnel,
    finish_tunnel,
    decide_main,  ///< too large
    decide_bored, ///< in size, and not cut all round by the bar
    decide_doubt, ///< the tunnel, probed again and again, is too near a limit to tell
    accept,       ///< go on against a rule, with a reason
    confirm_datum,
    decide_flaw,
    give_target,
    give_volumes,
    decide_deck,      ///< fails, will not clean, or under the blueprint's limit
    go_on_unmeasured, ///< flat by feel, and nobody here measures its height
    cut_deck,
    flush_deck,
    level,      ///< corners of the set-up do not agree: raise feet
    ease_clamp, ///< one side of a station stands low: its clamp pulls
    level_head,
    cut_head,
    look_why_dark,
    look_at_touch, ///< one that agrees with no other of its section
    feel,          ///< lay the straightedge
    plan_cylinders,
    decide_size,
    decide_wall,
    measure_insert,
    refuse_insert,
    give_sizes,
    bore,
    look_at_edge,
    give_bar,
    read_ring,   ///< the indicator on the bar, in a ring that is round
    move_bar,    ///< the block to the bar, by jacks and screws
    mark_main,   ///< what a pass of the bar left in it
    judge_trial, ///< the worst hole, bored alone: clean, pits left, still open
    decide_over,
    press,
    put_plate_on,
    hone_bore,
    rest,
    dress,
    decide_large,
    decide_place, ///< a cylinder that was bored off its place
    give_lifter_numbers,
    decide_bush,
    cut_lifter,
    press_bush,
    decide_lifter,
    prove_lifters,
    open_truth, ///< of a block that is practised on, in the place of handing it over
    hand_over,
    // At any time, of the thing that is marked; never in the list and never called for.
    state_conditions,
    mark_flaw,
    test_pressure,
    note_finish,
    read_set_up_on,
    work_head,
    note_pit,
    note_roughness,
    choose_bore,
    choose_lifter,
    tick_tunnel,
    pass_tunnel,
    cut_tunnel,
    // What the shop knows of the job; at any time.
    fill_card,    ///< a line of the job card
    choose_scope, ///< which stages are wanted
    choose_target,
    note_part,
    part_came,
    place_hold,
    lift_hold,
    soak,
    set_clock,
    inspect_one, ///< of what is looked over, one thing
    // A learner is at the bench.
    sign_off, ///< somebody else answers for the first of its kind
};
inline constexpr auto task_keys = std::to_array<const char*>({"mend_blueprint",
                                                              "mend_ledger",
                                                              "wash",
                                                              "inspect",
                                                              "take_log",
                                                              "read",
                                                              "probe",
                                                              "state_caps",
                                                              "settle",
                                                              "torque_caps",
                                                              "give_limits",
                                                              "plan_tunnel",
                                                              "cut_caps",
                                                              "hone_tunnel",
                                                              "bore_tunnel",
                                                              "finish_tunnel",
                                                              "decide_main",
                                                              "decide_bored",
                                                              "decide_doubt",
                                                              "accept",
                                                              "confirm_datum",
                                                              "decide_flaw",
                                                              "give_target",
                                                              "give_volumes",
                                                              "decide_deck",
                                                              "go_on_unmeasured",
                                                              "cut_deck",
                                                              "flush_deck",
                                                              "level",
                                                              "ease_clamp",
                                                              "level_head",
                                                              "cut_head",
                                                              "look_why_dark",
                                                              "look_at_touch",
                                                              "feel",
                                                              "plan_cylinders",
                                                              "decide_size",
                                                              "decide_wall",
                                                              "measure_insert",
                                                              "refuse_insert",
                                                              "give_sizes",
                                                              "bore",
                                                              "look_at_edge",
                                                              "give_bar",
                                                              "read_ring",
                                                              "move_bar",
                                                              "mark_main",
                                                              "judge_trial",
                                                              "decide_over",
                                                              "press",
                                                              "put_plate_on",
                                                              "hone_bore",
                                                              "rest",
                                                              "dress",
                                                              "decide_large",
                                                              "decide_place",
                                                              "give_lifter_numbers",
                                                              "decide_bush",
                                                              "cut_lifter",
                                                              "press_bush",
                                                              "decide_lifter",
                                                              "prove_lifters",
                                                              "open_truth",
                                                              "hand_over",
                                                              "state_conditions",
                                                              "mark_flaw",
                                                              "test_pressure",
                                                              "note_finish",
                                                              "read_set_up_on",
                                                              "work_head",
                                                              "note_pit",
                                                              "note_roughness",
                                                              "choose_bore",
                                                              "choose_lifter",
                                                              "tick_tunnel",
                                                              "pass_tunnel",
                                                              "cut_tunnel",
                                                              "fill_card",
                                                              "choose_scope",
                                                              "choose_target",
                                                              "note_part",
                                                              "part_came",
                                                              "place_hold",
                                                              "lift_hold",
                                                              "soak",
                                                              "set_clock",
                                                              "inspect_one",
                                                              "sign_off"});
static_assert(task_keys.size() == static_cast<std::size_t>(Task::sign_off) + 1);

/// Where it is done. Common practice.
enum class Machine {
    desk, ///< nothing but a person and the figures
    bench,
    washer,
    probe, ///< a machine that touches the block by itself
    cap_grinder,
    tunnel_hone,
    line_bar,
    surfacer,
    boring_bar,
    cylinder_hone,
    reamer,
    press,
};
inline constexpr std::array machine_keys{"desk",        "bench",         "washer",   "probe",
                                         "cap_grinder", "tunnel_hone",   "line_bar", "surfacer",
                                         "boring_bar",  "cylinder_hone", "reamer",   "press"};

/// How the block lies for it.
enum class SetUp {
    any,
    caps_off,   ///< the caps by themselves, beside the block
    mains_up,   ///< sump face up
    deck_up,    ///< the deck of the bank that the step is about, level
    lifters_up, ///< the bank that the step is about, lifters plumb
    head_up,    ///< the head of that bank by itself, its face up and level
};
inline constexpr std::array set_up_keys{"any", "caps_off", "mains_up", "deck_up", "lifters_up", "head_up"};

struct Where {
    Machine machine = Machine::desk;
    SetUp set_up = SetUp::any;
    /// How long it usually takes, with setting up and what it is done to each of; nothing for a decision. Common
    /// practice, from memory.
    std::optional<double> minutes;
};

/// What else a step changes.
enum class Changed {
    deck_height, ///< mean over the deck, mm
    clearance,   ///< piston under the deck, mm
    ratio,       ///< of compression
    size,        ///< diameter, mm
    stale,       ///< what was read of it no longer holds
};
inline constexpr std::array changed_keys{"deck_height", "clearance", "ratio", "size", "stale"};
struct Change {
    Changed what{};
    block::FeatureId about;
    std::optional<double> from, to; ///< nothing where it is not known
};

enum class AskKind { length, count, choice, tick, place, file, text };
inline constexpr std::array ask_kind_keys{"length", "count", "choice", "tick", "place", "file", "text"};

/// What an answer consists of.
struct Ask {
    std::string key;
    AskKind kind = AskKind::length;
    std::optional<double> proposed;     ///< mm; of a count, the number; of a tick, 1; of a choice, which
    std::optional<double> least, most;  ///< what would be believed
    std::vector<std::string> choices{}; ///< of a choice
    bool optional = false;              ///< what is not known is left out
    std::string stands{};               ///< of a text: what it says now
    [[nodiscard]] bool needed() const { return kind != AskKind::text && !optional; }
};

/// What has to come first, and which rule says so.
struct Wait {
    block::Rule rule{};
    std::string step;  ///< id
    std::string until; ///< UTC
    std::string part;
    std::string person;
};

/// One thing that somebody does at one place with one result.
struct Step {
    std::string id; ///< "deck.R/witness": what it is about, what is done, and where needed the place
    Task task{};
    StepKind kind{};
    block::Stage stage{};
    StepState state = StepState::ready;
    std::optional<block::FeatureId> about;
    std::optional<block::MeasuredAt> place; ///< of a reading
    std::optional<SecondLook> second_look;  ///< of a reading: why once was not enough
    std::optional<double> number;           ///< mm, what is dialled in or aimed at
    std::optional<double> least, most;      ///< mm, the window it must land in
    std::vector<Ask> asks;
    std::vector<Wait> waits_for;
    std::vector<std::int64_t> why; ///< entries of the ledger it follows from
    bool cannot_be_undone = false; ///< metal comes off, or something is pressed in
    Where where;
    bool aside = false; ///< could be done, and is never called for by itself
    bool leads = false; ///< what its part of the block is at
    std::string reason; ///< of what was skipped
};

/// All steps of a job, in the order of its route.
/// It asks for something yet, and not only where somebody wants it.
[[nodiscard]] inline bool is_open(const Step& step) {
    return !step.aside &&
           (step.state == StepState::now || step.state == StepState::ready || step.state == StepState::waits);
}

struct StepList {
    std::vector<Step> steps;

    [[nodiscard]] const Step* now() const;
    [[nodiscard]] const Step* find(std::string_view id) const;
    /// The step that a stage is at: the one called, else its first that is ready, else its first that waits.
    [[nodiscard]] const Step* of(block::Stage stage) const;
};

[[nodiscard]] StepKind kind_of(Task task);
/// @param mains of the block: caps are cut and bolted one by one
/// @param about what it is done to: a reading of a deck is taken with the deck up
[[nodiscard]] Where where_of(Task task, std::size_t mains, const std::optional<block::FeatureId>& about);

} // namespace pallix::planning
