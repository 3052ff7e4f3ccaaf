// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/ledger.h"
#include "planning/steps/step.h"
#include "workshop/practice/practice_bench.h"

#include <string>
#include <vector>

namespace pallix::planning {
struct Assessment;
}

namespace pallix::workshop {

/// How a simulated person works.
struct PlayerHabits {
    double gauge = 0.001;        ///< mm, standard, of a reading; stated with it
    double slips = 0.01;         ///< share of readings typed wrong at first: a turn of the dial, a decimal
    bool sure = false;           ///< decks are cut by what is believed of them; else as measured
    bool probe = false;          ///< has a machine that probes: logs wherever one is asked for
    bool straightedge = false;   ///< has no deck bridge: decks are felt, and nothing else
    bool sleeves = false;        ///< has sleeves on the shelf: what is too large is sleeved, not left
    std::size_t patience = 1500; ///< steps, after which the job is given up
    std::string person = "simulated", gauge_name = "simulated gauge";
    double truly = 1;            ///< how many times worse the gauge is than it is said to be
    bool forecasts = false;      ///< what is expected of a first pass or go is kept before it
    bool takes_its_time = false; ///< each piece of work takes about what it does in a shop; else a minute
    bool thermometer = false;    ///< takes the temperatures of block and gauge before anything else
    int check_every = 0;         ///< readings, until the gauge is held against its ring; and before metal comes off
    bool careless = false;       ///< cuts on the first number, and half as much again
    std::string begins = "2026-03-01T00:00:00Z"; ///< UTC
};

/// What came of a job.
struct Played {
    bool ended = false; ///< nothing was left to do
    std::string stuck;  ///< the step that could not be answered, and why
    std::size_t steps = 0, readings = 0, slips = 0, caught = 0;
    std::vector<std::string> decisions; ///< went on against a rule
    std::vector<block::Entry> entries;
    std::vector<std::string> told; ///< the calls in their order
};

/// Someone who only ever does the step that is called, with what the simulated machine and gauge give.
[[nodiscard]] Played play(PracticeBench& bench, std::vector<block::Payload> opening, const PlayerHabits& habits,
                          std::uint64_t seed);
[[nodiscard]] Played play(SimulatedBlock& block, std::vector<block::Payload> opening, const PlayerHabits& habits,
                          std::uint64_t seed);

} // namespace pallix::workshop
