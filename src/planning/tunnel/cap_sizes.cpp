// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/tunnel/cap_sizes.h"

#include "block/state/readings_state.h"
#include "metrology/circle_fit.h"
#include "planning/common/fit_spread.h"
#include "planning/tunnel/tunnel_sizes.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <numbers>

namespace pallix::planning {
namespace {

using block::JobState;
using block::Quantity;

double cut_of(const block::TakenCaps& caps, const block::FeatureId& main) {
    const auto cut = std::ranges::find(caps.cut.cuts, main, [](const auto& c) { return c.first; });
    return cut == caps.cut.cuts.end() ? 0 : cut->second;
}

/// Diameter of a section once its cap has come up by `cut`, by the same circle through the same touches.
std::optional<double> diameter_after(const block::MainResult& section, double cut) {
    std::vector<metrology::Vec2> before, after;
    for (const metrology::Vec3 p : section.surface) {
        before.push_back({p.y, p.z});
        after.push_back({p.y, p.z + (p.z < section.centre.z ? cut : 0)});
    }
    const auto was = metrology::fit_circle(before), is = metrology::fit_circle(after);
    if (!was || !is)
        return std::nullopt;
    return section.diameter + 2 * (is->radius - was->radius);
}

std::vector<CapPrediction> predict_probed(const JobState& state, const block::TakenCaps& caps) {
    std::vector<CapPrediction> out;
    const double touch = tunnel_of(state).latest ? tunnel_of(state).latest->mains_uncertainty().value_or(0.0025) : 0;
    for (const block::MainResult& section : caps.before)
        if (const auto predicted = diameter_after(section, cut_of(caps, section.id))) {
            const double both = 2 * std::numbers::sqrt2 * touch * fit_spread(section).diameter; // with twice that
            out.push_back({{section.id, Quantity::size, section.level, "", {}},
                           section.diameter,
                           cut_of(caps, section.id),
                           *predicted,
                           {},
                           both,
                           0});
        }
    return out;
}

/// The entry that worked on the mains next.
std::int64_t next_work(const JobState& state, std::int64_t after) {
    std::int64_t next = std::numeric_limits<std::int64_t>::max();
    for (const block::TakenCaps& caps : tunnel_of(state).caps_cut)
        if (caps.sequence > after)
            next = std::min(next, caps.sequence);
    for (const block::TakenPass& pass : tunnel_of(state).tunnel_passes)
        if (pass.sequence > after)
            next = std::min(next, pass.sequence);
    return next;
}

/// The mains as a log had them between that cut and the next work on them; null where none did.
const std::vector<block::MainResult>* probed_after(const JobState& state, std::int64_t cut, std::int64_t next) {
    for (const block::TakenPass& pass : tunnel_of(state).tunnel_passes)
        if (pass.sequence == next)
            return pass.before.empty() ? nullptr : &pass.before;
    const bool now = next == std::numeric_limits<std::int64_t>::max() && tunnel_of(state).mains_as_probed() &&
                     tunnel_of(state).latest->mains_sequence() > cut;
    return now ? &tunnel_of(state).latest->evaluation.mains : nullptr;
}

} // namespace

std::vector<CapPrediction> predict_caps(const JobState& state, const block::TakenCaps& caps) {
    std::vector<CapPrediction> out;
    for (const block::TakenReading* size : last_sizes(state, caps.sequence)) {
        const auto angle = angle_of(size->reading.at.direction);
        if (!angle)
            continue;
        CapPrediction p{size->reading.at, size->value, cut_of(caps, size->reading.at.feature), 0, {}, 0, 0};
        p.predicted = p.before - p.cut * std::cos(*angle);
        p.allowed = 2 * std::numbers::sqrt2 * size->fixed.value_or(0.0025);
        out.push_back(std::move(p));
    }
    return out.empty() ? predict_probed(state, caps) : out;
}

std::vector<CapCame> cap_sizes_that_came(const JobState& state, const block::TakenCaps& caps) {
    std::vector<CapCame> all;
    const std::int64_t next = next_work(state, caps.sequence);
    const auto* probed = probed_after(state, caps.sequence, next);
    for (const CapPrediction& p : predict_caps(state, caps)) {
        if (p.cut == 0)
            continue; // nothing was foretold of it
        double sum = 0, count = 0;
        CapCame came{p.predicted, p.allowed, 0, {}};
        for (const block::TakenReading& r : readings_of(state).readings)
            if (r.sequence > caps.sequence && r.sequence < next && r.reading.at == p.at) {
                sum += r.value;
                ++count;
                came.by = {r.reading.instrument.name, r.person};
            }
        came.after = count > 0 ? sum / count : 0;
        if (count == 0 && probed && p.at.direction.empty())
            for (const block::MainResult& now : *probed)
                if (now.id == p.at.feature && now.level == p.at.level) {
                    came.after = now.diameter;
                    came.by = {"probe", ""};
                    count = 1;
                }
        if (count > 0)
            all.push_back(std::move(came));
    }
    return all;
}

} // namespace pallix::planning
