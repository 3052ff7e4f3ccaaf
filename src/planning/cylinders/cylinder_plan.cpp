// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/cylinders/cylinder_plan.h"

#include "block/state/bore_state.h"
#include "block/state/intake_state.h"
#include "block/state/readings_state.h"
#include "block/state/tunnel_state.h"
#include "metrology/enclosing_circle.h"
#include "metrology/uncertainty.h"
#include "planning/common/found_holes.h"
#include "planning/tunnel/moved_axis.h"

#include <algorithm>
#include <cmath>
#include <functional>
#include <limits>
#include <tuple>

namespace pallix::planning {
namespace {

using block::FeatureId;
using block::JobState;
using block::Quantity;
using metrology::Vec2;

constexpr double rounding = 1e-9; // mm

/// Directions of wall readings, as seen from the rear with the deck up: +v is right, +u is rear.
std::optional<Vec2> outwards(const std::string& direction) {
    if (direction == "right")
        return Vec2{0, 1};
    if (direction == "left")
        return Vec2{0, -1};
    if (direction == "rear")
        return Vec2{1, 0};
    if (direction == "front")
        return Vec2{-1, 0};
    return std::nullopt;
}

bool is_thrust(const std::string& direction, block::ThrustSide side) {
    return (direction == "right" && side != block::ThrustSide::left) ||
           (direction == "left" && side != block::ThrustSide::right);
}

std::vector<WallAt> walls_of(const JobState& state, const FeatureId& id, const block::CylinderPlanChosen& plan) {
    const block::BoreWork& work = bores_of(state).bore(id);
    const std::int64_t first =
        work.cuts.empty() ? std::numeric_limits<std::int64_t>::max() : work.cuts.front().sequence;
    std::vector<WallAt> walls;
    const auto at = [&walls](const block::MeasuredAt& m) {
        return std::ranges::find_if(walls,
                                    [&m](const WallAt& w) { return w.level == m.level && w.direction == m.direction; });
    };
    for (const block::TakenReading& r : readings_of(state).readings) {
        const block::MeasuredAt& m = r.reading.at;
        const auto direction = outwards(m.direction);
        if (m.feature != id || m.quantity != Quantity::wall || !direction)
            continue;
        auto found = at(m);
        if (r.sequence > first) {
            if (found != walls.end() && r.sequence > work.last_cut())
                found->after = r.value;
            continue;
        }
        if (found == walls.end())
            found = walls.insert(walls.end(), WallAt{});
        const bool thrust = is_thrust(m.direction, plan.thrust);
        *found = {m.level, m.direction, r.value, {}, r.value, thrust ? plan.wall_thrust : plan.wall,
                  thrust,  *direction};
    }
    return walls;
}

/// Sizes by gauge from before the first cut, mm.
struct GaugedSizes {
    double smallest = 0, largest = 0;
    std::optional<double> uncertainty; ///< standard, of one
};
std::optional<GaugedSizes> gauged(const JobState& state, const FeatureId& id) {
    const block::BoreWork& work = bores_of(state).bore(id);
    const std::int64_t first =
        work.cuts.empty() ? std::numeric_limits<std::int64_t>::max() : work.cuts.front().sequence;
    std::optional<GaugedSizes> range;
    for (const block::TakenReading& r : readings_of(state).readings) {
        if (r.reading.at.feature != id || r.reading.at.quantity != Quantity::size || r.sequence > first)
            continue;
        const auto u = r.fixed ? std::optional(std::hypot(*r.fixed, r.reading.instrument.repeatability.value_or(0)))
                               : std::nullopt;
        if (!range)
            range = {r.value, r.value, u};
        range = {std::min(range->smallest, r.value), std::max(range->largest, r.value),
                 u && range->uncertainty ? std::optional(std::max(*u, *range->uncertainty)) : std::nullopt};
    }
    return range;
}

/// What was seen in the wall that a cut had left belongs to that wall, not to the one it was found with.
double pitted_to(const JobState& state, const FeatureId& id) {
    const block::BoreWork& work = bores_of(state).bore(id);
    double reaches = 0;
    for (const auto& pit : work.pits) {
        const auto later =
            std::ranges::find_if(work.cuts, [&](const auto& cut) { return cut.sequence > pit.sequence; });
        if (later == work.cuts.begin() || (work.fitted && work.fitted->sequence > pit.sequence))
            continue;
        const block::BoreCut& cut = std::prev(later)->payload;
        const std::int64_t since = std::prev(later)->sequence, until = later == work.cuts.end()
                                                                           ? std::numeric_limits<std::int64_t>::max()
                                                                           : later->sequence;
        double size = cut.setting.value_or(cut.target.value_or(0));
        for (const block::TakenReading& r : readings_of(state).readings)
            if (r.reading.at.feature == id && r.reading.at.quantity == Quantity::size && r.sequence > since &&
                r.sequence < until)
                size = r.value; // the last that was read of that wall
        if (size > 0)
            reaches = std::max(reaches, size + 2 * pit.payload.depth);
    }
    return reaches;
}

std::optional<double> smallest_that_holds(const std::vector<double>& oversizes, double over_nominal) {
    std::optional<double> smallest;
    for (const double o : oversizes)
        if (o >= over_nominal && (!smallest || o < *smallest))
            smallest = o;
    return smallest;
}

/// What one bore needs by each school that its measurements can tell.
void find_needs(CylinderNeed& need, const block::CylinderPlanChosen& plan) {
    const FoundCylinder& f = need.found;
    const double extra = 2 * f.pit + plan.margin;
    const double seen = f.pitted_to > 0 ? f.pitted_to + plan.margin : 0;
    const auto add = [&](CentreSchool school, double least, double most) {
        least = std::max(least, seen - extra);
        most = std::max(most, seen - extra);
        need.schools.push_back(
            {school, least + extra, most + extra, smallest_that_holds(plan.oversizes, most + extra - f.nominal)});
    };
    if (f.points.empty()) {
        // All wear on one side of the unworn top is the worst a gauge cannot see.
        add(CentreSchool::top, f.worn, 2 * f.worn - f.diameter);
        return;
    }
    const double free = 2 * metrology::enclosing_circle(f.points).radius, top = clean_about(f.points, *f.top),
                 blueprint = clean_about(f.points, f.blueprint);
    add(CentreSchool::free, free, free);
    add(CentreSchool::top, top, top);
    add(CentreSchool::blueprint, blueprint, blueprint);
}

double radius_within(const FoundCylinder& f, const block::CylinderPlanChosen& plan, double oversize) {
    if (f.nominal + oversize - plan.margin < f.pitted_to)
        return 0;
    return (f.nominal + oversize - plan.margin) / 2 - f.pit;
}
double growth(const FoundCylinder& f, double oversize) {
    return (f.nominal + oversize - f.diameter) / 2;
}

CommonSize common_size(const std::vector<CylinderNeed>& each, CentreSchool school) {
    CommonSize c{school, {}, {}, -std::numeric_limits<double>::infinity(), {}};
    const auto largest_without = [&](const std::optional<FeatureId>& left_out) -> std::optional<double> {
        double largest = 0;
        bool any = false;
        for (const CylinderNeed& n : each) {
            const SchoolNeed* s = n.by(school);
            if (n.sleeved || n.left_out || n.found.id == left_out || !s)
                continue;
            if (!s->oversize)
                return std::nullopt;
            largest = any ? std::max(largest, *s->oversize) : *s->oversize;
            any = true;
        }
        return any ? std::optional(largest) : std::nullopt;
    };
    for (const CylinderNeed& n : each) {
        const SchoolNeed* s = n.by(school);
        if (!s || n.sleeved || n.left_out)
            continue;
        if (const double over = s->needed_at_most - n.found.nominal; over > c.needed_over) {
            c.needed_over = over;
            c.set_by = n.found.id;
        }
    }
    c.oversize = largest_without({});
    if (c.set_by)
        c.without = largest_without(c.set_by);
    return c;
}

/// The smallest size at which every bore cleans up somewhere between its top and the blueprint.
CommonSize common_limited(const std::vector<CylinderNeed>& each, const block::CylinderPlanChosen& plan) {
    CommonSize c{CentreSchool::limited, {}, {}, -std::numeric_limits<double>::infinity(), {}};
    std::vector<double> sizes = plan.oversizes;
    std::ranges::sort(sizes);
    std::optional<double> second; // what the others need
    bool all = true;
    for (const CylinderNeed& n : each) {
        if (n.sleeved || n.left_out || n.found.points.empty())
            continue;
        const auto fits = std::ranges::find_if(sizes, [&](double o) {
            return limited_centre(n.found, radius_within(n.found, plan, o), growth(n.found, o)).has_value();
        });
        const double over = fits == sizes.end() ? std::numeric_limits<double>::infinity() : *fits;
        all = all && fits != sizes.end();
        if (over > c.needed_over) {
            if (c.set_by)
                second = c.needed_over;
            c.needed_over = over;
            c.set_by = n.found.id;
        } else {
            second = std::max(second.value_or(over), over);
        }
    }
    if (all && c.set_by)
        c.oversize = c.needed_over;
    if (second && std::isfinite(*second))
        c.without = second;
    return c;
}

/// How likely a bore cleans up at a size, about the centre a school gives it.
/// @return nothing where nobody stated how sure its touches or sizes are
std::optional<double> chance_to_clean(const CylinderNeed& n, CentreSchool school, const block::CylinderPlanChosen& plan,
                                      double oversize) {
    const FoundCylinder& f = n.found;
    if (!f.uncertainty || !(*f.uncertainty > 0))
        return std::nullopt;
    if (f.points.empty()) { // twice the worn size less the top's
        const SchoolNeed* s = n.by(CentreSchool::top);
        const std::vector<double> room{f.nominal + oversize - s->needed_at_most};
        return metrology::chance_of_all(room, std::sqrt(5.0) * *f.uncertainty);
    }
    const double radius = radius_within(f, plan, oversize);
    Vec2 centre = school == CentreSchool::blueprint ? f.blueprint : *f.top;
    if (school == CentreSchool::free)
        centre = metrology::enclosing_circle(f.points).centre;
    if (school == CentreSchool::limited) {
        const auto limited = limited_centre(f, radius, growth(f, oversize));
        if (!limited)
            return 0;
        centre = limited->centre;
    }
    std::vector<double> rooms;
    for (const Vec2 p : f.points)
        rooms.push_back(radius - norm(p - centre));
    return metrology::chance_of_all(rooms, *f.uncertainty);
}

void find_sure(CommonSize& c, const std::vector<CylinderNeed>& each, const block::CylinderPlanChosen& plan) {
    std::vector<double> sizes = plan.oversizes;
    std::ranges::sort(sizes);
    for (const double oversize : sizes) {
        const auto all = chance_all_clean(each, c.school, plan, oversize);
        if (!all)
            return;
        c.sure_known = true;
        if (*all >= metrology::sure_enough) {
            c.sure = oversize;
            return;
        }
    }
}

/// Centre and walls at the size decided on.
void settle(CylinderNeed& n, const block::CylinderPlanChosen& plan, std::optional<double> oversize) {
    FoundCylinder& f = n.found;
    if (!f.points.empty()) {
        if (plan.centre == CentreSchool::free)
            n.centre = metrology::enclosing_circle(f.points).centre;
        else
            n.centre = plan.centre == CentreSchool::blueprint ? f.blueprint : *f.top;
        if (oversize)
            n.limited = limited_centre(f, radius_within(f, plan, *oversize), growth(f, *oversize));
        if (plan.centre == CentreSchool::limited && n.limited)
            n.centre = n.limited->centre;
    }
    if (!oversize)
        return;
    const double size = f.nominal + *oversize;
    if (plan.centre == CentreSchool::limited)
        n.cleans = f.points.empty() || n.limited.has_value();
    else if (const SchoolNeed* s = n.by(plan.centre))
        n.cleans = size >= s->needed_at_most - rounding;
    const Vec2 move = n.centre && f.top ? *n.centre - *f.top : Vec2{};
    for (WallAt& w : f.walls)
        w.planned = w.before - (growth(f, *oversize) + dot(move, w.outwards));
}

} // namespace

block::CylinderPlanChosen cylinder_plan_of(const JobState& state) {
    if (bores_of(state).cylinder_plan)
        return bores_of(state).cylinder_plan->payload;
    block::CylinderPlanChosen usual;
    usual.oversizes = {0, 0.25, 0.5, 0.75, 1.0};
    return usual;
}

std::vector<UsualWalls> usual_walls() {
    return {{"road", 3.8, 2.5}, {"race", 5.1, 2.5}};
}

std::optional<double> chance_all_clean(const std::vector<CylinderNeed>& each, CentreSchool school,
                                       const block::CylinderPlanChosen& plan, double oversize) {
    double all = 1;
    for (const CylinderNeed& n : each)
        if (!n.sleeved && !n.left_out) {
            const auto chance = chance_to_clean(n, school, plan, oversize);
            if (!chance)
                return std::nullopt;
            all *= *chance;
        }
    return all;
}

std::vector<FoundCylinder> found_cylinders(const JobState& state, const CentreLine& line) {
    std::vector<FoundCylinder> found;
    const block::CylinderPlanChosen plan = cylinder_plan_of(state);
    for (const block::HoleBlueprint& meant : intake_of(state).blueprint->bores) {
        FoundCylinder f;
        f.id = meant.id;
        f.cylinder = meant.cylinder.value_or(meant.id.number);
        f.nominal = meant.diameter.nominal;
        f.blueprint = {meant.u, meant.v};
        f.pit = bores_of(state).bore(meant.id).deepest_pit();
        f.pitted_to = pitted_to(state, meant.id);
        const block::EvaluationState* probed = probed_before_cuts(state, meant.id);
        const block::Evaluation* e = probed ? &probed->evaluation : nullptr;
        const auto sizes = gauged(state, meant.id);
        if (const block::HoleResult* hole = hole_of(e, meant.id)) {
            const MovedAxis axis(line, intake_of(state).blueprint->bank(meant.id.bank)->angle,
                                 origin_dowel(*intake_of(state).blueprint, *e));
            f.points = bore_points(*hole, axis);
            f.top = top_centre(*hole, axis);
            if (!hole->place_known) // nobody says where it should be: no way to go
                f.blueprint = *f.top;
            f.diameter = hole->diameter();
            for (const block::HoleLevel& level : hole->levels)
                f.worn = std::max(f.worn, level.diameter);
            f.uncertainty = probed->standard_uncertainty;
        } else if (sizes) {
            f.diameter = sizes->smallest;
            f.worn = sizes->largest;
            f.uncertainty = sizes->uncertainty;
        } else {
            continue;
        }
        f.walls = walls_of(state, meant.id, plan);
        found.push_back(std::move(f));
    }
    return found;
}

std::optional<LimitedCentre> limited_centre(const FoundCylinder& bore, double radius, double grown) {
    if (bore.points.empty() || !bore.top || radius <= 0)
        return std::nullopt;
    const Vec2 from = *bore.top, way = bore.blueprint - from;
    double low = 0, high = 1;
    LimitedCentre c;
    // |p − from − t·way| ≤ radius holds between the roots of a quadratic in t.
    for (const Vec2 p : bore.points) {
        const Vec2 d = p - from;
        const double a = dot(way, way), b = dot(d, way), k = dot(d, d) - radius * radius;
        if (a < rounding * rounding) {
            if (k > 2 * radius * rounding)
                return std::nullopt;
            continue;
        }
        const double root = b * b - a * k;
        if (root < 0)
            return std::nullopt;
        low = std::max(low, (b - std::sqrt(root)) / a);
        if (const double top = (b + std::sqrt(root)) / a; top < high) {
            high = top;
            c.by = LimitedBy::size;
        }
    }
    for (const WallAt& w : bore.walls) {
        if (!w.least)
            continue;
        // before − (grown + t·way·d) ≥ least
        const double spare = w.before - grown - *w.least, along = dot(way, w.outwards);
        if (along <= rounding)
            continue; // moving away from this wall, or along it
        if (const double top = spare / along; top < high) {
            high = std::min(high, std::max(top, 0.0)); // a wall that is thin already forbids no more than moving
            c.by = LimitedBy::wall;
            c.wall = w.level + ", " + w.direction;
        }
    }
    if (high < low - rounding)
        return std::nullopt;
    c.share = high;
    c.centre = from + high * way;
    c.moved = high * norm(way);
    c.left = (1 - high) * norm(way);
    return c;
}

const SchoolNeed* CylinderNeed::by(CentreSchool school) const {
    const auto it = std::ranges::find(schools, school, &SchoolNeed::school);
    return it == schools.end() ? nullptr : &*it;
}
bool CylinderNeed::thin() const {
    return std::ranges::any_of(found.walls, &WallAt::thin);
}
const CylinderNeed* CylinderStudy::bore(const FeatureId& id) const {
    const auto it = std::ranges::find_if(each, [&id](const CylinderNeed& n) { return n.found.id == id; });
    return it == each.end() ? nullptr : &*it;
}
const CommonSize* CylinderStudy::by(CentreSchool school) const {
    const auto it = std::ranges::find(common, school, &CommonSize::school);
    return it == common.end() ? nullptr : &*it;
}

std::optional<CylinderStudy> study_cylinders(const JobState& state, const CentreLine& line) {
    if (!intake_of(state).blueprint)
        return std::nullopt;
    CylinderStudy study;
    const block::CylinderPlanChosen plan = cylinder_plan_of(state);
    for (FoundCylinder& f : found_cylinders(state, line)) {
        CylinderNeed n;
        n.found = std::move(f);
        if (const auto& decided = bores_of(state).bore(n.found.id).decided) {
            n.sleeved = decided->payload.choice == block::BoreChoice::sleeve;
            n.left_out = decided->payload.choice == block::BoreChoice::scrap ||
                         decided->payload.choice == block::BoreChoice::leave;
        }
        find_needs(n, plan);
        study.each.push_back(std::move(n));
    }
    if (study.each.empty())
        return std::nullopt;
    const bool probed = std::ranges::any_of(study.each, [](const CylinderNeed& n) { return !n.found.points.empty(); });
    if (probed)
        study.common.push_back(common_size(study.each, CentreSchool::free));
    study.common.push_back(common_size(study.each, CentreSchool::top));
    if (probed) {
        study.common.push_back(common_limited(study.each, plan));
        study.common.push_back(common_size(study.each, CentreSchool::blueprint));
    }
    for (CommonSize& c : study.common)
        find_sure(c, study.each, plan);
    const CommonSize* chosen = study.by(plan.centre);
    if (!chosen)
        chosen = study.by(CentreSchool::top);
    study.oversize = plan.oversize ? plan.oversize : chosen->oversize;
    for (CylinderNeed& n : study.each)
        settle(n, plan, n.sleeved ? std::nullopt : study.oversize);
    const auto need_of = [&](const FeatureId& id) {
        const CylinderNeed& n = *study.bore(id);
        const SchoolNeed* s = n.by(plan.centre == CentreSchool::limited ? CentreSchool::top : plan.centre);
        return n.sleeved ? std::numeric_limits<double>::infinity() // its seat is the largest bore of all
                         : (s ? s->needed_at_most : n.found.worn) - n.found.nominal;
    };
    for (const CylinderNeed& n : study.each)
        if (!n.left_out)
            study.order.push_back(n.found.id);
    // Seats, then the worst as the trial; then along its bank from the front, and the block is rolled once.
    std::ranges::stable_sort(study.order, std::greater<>(), need_of);
    const auto trial = std::ranges::find_if(study.order, [&](const FeatureId& id) { return !study.bore(id)->sleeved; });
    if (trial != study.order.end()) {
        const std::string bank = trial->bank;
        std::stable_sort(trial + 1, study.order.end(), [&bank](const FeatureId& a, const FeatureId& b) {
            return std::tuple(a.bank != bank, a.bank, a.number) < std::tuple(b.bank != bank, b.bank, b.number);
        });
    }
    return study;
}

} // namespace pallix::planning
