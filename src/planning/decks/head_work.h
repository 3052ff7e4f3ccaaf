// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/forward.h"

#include "block/state/measured.h"
#include "metrology/decision.h"
#include "metrology/geometry.h"
#include "planning/decks/pass_plan.h"
#include "planning/decks/set_up.h"
#include "planning/decks/straightedge.h"

#include <optional>
#include <string>
#include <vector>

namespace pallix::planning {

/// Where the face of a bank's head stands: felt and read like a deck, cut pass by pass like one. It has no height of
/// its own to keep: it lies right when its face is level, and the least that cleans it is cut.
struct HeadProgress {
    std::string bank;
    std::vector<metrology::Vec3> points;    ///< (u, v, what the indicator reads), mm, since the face last changed
    std::optional<double> uncertainty;      ///< mm, standard, of one of them
    std::vector<EdgeComparison> lines;      ///< of the straightedge, since the face last changed
    std::optional<double> flatness;         ///< mm, of all places that were to be read; nothing before
    std::optional<metrology::Verdict> flat; ///< nothing: not enough was read since the face last changed
    double taken = 0;                       ///< mm, in all, what came off elsewhere with it
    bool cut = false, clean = false, finished = false;
    std::optional<double> to_clean;         ///< mm, highest less lowest as it lies; nothing where it was only felt
    std::vector<block::MeasuredAt> to_read; ///< now, and in this order
    std::optional<SetUpLie> level;          ///< its feet are to be set first
    std::vector<Pass> passes;               ///< still to make, as far as can be said
    [[nodiscard]] bool done() const { return to_read.empty() && passes.empty() && !level; }
};

/// @return nothing for a head that nobody has begun with
[[nodiscard]] std::optional<HeadProgress> head_progress(const block::JobState& state, const block::BankBlueprint& bank,
                                                        const block::PassPlanChosen& chosen);

/// Entry of what was last read or cut of it; 0 for nothing.
[[nodiscard]] std::int64_t head_touched(const block::JobState& state, const std::string& bank);

} // namespace pallix::planning
