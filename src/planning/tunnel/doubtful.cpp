// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/tunnel/doubtful.h"

#include "block/state/readings_state.h"

#include <algorithm>
#include <vector>

namespace pallix::planning {

const block::MeasuredPlace* seldomest_doubtful(const block::JobState& state, const GaugeFindings& gauge) {
    std::vector<const block::MeasuredPlace*> places;
    const auto add = [&](const block::MeasuredAt& at) {
        if (const block::MeasuredPlace* place = readings_of(state).place(at))
            places.push_back(place);
    };
    for (const Disagreement& d : gauge.disagreements)
        if (d.at.feature.kind == block::FeatureKind::main)
            add(d.at);
    if (places.empty())
        for (const BoreFinding& main : gauge.mains)
            for (const SizeFinding& size : main.sizes)
                if (size.verdict == metrology::Verdict::cannot_tell)
                    add(size.place.at);
    if (places.empty())
        for (const block::MeasuredPlace& p : readings_of(state).places)
            if (p.at.quantity == block::Quantity::saddle && !p.stale())
                places.push_back(&p);
    const auto seldomest = std::ranges::min_element(places, {}, &block::MeasuredPlace::count);
    return seldomest == places.end() ? nullptr : *seldomest;
}

} // namespace pallix::planning
