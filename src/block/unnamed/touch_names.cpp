// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/unnamed/touch_names.h"

#include "block/number_text.h"
#include "block/unnamed/touch_frame.h"

#include <algorithm>
#include <cmath>
#include <set>

namespace pallix::block {

using namespace metrology;

namespace {

/// Levels from the top down, as files usually call them.
std::string level_name(std::size_t i, std::size_t count) {
    if (i == 0)
        return "top";
    if (i + 1 == count)
        return "bottom";
    return count == 3 ? "middle" : "level " + std::to_string(i + 1);
}

using Sure = TouchName::Sure;

/// Sections of one place share its name; each gets a level.
void number_levels(std::vector<TouchName>& names, const std::vector<TouchGroup>& groups, const TouchFrame& frame) {
    std::map<FeatureId, std::vector<std::size_t>> places;
    for (std::size_t i = 0; i < names.size(); ++i)
        if (names[i].id && groups[i].kind == TouchGroup::Kind::hole)
            places[*names[i].id].push_back(i);
    for (auto& [id, sections] : places) {
        const bool along = id.kind == FeatureKind::main || id.kind == FeatureKind::cam;
        if (id.kind == FeatureKind::dowel || (along && sections.size() < 2))
            continue;
        std::ranges::sort(sections, [&](std::size_t a, std::size_t b) {
            return along ? frame.in_block(groups[a].centre).x < frame.in_block(groups[b].centre).x
                         : frame.depth(groups[a]) > frame.depth(groups[b]);
        });
        for (std::size_t k = 0; k < sections.size(); ++k)
            names[sections[k]].level = !along                     ? level_name(k, sections.size())
                                       : k == 0                   ? "front"
                                       : k + 1 == sections.size() ? "rear"
                                                                  : "middle " + std::to_string(k);
    }
}

std::size_t agreeing(const std::vector<TouchName>& names, const std::map<std::size_t, FeatureId>& pointed) {
    return static_cast<std::size_t>(std::ranges::count_if(
        pointed, [&](const auto& p) { return p.first < names.size() && names[p.first].id == p.second; }));
}

/// What somebody pointed at holds; whoever was taken for the same place by mistake loses the name.
void hold(std::vector<TouchName>& names, const std::vector<TouchGroup>& groups,
          const std::map<std::size_t, FeatureId>& pointed) {
    for (const auto& [at, id] : pointed) {
        if (at >= names.size())
            continue;
        const auto same_place = [&groups, own = at](std::size_t i) {
            return i == own || coaxial(groups[i], groups[own]);
        };
        for (std::size_t i = 0; i < names.size(); ++i)
            if (names[i].id == id && !same_place(i) && !pointed.contains(i))
                names[i] = {};
        const auto before = names[at].id;
        for (std::size_t i = 0; i < names.size(); ++i) // the other sections of the hole follow
            if (i == at || (before && names[i].id == before && same_place(i) && !pointed.contains(i)))
                names[i] = {id, {}, i == at ? Sure::stated : Sure::likely, 0};
    }
}

/// "5 cam bearings"
std::string plural(std::size_t n, FeatureKind kind) {
    const std::string word = kind == FeatureKind::cam       ? "cam bearing"
                             : kind == FeatureKind::bore    ? "cylinder"
                             : kind == FeatureKind::panrail ? "pan rail"
                                                            : std::string(kind_name(kind));
    return std::to_string(n) + " " + word + (n == 1 ? "" : "s");
}

void say_what_is_named(NamedTouches& out) {
    std::map<FeatureKind, std::set<FeatureId>> kinds;
    std::size_t strays = 0;
    for (const TouchName& name : out.names)
        if (name.id)
            kinds[name.id->kind].insert(*name.id);
        else
            ++strays;
    std::string line;
    for (const auto& [kind, ids] : kinds)
        line += (line.empty() ? "" : ", ") + plural(ids.size(), kind);
    if (!line.empty())
        out.understood.push_back("by where they lie: " + line);
    if (strays > 0)
        out.understood.push_back(std::to_string(strays) + (strays == 1 ? " run" : " runs") + " of touches left out");
}

/// Which of the log's axes each axis of the block lies nearest to.
std::array<LogAxis, 3> axes_of(const TouchFrame& frame) {
    std::array<LogAxis, 3> axes{};
    const std::array<double, 3> x{frame.x.x, frame.x.y, frame.x.z}, z{frame.z.x, frame.z.y, frame.z.z};
    const auto largest = [](const std::array<double, 3>& v, int but) {
        int best = -1;
        for (int i = 0; i < 3; ++i)
            if (i != but &&
                (best < 0 || std::abs(v[static_cast<std::size_t>(i)]) > std::abs(v[static_cast<std::size_t>(best)])))
                best = i;
        return LogAxis{best, v[static_cast<std::size_t>(best)] < 0};
    };
    axes[0] = largest(x, -1);
    axes[2] = largest(z, axes[0].from);
    axes[1].from = 3 - axes[0].from - axes[2].from;
    // Right-handed, but where the log itself is not.
    const bool cyclic = (axes[0].from + 1) % 3 == axes[1].from;
    axes[1].turned = (cyclic != frame.mirrored) ? axes[0].turned != axes[2].turned : axes[0].turned == axes[2].turned;
    return axes;
}

} // namespace

NamedTouches name_touches(const std::vector<TouchGroup>& groups, const std::map<std::size_t, FeatureId>& pointed,
                          const Blueprint* blueprint) {
    NamedTouches out;
    out.names.resize(groups.size());
    std::vector<TouchFrame> frames = frames_of(groups, blueprint);
    if (blueprint)
        for (TouchFrame& frame : frames_by_pointing(groups, pointed, *blueprint))
            frames.push_back(frame);
    struct WayToLie {
        TouchFrame frame;
        std::vector<TouchName> names;
        std::size_t agrees, named;
        double off;
    };
    std::vector<WayToLie> ways;
    for (const TouchFrame& frame : frames) {
        WayToLie r{frame, blueprint ? nearest_names(groups, frame, *blueprint) : names_by_shape(groups, frame), 0, 0,
                   0};
        r.agrees = agreeing(r.names, pointed);
        for (const TouchName& name : r.names) {
            r.named += name.id ? 1 : 0;
            r.off += name.off;
        }
        constexpr double plainly = 0.3; // mm a place
        r.off += frame.mirrored ? plainly * static_cast<double>(r.named) : 0;
        ways.push_back(std::move(r));
    }
    // First what was pointed at, then how much is explained; last how well. A left-handed log has to be plainly one.
    const auto better = [](const WayToLie& a, const WayToLie& b) {
        if (a.agrees != b.agrees)
            return a.agrees > b.agrees;
        if (a.named != b.named)
            return a.named > b.named;
        return a.off < b.off;
    };
    std::ranges::stable_sort(ways, better);
    if (ways.empty()) {
        hold(out.names, groups, pointed);
        out.open.emplace_back(
            blueprint ? "no line of mains is found: point at three places of one bank, and say what they are"
                      : "no line of mains is found: point at the places, and say what they are");
        return out;
    }
    const WayToLie& best = ways.front();
    out.names = best.names;
    hold(out.names, groups, pointed);
    number_levels(out.names, groups, best.frame);
    out.axes = axes_of(best.frame);
    say_what_is_named(out);
    out.mirrored = best.frame.mirrored;
    if (out.mirrored)
        out.understood.emplace_back("the log's axes are left-handed: y is turned round");
    if (blueprint) {
        // Another way to lay it that explains as much, as well, under other names.
        for (std::size_t i = 1; i < ways.size(); ++i) {
            const WayToLie& other = ways[i];
            const double slack = 0.3 * static_cast<double>(std::max<std::size_t>(best.named, 1));
            const bool as_good =
                other.agrees == best.agrees && other.named == best.named && other.off < best.off + slack;
            const bool other_names = !std::ranges::equal(other.names, best.names, {}, &TouchName::id, &TouchName::id);
            if (as_good && other_names && other.frame.mirrored == best.frame.mirrored) {
                out.open.emplace_back("it may as well lie the other way round: point at main 1");
                for (TouchName& name : out.names)
                    if (name.sure == Sure::sure)
                        name.sure = Sure::likely;
                break;
            }
        }
        if (const auto turned = turn_that_explains(groups, out.names, best.frame, *blueprint)) {
            out.turned = -turned->first; // right-handed about x, as a set-up states it
            out.turned_from = turned->second;
            out.open.push_back("from touch " + std::to_string(groups[turned->second].first + 1) +
                               " on, the block seems to be turned by about " +
                               fixed_number(*out.turned / radians_per_degree, 0) + "°: state that set-up");
        }
    } else if (!pointed.empty() && best.agrees < pointed.size()) {
        out.understood.emplace_back("what was pointed at stands; the rest is told by the shape of blocks");
    }
    return out;
}

} // namespace pallix::block
