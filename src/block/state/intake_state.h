// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/blueprint.h"
#include "block/entries/route_entries.h"
#include "block/forward.h"
#include "block/state/taken.h"

#include <cstdint>
#include <optional>
#include <string>
#include <vector>

namespace pallix::block {

/// An entry that could not be used: it may have been a cut, so nothing is called until it is struck or put right.
struct Trouble {
    std::int64_t sequence = 0;
    std::string words; ///< "entry 7 (deck_cut) cannot be read: depth_mm is 12, expected 0 to 5"
};

/// That its blueprint was amended, and why.
struct Amendment {
    std::int64_t sequence = 0;
    std::string file, reason;
};

/// What the job is, what of it is wanted in which order, and what of its ledger could not be used.
struct IntakeState {
    std::string title;
    std::string customer;
    std::optional<Blueprint> blueprint; ///< as amended last
    std::vector<Amendment> amendments;
    std::vector<Taken<GatePassed>> gates;      ///< in order
    std::vector<Taken<StepSkipped>> skipped;   ///< in order
    std::optional<Taken<ScopeChosen>> scope;   ///< the last
    std::optional<Taken<RouteChosen>> route;   ///< the last
    std::optional<Taken<LimitsChosen>> limits; ///< the last
    std::vector<Trouble> troubles;             ///< entries that could not be used
    std::vector<std::int64_t> unknown;         ///< entries of kinds that this version does not know
};

[[nodiscard]] const IntakeState& intake_of(const JobState& state);
[[nodiscard]] IntakeState& intake_of(JobState& state);

} // namespace pallix::block
