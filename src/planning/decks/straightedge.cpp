// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/decks/straightedge.h"

#include "block/state/intake_state.h"
#include "block/state/readings_state.h"

#include <algorithm>
#include <cmath>

namespace pallix::planning {

using metrology::Vec2;

namespace {

/// Upper hull of a profile with ascending distance, from front to rear (Andrew's chain).
std::vector<Vec2> upper_hull(const std::vector<Vec2>& profile) {
    std::vector<Vec2> hull;
    for (const Vec2 p : profile) {
        while (hull.size() >= 2 && cross(hull.back() - hull[hull.size() - 2], p - hull.back()) >= 0)
            hull.pop_back();
        hull.push_back(p);
    }
    return hull;
}

double slope(const EdgeRest& r) {
    return (r.to.y - r.from.y) / (r.to.x - r.from.x);
}

EdgeRest rest_on(Vec2 from, Vec2 to, const std::vector<Vec2>& profile) {
    EdgeRest r{from, to, 0, from.x};
    for (const Vec2 p : profile) {
        const double below = from.y + slope(r) * (p.x - from.x) - p.y;
        if (below > r.gap) {
            r.gap = below;
            r.gap_at = p.x;
        }
    }
    return r;
}

bool is_diagonal(const EdgeComparison& c) {
    return c.line.name.starts_with("diagonal");
}

} // namespace

EdgeLaid lay_straightedge(const std::vector<Vec2>& profile) {
    EdgeLaid laid;
    const std::vector<Vec2> hull = upper_hull(profile);
    if (hull.size() < 2)
        return laid;
    const double middle = (profile.front().x + profile.back().x) / 2, length = profile.back().x - profile.front().x;
    std::size_t under = 0; // the hull edge under the middle
    while (under + 2 < hull.size() && hull[under + 1].x < middle)
        ++under;
    laid.rests.push_back(rest_on(hull[under], hull[under + 1], profile));
    const auto add_neighbour = [&](std::size_t edge) {
        EdgeRest r = rest_on(hull[edge], hull[edge + 1], profile);
        if (std::abs(slope(r) - slope(laid.rests.front())) * length >= noticeable_rock)
            laid.rests.push_back(r);
    };
    if (under > 0)
        add_neighbour(under - 1);
    if (under + 2 < hull.size())
        add_neighbour(under + 1);
    return laid;
}

std::vector<Vec2> profile_along(const DeckMap& map, Vec2 from, Vec2 to, double step) {
    std::vector<Vec2> profile;
    const double length = norm(to - from);
    const int count = std::max(2, static_cast<int>(std::ceil(length / step)));
    for (int i = 0; i <= count; ++i) {
        const double share = static_cast<double>(i) / count;
        if (const auto height = map.height_at(from + share * (to - from)))
            profile.push_back({share * length, *height});
    }
    return profile;
}

bool EdgeComparison::disagrees(double allowed) const {
    if (!goes_in || laid.rests.empty())
        return false;
    double least = laid.rests.front().gap, most = least;
    for (const EdgeRest& r : laid.rests) {
        least = std::min(least, r.gap);
        most = std::max(most, r.gap);
    }
    return most < *goes_in - allowed || (does_not && least > *does_not + allowed);
}

std::vector<EdgeComparison> compare_edges(const block::JobState& state, const std::string& bank, const DeckMap* map,
                                          block::Quantity quantity) {
    std::vector<EdgeComparison> lines;
    for (const EdgeLine& line : edge_lines(*intake_of(state).blueprint, bank)) {
        EdgeComparison c{line, {}, {}, {}, {}};
        const block::MeasuredAt at{{block::FeatureKind::deck, bank, 0}, quantity, "", line.name, {}};
        if (const block::MeasuredPlace* read = readings_of(state).place(at); read && !read->stale()) {
            c.goes_in = read->value;
            c.does_not = read->upper;
        }
        if (map) {
            c.profile = profile_along(*map, line.from, line.to);
            if (c.profile.size() >= 2)
                c.laid = lay_straightedge(c.profile);
        }
        lines.push_back(std::move(c));
    }
    return lines;
}

namespace {

/// Where a line meets another, as a share of its length; nothing where they do not meet.
std::optional<double> meets_at(const EdgeLine& line, const EdgeLine& other) {
    const Vec2 d = line.to - line.from, e = other.to - other.from, off = other.from - line.from;
    const double turn = metrology::cross(d, e);
    if (std::abs(turn) < 1e-9 * norm(d) * norm(e))
        return std::nullopt;
    const double at = metrology::cross(off, e) / turn, on_other = metrology::cross(off, d) / turn;
    constexpr double hair = 1e-6;
    return at > -hair && at < 1 + hair && on_other > -hair && on_other < 1 + hair
               ? std::optional(std::clamp(at, 0.0, 1.0))
               : std::nullopt;
}

/// How far lines may leave a zone on either side that holds both diagonals. A line's places lie within its bracket b
/// below an edge; where it meets lines that leave the zone by g at most the edge lies in it, widened by g below and g +
/// b above. Between two such places the edge stays there; beyond them, t of their distance away, it may run out by t of
/// all that.
class ZoneGrowth {
  public:
    ZoneGrowth(const std::vector<const EdgeComparison*>& lines, double zone)
        : lines_(lines), zone_(zone), growth_(lines.size()) {
        for (std::size_t i = 0; i < lines.size(); ++i)
            if (is_diagonal(*lines[i]))
                growth_[i] = 0;
        for (bool more = true; more;) {
            more = false;
            for (std::size_t i = 0; i < lines.size(); ++i)
                if (const auto g = of(i); g && (!growth_[i] || *g < *growth_[i] - 1e-12)) {
                    growth_[i] = g;
                    more = true;
                }
        }
    }
    /// @return of the line that leaves it furthest, mm; nothing where one meets too few others to be held
    [[nodiscard]] std::optional<double> most() const {
        double most = 0;
        for (const auto& g : growth_) {
            if (!g)
                return std::nullopt;
            most = std::max(most, *g);
        }
        return most;
    }

  private:
    [[nodiscard]] std::optional<double> of(std::size_t i) const {
        if (is_diagonal(*lines_[i]))
            return 0;
        std::vector<std::pair<double, double>> held; // where, growth there
        for (std::size_t k = 0; k < lines_.size(); ++k)
            if (const auto at = k != i && growth_[k] ? meets_at(lines_[i]->line, lines_[k]->line) : std::nullopt)
                held.emplace_back(*at, *growth_[k]);
        const double b = *lines_[i]->does_not;
        std::optional<double> least;
        for (const auto& [from, one] : held)
            for (const auto& [to, other] : held) {
                if (to < from + 0.05)
                    continue;
                const double g = std::max(one, other), beyond = std::max(from, 1 - to) / (to - from);
                const double growth = b + g + (beyond < 1e-6 ? 0 : beyond * (zone_ + 2 * g + b));
                least = std::min(least.value_or(growth), growth);
            }
        return least;
    }

    const std::vector<const EdgeComparison*>& lines_;
    double zone_;
    std::vector<std::optional<double>> growth_;
};

} // namespace

FlatnessBounds flatness_from_feelers(const std::vector<EdgeComparison>& lines) {
    FlatnessBounds bounds;
    double diagonals = 0, others = 0;
    std::size_t diagonals_read = 0;
    bool closed = true; // every line read has an upper end
    std::vector<const EdgeComparison*> read;
    for (const EdgeComparison& c : lines) {
        if (!c.goes_in) {
            bounds.not_read.push_back(c.line.name);
            continue;
        }
        // An end may hang as far as twice the flatness below an edge that rests beyond the middle.
        bounds.at_least = std::max(bounds.at_least, *c.goes_in / 2);
        closed = closed && c.does_not.has_value();
        read.push_back(&c);
        if (is_diagonal(c)) {
            ++diagonals_read;
            diagonals += c.does_not.value_or(0);
        } else {
            others = std::max(others, c.does_not.value_or(0));
        }
    }
    if (diagonals_read == 2 && closed) {
        // A line whose ends lie on the diagonals leaves their zone by no more than its own bracket; others hardly ever.
        bounds.at_most = diagonals + 2 * others;
        if (const auto growth = ZoneGrowth(read, diagonals).most()) {
            bounds.proven = diagonals + 2 * *growth;
            bounds.at_most = std::min(*bounds.at_most, *bounds.proven);
        }
    }
    return bounds;
}

} // namespace pallix::planning
