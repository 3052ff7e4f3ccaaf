// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/unnamed/touch_frame.h"

#include "block/frame.h"
#include "metrology/line_fit.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace pallix::block {

using namespace metrology;

namespace {

constexpr double degree = std::numbers::pi / 180;

/// Holes one behind the other.
struct HoleLine {
    std::vector<std::size_t> sections;
    Vec3 point, direction;
    double span = 0, radius = 0;
};

std::vector<HoleLine> lines_of(const std::vector<TouchGroup>& groups) {
    std::vector<std::size_t> holes;
    for (std::size_t i = 0; i < groups.size(); ++i)
        if (groups[i].kind == TouchGroup::Kind::hole)
            holes.push_back(i);
    std::vector<HoleLine> lines;
    for (std::vector<std::size_t>& sections : coaxial_lines(groups, holes))
        lines.push_back({std::move(sections), {}, {}, 0, 0});
    for (HoleLine& line : lines) {
        std::vector<Vec3> centres;
        centres.reserve(line.sections.size());
        for (const std::size_t i : line.sections) {
            centres.push_back(groups[i].centre);
            line.radius += groups[i].radius / static_cast<double>(line.sections.size());
        }
        line.point = centres.front();
        line.direction = groups[line.sections.front()].axis;
        for (const Vec3 c : centres)
            line.span = std::max(line.span, norm(c - centres.front()));
        constexpr double enough = 20; // mm: a line through centres tells more than a section's plane
        if (line.span > enough)
            if (const auto fit = fit_line(centres)) {
                line.point = fit->point;
                line.direction = fit->direction;
            }
    }
    std::ranges::stable_sort(lines, std::ranges::greater(), &HoleLine::span);
    return lines;
}

/// Places along a line, from the one where x is least; each the mean of its sections.
std::vector<double> places_along(const HoleLine& line, const std::vector<TouchGroup>& groups, Vec3 x) {
    std::vector<double> at;
    at.reserve(line.sections.size());
    for (const std::size_t i : line.sections)
        at.push_back(dot(groups[i].centre, x));
    std::ranges::sort(at);
    const std::vector<std::size_t> of = places_of(at);
    std::vector<double> places(of.back() + 1);
    for (std::size_t i = 0; i < at.size(); ++i)
        places[of[i]] += at[i] / static_cast<double>(std::ranges::count(of, of[i]));
    return places;
}

/// A group's direction out of the block, seen from datum A; nothing where it runs along it.
std::optional<Vec3> outward(const TouchGroup& group, Vec3 x, Vec3 on_axis) {
    if (group.kind == TouchGroup::Kind::stray || std::abs(dot(group.axis, x)) > 0.2)
        return std::nullopt;
    const Vec3 w = unit(perpendicular(group.axis, x));
    return dot(group.centre - on_axis, w) < 0 ? -w : w;
}

/// Directions that groups have in common.
struct Fan {
    Vec3 direction;
    std::size_t holes = 0, wide = 0, faces = 0; ///< wide: reaching for the crankshaft
    double farthest = 0;                        ///< mm, of its faces from datum A
};

std::vector<Fan> fans_of(const std::vector<TouchGroup>& groups, Vec3 x, Vec3 on_axis) {
    std::vector<Fan> fans;
    for (const TouchGroup& g : groups) {
        const auto w = outward(g, x, on_axis);
        if (!w)
            continue;
        auto fan =
            std::ranges::find_if(fans, [&](const Fan& f) { return dot(f.direction, *w) > std::cos(8 * degree); });
        if (fan == fans.end())
            fan = fans.insert(fans.end(), Fan{*w});
        if (g.kind == TouchGroup::Kind::face) {
            ++fan->faces;
            fan->farthest = std::max(fan->farthest, dot(g.centre - on_axis, *w));
        } else {
            ++fan->holes;
            constexpr double wide = 25;
            const double beside = std::abs(dot(g.centre - on_axis, cross(*w, x)));
            fan->wide += g.radius > wide && beside < 0.4 * g.radius ? 1 : 0;
        }
    }
    return fans;
}

/// The directions of the banks, one or two.
std::vector<Vec3> banks_of(std::vector<Fan> fans) {
    const auto keep = [&fans](auto wanted) {
        if (std::ranges::any_of(fans, wanted))
            std::erase_if(fans, [&](const Fan& f) { return !wanted(f); });
    };
    keep([](const Fan& f) { return f.wide > 0; });
    keep([](const Fan& f) { return f.faces > 0 && f.holes > 0; });
    keep([](const Fan& f) { return f.faces > 0; });
    double farthest = 0;
    for (const Fan& f : fans)
        farthest = std::max(farthest, f.farthest);
    keep([&](const Fan& f) { return f.farthest >= 0.8 * farthest; });
    std::ranges::stable_sort(fans, std::ranges::greater(),
                             [](const Fan& f) { return 10 * f.wide + f.holes + f.faces; });
    std::vector<Vec3> banks;
    for (std::size_t i = 0; i < std::min<std::size_t>(2, fans.size()); ++i)
        banks.push_back(fans[i].direction);
    return banks;
}

/// Mains among the lines along x: the widest holes of those that are long.
std::vector<const HoleLine*> lines_beside(const std::vector<HoleLine>& lines) {
    std::vector<const HoleLine*> beside;
    constexpr double shortest = 30; // mm
    for (const HoleLine& line : lines)
        if (line.sections.size() >= 2 && line.span > shortest &&
            (beside.empty() || std::abs(dot(line.direction, beside.front()->direction)) > along_axis))
            beside.push_back(&line);
    std::ranges::stable_sort(beside, std::ranges::greater(), &HoleLine::radius);
    return beside;
}

TouchFrame upright(Vec3 x, Vec3 z, Vec3 origin, bool mirrored) {
    TouchFrame frame;
    frame.x = x;
    frame.z = z;
    frame.y = mirrored ? cross(x, z) : cross(z, x);
    frame.origin = origin;
    frame.mirrored = mirrored;
    return frame;
}

/// Turned about x: positive from +z towards +y.
TouchFrame rolled(const TouchFrame& f, double angle) {
    TouchFrame out = f;
    out.z = std::cos(angle) * f.z + std::sin(angle) * f.y;
    out.y = std::cos(angle) * f.y - std::sin(angle) * f.z;
    return out;
}

/// From +z towards +y.
double angle_in(const TouchFrame& frame, Vec3 w) {
    const Vec3 t = frame.turned(w);
    return std::atan2(t.y, t.z);
}

double wrapped(double angle) {
    return std::remainder(angle, 2 * std::numbers::pi);
}

std::vector<double> directions_in(const Blueprint& blueprint) {
    std::vector<double> all;
    for (const BankBlueprint& bank : blueprint.banks)
        all.push_back(bank.angle);
    for (const HoleBlueprint& lifter : blueprint.lifters)
        if (lifter.angle && std::ranges::none_of(all, [&](double a) { return std::abs(a - *lifter.angle) < degree; }))
            all.push_back(*lifter.angle);
    return all;
}

/// Rolls about x that lay some group along a bank, each once.
std::vector<double> rolls_of(const std::vector<TouchGroup>& groups, const TouchFrame& frame,
                             const Blueprint& blueprint) {
    std::vector<double> rolls;
    const auto add = [&rolls](double roll) {
        constexpr double same = 1.5 * degree;
        if (std::ranges::none_of(rolls, [&](double r) { return std::abs(wrapped(r - roll)) < same; }))
            rolls.push_back(wrapped(roll));
    };
    std::vector<double> seen;
    for (const TouchGroup& g : groups) {
        const auto w = outward(g, frame.x, frame.origin);
        if (!w)
            continue;
        const double phi = angle_in(frame, *w);
        if (std::ranges::any_of(seen, [&](double s) { return std::abs(wrapped(s - phi)) < degree; }))
            continue;
        seen.push_back(phi);
        for (const double beta : directions_in(blueprint))
            add(phi - beta);
        if (g.kind == TouchGroup::Kind::face)
            add(phi - std::numbers::pi); // a pan rail
    }
    if (blueprint.cam)
        for (const TouchGroup& g : groups)
            if (g.kind == TouchGroup::Kind::hole && std::abs(dot(g.axis, frame.x)) > along_axis) {
                const Vec3 p = perpendicular(g.centre - frame.origin, frame.x);
                constexpr double beside = 20; // mm
                if (norm(p) > beside)
                    add(angle_in(frame, p) - std::atan2(blueprint.cam->y, blueprint.cam->z));
            }
    return rolls;
}

/// The same frame, nearer: roll and x by the means of what it names.
TouchFrame refined(const TouchFrame& frame, const std::vector<TouchGroup>& groups, const Blueprint& blueprint) {
    const std::vector<TouchName> names = nearest_names(groups, frame, blueprint);
    double roll = 0, shift = 0;
    int rolls = 0, shifts = 0;
    for (std::size_t i = 0; i < groups.size(); ++i) {
        if (!names[i].id)
            continue;
        const FeatureId& id = *names[i].id;
        if (const HoleBlueprint* hole = blueprint.hole(id)) {
            shift += frame.in_block(groups[i].centre).x - hole->u;
            ++shifts;
        }
        const BankBlueprint* bank = blueprint.bank(id.bank);
        if (bank && id.kind != FeatureKind::lifter)
            if (const auto w = outward(groups[i], frame.x, frame.origin)) {
                roll += wrapped(angle_in(frame, *w) - bank->angle);
                ++rolls;
            }
    }
    TouchFrame out = rolls > 0 ? rolled(frame, roll / rolls) : frame;
    if (shifts > 0)
        out.origin = out.origin + (shift / shifts) * out.x;
    return out;
}

/// Where on the line the blueprint's x may be 0, so that every place is a main of it.
std::vector<double> shifts_of(const std::vector<double>& places, const std::vector<MainBlueprint>& mains) {
    std::vector<double> shifts;
    constexpr double near = 8; // mm
    for (const MainBlueprint& first : mains) {
        const double shift = places.front() - first.x;
        double off = 0;
        bool all = true;
        for (const double place : places) {
            double nearest = 1e9;
            for (const MainBlueprint& main : mains)
                if (std::abs(place - shift - main.x) < std::abs(nearest))
                    nearest = place - shift - main.x;
            all = all && std::abs(nearest) < near;
            off += nearest / static_cast<double>(places.size());
        }
        if (all)
            shifts.push_back(shift + off);
    }
    return shifts;
}

void add_laid(std::vector<TouchFrame>& frames, const HoleLine& mains, Vec3 x, bool mirrored,
              const std::vector<TouchGroup>& groups, const Blueprint& blueprint) {
    const Vec3 on_axis = perpendicular(mains.point, x);
    for (const double shift : shifts_of(places_along(mains, groups, x), blueprint.mains)) {
        const TouchFrame any = upright(x, plane_basis(x).first, on_axis + shift * x, mirrored);
        for (const double roll : rolls_of(groups, any, blueprint))
            frames.push_back(refined(rolled(any, roll), groups, blueprint));
    }
}

} // namespace

double TouchFrame::depth(const TouchGroup& group) const {
    const auto w = outward(group, x, origin);
    return w ? dot(group.centre - origin, *w) : 0;
}

bool coaxial(const TouchGroup& a, const TouchGroup& b) {
    if (a.kind != TouchGroup::Kind::hole || b.kind != TouchGroup::Kind::hole ||
        std::abs(dot(a.axis, b.axis)) < along_axis)
        return false;
    const Vec3 d = b.centre - a.centre;
    const double beside = std::min(norm(perpendicular(d, a.axis)), norm(perpendicular(d, b.axis)));
    constexpr double alike = 1.6, near = 2, leaning = 0.012; // ratio of radii, mm, and mm for a mm along
    return beside < near + leaning * norm(d) && std::max(a.radius, b.radius) < alike * std::min(a.radius, b.radius);
}

std::vector<std::vector<std::size_t>> coaxial_lines(const std::vector<TouchGroup>& groups,
                                                    const std::vector<std::size_t>& members) {
    std::vector<std::vector<std::size_t>> lines;
    for (const std::size_t i : members) {
        const auto line =
            std::ranges::find_if(lines, [&](const auto& l) { return coaxial(groups[l.front()], groups[i]); });
        if (line == lines.end())
            lines.push_back({i});
        else
            line->push_back(i);
    }
    return lines;
}

std::vector<std::size_t> places_of(const std::vector<double>& at) {
    double widest = 0;
    for (std::size_t i = 1; i < at.size(); ++i)
        widest = std::max(widest, at[i] - at[i - 1]);
    constexpr double of_one = 0.45; // of the widest gap
    std::vector<std::size_t> places(at.size());
    for (std::size_t i = 1; i < at.size(); ++i)
        places[i] = places[i - 1] + (at[i] - at[i - 1] > of_one * widest ? 1 : 0);
    return places;
}

std::vector<TouchFrame> frames_of(const std::vector<TouchGroup>& groups, const Blueprint* blueprint) {
    std::vector<TouchFrame> frames;
    const std::vector<HoleLine> lines = lines_of(groups);
    if (blueprint) {
        constexpr std::size_t most = 4;
        std::size_t tried = 0;
        for (const HoleLine& line : lines) {
            if (line.sections.size() < 2 || tried++ == most)
                break;
            for (const double sign : {1.0, -1.0})
                for (const bool mirrored : {false, true})
                    add_laid(frames, line, sign * line.direction, mirrored, groups, *blueprint);
        }
        return frames;
    }
    const auto beside = lines_beside(lines);
    for (std::size_t i = 0; i < std::min<std::size_t>(2, beside.size()); ++i)
        for (const bool reversed : {false, true}) {
            Vec3 x = beside[i]->direction;
            const double largest = std::abs(x.x) > 0.7 ? x.x : std::abs(x.y) > 0.7 ? x.y : x.z;
            if ((largest < 0) != reversed)
                x = -x;
            const Vec3 on_axis = perpendicular(beside[i]->point, x);
            const std::vector<Vec3> banks = banks_of(fans_of(groups, x, on_axis));
            if (banks.empty())
                continue;
            Vec3 up = banks.front();
            if (banks.size() == 2 && norm(banks[0] + banks[1]) > 0.1)
                up = unit(banks[0] + banks[1]);
            const std::vector<double> places = places_along(*beside[i], groups, x);
            frames.push_back(upright(x, up, on_axis + places.front() * x, false));
        }
    return frames;
}

std::vector<TouchFrame> frames_by_pointing(const std::vector<TouchGroup>& groups,
                                           const std::map<std::size_t, FeatureId>& pointed,
                                           const Blueprint& blueprint) {
    std::vector<TouchFrame> frames;
    for (const BankBlueprint& bank : blueprint.banks) {
        std::vector<std::pair<Vec3, Vec2>> pairs;
        Vec3 axis;
        for (const auto& [at, id] : pointed) {
            const HoleBlueprint* hole = blueprint.hole(id);
            if (!hole || id.bank != bank.id || hole->angle || hole->place_assumed || at >= groups.size() ||
                groups[at].kind != TouchGroup::Kind::hole)
                continue;
            axis = groups[at].axis;
            pairs.emplace_back(groups[at].centre, Vec2{hole->u, hole->v});
        }
        if (pairs.size() < 3)
            continue;
        for (const double sign : {1.0, -1.0}) {
            const Vec3 w = sign * axis;
            const PlaneBasis basis = plane_basis(w);
            Vec2 here, there;
            for (const auto& [p, q] : pairs) {
                here = here + (1.0 / static_cast<double>(pairs.size())) * basis.project(p);
                there = there + (1.0 / static_cast<double>(pairs.size())) * q;
            }
            double s = 0, c = 0; // the turn from the sheet to the log, by least squares
            for (const auto& [p, q] : pairs) {
                const Vec2 a = q - there, b = basis.project(p) - here;
                s += cross(a, b);
                c += dot(a, b);
            }
            const double turn = std::atan2(s, c);
            const Vec3 u = std::cos(turn) * basis.first + std::sin(turn) * basis.second, v = cross(w, u);
            TouchFrame frame = upright(u, std::cos(bank.angle) * w - std::sin(bank.angle) * v, {}, false);
            const Vec2 zero = here - Vec2{there.x * dot(u, basis.first) + there.y * dot(v, basis.first),
                                          there.x * dot(u, basis.second) + there.y * dot(v, basis.second)};
            frame.origin = zero.x * basis.first + zero.y * basis.second;
            // How far down the axis is: by a face, if there is one; the outermost touches else.
            double top = -1e9;
            for (const TouchGroup& g : groups)
                if (g.kind != TouchGroup::Kind::stray && std::abs(dot(g.axis, w)) > along_axis)
                    top = std::max(top, dot(g.centre, w));
            frame.origin = frame.origin + (top - bank.deck_height.nominal) * w;
            frames.push_back(frame);
        }
    }
    return frames;
}

std::optional<std::pair<double, std::size_t>> turn_that_explains(const std::vector<TouchGroup>& groups,
                                                                 const std::vector<TouchName>& names,
                                                                 const TouchFrame& frame, const Blueprint& blueprint) {
    std::vector<std::pair<std::size_t, double>> unknown;
    for (std::size_t i = 0; i < groups.size(); ++i)
        if (const auto w = outward(groups[i], frame.x, frame.origin); w && !names[i].id)
            unknown.emplace_back(i, angle_in(frame, *w));
    constexpr std::size_t fewest = 3;
    constexpr double same = 3 * degree;
    if (unknown.size() < fewest)
        return std::nullopt;
    for (const BankBlueprint& bank : blueprint.banks) {
        const double turn = wrapped(unknown.front().second - bank.angle);
        std::size_t fit = 0;
        for (const auto& [i, phi] : unknown)
            fit += std::ranges::any_of(directions_in(blueprint),
                                       [&, p = phi](double beta) { return std::abs(wrapped(p - turn - beta)) < same; })
                       ? 1
                       : 0;
        if (std::abs(turn) > 2 * same && 5 * fit >= 3 * unknown.size())
            return std::pair(turn, unknown.front().first);
    }
    return std::nullopt;
}

} // namespace pallix::block
