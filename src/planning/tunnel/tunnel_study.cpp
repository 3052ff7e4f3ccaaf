// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/tunnel/tunnel_study.h"

#include "block/state/intake_state.h"
#include "block/state/readings_state.h"
#include "block/state/tunnel_state.h"
#include "block/true_mains.h"
#include "metrology/uncertainty.h"
#include "planning/common/experience.h"
#include "planning/readings/reading_plan.h"
#include "planning/tunnel/tunnel_sizes.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>

namespace pallix::planning {
namespace {

using block::FeatureId;
using block::JobState;
using block::Quantity;

/// A point of a gauged housing hangs on its size, the upright size and its saddle's height: √(1/4 + 1/8 + 1) of one.
constexpr double gauge_point = 1.173;

KnownHousings from_gauges(const JobState& state, const TunnelPolicy& policy) {
    KnownHousings known;
    std::map<FeatureId, double> saddle;
    known.uncertainty = 0.0;
    const auto worse = [&known](const std::optional<double>& u) {
        known.uncertainty = known.uncertainty && u ? std::optional(std::max(*known.uncertainty, *u)) : std::nullopt;
    };
    for (const block::MeasuredPlace& p : readings_of(state).places)
        if (p.at.quantity == Quantity::saddle && counts(p)) {
            saddle[p.at.feature] = p.value;
            worse(p.standard_uncertainty());
        }
    std::vector<block::MainBlueprint> mains; // whose saddles are read: one left out of the plan is left out here
    const std::vector<block::MeasuredAt> wanted = chosen_places(state, Measuring::saddle_heights, "");
    for (const block::MainBlueprint& main : intake_of(state).blueprint->mains)
        if (saddle.contains(main.id) || intake_of(state).blueprint->mains.size() <= 2 ||
            std::ranges::find(wanted, main.id, &block::MeasuredAt::feature) != wanted.end())
            mains.push_back(main);
    if (mains.size() > 2)
        for (const block::MainBlueprint& main : mains)
            if (!saddle.contains(main.id))
                known.saddles_missing.push_back(main.id);
    if (!known.saddles_missing.empty() || mains.empty())
        return known;
    const double x0 = mains.front().x, x1 = mains.back().x, s0 = saddle[mains.front().id], s1 = saddle[mains.back().id];
    for (const block::MainBlueprint& main : mains) {
        Housing h{main.id, {}, target_of(main, policy), 0};
        double upright = 0;
        for (const block::MeasuredPlace& p : readings_of(state).places)
            if (p.at.feature == main.id && p.at.quantity == Quantity::size && p.at.direction == "upright" && counts(p))
                upright = upright == 0 ? p.value : (upright + p.value) / 2;
        if (upright == 0)
            continue;
        // The saddle's top stands where the end mains' line has it, and off it by what the indicator found.
        const double off = saddle[main.id] - (s0 + (s1 - s0) * (main.x - x0) / (x1 - x0));
        const double z = h.target_diameter / 2 + off - upright / 2;
        for (const block::MeasuredPlace& p : readings_of(state).places) {
            const auto angle = angle_of(p.at.direction);
            if (p.at.feature != main.id || p.at.quantity != Quantity::size || !angle || !counts(p))
                continue;
            worse(p.standard_uncertainty());
            const double x = main.x + (p.at.level == "front" ? -8 : 8); // ends of the housing, about
            for (const double side : {1.0, -1.0})
                h.points.push_back(
                    {x, side * p.value / 2 * std::sin(*angle), z + side * p.value / 2 * std::cos(*angle)});
        }
        known.mains.push_back(std::move(h));
    }
    if (known.mains.size() >= 2)
        known.source = HousingSource::gauge;
    else
        known.mains.clear();
    return known;
}

} // namespace

KnownHousings known_housings(const JobState& state, const TunnelPolicy& policy) {
    if (!intake_of(state).blueprint)
        return {};
    // Of mains that were worked on or unbolted since, the probe says nothing any more.
    const bool probe_holds =
        tunnel_of(state).mains_as_probed() && tunnel_of(state).latest->conditions.caps_torqued != false;
    if (!probe_holds)
        return from_gauges(state, policy);
    const block::Evaluation& e = tunnel_of(state).latest->evaluation;
    return {HousingSource::probe,
            housings_of(*intake_of(state).blueprint, e, policy),
            tunnel_of(state).latest->mains_uncertainty(),
            given_line(e, GivenLine::ends),
            {}};
}

namespace {

TunnelPlan plan_for(const KnownHousings& known, const TunnelPolicy& policy) {
    std::vector<Housing> mains = known.mains;
    if (policy.target_diameter)
        for (Housing& m : mains)
            m.target_diameter = *policy.target_diameter;
    if (policy.method == block::TunnelMethod::hone)
        if (const HoneLine line = hone_line(mains, policy); line.leads())
            return plan_hone(mains, policy, line);
    return plan_tunnel(mains, policy, policy.line == GivenLine::ends ? known.ends : CentreLine{});
}

TunnelPolicy loosened(TunnelPolicy policy, TunnelLimit limit) {
    switch (limit) {
    case TunnelLimit::max_cap_cut:
        policy.max_cap_cut += block::mm_per_thou;
        break;
    case TunnelLimit::max_rise:
        policy.max_rise += block::mm_per_thou;
        break;
    case TunnelLimit::max_side:
        policy.max_side += block::mm_per_thou;
        break;
    case TunnelLimit::target_diameter:
        break; // each main's own grows: done on the housings
    }
    return policy;
}

void find_loosened(TunnelStudy& study) {
    if (!study.plan.feasible)
        return;
    for (const TunnelLimit limit :
         {TunnelLimit::target_diameter, TunnelLimit::max_cap_cut, TunnelLimit::max_rise, TunnelLimit::max_side}) {
        KnownHousings known = study.housings;
        TunnelPolicy policy = loosened(study.policy, limit);
        if (limit == TunnelLimit::target_diameter) {
            policy.target_diameter.reset();
            for (Housing& m : known.mains)
                m.target_diameter = study.policy.target_diameter.value_or(m.target_diameter) + block::mm_per_thou;
        }
        const TunnelPlan plan = plan_for(known, policy);
        if (const double saves = study.plan.max_cap_cut - plan.max_cap_cut; plan.feasible && saves > 5e-4)
            study.loosened.push_back({limit, saves});
    }
}

void find_schools(TunnelStudy& study) {
    const auto add = [&study](const char* name, auto change) {
        TunnelPolicy policy = study.policy;
        change(policy);
        study.schools.push_back({name, policy, plan_for(study.housings, policy)});
    };
    using block::TunnelMethod;
    add("hone, each its own", [](TunnelPolicy& p) { p.method = TunnelMethod::hone, p.caps = CapCuts::each; });
    add("hone, caps equal", [](TunnelPolicy& p) { p.method = TunnelMethod::hone, p.caps = CapCuts::equal; });
    add("bore on the datum", [](TunnelPolicy& p) { p.method = TunnelMethod::bore, p.line = GivenLine::datum; });
    add("bore, end mains", [](TunnelPolicy& p) { p.method = TunnelMethod::bore, p.line = GivenLine::ends; });
}

std::vector<double> depths(const std::vector<CapCut>& cuts) {
    std::vector<double> d;
    d.reserve(cuts.size());
    for (const CapCut& c : cuts)
        d.push_back(c.cut);
    return d;
}

/// What the finished bore takes off the middles of both halves, mm: the mean over a third of each.
void find_metal_off(HoneForecast& f, const Housing& h, const TunnelPlan& plan, double cut) {
    constexpr double middle_third = 0.866; // cosine of 30°
    double caps = 0, saddles = 0;
    for (const metrology::Vec3 p : h.points) {
        if (std::abs(p.z) < middle_third * std::hypot(p.y, p.z))
            continue;
        (p.z < 0 ? f.cap : f.saddle) += room_at(h, p, cut, plan.line);
        ++(p.z < 0 ? caps : saddles);
    }
    f.cap /= std::max(caps, 1.0);
    f.saddle /= std::max(saddles, 1.0);
}

void find_forecast(TunnelStudy& study) {
    for (std::size_t i = 0; i < study.plan.cuts.size(); ++i) {
        const Housing& h = study.housings.mains[i];
        HoneForecast f{h.id, study.plan.line.z(h.mean_x()), study.plan.line.y(h.mean_x())};
        find_metal_off(f, h, study.plan, study.plan.cuts[i].cut);
        study.forecast.push_back(f);
    }
}

void find_astray(TunnelStudy& study) {
    const bool alike = study.plan.feasible == study.ideal->feasible &&
                       std::abs(study.plan.max_cap_cut - study.ideal->max_cap_cut) <= block::mm_per_thou / 2;
    if (alike)
        return;
    const CentreLine led = study.followed->with(depths(study.plan.cuts)); // with none, as found
    TunnelStudy::Astray furthest;
    for (const HoneLine::Middle& m : study.followed->middles) {
        const double cut = study.plan.feasible ? study.plan.cuts[m.main].cut : 0;
        if (const double off = m.z + cut / 2 - led.z(m.x); std::abs(off) > std::abs(furthest.off))
            furthest = {study.housings.mains[m.main].id, off};
    }
    if (furthest.off != 0)
        study.astray = furthest;
}

/// The mains as they may truly be, and where a hone would follow each of them.
struct DrawnMains {
    const std::vector<std::vector<Housing>>& mains;
    std::vector<HoneLine> lines; ///< none where nothing is honed
};

/// How sure the forecast is: how sure the middles are that lead the mandrel, and how well it follows them.
void find_forecast_uncertainty(TunnelStudy& study, const DrawnMains& drawn) {
    const std::vector<double> cuts = depths(study.plan.cuts);
    const double follows = follows_within(*study.followed, cuts);
    std::vector<CentreLine> lines;
    lines.reserve(drawn.lines.size());
    for (const HoneLine& line : drawn.lines)
        lines.push_back(line.with(cuts));
    for (HoneForecast& f : study.forecast) {
        const auto h = std::ranges::find(study.housings.mains, f.main, &Housing::id);
        const double x = h->mean_x(), n = static_cast<double>(lines.size());
        if (lines.size() > 1) {
            double squares = 0;
            for (const CentreLine& line : lines)
                squares += (line.z(x) - f.rise) * (line.z(x) - f.rise) + (line.y(x) - f.side) * (line.y(x) - f.side);
            f.uncertainty = std::hypot(follows, std::sqrt(squares / (2 * n)));
        } else if (study.housings.uncertainty) {
            // A middle by gauge is as sure as its saddle and its upright size together; the line is their mean and
            // slope.
            f.uncertainty = std::hypot(follows, gauge_point * *study.housings.uncertainty);
        }
        if (f.uncertainty)
            *f.uncertainty *= widening(study.widened);
    }
}

/// How likely the old surface lies inside the finished bore all round.
double chance_to_clean(const TunnelStudy& study, const TunnelPlan& plan, double margin, double u,
                       const DrawnMains& drawn) {
    if (drawn.mains.empty()) {
        std::vector<double> rooms = plan.slacks;
        for (double& room : rooms)
            room += margin;
        return metrology::chance_of_all(rooms, u);
    }
    double clean = 0;
    const std::vector<double> cuts = depths(plan.cuts);
    TunnelPlan cut = plan;
    for (std::size_t i = 0; i < drawn.mains.size(); ++i) {
        if (!drawn.lines.empty()) // a hone follows the middles as they truly are
            cut.line = drawn.lines[i].with(cuts);
        clean += least_slack(drawn.mains[i], study.policy, cut) > -limit_tolerance ? 1 : 0;
    }
    return clean / static_cast<double>(drawn.mains.size());
}

/// Every point may lie further out than it was measured: the least margin in standard uncertainties with which all of
/// them together clean up surely enough. A main read once more is known better by √2.
void find_sure(TunnelStudy& study, const DrawnMains& drawn) {
    if (!study.housings.uncertainty || !(*study.housings.uncertainty > 0))
        return;
    KnownHousings known = study.housings;
    const double u = *known.uncertainty * (known.source == HousingSource::gauge ? gauge_point : 1);
    double margin = 0;
    const auto with_margin = [&](double of_u) {
        margin = of_u * u;
        for (Housing& m : known.mains)
            m.margin = margin;
        study.sure = plan_for(known, study.policy);
        return study.sure->feasible && chance_to_clean(study, *study.sure, margin, u, drawn) >= metrology::sure_enough;
    };
    // Drawn without their noise, mains may lie further in than they were touched. At 4.5 ten thousand points would do.
    double low = drawn.mains.empty() ? 1.645 : -2, high = 4.5;
    while (high - low > 0.02)
        (with_margin((low + high) / 2) ? high : low) = (low + high) / 2;
    with_margin(high);
    if (!study.sure->feasible)
        return;
    for (Housing& m : known.mains) {
        m.margin = margin / std::numbers::sqrt2;
        const TunnelPlan better = plan_for(known, study.policy);
        m.margin = margin;
        double before = 0, after = 0;
        for (std::size_t i = 0; i < better.cuts.size(); ++i) {
            before += study.sure->cuts[i].cut;
            after += better.cuts[i].cut;
        }
        if (before - after > 2e-4)
            study.readings.push_back({m.id, before - after});
    }
}

} // namespace

TunnelPolicy usual_tunnel_policy() {
    return {.stock = block::mm_per_thou,
            .parting = 12 * block::radians_per_degree,
            .stock_from = 30 * block::radians_per_degree,
            .caps = block::CapCuts::equal};
}

TunnelPolicy tunnel_policy_of(const JobState& state) {
    return tunnel_of(state).tunnel_policy.value_or(usual_tunnel_policy());
}

std::optional<TunnelStudy> study_tunnel(const JobState& state) {
    TunnelStudy study;
    study.policy = tunnel_policy_of(state);
    study.housings = known_housings(state, study.policy);
    if (study.housings.source == HousingSource::none)
        return std::nullopt;
    study.plan = plan_for(study.housings, study.policy);
    study.widened = widened_by(state, block::ForecastKind::rise, mains_measured_by(state));
    return study;
}

std::vector<std::vector<Housing>> draw_housings(const JobState& state, const TunnelStudy& study) {
    const auto& latest = tunnel_of(state).latest;
    if (study.housings.source != HousingSource::probe || !latest->probe ||
        !(latest->mains_uncertainty().value_or(0) > 0))
        return {};
    constexpr std::size_t draws = 300;
    std::vector<std::vector<Housing>> all;
    block::Evaluation drawn = latest->evaluation;
    for (auto& mains : block::draw_mains(*intake_of(state).blueprint, *latest->probe, latest->evaluation,
                                         *latest->mains_uncertainty(), draws)) {
        drawn.mains = std::move(mains);
        all.push_back(housings_of(*intake_of(state).blueprint, drawn, study.policy));
    }
    return all;
}

void explain(TunnelStudy& study, const std::vector<std::vector<Housing>>& drawn) {
    study.loosened.clear();
    study.schools.clear();
    study.readings.clear();
    study.forecast.clear();
    study.astray.reset();
    study.followed.reset();
    find_loosened(study);
    find_schools(study);
    DrawnMains each{drawn, {}};
    if (study.policy.method == block::TunnelMethod::hone)
        if (HoneLine line = hone_line(study.housings.mains, study.policy); line.leads()) {
            study.followed = std::move(line);
            for (const std::vector<Housing>& mains : drawn)
                each.lines.push_back(hone_line(mains, study.policy));
        }
    find_sure(study, each);
    if (!study.followed)
        return;
    study.ideal = plan_tunnel(study.housings.mains, study.policy);
    find_astray(study);
    find_forecast(study);
    if (!study.forecast.empty())
        find_forecast_uncertainty(study, each);
}

} // namespace pallix::planning
