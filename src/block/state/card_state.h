// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/entries/practice_entries.h"
#include "block/entries/shop_entries.h"
#include "block/forward.h"
#include "block/state/taken.h"

#include <cstdint>
#include <map>
#include <optional>
#include <string>
#include <vector>

namespace pallix::block {

/// What the shop knows of a job besides its metal.
struct CardState {
    JobCard card;                                     ///< every line as it was given last
    std::vector<Taken<PartNoted>> parts;              ///< by name, as they stand; in the order they were first named
    std::vector<Taken<HoldPlaced>> holds;             ///< that are not lifted
    std::vector<Taken<ClockSet>> clocks;              ///< in order
    std::map<Inspection, Taken<Inspected>> inspected; ///< the last of each
    std::vector<Taken<PictureKept>> pictures;         ///< in order
    std::optional<AtBench> bench;                     ///< who works on it, where that was said
    std::map<std::string, Role> people;               ///< whose role was said
    std::vector<Taken<SignedOff>> signed_off;         ///< in order
    std::optional<Taken<SerialGiven>> serial;         ///< as given last
    std::optional<Taken<Delivered>> delivered;
    std::string delivered_at;                       ///< UTC
    std::optional<Taken<PracticeBegun>> practice;   ///< the block is not there: it is practised on
    std::optional<Taken<TruthOpened>> truth_opened; ///< and the exercise is over
    std::optional<Taken<Experience>> experience;    ///< what the shop's earlier jobs say, as last copied here

    /// On practice everybody may do everything: that is what it is for.
    [[nodiscard]] bool learner_at_bench() const { return bench && bench->role == Role::learner && !practice; }
    [[nodiscard]] bool is_signed_off(const std::string& what) const;
};

[[nodiscard]] const CardState& card_of(const JobState& state);
[[nodiscard]] CardState& card_of(JobState& state);

} // namespace pallix::block
