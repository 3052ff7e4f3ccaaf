// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/common/coordinates.h"

#include "block/state/bore_state.h"
#include "block/state/intake_state.h"
#include "block/state/tunnel_state.h"
#include "planning/common/assessment.h"
#include "planning/common/found_holes.h"

#include <algorithm>

namespace pallix::planning {
namespace {

using block::FeatureId;
using block::JobState;
using metrology::Vec2;

/// As its last bar or bush has left it: a hone moves no centre.
bool proven(const JobState& state, const FeatureId& id) {
    const auto& t = tunnel_of(state);
    if (!t.latest || t.probe_stale() || bores_of(state).bore(id).cuts.empty())
        return false;
    std::int64_t moved = 0;
    for (const auto& cut : bores_of(state).bore(id).cuts)
        if (cut.payload.operation != block::BoreOperation::hone)
            moved = cut.sequence;
    const auto logs = std::ranges::find_if(t.logs, [&](const block::TakenLogs& log) {
        return log.sequences.back() > moved && std::ranges::find(log.features, id) != log.features.end();
    });
    return logs != t.logs.end() && hole_of(&t.latest->evaluation, id);
}

/// Where the origin dowel was probed in that evaluation; the blueprint's place where it was not.
Vec2 origin_in(const block::Evaluation& e, const block::HoleBlueprint& dowel) {
    const auto found = std::ranges::find(e.dowels, dowel.id, &block::DowelResult::id);
    return found == e.dowels.end() ? Vec2{dowel.u, dowel.v} : Vec2{found->u, found->v};
}

class Sheets {
  public:
    Sheets(const JobState& state, const Assessment& assessment)
        : state_(state), a_(assessment), b_(*intake_of(state).blueprint) {}

    std::vector<CoordinateSheet> make() {
        std::vector<CoordinateSheet> all;
        for (const block::BankBlueprint& bank : b_.banks) {
            add(all, sheet_of(bank, b_.bores, bank.angle, false));
            std::vector<double> angles;
            for (const auto& lifter : b_.lifters)
                if (const double angle = lifter.angle.value_or(bank.angle);
                    lifter.id.bank == bank.id && std::ranges::find(angles, angle) == angles.end())
                    angles.push_back(angle);
            for (const double angle : angles)
                add(all, sheet_of(bank, b_.lifters, angle, true));
        }
        return all;
    }

  private:
    static void add(std::vector<CoordinateSheet>& all, CoordinateSheet sheet) {
        if (!sheet.holes.empty())
            all.push_back(std::move(sheet));
    }

    CoordinateSheet sheet_of(const block::BankBlueprint& bank, const std::vector<block::HoleBlueprint>& meant,
                             double angle, bool lifters) {
        CoordinateSheet sheet{bank.id, lifters, angle, {}, false, {}, {}};
        auto dowel =
            std::ranges::find_if(b_.dowels, [&](const auto& d) { return d.id.bank == bank.id && !d.place_assumed; });
        if (b_.origin_dowel && b_.origin_dowel->bank == bank.id)
            dowel = std::ranges::find(b_.dowels, *b_.origin_dowel, &block::HoleBlueprint::id);
        const bool counts = dowel != b_.dowels.end();
        if (counts) {
            sheet.origin = dowel->id;
            sheet.origin_at = {dowel->u, dowel->v};
            const auto& latest = tunnel_of(state_).latest;
            sheet.origin_measured =
                latest && std::ranges::find(latest->evaluation.dowels, dowel->id, &block::DowelResult::id) !=
                              latest->evaluation.dowels.end();
        }
        // A lifter's frame is turned against its dowel's: only what lies along the crankshaft counts from it.
        const auto from = [&](Vec2 origin) { return lifters ? Vec2{origin.x, 0} : origin; };
        if (lifters)
            sheet.origin_at.y = 0;
        for (const block::HoleBlueprint& hole : meant) {
            if (hole.id.bank != bank.id || hole.place_assumed || (lifters && hole.angle.value_or(bank.angle) != angle))
                continue;
            HoleCoordinates c{hole.id, Vec2{hole.u, hole.v} - sheet.origin_at, {}, {}, {}, hole.diameter.nominal, {},
                              {}};
            const auto place_in = [&](const block::Evaluation& e) {
                return hole_of(&e, hole.id)->centre - (counts ? from(origin_in(e, *dowel)) : Vec2{});
            };
            const block::EvaluationState* probed = probed_before_cuts(state_, hole.id);
            if (const auto* found = probed ? hole_of(&probed->evaluation, hole.id) : nullptr) {
                c.found = place_in(probed->evaluation);
                c.found_diameter = found->diameter();
            }
            if (proven(state_, hole.id))
                c.as_left = place_in(tunnel_of(state_).latest->evaluation);
            lifters ? aim_lifter(c) : aim_cylinder(c);
            sheet.holes.push_back(c);
        }
        return sheet;
    }

    /// The plan moves it from where it was found.
    void aim_cylinder(HoleCoordinates& c) const {
        const CylinderNeed* need = a_.cylinders ? a_.cylinders->study.bore(c.id) : nullptr;
        if (!need || need->left_out)
            return;
        if (need->centre && need->found.top && c.found)
            c.target = *c.found + (*need->centre - *need->found.top);
        if (const auto sizes = bore_sizes(state_, c.id, a_.cylinders->study.oversize))
            c.target_diameter = sizes->seat.value_or(sizes->rough);
    }
    /// A bush goes to the blueprint's place; what is left alone or honed stays where it is.
    void aim_lifter(HoleCoordinates& c) const {
        const LifterNeed* need = a_.lifters ? a_.lifters->study.lifter(c.id) : nullptr;
        if (!need || need->choice != block::LifterChoice::bush)
            return;
        c.target_diameter = need->seat;
        if (c.found && need->error)
            c.target = *c.found - *need->error;
    }

    const JobState& state_;
    const Assessment& a_;
    const block::Blueprint& b_;
};

} // namespace

std::vector<CoordinateSheet> coordinate_sheets(const JobState& state, const Assessment& assessment) {
    return intake_of(state).blueprint ? Sheets(state, assessment).make() : std::vector<CoordinateSheet>();
}

} // namespace pallix::planning
