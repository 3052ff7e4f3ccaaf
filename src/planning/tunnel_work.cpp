// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/tunnel_work.h"

#include "block/job_state.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>

namespace pallix::planning {
namespace {

using block::FeatureId;
using block::FeatureKind;
using block::JobState;
using block::MeasuredAt;
using block::Quantity;
using block::TunnelPassKind;
using metrology::Vec3;

constexpr double one_sided_95 = 1.645;

const block::MainBlueprint& meant(const JobState& state, const FeatureId& id) {
    return *std::ranges::find(state.blueprint->mains, id, &block::MainBlueprint::id);
}

double target_of(const block::MainBlueprint& main, const TunnelPolicy& policy) {
    return policy.target_diameter.value_or((main.diameter.smallest() + main.diameter.largest()) / 2);
}

/// Angle of a size's direction from upright, rad.
std::optional<double> angle_of(const std::string& direction) {
    if (direction == "upright")
        return 0.0;
    if (direction == "60 left")
        return -std::numbers::pi / 3;
    return direction == "60 right" ? std::optional(std::numbers::pi / 3) : std::nullopt;
}

/// The newest size at a place, whether or not it still holds.
struct LastSize {
    const block::TakenReading* reading;
    std::int64_t sequence;
};

std::map<std::string, LastSize> last_sizes(const JobState& state, std::int64_t before = INT64_MAX) {
    std::map<std::string, LastSize> last;
    for (const block::TakenReading& r : state.readings)
        if (r.reading.at.feature.kind == FeatureKind::main && r.reading.at.quantity == Quantity::size &&
            r.sequence < before)
            last[r.reading.at.key()] = {&r, r.sequence};
    return last;
}

KnownHousings from_gauges(const JobState& state, const TunnelPolicy& policy) {
    KnownHousings known;
    std::map<FeatureId, double> saddle;
    known.uncertainty = 0.0;
    const auto worse = [&known](const std::optional<double>& u) {
        known.uncertainty = known.uncertainty && u ? std::optional(std::max(*known.uncertainty, *u)) : std::nullopt;
    };
    for (const block::MeasuredPlace& p : state.places)
        if (p.at.quantity == Quantity::saddle && !p.stale()) {
            saddle[p.at.feature] = p.value;
            worse(p.standard_uncertainty());
        }
    const auto& mains = state.blueprint->mains;
    if (mains.size() > 2)
        for (const block::MainBlueprint& main : mains)
            if (!saddle.contains(main.id))
                known.saddles_missing.push_back(main.id);
    if (!known.saddles_missing.empty())
        return known;
    const double x0 = mains.front().x, x1 = mains.back().x, s0 = saddle[mains.front().id], s1 = saddle[mains.back().id];
    for (const block::MainBlueprint& main : mains) {
        Housing h{main.id, {}, target_of(main, policy), 0};
        double upright = 0;
        for (const block::MeasuredPlace& p : state.places)
            if (p.at.feature == main.id && p.at.quantity == Quantity::size && p.at.direction == "upright" && !p.stale())
                upright = upright == 0 ? p.value : (upright + p.value) / 2;
        if (upright == 0)
            continue;
        // The saddle's top stands where the end mains' line has it, and off it by what the indicator found.
        const double off = saddle[main.id] - (s0 + (s1 - s0) * (main.x - x0) / (x1 - x0));
        const double z = h.target_diameter / 2 + off - upright / 2;
        for (const block::MeasuredPlace& p : state.places) {
            const auto angle = angle_of(p.at.direction);
            if (p.at.feature != main.id || p.at.quantity != Quantity::size || !angle || p.stale())
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
    if (!state.blueprint)
        return {};
    const bool worked = !state.caps_cut.empty() || !state.tunnel_passes.empty();
    const bool probe_holds =
        state.latest && !state.probe_stale() &&
        (!worked || ((state.caps_cut.empty() || state.latest->sequence > state.caps_cut.back().sequence) &&
                     (state.tunnel_passes.empty() || state.latest->sequence > state.tunnel_passes.back().sequence)));
    if (!probe_holds)
        return from_gauges(state, policy);
    const block::Evaluation& e = state.latest->evaluation;
    return {HousingSource::probe,
            housings_of(*state.blueprint, e, policy),
            state.latest->standard_uncertainty,
            given_line(e, GivenLine::ends),
            {}};
}

// ---- study
// ------------------------------------------------------------------------------------------------------------

namespace {

TunnelPlan plan_for(const KnownHousings& known, const TunnelPolicy& policy) {
    std::vector<Housing> mains = known.mains;
    if (policy.target_diameter)
        for (Housing& m : mains)
            m.target_diameter = *policy.target_diameter;
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
    add("hone, line kept", [](TunnelPolicy& p) {
        p.method = TunnelMethod::hone;
        p.caps = CapCuts::each;
        p.max_rise = std::min(p.max_rise, 0.0025); // a tenth
    });
    add("bore on the datum", [](TunnelPolicy& p) { p.method = TunnelMethod::bore, p.line = GivenLine::datum; });
    add("bore, end mains", [](TunnelPolicy& p) { p.method = TunnelMethod::bore, p.line = GivenLine::ends; });
}

/// Each point may lie further out than it was measured; a main read once more is known better by √2.
void find_sure(TunnelStudy& study) {
    if (!study.housings.uncertainty)
        return;
    KnownHousings known = study.housings;
    const double margin = one_sided_95 * *known.uncertainty;
    for (Housing& m : known.mains)
        m.margin = margin;
    study.sure = plan_for(known, study.policy);
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

std::optional<TunnelStudy> study_tunnel(const JobState& state) {
    TunnelStudy study;
    study.policy = state.tunnel_policy.value_or(TunnelPolicy{.parting = 12 * block::radians_per_degree});
    study.housings = known_housings(state, study.policy);
    if (study.housings.source == HousingSource::none)
        return std::nullopt;
    study.plan = plan_for(study.housings, study.policy);
    return study;
}

void explain(TunnelStudy& study) {
    study.loosened.clear();
    study.schools.clear();
    study.readings.clear();
    find_loosened(study);
    find_schools(study);
    find_sure(study);
}

// ---- consequences
// -----------------------------------------------------------------------------------------------------

namespace {

double pitch_radius(double pitch, int teeth) {
    return pitch / (2 * std::sin(std::numbers::pi / teeth));
}

double wrap_angle(const ChainDrive& c, double centre_distance) {
    return std::asin((pitch_radius(c.pitch, c.teeth_cam) - pitch_radius(c.pitch, c.teeth_crank)) / centre_distance);
}

} // namespace

double chain_length(const ChainDrive& c, double centre_distance) {
    const double a = wrap_angle(c, centre_distance);
    return 2 * centre_distance * std::cos(a) +
           c.pitch * (c.teeth_crank * (0.5 - a / std::numbers::pi) + c.teeth_cam * (0.5 + a / std::numbers::pi));
}

ChainSlack chain_slack(const ChainDrive& c, double length, double centre_distance) {
    ChainSlack s;
    s.excess = length - chain_length(c, centre_distance);
    const double run = centre_distance * std::cos(wrap_angle(c, centre_distance));
    s.sag = s.excess > 0 ? std::sqrt(3 * run * s.excess / 8) : 0;
    return s;
}

double backlash_change(double closer, double pressure_angle) {
    return -2 * closer * std::tan(pressure_angle);
}

double bearing_clearance(double housing, double shell, double journal) {
    return housing - 2 * shell - journal;
}

TunnelConsequences consequences_of(const block::Blueprint& blueprint, const block::Evaluation* evaluation,
                                   const std::vector<Housing>& mains, const CentreLine& line) {
    TunnelConsequences c;
    if (mains.empty())
        return c;
    const double front = mains.front().mean_x(), middle = (front + mains.back().mean_x()) / 2;
    if (blueprint.cam) {
        const bool measured = evaluation && evaluation->cam;
        const double y = measured ? evaluation->cam->y : blueprint.cam->y,
                     z = measured ? evaluation->cam->z : blueprint.cam->z;
        const double distance = std::hypot(y, z);
        c.cam_distance_change = -(line.y(front) * y + line.z(front) * z) / distance;
        if (const auto& drive = blueprint.cam_drive) {
            if (drive->pitch > 0) {
                const ChainDrive chain{drive->teeth_crank, drive->teeth_cam, drive->pitch};
                const double length = drive->chain_length.value_or(chain_length(chain, distance));
                c.chain = chain_slack(chain, length, distance + c.cam_distance_change);
            } else {
                c.backlash_change = backlash_change(-c.cam_distance_change, drive->pressure_angle);
            }
        }
        if (evaluation)
            c.roll = roll_after(blueprint, *evaluation, mains, line);
    }
    if (blueprint.main_bearing)
        c.bearing_clearance = bearing_clearance(mains.front().target_diameter, blueprint.main_bearing->shell,
                                                blueprint.main_bearing->journal);
    for (const block::BankBlueprint& bank : blueprint.banks) {
        const double s = std::sin(bank.angle), k = std::cos(bank.angle);
        c.decks.push_back(
            {bank.id, -(line.y(middle) * s + line.z(middle) * k), -(line.y(middle) * k - line.z(middle) * s)});
    }
    return c;
}

std::vector<JackMove> jack_moves(const block::Blueprint& blueprint, const std::vector<SweepFinding>& sweeps,
                                 const std::vector<double>& stations) {
    const auto at = [&](const SweepFinding& s) {
        return std::ranges::find(blueprint.mains, s.main, &block::MainBlueprint::id)->x;
    };
    std::vector<JackMove> moves;
    if (sweeps.size() < 2)
        return moves;
    const SweepFinding &first = sweeps.front(), &last = sweeps.back();
    for (const double x : stations) {
        const double share = (x - at(first)) / (at(last) - at(first));
        moves.push_back(
            {x, first.up + share * (last.up - first.up), first.towards_3 + share * (last.towards_3 - first.towards_3)});
    }
    return moves;
}

// ---- doing it
// ---------------------------------------------------------------------------------------------------------

namespace {

std::vector<CapPrediction> predictions_of(const JobState& state) {
    std::vector<CapPrediction> out;
    if (state.caps_cut.empty())
        return out;
    const block::TakenCaps& last = state.caps_cut.back();
    const auto before = last_sizes(state, last.sequence);
    const auto now = last_sizes(state);
    const std::int64_t worked = state.tunnel_passes.empty() ? 0 : state.tunnel_passes.back().sequence;
    for (const auto& [key, size] : before) {
        const auto angle = angle_of(size.reading->reading.at.direction);
        if (!angle)
            continue;
        CapPrediction p{size.reading->reading.at, size.reading->value, 0, 0, {}, 0};
        for (const auto& [main, cut] : last.cut.cuts)
            if (main == p.at.feature)
                p.cut = cut;
        p.predicted = p.before - p.cut * std::cos(*angle);
        p.allowed = 2 * std::numbers::sqrt2 * size.reading->fixed.value_or(0.0025);
        if (const auto after = now.find(key);
            after != now.end() && after->second.sequence > last.sequence && worked < last.sequence)
            p.after = after->second.reading->value;
        out.push_back(p);
    }
    return out;
}

std::vector<StockLeft> board_of(const JobState& state, const TunnelPolicy& policy) {
    std::vector<StockLeft> board;
    for (const auto& [key, size] : last_sizes(state)) {
        const block::MainBlueprint& main = meant(state, size.reading->reading.at.feature);
        const double d = size.reading->value;
        board.push_back({size.reading->reading.at, d, target_of(main, policy) - d, main.diameter.smallest() - d,
                         main.diameter.largest() - d, size.reading->stale()});
    }
    std::ranges::stable_sort(board, {}, [](const StockLeft& s) { return s.at.feature.number; });
    return board;
}

/// Means of the sizes between one go and the next, against the strokes that lay between.
std::optional<StrokeForecast> forecast_of(const JobState& state, const std::vector<StockLeft>& board) {
    if (state.tunnel_passes.empty() || board.empty())
        return std::nullopt;
    const std::int64_t last = state.tunnel_passes.back().sequence;
    const auto before = last_sizes(state, last), now = last_sizes(state);
    double grown = 0, places = 0;
    for (const auto& [key, size] : now)
        if (const auto old = before.find(key); old != before.end() && size.sequence > last) {
            grown += size.reading->value - old->second.reading->value;
            ++places;
        }
    StrokeForecast f;
    f.strokes = state.tunnel_passes.back().pass.strokes;
    if (places == 0 || f.strokes <= 0 || grown <= 0)
        return std::nullopt;
    f.per_stroke = grown / places / f.strokes;
    for (const StockLeft& s : board)
        f.stock_left = std::max(f.stock_left, s.left);
    f.strokes_left = f.stock_left / f.per_stroke;
    return f;
}

void find_boring(TunnelWork& work, const JobState& state, const TunnelPolicy& policy) {
    bool established = false;
    const block::TakenPass* last = nullptr;
    for (const block::TakenPass& taken : state.tunnel_passes) {
        if (taken.pass.new_cutter)
            established = false;
        if (taken.pass.kind == TunnelPassKind::establishing)
            established = true;
        last = &taken;
    }
    work.establishing_due = !established;
    if (!last || !last->pass.protrusion)
        return;
    double measured = 0, n = 0, wanted = 0;
    for (const StockLeft& s : work.board)
        if (!s.stale) {
            measured += s.size;
            wanted += target_of(meant(state, s.at.feature), policy);
            ++n;
        }
    if (n > 0)
        work.next_protrusion = *last->pass.protrusion + (wanted - measured) / n / 2;
}

/// By everything that was measured of it; something must have been.
bool meets_as_found(const GaugeFindings& gauge, const TunnelVerdict* probed) {
    using metrology::Verdict;
    const bool by_gauge = !gauge.mains.empty() && gauge.saddles && gauge.saddles->verdict == Verdict::meets;
    return (probed || by_gauge) && (!probed || probed->overall == Verdict::meets) &&
           std::ranges::all_of(gauge.mains,
                               [](const BoreFinding& m) { return m.stale || m.verdict == Verdict::meets; });
}

TunnelStep step_of(const TunnelWork& work, const JobState& state, const GaugeFindings& gauge,
                   const TunnelVerdict* probed) {
    const bool begun = !state.caps_cut.empty() || !state.tunnel_passes.empty();
    const bool fresh = !work.board.empty() && std::ranges::none_of(work.board, &StockLeft::stale);
    const auto in_size = [](const StockLeft& s) { return s.to_smallest <= 0 && s.to_largest >= 0; };
    if (!begun) {
        if (!work.study)
            return TunnelStep::measure;
        if (meets_as_found(gauge, probed))
            return TunnelStep::good;
        if (!work.study->plan.feasible)
            return TunnelStep::decide;
        return work.study->plan.max_cap_cut < 5e-4 ? TunnelStep::machine : TunnelStep::cut_caps;
    }
    const std::int64_t cut = state.caps_cut.empty() ? 0 : state.caps_cut.back().sequence;
    const std::int64_t pass = state.tunnel_passes.empty() ? 0 : state.tunnel_passes.back().sequence;
    if (cut > pass && state.caps_torqued < cut)
        return TunnelStep::torque_caps;
    if (!fresh)
        return cut > pass ? TunnelStep::measure_caps : TunnelStep::measure_work;
    if (std::ranges::any_of(work.board, [](const StockLeft& s) { return s.to_largest < 0; }))
        return TunnelStep::too_large;
    return pass > 0 && std::ranges::all_of(work.board, in_size) ? TunnelStep::log_finished : TunnelStep::machine;
}

} // namespace

TunnelWork tunnel_work(const JobState& state, const GaugeFindings& gauge, const TunnelVerdict* probed) {
    TunnelWork work;
    if (!state.blueprint)
        return work;
    work.study = study_tunnel(state);
    if (!work.study)
        work.saddles_missing = known_housings(state, TunnelPolicy{}).saddles_missing;
    const TunnelPolicy policy = state.tunnel_policy.value_or(TunnelPolicy{});
    if (work.study)
        for (const CapCut& cut : work.study->plan.cuts)
            work.to_cut.push_back(cut);
    work.predictions = predictions_of(state);
    work.board = board_of(state, policy);
    const auto tightest = std::ranges::max_element(work.board, {}, &StockLeft::left);
    if (tightest != work.board.end())
        work.dwell = *tightest;
    work.forecast = forecast_of(state, work.board);
    find_boring(work, state, policy);
    work.step = step_of(work, state, gauge, probed);
    return work;
}

std::vector<std::string> cap_steps() {
    return {"even contact across each parting face", "caps cut, both faces square", "deburred",
            "registers checked: snug, not tight"};
}

double cutter_protrusion(double wanted, double bar) {
    return (wanted - bar) / 2;
}

} // namespace pallix::planning
