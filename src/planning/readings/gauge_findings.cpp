// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/readings/gauge_findings.h"

#include "block/state/bore_state.h"
#include "block/state/deck_state.h"
#include "block/state/intake_state.h"
#include "block/state/readings_state.h"
#include "block/state/tunnel_state.h"
#include "metrology/minimum_zone.h"
#include "planning/common/fit_spread.h"
#include "planning/cylinders/boring.h"
#include "planning/decks/deck_verdict.h"
#include "planning/decks/triangulation.h"
#include "planning/tunnel/tunnel_sizes.h"
#include "planning/tunnel/tunnel_verdict.h"

#include <algorithm>
#include <boost/math/distributions/normal.hpp>
#include <cmath>
#include <map>
#include <numbers>

namespace pallix::planning {
namespace {

using block::FeatureId;
using block::FeatureKind;
using block::JobState;
using block::MeasuredPlace;
using block::Quantity;
using metrology::Limits;
using metrology::Vec2;
using metrology::Vec3;
using metrology::Verdict;

/// A cylinder or lifter bore that was cut is held against what it was cut to.
std::optional<Limits> window_after_cut(const JobState& state, const FeatureId& id,
                                       const std::optional<double>& oversize) {
    const auto cuts = bores_of(state).bore(id).cuts_now();
    if (cuts.empty())
        return std::nullopt;
    const block::BoreCut& last = cuts.back().payload;
    const double tolerance = pistons_of(state).tolerance;
    if (id.kind == FeatureKind::bore && last.operation == block::BoreOperation::hone)
        if (const auto sizes = bore_sizes(state, id, oversize))
            return Limits{sizes->finish, sizes->finish_most};
    if (last.target)
        return Limits{*last.target - tolerance, *last.target + tolerance};
    return std::nullopt;
}

Limits window_of(const JobState& state, const FeatureId& id, const std::optional<double>& oversize) {
    const block::Blueprint& b = *intake_of(state).blueprint;
    const block::Tolerance* t = nullptr;
    if (id.kind == FeatureKind::main) {
        const auto main = std::ranges::find(b.mains, id, &block::MainBlueprint::id);
        t = main == b.mains.end() ? nullptr : &main->diameter;
    } else if (const auto* hole = b.hole(id)) {
        if (const auto after = window_after_cut(state, id, oversize))
            return *after;
        t = &hole->diameter;
    }
    return t ? Limits{t->smallest(), t->largest()} : Limits{};
}

std::vector<const MeasuredPlace*> places_of(const JobState& state, Quantity quantity) {
    std::vector<const MeasuredPlace*> found;
    for (const MeasuredPlace& p : readings_of(state).places)
        if (p.at.quantity == quantity)
            found.push_back(&p);
    return found;
}

std::optional<double> worse_of(std::optional<double> a, std::optional<double> b) {
    return a && b ? std::optional(std::max(*a, *b)) : std::nullopt;
}

// ---- sizes --------------------------------------------------------------------------------------------------------

void find_shape(BoreFinding& bore) {
    std::map<std::string, std::vector<double>> levels;
    for (const SizeFinding& s : bore.sizes)
        levels[s.place.at.level].push_back(s.place.value);
    double largest = -1, smallest = 1e9;
    for (const auto& [level, sizes] : levels) {
        bore.out_of_round = std::max(bore.out_of_round, std::ranges::max(sizes) - std::ranges::min(sizes));
        double mean = 0;
        for (const double size : sizes)
            mean += size / static_cast<double>(sizes.size());
        largest = std::max(largest, mean);
        smallest = std::min(smallest, mean);
    }
    bore.taper = largest - smallest;
}

/// A main may be in size everywhere and still no cylinder.
void judge_shape(BoreFinding& bore, const JobState& state) {
    const auto main = std::ranges::find(intake_of(state).blueprint->mains, bore.id, &block::MainBlueprint::id);
    if (main == intake_of(state).blueprint->mains.end() || bore.sizes.empty())
        return;
    const auto shape = main_shape_limit(limits_of(state), main->diameter);
    if (!shape)
        return;
    std::optional<double> u = 0.0;
    for (const SizeFinding& s : bore.sizes)
        u = worse_of(u, s.place.standard_uncertainty());
    if (u)
        *u *= std::numbers::sqrt2; // the difference of two sizes
    const metrology::DecisionRule rule = rule_of(state);
    bore.verdict = metrology::worse(bore.verdict, metrology::decide(bore.taper, u, {std::nullopt, shape}, rule));
    // Sizes two ways differ by twice what the radius does.
    bore.verdict =
        metrology::worse(bore.verdict, metrology::decide(bore.out_of_round, u, {std::nullopt, 2 * *shape}, rule));
}

/// Of the mains, what was read with the caps off says nothing of them as they run.
bool holds(const MeasuredPlace& p) {
    return p.at.feature.kind == FeatureKind::main ? counts(p) : !p.stale();
}

BoreFinding bore_finding(const JobState& state, const FeatureId& id, const std::optional<double>& oversize) {
    BoreFinding bore{id, {}, 0, 0, Verdict::meets, false};
    const Limits limits = window_of(state, id, oversize);
    std::vector<const MeasuredPlace*> sizes;
    for (const MeasuredPlace* p : places_of(state, Quantity::size))
        if (p->at.feature == id)
            sizes.push_back(p);
    bore.stale = std::ranges::none_of(sizes, [](const MeasuredPlace* p) { return holds(*p); });
    for (const MeasuredPlace* p : sizes) {
        if (holds(*p) == bore.stale)
            continue; // beside what holds, what does not is left out
        SizeFinding s{*p, limits, metrology::decide(p->value, p->standard_uncertainty(), limits, rule_of(state)), {}};
        if (p->sureness)
            s.settling = metrology::settle(p->value, *p->sureness, limits, rule_of(state));
        bore.verdict = metrology::worse(bore.verdict, s.verdict);
        bore.sizes.push_back(std::move(s));
    }
    find_shape(bore);
    judge_shape(bore, state);
    if (bore.stale)
        bore.verdict = Verdict::cannot_tell;
    return bore;
}

template <class Items>
std::vector<BoreFinding> bore_findings(const JobState& state, const Items& items,
                                       const std::optional<double>& oversize) {
    std::vector<BoreFinding> found;
    for (const auto& item : items)
        if (auto bore = bore_finding(state, item.id, oversize); !bore.sizes.empty())
            found.push_back(std::move(bore));
    return found;
}

// ---- tunnel -------------------------------------------------------------------------------------------------------

std::optional<SaddleFinding> saddle_finding(const JobState& state) {
    SaddleFinding f;
    std::vector<Vec2> line;
    f.uncertainty = 0.0;
    for (const auto& main : intake_of(state).blueprint->mains) {
        const std::size_t before = f.saddles.size();
        for (const MeasuredPlace* p : places_of(state, Quantity::saddle))
            if (p->at.feature == main.id && counts(*p)) {
                f.saddles.push_back({main.id, main.x, p->value});
                line.push_back({main.x, p->value});
                f.uncertainty = worse_of(f.uncertainty, p->standard_uncertainty());
            }
        if (f.saddles.size() == before)
            f.missing.push_back(main.id);
    }
    if (f.saddles.size() < 3)
        return std::nullopt; // two saddles always lie on a line
    const Vec2 first = line.front(), last = line.back();
    for (std::size_t i = 0; i < line.size(); ++i)
        f.saddles[i].off = line[i].y - (first.y + (last.y - first.y) * (line[i].x - first.x) / (last.x - first.x));
    f.straightness = metrology::strip_width(line);
    // A zone is the difference of two heights.
    if (f.uncertainty)
        *f.uncertainty *= std::numbers::sqrt2;
    f.verdict =
        metrology::decide(f.straightness, f.uncertainty, {std::nullopt, limits_of(state).straightness}, rule_of(state));
    if (!f.missing.empty())
        f.verdict = metrology::worse(f.verdict, Verdict::cannot_tell);
    return f;
}

std::vector<SweepFinding> sweep_findings(const JobState& state) {
    std::map<FeatureId, std::map<std::string, const MeasuredPlace*>> clocks;
    std::map<FeatureId, double> angle;
    for (const MeasuredPlace* p : places_of(state, Quantity::sweep))
        if (!p->stale())
            clocks[p->at.feature][p->at.direction] = p;
    for (const block::TakenReading& r : readings_of(state).readings)
        if (r.reading.at.quantity == Quantity::sweep)
            angle[r.reading.at.feature] = r.reading.instrument.contact_angle;
    std::vector<SweepFinding> found;
    for (const auto& [main, at] : clocks) {
        if (!at.contains("12") || !at.contains("3") || !at.contains("6") || !at.contains("9"))
            continue;
        // A lever reads long by the cosine of its angle, and the angle is judged by eye.
        const double true_share = std::cos(angle[main]) / 2;
        const double sag = tunnel_of(state).sag ? tunnel_of(state).sag->at_12 - tunnel_of(state).sag->at_6 : 0;
        SweepFinding s{main, true_share * (at.at("12")->value - at.at("6")->value - sag),
                       true_share * (at.at("3")->value - at.at("9")->value), 0.0};
        for (const auto& [clock, place] : at)
            s.uncertainty = worse_of(s.uncertainty, place->standard_uncertainty());
        if (s.uncertainty) {
            constexpr double by_eye = 3 * block::radians_per_degree; // standard; from memory
            const double off = std::max(std::abs(s.up), std::abs(s.towards_3));
            const double of_angle = off * (std::tan(std::abs(angle[main])) * by_eye + by_eye * by_eye / 2);
            s.uncertainty = std::hypot(*s.uncertainty / std::numbers::sqrt2, of_angle); // half a difference of two
        }
        found.push_back(s);
    }
    return found;
}

// ---- decks --------------------------------------------------------------------------------------------------------

std::optional<FeelerFinding> feeler_finding(const JobState& state, const block::BankBlueprint& bank) {
    FeelerFinding f;
    f.bank = bank.id;
    for (const MeasuredPlace* p : places_of(state, Quantity::gap)) {
        if (p->at.feature.bank != bank.id || p->stale() || !p->upper)
            continue;
        ++f.lines;
        f.at_most = std::max(f.at_most, *p->upper);
        if (p->value > f.at_least || f.where.empty()) {
            f.at_least = std::max(f.at_least, p->value);
            f.where = p->at.direction;
        }
    }
    if (f.lines == 0)
        return std::nullopt;
    f.verdict = f.at_least > flatness_limit(limits_of(state), bank) ? Verdict::fails : Verdict::cannot_tell;
    return f;
}

std::vector<ClearanceFinding> clearance_findings(const JobState& state) {
    std::map<FeatureId, std::vector<const MeasuredPlace*>> sides;
    for (const MeasuredPlace* p : places_of(state, Quantity::piston))
        if (!p->stale())
            sides[p->at.feature].push_back(p);
    std::vector<ClearanceFinding> found;
    for (const auto& [bore, both] : sides) {
        if (both.size() < 2)
            continue;
        ClearanceFinding c{bore, (both[0]->value + both[1]->value) / 2, std::abs(both[0]->value - both[1]->value),
                           worse_of(both[0]->standard_uncertainty(), both[1]->standard_uncertainty())};
        if (c.uncertainty)
            *c.uncertainty /= std::numbers::sqrt2;
        found.push_back(c);
    }
    return found;
}

std::vector<WallFinding> wall_findings(const JobState& state) {
    std::map<FeatureId, WallFinding> thinnest;
    for (const MeasuredPlace* p : places_of(state, Quantity::wall)) {
        WallFinding& w = thinnest[p->at.feature];
        if (!w.where.empty() && p->value >= w.thinnest)
            continue;
        w = {p->at.feature, p->value, p->at.level + ", " + p->at.direction};
    }
    std::vector<WallFinding> found;
    found.reserve(thinnest.size());
    for (const auto& [bore, wall] : thinnest)
        found.push_back(wall);
    return found;
}

// ---- gauge against probe ------------------------------------------------------------------------------------------

struct Probed {
    double value;
    double uncertainty;
};

std::optional<Probed> probed_at(const block::Evaluation& e, const block::MeasuredAt& at, double touch) {
    if (at.feature.kind == FeatureKind::main)
        for (const block::MainResult& m : e.mains)
            if (m.id == at.feature && (m.level == at.level || m.level.empty()))
                return Probed{m.diameter, touch * fit_spread(m).diameter};
    for (const auto* holes : {&e.bores, &e.lifters})
        for (const block::HoleResult& h : *holes)
            for (const block::HoleLevel& l : h.levels)
                if (h.id == at.feature && l.level == at.level)
                    return Probed{l.diameter, touch * fit_spread(l).diameter};
    return std::nullopt;
}

/// Straight between the three touches round a place.
std::optional<double> height_between(const std::vector<Vec3>& points, Vec2 place) {
    std::vector<Vec2> flat;
    flat.reserve(points.size());
    for (const Vec3 p : points)
        flat.push_back({p.x, p.y});
    for (const Triangle& t : delaunay(flat)) {
        const Vec2 a = flat[t[0]], b = flat[t[1]], c = flat[t[2]];
        const double area = cross(b - a, c - a);
        const double s = cross(place - a, c - a) / area, r = cross(b - a, place - a) / area;
        if (s >= -1e-9 && r >= -1e-9 && s + r <= 1 + 1e-9)
            return points[t[0]].z + s * (points[t[1]].z - points[t[0]].z) + r * (points[t[2]].z - points[t[0]].z);
    }
    return std::nullopt;
}

/// One place that both have measured.
struct Compared {
    block::MeasuredAt at;
    std::string words;
    double by_gauge = 0, u_gauge = 0;
    Probed probed;
};

/// Of many honest places one differs by more than twice its uncertainty sooner or later: all together are named as
/// seldom as one would be alone (Bonferroni).
double coverage_of_all(std::size_t places) {
    const boost::math::normal standard;
    const double beyond = boost::math::cdf(complement(standard, metrology::DecisionRule{}.coverage));
    return boost::math::quantile(complement(standard, beyond / static_cast<double>(std::max<std::size_t>(1, places))));
}

void find_disagreements(GaugeFindings& f, const JobState& state) {
    std::vector<Compared> all;
    if (!tunnel_of(state).latest || !tunnel_of(state).latest->standard_uncertainty || tunnel_of(state).probe_stale())
        return;
    const double touch = *tunnel_of(state).latest->standard_uncertainty;
    // The mean of the ways a bore was measured at one level stands against the circle there.
    for (const auto* bores : {&f.mains, &f.cylinders, &f.lifters})
        for (const BoreFinding& bore : *bores) {
            std::map<std::string, std::vector<const MeasuredPlace*>> levels;
            for (const SizeFinding& s : bore.sizes)
                if (!bore.stale && s.place.sureness)
                    levels[s.place.at.level].push_back(&s.place);
            const block::BoreWork& work = bores_of(state).bore(bore.id);
            if (std::max(work.last_cut(), work.fitted ? work.fitted->sequence : 0) > tunnel_of(state).latest->sequence)
                continue; // cut since it was probed
            for (const auto& [level, places] : levels) {
                const auto probed = probed_at(tunnel_of(state).latest->evaluation, places.front()->at, touch);
                if (!probed)
                    continue;
                double mean = 0, u = 0;
                for (const MeasuredPlace* p : places) {
                    mean += p->value / static_cast<double>(places.size());
                    u = std::max(u, *p->standard_uncertainty());
                }
                block::MeasuredAt at = places.front()->at;
                at.direction.clear();
                // Two or three ways say nothing better of the mean than half the oval they found.
                all.push_back({at, at.feature.text() + (level.empty() ? "" : " " + level), mean,
                               std::hypot(u, bore.out_of_round / 2), *probed});
            }
        }
    for (const MeasuredPlace* p : places_of(state, Quantity::height)) {
        const block::DeckState& deck = decks_of(state).deck(p->at.feature.bank);
        const block::DeckResult* probed = tunnel_of(state).latest->evaluation.deck(p->at.feature.bank);
        const bool cut_since = std::ranges::any_of(
            deck.cuts, [&](const block::TakenCut& c) { return c.sequence > tunnel_of(state).latest->sequence; });
        if (p->stale() || !p->sureness || !probed || cut_since)
            continue;
        if (const auto height = height_between(probed->points, p->at.place))
            all.push_back({p->at, p->words, p->value, *p->standard_uncertainty(), {*height, touch}});
    }
    const double coverage = coverage_of_all(all.size());
    for (Compared& c : all) {
        const double allowed = coverage * std::hypot(c.u_gauge, c.probed.uncertainty);
        if (std::abs(c.by_gauge - c.probed.value) > allowed)
            f.disagreements.push_back({c.at, std::move(c.words), c.by_gauge, c.probed.value, allowed});
    }
}

/// Sizes of one bore taken with and without caps or plate must not be held against each other.
void find_condition_warnings(GaugeFindings& f, const JobState& state) {
    std::map<FeatureId, std::vector<const MeasuredPlace*>> of;
    for (const MeasuredPlace& p : readings_of(state).places)
        if (!p.stale() && p.at.quantity == Quantity::size)
            of[p.at.feature].push_back(&p);
    for (const auto& entry : of) {
        const FeatureId& feature = entry.first;
        const std::vector<const MeasuredPlace*>& places = entry.second;
        const auto differs = [&](auto member) {
            return std::ranges::any_of(places, [&](const MeasuredPlace* p) {
                return p->conditions.*member != places.front()->conditions.*member;
            });
        };
        if (feature.kind == FeatureKind::main &&
            std::ranges::any_of(places, [](const MeasuredPlace* p) { return p->conditions.caps_torqued == false; }))
            f.warnings.push_back({feature, "read with the caps off: it says nothing of the main as it runs"});
        else if (feature.kind == FeatureKind::main && differs(&block::Conditions::caps_torqued))
            f.warnings.push_back({feature, "some readings with the caps torqued, some without"});
        if (feature.kind == FeatureKind::bore && differs(&block::Conditions::plate_on))
            f.warnings.push_back({feature, "some readings with the torque plate on, some without"});
    }
}

} // namespace

const BoreFinding* GaugeFindings::bore(const FeatureId& id) const {
    for (const auto* bores : {&mains, &cylinders, &lifters})
        if (const auto found = std::ranges::find(*bores, id, &BoreFinding::id); found != bores->end())
            return &*found;
    return nullptr;
}

GaugeFindings gauge_findings(const JobState& state, const std::optional<double>& oversize) {
    GaugeFindings f;
    if (!intake_of(state).blueprint || readings_of(state).places.empty())
        return f;
    f.mains = bore_findings(state, intake_of(state).blueprint->mains, oversize);
    f.cylinders = bore_findings(state, intake_of(state).blueprint->bores, oversize);
    f.lifters = bore_findings(state, intake_of(state).blueprint->lifters, oversize);
    f.saddles = saddle_finding(state);
    f.sweeps = sweep_findings(state);
    for (const block::BankBlueprint& bank : intake_of(state).blueprint->banks)
        if (auto feelers = feeler_finding(state, bank))
            f.feelers.push_back(std::move(*feelers));
    f.clearances = clearance_findings(state);
    f.walls = wall_findings(state);
    find_disagreements(f, state);
    find_condition_warnings(f, state);
    // A piston's crown does not move when its deck is cut: its reading is kept as a height, not taken again.
    const auto kept_as_crown = [&state](const MeasuredPlace& p) {
        return p.at.quantity == Quantity::piston &&
               std::ranges::find(decks_of(state).crowns, p.at.feature, &block::CrownReading::bore) !=
                   decks_of(state).crowns.end();
    };
    for (const MeasuredPlace& p : readings_of(state).places)
        if (p.stale() && !kept_as_crown(p))
            f.measure_again.push_back(p.words + " (" + p.stale_because + ")");
    return f;
}

} // namespace pallix::planning
