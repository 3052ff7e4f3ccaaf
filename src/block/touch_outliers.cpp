// SPDX-License-Identifier: GPL-3.0-or-later
#include "block/touch_outliers.h"

#include "block/section_fit.h"
#include "block/true_touches.h"
#include "metrology/outlier.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace pallix::block {
namespace {

using metrology::Vec2;
using metrology::Vec3;

constexpr double times = 4;
constexpr std::size_t scan = 200; ///< touches of one section
/// Of so few touches the others' scatter says little: then it stands out by more than a worn hole is out of round.
constexpr std::size_t told_by = 4;                                  ///< degrees of freedom
constexpr double worn_main = 0.05, worn_bore = 0.15, least = 0.005; // mm

/// What the touches are fitted by: height over a plane, or distance from a circle.
struct Fitted {
    std::vector<std::array<double, 3>> rows;
    std::vector<double> values;
};

Fitted on_plane(const Section& section, const SectionFrame& f) {
    const Vec3 middle = mean_of(section.touches);
    Fitted fitted;
    for (const Touch& t : section.touches) {
        const Vec3 p = t.position - middle;
        fitted.rows.push_back({1, dot(p, f.first), dot(p, f.second)});
        fitted.values.push_back(dot(p, f.axis));
    }
    return fitted;
}

Fitted on_circle(const RoundSection& round) {
    Fitted fitted;
    for (const Vec2 p : round.surface) {
        const Vec2 d = p - round.centre;
        const double r = norm(d);
        fitted.rows.push_back({1, d.x / r, d.y / r});
        fitted.values.push_back(r - round.radius);
    }
    return fitted;
}

std::optional<RoundSection> circle_of(const ProbeSet& probe, const Section& section, const SectionFrame& f) {
    try {
        return fit_round(probe, section, {f.first, f.second});
    } catch (const Refused&) {
        return std::nullopt; // what fixes no circle has no touch that stands out of one
    }
}

/// One diameter over the other, of four touches about a quarter turn apart.
std::optional<double> diagonals(const RoundSection& round) {
    std::array<std::pair<double, Vec2>, 4> by_angle;
    for (std::size_t i = 0; i < 4; ++i) {
        const Vec2 d = round.surface[i] - round.centre;
        by_angle[i] = {std::atan2(d.y, d.x), round.surface[i]};
    }
    std::ranges::sort(by_angle, {}, &std::pair<double, Vec2>::first);
    constexpr double a_third_of_a_turn = 2.1; // rad: further apart they are no diameters
    for (std::size_t i = 0; i + 1 < 4; ++i)
        if (by_angle[i + 1].first - by_angle[i].first > a_third_of_a_turn)
            return std::nullopt;
    return norm(by_angle[0].second - by_angle[2].second) - norm(by_angle[1].second - by_angle[3].second);
}

} // namespace

std::vector<TouchStandingOut> touches_standing_out(const Blueprint& blueprint, const ProbeSet& probe,
                                                   const BlockFrame& frame, std::optional<double> touch) {
    std::vector<TouchStandingOut> found;
    const double u = touch.value_or(0);
    for (const Section& s : probe.sections) {
        if (s.touches.size() < 4 || s.touches.size() > scan)
            continue;
        const SectionFrame f = frame_of(blueprint, frame, s.feature);
        const bool round = is_round(s.feature.kind);
        const double worn = s.feature.kind == FeatureKind::bore ? worn_bore : worn_main;
        const auto circle = round ? circle_of(probe, s, f) : std::nullopt;
        if (round && !circle)
            continue;
        if (s.touches.size() == 4) {
            const auto more = circle ? diagonals(*circle) : std::nullopt;
            if (more && std::abs(*more) > std::max(worn, times * 2 * u))
                found.push_back({s.feature, s.level, {}, 4, *more, 0});
            continue;
        }
        const Fitted fitted = circle ? on_circle(*circle) : on_plane(s, f);
        const auto furthest = metrology::furthest_off(fitted.rows, fitted.values);
        if (!furthest || std::abs(furthest->ratio) <= times)
            continue;
        const double bound = std::max(furthest->free < told_by ? worn : least, times * u);
        const bool worn_low = !round && furthest->off < 0; // as decks are; the marks of the first passes tell
        if (std::abs(furthest->off) > bound && !worn_low)
            found.push_back(
                {s.feature, s.level, furthest->index + 1, s.touches.size(), furthest->off, furthest->scatter});
    }
    return found;
}

} // namespace pallix::block
