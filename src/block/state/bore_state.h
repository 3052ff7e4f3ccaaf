// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/entries/cylinder_entries.h"
#include "block/entries/lifter_entries.h"
#include "block/forward.h"
#include "block/state/taken.h"

#include <cstdint>
#include <map>
#include <optional>
#include <vector>

namespace pallix::block {

/// What was found, decided and done in one cylinder or lifter bore, in order.
struct BoreWork {
    std::vector<Taken<BorePitted>> pits;
    std::optional<Taken<BoreDecided>> decided;
    std::optional<Taken<LifterDecided>> lifter_decided;
    std::vector<Taken<BoreCut>> cuts;
    std::optional<Taken<InsertMeasured>> insert; ///< the last
    std::optional<Taken<InsertFitted>> fitted;   ///< the last
    std::vector<Taken<BoreStepDone>> steps;
    std::vector<Taken<TraceTaken>> traces;
    std::vector<Taken<RoughnessRead>> roughness;

    [[nodiscard]] std::int64_t last_cut() const { return cuts.empty() ? 0 : cuts.back().sequence; }
    /// Cuts since a sleeve or bush went in; all of them where none did.
    [[nodiscard]] std::vector<Taken<BoreCut>> cuts_now() const;
    [[nodiscard]] double deepest_pit() const; ///< mm, in the wall as found; 0 for none
};

/// What was decided on cylinders and lifters and done to them.
struct BoresState {
    std::map<FeatureId, BoreWork> bores; ///< cylinders and lifters that anything was said of
    std::vector<FeatureId> bores_cut;    ///< one for each go of a tool, in order
    std::optional<Taken<CylinderPlanChosen>> cylinder_plan;
    std::optional<Taken<PistonsStated>> pistons;
    std::optional<Taken<HonePlanChosen>> hone_plan;
    std::optional<Taken<TextureLimits>> texture_limits;
    std::optional<Taken<LifterPlanChosen>> lifter_plan;
    std::optional<Taken<RestBegun>> rest; ///< the last

    /// @return what the ledger says of a cylinder or lifter bore; an empty one where it says nothing
    [[nodiscard]] const BoreWork& bore(const FeatureId& id) const;
    /// The hone was the last tool in it.
    [[nodiscard]] bool honed_last(const FeatureId& bore) const;
};

[[nodiscard]] const BoresState& bores_of(const JobState& state);
[[nodiscard]] BoresState& bores_of(JobState& state);

} // namespace pallix::block
