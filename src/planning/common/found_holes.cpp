// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/common/found_holes.h"

#include "block/state/bore_state.h"

#include <algorithm>
#include <limits>

namespace pallix::planning {

std::int64_t first_cut_of(const block::JobState& state, const block::FeatureId& id) {
    const auto& cuts = bores_of(state).bore(id).cuts;
    return cuts.empty() ? std::numeric_limits<std::int64_t>::max() : cuts.front().sequence;
}

const block::EvaluationState* probed_before_cuts(const block::JobState& state, const block::FeatureId& id) {
    const block::TunnelState& t = tunnel_of(state);
    const std::int64_t first = first_cut_of(state, id);
    const bool stands = id.kind == block::FeatureKind::lifter || !t.probe_stale();
    if (t.latest && t.latest->sequence < first && stands)
        return &*t.latest;
    return t.as_found && t.as_found->sequence < first ? &*t.as_found : nullptr;
}

const block::HoleResult* hole_of(const block::Evaluation* e, const block::FeatureId& id) {
    if (!e)
        return nullptr;
    const auto& all = id.kind == block::FeatureKind::lifter ? e->lifters : e->bores;
    const auto found = std::ranges::find(all, id, &block::HoleResult::id);
    return found == all.end() ? nullptr : &*found;
}

} // namespace pallix::planning
