// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/decks/triangulation.h"

#include <algorithm>
#include <boost/polygon/voronoi.hpp>
#include <cmath>
#include <cstdint>

namespace pallix::planning {

std::vector<Triangle> delaunay(const std::vector<metrology::Vec2>& points) {
    constexpr double per_mm = 1000; // Boost.Polygon is exact on whole numbers
    using Site = boost::polygon::point_data<std::int32_t>;
    struct Numbered {
        Site site;
        std::size_t index;
    };
    std::vector<Numbered> unique;
    for (std::size_t i = 0; i < points.size(); ++i)
        unique.push_back({Site(static_cast<std::int32_t>(std::lround(points[i].x * per_mm)),
                               static_cast<std::int32_t>(std::lround(points[i].y * per_mm))),
                          i});
    const auto before = [](const Numbered& a, const Numbered& b) {
        return a.site.x() < b.site.x() || (a.site.x() == b.site.x() && a.site.y() < b.site.y());
    };
    std::ranges::stable_sort(unique, before);
    const auto same = [](const Numbered& a, const Numbered& b) { return a.site == b.site; };
    unique.erase(std::unique(unique.begin(), unique.end(), same), unique.end());

    std::vector<Site> sites;
    sites.reserve(unique.size());
    for (const Numbered& n : unique)
        sites.push_back(n.site);
    boost::polygon::voronoi_diagram<double> diagram;
    boost::polygon::construct_voronoi(sites.begin(), sites.end(), &diagram);

    std::vector<Triangle> triangles;
    std::vector<std::size_t> ring;
    for (const auto& vertex : diagram.vertices()) {
        // The cells round a Voronoi vertex are the corners of one Delaunay cell: a fan of triangles.
        ring.clear();
        const auto* edge = vertex.incident_edge();
        do {
            ring.push_back(unique[edge->cell()->source_index()].index);
            edge = edge->rot_next();
        } while (edge != vertex.incident_edge());
        for (std::size_t i = 2; i < ring.size(); ++i)
            triangles.push_back({ring[0], ring[i - 1], ring[i]});
    }
    return triangles;
}

} // namespace pallix::planning
