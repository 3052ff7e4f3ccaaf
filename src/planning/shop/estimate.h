// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/entries/memory_entries.h"
#include "block/ledger.h"
#include "planning/shop/work_times.h"

#include <optional>
#include <string>
#include <vector>

namespace pallix::planning {

struct Assessment;

/// What could turn up before the work is done, and ask for more of it.
enum class MayTurnUp {
    cracks, ///< not looked for yet
    walls,  ///< of cylinders that are to be bored: not measured
    tunnel, ///< not measured yet
    decks,
    cylinders,
    lifters,
    undecided_flaw, ///< seen, and nobody has decided on it
    no_size_cleans, ///< no size on offer may be enough for every cylinder
};

/// A size that may be needed: the smallest on offer with which all cylinders clean up.
struct SizeChance {
    double oversize = 0; ///< mm over nominal
    double chance = 0;   ///< 0 to 1, that it is this one
};

/// What is known of a job's work before it is done.
struct Estimate {
    std::vector<block::Stage> scope; ///< stages that ask for something yet, in the order of the route
    HoursLeft hours;
    bool by_shop = false;          ///< hours come from the shop's own jobs; else usual times of the steps listed now
    std::vector<SizeChance> sizes; ///< those with any chance, ascending
    double no_size = 0;            ///< chance that none on offer is enough: a sleeve, or larger pistons
    bool sizes_known = false;      ///< nothing is said of them otherwise
    std::int64_t blocks = 0;       ///< of the kind that sizes rest on; 0: on this block's own measurements
    std::vector<MayTurnUp> may_turn_up;
    std::vector<block::UsualTrait> usual; ///< of blocks of this kind, beyond what is allowed
};

/// Sizes: of a block whose cylinders were measured the chance that all clean up, as its touches and sizes are sure
/// (`chance_all_clean`); before that from how worn the shop's other blocks of the kind were, each cylinder by Student's
/// t for one further observation (ISO 16269-8), as if each went its own way.
/// @param hours by the shop's own jobs, where a book is there; nothing: usual times
[[nodiscard]] Estimate estimate(const block::JobState& state, const Assessment& assessment,
                                const std::vector<block::Entry>& entries, const std::optional<HoursLeft>& hours);

} // namespace pallix::planning
