// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/decks/deck_consequences.h"

#include "block/state/deck_state.h"
#include "block/state/intake_state.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace pallix::planning {

ManifoldFit manifold_fit(double cut, double bank_angle, double face_angle) {
    const double beta = std::abs(bank_angle);
    ManifoldFit fit;
    fit.sinks = cut * std::cos(beta - face_angle) / std::cos(face_angle);
    fit.off_face = fit.sinks * std::sin(face_angle) - cut * std::sin(face_angle - beta);
    return fit;
}

DeckConsequences deck_consequences(const block::JobState& state, const std::vector<PistonCrown>& crowns,
                                   const std::string& bank_id, double height, double cut) {
    const block::BankBlueprint& bank = *intake_of(state).blueprint->bank(bank_id);
    const block::EngineFigures& f = decks_of(state).figures;
    DeckConsequences d;
    d.bank = bank_id;
    d.deck_cut = cut;
    d.head_cut = head_state(state, bank_id).cut;
    double least = 1e300, most = -1e300;
    for (const PistonCrown& crown : crowns) {
        if (crown.bore.bank != bank_id)
            continue;
        CylinderAfter c{crown.bore, crown.cylinder, crown.source, height - crown.crown, {}, {}};
        if (const auto volumes = volumes_of(state, crown); volumes && volumes->clearance_volume(c.clearance) > 0) {
            c.ratio = volumes->ratio(c.clearance);
            least = std::min(least, *c.ratio);
            most = std::max(most, *c.ratio);
        }
        if (f.gasket_thickness) {
            c.quench = *f.gasket_thickness + c.clearance;
            d.least_quench = std::min(d.least_quench.value_or(1e300), *c.quench);
        }
        d.cylinders.push_back(c);
    }
    d.ratio_spread = most > least ? most - least : 0;
    const double nearer = cut + d.head_cut; // the head comes down by both
    if (const auto intake = valve_clearance(state, bank_id, "intake"))
        d.valve_intake = *intake - nearer;
    if (const auto exhaust = valve_clearance(state, bank_id, "exhaust"))
        d.valve_exhaust = *exhaust - nearer;
    const auto lifter = std::ranges::find_if(intake_of(state).blueprint->lifters,
                                             [&](const block::HoleBlueprint& l) { return l.id.bank == bank_id; });
    if (lifter != intake_of(state).blueprint->lifters.end() && nearer > 5e-4)
        d.pushrod_shorter = nearer * std::cos(bank.angle - lifter->angle.value_or(bank.angle));
    if (f.manifold_face && bank.angle != 0 && nearer > 5e-4)
        d.manifold = manifold_fit(nearer, bank.angle, *f.manifold_face);
    if (f.overhead_chain && f.overhead_chain->distance > nearer) {
        const ChainDrive chain{f.overhead_chain->teeth_crank, f.overhead_chain->teeth_cam, f.overhead_chain->pitch};
        const double before = f.overhead_chain->distance;
        d.chain = chain_slack(chain, chain_length(chain, before), before - nearer);
        d.cam_retard = cam_retard(chain, before, nearer);
    }
    return d;
}

} // namespace pallix::planning
