// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/common/sources.h"

#include "block/state/bore_state.h"
#include "block/state/readings_state.h"
#include "block/state/tunnel_state.h"

#include <algorithm>

namespace pallix::planning {

using block::FeatureId;
using block::JobState;

std::vector<std::int64_t> sources_of(const JobState& state, const FeatureId& id) {
    std::vector<std::int64_t> sources;
    for (const block::TakenReading& r : readings_of(state).readings)
        if (r.reading.at.feature == id)
            sources.push_back(r.sequence);
    for (const auto* e : {&tunnel_of(state).as_found, &tunnel_of(state).latest})
        if (*e) {
            const auto& list =
                id.kind == block::FeatureKind::lifter ? (*e)->evaluation.lifters : (*e)->evaluation.bores;
            if (std::ranges::find(list, id, &block::HoleResult::id) != list.end())
                sources.push_back((*e)->sequence);
        }
    const block::BoreWork& w = bores_of(state).bore(id);
    const auto add = [&sources](const auto& taken) { sources.push_back(taken.sequence); };
    std::ranges::for_each(w.pits, add);
    std::ranges::for_each(w.cuts, add);
    std::ranges::for_each(w.steps, add);
    std::ranges::for_each(w.traces, add);
    const auto add_one = [&sources](const auto& taken) {
        if (taken)
            sources.push_back(taken->sequence);
    };
    add_one(w.decided);
    add_one(w.lifter_decided);
    add_one(w.insert);
    add_one(w.fitted);
    if (id.kind == block::FeatureKind::bore) {
        add_one(bores_of(state).cylinder_plan);
        add_one(bores_of(state).pistons);
    } else {
        add_one(bores_of(state).lifter_plan);
    }
    std::ranges::sort(sources);
    sources.erase(std::unique(sources.begin(), sources.end()), sources.end());
    return sources;
}

} // namespace pallix::planning
