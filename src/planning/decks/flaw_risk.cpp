// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/decks/flaw_risk.h"

#include "block/blueprint.h"

#include <algorithm>
#include <limits>

namespace pallix::planning {
namespace {

using block::FlawKind;
using block::FlawNear;
using block::FlawWhere;
using metrology::Vec2;

/// From a place to the nearest one of a line, mm.
double to_line(Vec2 place, const std::vector<Vec2>& path) {
    double nearest = norm(path.front() - place);
    for (std::size_t i = 1; i < path.size(); ++i) {
        const Vec2 run = path[i] - path[i - 1];
        const double all = dot(run, run);
        const double t = all > 0 ? std::clamp(dot(place - path[i - 1], run) / all, 0.0, 1.0) : 0.0;
        nearest = std::min(nearest, norm(path[i - 1] + t * run - place));
    }
    return nearest;
}

FlawDanger of_deck(const block::FlawMarked& flaw, const FlawRisk& r) {
    const bool sealed = flaw.near == FlawNear::bore || (r.cylinder && r.to_edge < sealed_ring);
    if (flaw.kind != FlawKind::crack)
        return sealed ? FlawDanger::some : FlawDanger::little;
    if (sealed || flaw.near == FlawNear::bolt || flaw.near == FlawNear::valve_seat)
        return FlawDanger::great;
    return flaw.near == FlawNear::coolant_hole ? FlawDanger::some : FlawDanger::little;
}

} // namespace

FlawRisk flaw_risk(const block::Blueprint& blueprint, const block::FlawMarked& flaw) {
    FlawRisk r;
    if (flaw.where != FlawWhere::deck) {
        if (flaw.where == FlawWhere::bore)
            r.cylinder = flaw.feature;
        const bool loaded = flaw.where != FlawWhere::outside;
        r.danger = flaw.kind != FlawKind::crack ? FlawDanger::little : loaded ? FlawDanger::great : FlawDanger::some;
        return r;
    }
    r.to_edge = std::numeric_limits<double>::infinity();
    for (const block::HoleBlueprint& bore : blueprint.bores) {
        if (bore.id.bank != flaw.bank || bore.place_assumed || flaw.path.empty())
            continue;
        const double edge = std::max(0.0, to_line({bore.u, bore.v}, flaw.path) - bore.diameter.nominal / 2);
        if (edge < r.to_edge) {
            r.to_edge = edge;
            r.cylinder = bore.id;
        }
    }
    r.danger = of_deck(flaw, r);
    return r;
}

} // namespace pallix::planning
