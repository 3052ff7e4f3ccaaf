// SPDX-License-Identifier: GPL-3.0-or-later
// Names for groups of touches in a frame: by the shape of blocks in general, or by the blueprint's places.
#include "block/frame.h"
#include "block/unnamed/touch_frame.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace pallix::block {

using namespace metrology;

namespace {

bool is_hole(const TouchGroup& g) {
    return g.kind == TouchGroup::Kind::hole;
}

/// Where a group points in the block: from +z towards +y.
double direction_of(const TouchGroup& group, const TouchFrame& frame) {
    Vec3 w = frame.turned(group.axis);
    const Vec3 at = frame.in_block(group.centre);
    if (w.y * at.y + w.z * at.z < 0)
        w = -w;
    return std::atan2(w.y, w.z);
}

double between(double a, double b) {
    return std::abs(std::remainder(a - b, 2 * std::numbers::pi));
}

/// Numbers holes from the front: those one behind the other are one.
template <class Less>
void number(std::vector<TouchName>& names, const std::vector<TouchGroup>& groups,
            const std::vector<std::size_t>& members, FeatureKind kind, const std::string& bank, const Less& at) {
    auto holes = coaxial_lines(groups, members);
    std::ranges::stable_sort(holes, {}, [&](const auto& h) { return at(h.front()); });
    for (std::size_t n = 0; n < holes.size(); ++n)
        for (const std::size_t i : holes[n])
            names[i] = {FeatureId{kind, bank, static_cast<int>(n) + 1}, {}, TouchName::Sure::likely, 0};
}

/// Numbers places along the crankshaft; sections close together are of one.
void number_along(std::vector<TouchName>& names, const std::vector<TouchGroup>& groups, const TouchFrame& frame,
                  std::vector<std::size_t> sections, FeatureKind kind) {
    const auto along = [&](std::size_t i) { return frame.in_block(groups[i].centre).x; };
    std::ranges::sort(sections, {}, along);
    std::vector<double> at;
    at.reserve(sections.size());
    for (const std::size_t i : sections)
        at.push_back(along(i));
    const std::vector<std::size_t> places = places_of(at);
    for (std::size_t i = 0; i < sections.size(); ++i)
        names[sections[i]] = {FeatureId{kind, {}, static_cast<int>(places[i]) + 1}, {}, TouchName::Sure::likely, 0};
}

struct BankSeen {
    std::string id;
    double angle = 0;
};

/// The directions in which wide holes or decks lie, named by their sides.
std::vector<BankSeen> banks_in(const std::vector<TouchGroup>& groups, const TouchFrame& frame) {
    std::vector<double> angles;
    const auto add = [&](const TouchGroup& g) {
        const double angle = direction_of(g, frame);
        constexpr double same = 0.15, steepest = 1.65; // rad; opposed banks lie at 90°
        if (std::abs(angle) < steepest &&
            std::ranges::none_of(angles, [&](double a) { return between(a, angle) < same; }))
            angles.push_back(angle);
    };
    constexpr double wide = 25;
    for (const TouchGroup& g : groups)
        if (is_hole(g) && g.radius > wide && std::abs(frame.turned(g.axis).x) < 0.2)
            add(g);
    if (angles.empty())
        for (const TouchGroup& g : groups)
            if (g.kind == TouchGroup::Kind::face)
                add(g);
    if (angles.size() == 1)
        return {{"C", angles.front()}};
    std::ranges::sort(angles, std::ranges::greater());
    std::vector<BankSeen> banks;
    if (angles.size() >= 2)
        banks = {{"R", angles.front()}, {"L", angles.back()}};
    return banks;
}

/// Cylinders, decks, dowels and lifters of a bank.
void name_bank(std::vector<TouchName>& names, const std::vector<TouchGroup>& groups, const TouchFrame& frame,
               const BankSeen& bank, const std::optional<Vec3>& cam_at) {
    const BankAxes axes(bank.angle);
    std::vector<std::size_t> bores, dowels, lifters;
    double deck = 0;
    for (const TouchGroup& g : groups)
        if (g.kind == TouchGroup::Kind::face && between(direction_of(g, frame), bank.angle) < 0.15)
            deck = std::max(deck, dot(frame.in_block(g.centre), axes.w));
    for (std::size_t i = 0; i < groups.size(); ++i) {
        const TouchGroup& g = groups[i];
        const Vec3 at = frame.in_block(g.centre);
        if (g.kind == TouchGroup::Kind::stray || names[i].id || std::abs(frame.turned(g.axis).x) > 0.2)
            continue;
        const double direction = direction_of(g, frame);
        const bool along_bank = between(direction, bank.angle) < 0.15;
        constexpr double wide = 25, narrow = 10, near_deck = 40, same_face = 5, on_cam = 5;
        const BankAxes own(direction);
        const bool over_cam = cam_at && std::abs(dot(at, own.v) - dot(*cam_at, own.v)) < on_cam;
        const bool this_side = bank.id == "C" || (bank.id == "R") == (dot(at, BankAxes(0).v) > 0);
        if (g.kind == TouchGroup::Kind::face) {
            if (along_bank && deck - dot(at, axes.w) < same_face)
                names[i] = {FeatureId{FeatureKind::deck, bank.id, 0}, {}, TouchName::Sure::likely, 0};
        } else if (along_bank && g.radius > wide) {
            bores.push_back(i);
        } else if (along_bank && g.radius < narrow && deck > 0 && deck - dot(at, axes.w) < near_deck) {
            dowels.push_back(i);
        } else if (over_cam && this_side && g.radius < wide) {
            lifters.push_back(i);
        }
    }
    const auto u = [&](std::size_t i) { return frame.in_block(groups[i].centre).x; };
    number(names, groups, bores, FeatureKind::bore, bank.id, u);
    number(names, groups, lifters, FeatureKind::lifter, bank.id, u);
    constexpr std::size_t most_dowels = 4; // more are bolt holes: which of them hold dowels only a person can tell
    if (dowels.size() <= most_dowels)
        number(names, groups, dowels, FeatureKind::dowel, bank.id, u);
}

struct Candidate {
    FeatureId id;
    double off = 0;
};

/// What the blueprint has where a group lies, nearest first.
std::vector<Candidate> candidates(const TouchGroup& g, const TouchFrame& frame, const Blueprint& b) {
    std::vector<Candidate> all;
    const Vec3 at = frame.in_block(g.centre);
    const bool runs_along = std::abs(frame.turned(g.axis).x) > along_axis;
    constexpr double most_ball = 4,
                     most_wear = 2; // mm on radius: a ball's centre lies within, a worn or bored hole wide
    const auto as_large = [&](const Tolerance& size) {
        const double r = size.nominal / 2;
        return g.radius > std::max(r - most_ball, 0.5 * r) && g.radius < r + most_wear;
    };
    if (g.kind == TouchGroup::Kind::face) {
        const double direction = direction_of(g, frame);
        for (const BankBlueprint& bank : b.banks) {
            const Vec3 w = BankAxes(bank.angle).w;
            const double off = std::abs(dot(at, w) - bank.deck_height.nominal);
            constexpr double leaning = 0.1, near = 6;
            if (between(direction, bank.angle) < leaning && off < near)
                all.push_back({{FeatureKind::deck, bank.id, 0}, off});
        }
        constexpr double level = 0.1, nearer = 0.5; // a pan rail lies nearer to the crankshaft than any deck
        const bool near_crankshaft = std::ranges::all_of(
            b.banks, [&](const BankBlueprint& bank) { return -at.z < nearer * bank.deck_height.nominal; });
        if (between(direction, std::numbers::pi) < level && near_crankshaft)
            all.push_back({{FeatureKind::panrail, {}, 0}, 0});
    } else if (is_hole(g) && runs_along) {
        constexpr double near_axis = 4, near_place = 25; // mm; a section may lie at the bearing's edge
        const auto look = [&](const std::vector<MainBlueprint>& bearings, double y, double z) {
            const MainBlueprint* nearest = nullptr;
            for (const MainBlueprint& m : bearings)
                if (!nearest || std::abs(m.x - at.x) < std::abs(nearest->x - at.x))
                    nearest = &m;
            const double off = std::hypot(at.y - y, at.z - z);
            if (nearest && off < near_axis && std::abs(nearest->x - at.x) < near_place && as_large(nearest->diameter))
                all.push_back({nearest->id, off});
        };
        look(b.mains, 0, 0);
        if (b.cam)
            look(b.cam->bearings, b.cam->y, b.cam->z);
    } else if (is_hole(g)) {
        const double direction = direction_of(g, frame);
        for (const auto* holes : {&b.dowels, &b.bores, &b.lifters})
            for (const HoleBlueprint& hole : *holes) {
                const double angle = hole.angle.value_or(b.bank(hole.id.bank) ? b.bank(hole.id.bank)->angle : 0);
                constexpr double leaning = 0.1, near = 6;
                if (hole.place_assumed || between(direction, angle) > leaning || !as_large(hole.diameter))
                    continue;
                const BankAxes axes(angle);
                const double off = std::hypot(at.x - hole.u, dot(at, axes.v) - hole.v);
                if (off < near)
                    all.push_back({hole.id, off});
            }
    }
    std::ranges::stable_sort(all, {}, &Candidate::off);
    return all;
}

} // namespace

std::vector<TouchName> names_by_shape(const std::vector<TouchGroup>& groups, const TouchFrame& frame) {
    std::vector<TouchName> names(groups.size());
    std::vector<std::size_t> mains, others; // along the crankshaft
    for (std::size_t i = 0; i < groups.size(); ++i) {
        if (!is_hole(groups[i]) || std::abs(frame.turned(groups[i].axis).x) < along_axis)
            continue;
        const Vec3 at = frame.in_block(groups[i].centre);
        constexpr double near = 4;
        (std::hypot(at.y, at.z) < near ? mains : others).push_back(i);
    }
    number_along(names, groups, frame, mains, FeatureKind::main);
    const auto beside = coaxial_lines(groups, others);
    const auto cam = std::ranges::max_element(beside, {}, &std::vector<std::size_t>::size);
    std::optional<Vec3> cam_at;
    if (cam != beside.end() && cam->size() >= 2) {
        cam_at = frame.in_block(groups[cam->front()].centre);
        number_along(names, groups, frame, *cam, FeatureKind::cam);
    }
    for (const BankSeen& bank : banks_in(groups, frame))
        name_bank(names, groups, frame, bank, cam_at);
    for (std::size_t i = 0; i < groups.size(); ++i)
        if (groups[i].kind == TouchGroup::Kind::face && !names[i].id &&
            between(direction_of(groups[i], frame), std::numbers::pi) < 0.15)
            names[i] = {FeatureId{FeatureKind::panrail, {}, 0}, {}, TouchName::Sure::likely, 0};
    return names;
}

std::vector<TouchName> nearest_names(const std::vector<TouchGroup>& groups, const TouchFrame& frame,
                                     const Blueprint& blueprint) {
    std::vector<TouchName> names(groups.size());
    constexpr double close = 2, apart = 4; // mm, and how many times farther the next place has to be
    for (std::size_t i = 0; i < groups.size(); ++i) {
        const auto all = candidates(groups[i], frame, blueprint);
        if (all.empty())
            continue;
        const bool alone = all.size() == 1 || all[1].off > apart * std::max(all[0].off, 0.5);
        names[i] = {
            all[0].id, {}, all[0].off < close && alone ? TouchName::Sure::sure : TouchName::Sure::likely, all[0].off};
    }
    return names;
}

} // namespace pallix::block
