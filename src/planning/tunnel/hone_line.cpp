// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/tunnel/hone_line.h"

#include "metrology/circle_fit.h"

#include <algorithm>
#include <cmath>
#include <functional>

namespace pallix::planning {
namespace {

using metrology::Vec3;

constexpr double follow_share = 0.16, follow_least = 0.00015; // held against a simulated hone (tests/certainty)
constexpr double one_section = 1; // mm along the crankshaft: points nearer than that are read at one end of a housing

/// The middles that lead a mandrel.
std::vector<HoneLine::Middle> leading_middles(const std::vector<Housing>& mains, const TunnelPolicy& policy) {
    const auto replaced = [&](const Housing& h) {
        return std::ranges::find(policy.replaced, h.id) != policy.replaced.end();
    };
    std::vector<HoneLine::Middle> middles;
    if (std::ranges::count_if(mains, std::not_fn(replaced)) < 2)
        return middles;
    for (std::size_t i = 0; i < mains.size(); ++i) {
        if (replaced(mains[i]))
            continue;
        std::vector<Vec3> points = mains[i].points;
        std::ranges::sort(points, {}, &Vec3::x);
        for (auto from = points.begin(); from != points.end();) {
            const auto to = std::find_if(from, points.end(), [&](Vec3 p) { return p.x - from->x > one_section; });
            std::vector<metrology::Vec2> section;
            double x = 0;
            for (auto p = from; p != to; ++p) {
                section.push_back({p->y, p->z});
                x += p->x / static_cast<double>(to - from);
            }
            if (const auto circle = metrology::fit_circle(section))
                middles.push_back({i, x, circle->centre.x, circle->centre.y});
            from = to;
        }
    }
    return middles;
}

} // namespace

CentreLine HoneLine::with(const std::vector<double>& cuts) const {
    CentreLine line = uncut;
    for (std::size_t i = 0; i < gained.size() && i < cuts.size(); ++i) {
        line.z0 += cuts[i] * gained[i].first;
        line.zk += cuts[i] * gained[i].second;
    }
    return line;
}

double follows_within(const HoneLine& line, const std::vector<double>& cuts) {
    const CentreLine led = line.with(cuts);
    double squares = 0;
    for (const HoneLine::Middle& m : line.middles) {
        const double y = m.y - led.y(m.x), z = m.z + cuts[m.main] / 2 - led.z(m.x);
        squares += y * y + z * z;
    }
    const double n = static_cast<double>(line.middles.size());
    return std::hypot(follow_least, n > 0 ? follow_share * std::sqrt(squares / (2 * n)) : 0);
}

HoneLine hone_line(const std::vector<Housing>& mains, const TunnelPolicy& policy) {
    HoneLine line;
    line.middles = leading_middles(mains, policy);
    line.gained.assign(mains.size(), {});
    if (line.middles.empty())
        return line;
    double n = 0, mean = 0, squares = 0;
    for (const HoneLine::Middle& m : line.middles) {
        n += 1;
        mean += m.x;
    }
    mean /= n;
    for (const HoneLine::Middle& m : line.middles)
        squares += (m.x - mean) * (m.x - mean);
    // A middle at x moves the line by 1/n + (x − mean)(X − mean)/squares of itself at X.
    for (const HoneLine::Middle& m : line.middles) {
        const double slope = squares > 0 ? (m.x - mean) / squares : 0, level = 1 / n - slope * mean;
        line.uncut.y0 += level * m.y;
        line.uncut.yk += slope * m.y;
        line.uncut.z0 += level * m.z;
        line.uncut.zk += slope * m.z;
        line.gained[m.main].first += level / 2;
        line.gained[m.main].second += slope / 2;
    }
    return line;
}

} // namespace pallix::planning
