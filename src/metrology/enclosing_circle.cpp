// SPDX-License-Identifier: GPL-3.0-or-later
#include "metrology/enclosing_circle.h"

#include <algorithm>
#include <random>
#include <vector>

namespace pallix::metrology {
namespace {

bool holds(const Circle& c, Vec2 p) {
    return norm(p - c.centre) <= c.radius * (1 + 1e-14) + 1e-15;
}

Circle through(Vec2 a, Vec2 b) {
    return {0.5 * (a + b), norm(b - a) / 2};
}

/// Through three points; on one line (within rounding), the widest pair.
Circle through(Vec2 a, Vec2 b, Vec2 c) {
    const Vec2 ab = b - a, ac = c - a;
    const double twice_area = 2 * cross(ab, ac);
    if (std::abs(twice_area) < 1e-15 * (dot(ab, ab) + dot(ac, ac)))
        return std::max({through(a, b), through(a, c), through(b, c)},
                        [](const Circle& x, const Circle& y) { return x.radius < y.radius; });
    const double bb = dot(ab, ab), cc = dot(ac, ac);
    const Vec2 from_a{(ac.y * bb - ab.y * cc) / twice_area, (ab.x * cc - ac.x * bb) / twice_area};
    return {a + from_a, norm(from_a)};
}

} // namespace

Circle enclosing_circle(std::span<const Vec2> points) {
    if (points.empty())
        return {};
    std::vector<Vec2> p(points.begin(), points.end());
    std::shuffle(p.begin(), p.end(), std::mt19937_64(20010)); // any fixed seed
    Circle c{p[0], 0};
    for (std::size_t i = 1; i < p.size(); ++i) {
        if (holds(c, p[i]))
            continue;
        c = {p[i], 0};
        for (std::size_t j = 0; j < i; ++j) {
            if (holds(c, p[j]))
                continue;
            c = through(p[i], p[j]);
            for (std::size_t k = 0; k < j; ++k)
                if (!holds(c, p[k]))
                    c = through(p[i], p[j], p[k]);
        }
    }
    return c;
}

} // namespace pallix::metrology
