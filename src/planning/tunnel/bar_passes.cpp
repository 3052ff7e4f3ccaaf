// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/tunnel/bar_passes.h"

#include "block/state/intake_state.h"
#include "block/state/tunnel_state.h"
#include "planning/tunnel/tunnel_sizes.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>

namespace pallix::planning {

using block::BarMark;
using block::JobState;
using block::TunnelPassKind;
using block::TunnelPolicy;

void set_bar(TunnelWork& work, const JobState& state, const TunnelPolicy& policy) {
    bool established = false;
    const block::TakenPass* last = nullptr;
    for (const block::TakenPass& taken : tunnel_of(state).tunnel_passes) {
        if (taken.sequence < tunnel_of(state).tunnel_done)
            continue;
        if (taken.pass.new_cutter)
            established = false;
        if (taken.pass.kind == TunnelPassKind::establishing)
            established = true;
        last = &taken;
    }
    work.establishing_due = !established;
    double wanted = std::numeric_limits<double>::infinity(); // of the tightest main
    for (const block::MainBlueprint& main : intake_of(state).blueprint->mains)
        wanted = std::min(wanted, target_of(main, policy));
    if (!last || !last->pass.protrusion) {
        if (policy.bar)
            work.next_protrusion = cutter_protrusion(wanted - left_by_establishing, *policy.bar);
        return;
    }
    // A main that was cut all round has the size of the tool; one that was not is larger and says nothing of it.
    const StockLeft* cut = nullptr;
    for (const StockLeft& s : work.board)
        if (!s.stale && tunnel_of(state).mark_of(s.at.feature).value_or(BarMark::clean) == BarMark::clean &&
            (!cut || s.left > cut->left))
            cut = &s;
    if (cut)
        work.next_protrusion = *last->pass.protrusion + cut->left / 2;
    else if (policy.bar)
        work.next_protrusion = cutter_protrusion(wanted, *policy.bar);
}

void foresee_contacts(TunnelWork& work, const JobState& state, const TunnelPolicy& policy) {
    if (work.step != TunnelStep::machine || work.method != block::TunnelMethod::bore || !policy.bar ||
        !work.next_protrusion)
        return;
    if (const auto study = study_tunnel(state); study && study->plan.feasible)
        work.contacts = bar_contacts(study->housings.mains, study->plan.line, *policy.bar + 2 * *work.next_protrusion,
                                     policy.parting);
}

std::vector<BarContact> bar_contacts(const std::vector<Housing>& mains, const CentreLine& line, double diameter,
                                     double parting) {
    std::vector<BarContact> contacts;
    for (const Housing& main : mains) {
        std::array<int, 2> all{}, touched{}; // saddle, cap
        for (const metrology::Vec3 p : main.points) {
            if (std::abs(p.z) < std::hypot(p.y, p.z) * std::sin(parting))
                continue;
            const std::size_t half = p.z < 0 ? 1 : 0;
            ++all.at(half);
            if (std::hypot(p.y - line.y(p.x), p.z - line.z(p.x)) < diameter / 2)
                ++touched.at(half);
        }
        const auto share = [&](std::size_t half) {
            return all.at(half) > 0 ? static_cast<double>(touched.at(half)) / all.at(half) : 0.0;
        };
        contacts.push_back({main.id, share(1), share(0)});
    }
    return contacts;
}

double cutter_protrusion(double wanted, double bar) {
    return (wanted - bar) / 2;
}

} // namespace pallix::planning
