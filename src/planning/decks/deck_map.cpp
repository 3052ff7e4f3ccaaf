// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/decks/deck_map.h"

#include "planning/decks/triangulation.h"

#include <algorithm>
#include <boost/sort/spreadsort/float_sort.hpp>
#include <cmath>
#include <limits>

namespace pallix::planning {

using metrology::Vec2;
using metrology::Vec3;

DeckMap::DeckMap(const block::Blueprint& blueprint, const block::BankBlueprint& bank, const std::vector<Vec3>& points,
                 double cell)
    : extent_(deck_extent(bank)), cell_(cell), nominal_(bank.deck_height.nominal),
      columns_(std::max(1, static_cast<int>(std::ceil(extent_.length() / cell)))),
      rows_(std::max(1, static_cast<int>(std::ceil(extent_.width() / cell)))),
      cells_(static_cast<std::size_t>(columns_) * static_cast<std::size_t>(rows_),
             std::numeric_limits<float>::quiet_NaN()) {
    const std::vector<bool> metal = metal_mask(blueprint, bank);
    if (points.size() > most_triangulated)
        fill_dense(points, metal);
    else
        fill(points, metal);
    for (const float h : cells_)
        if (!std::isnan(h))
            sorted_.push_back(h);
    // One after the other: Boost subtracts the bits of the least from those of the greatest, which overflows across
    // nought.
    const auto above = std::partition(sorted_.begin(), sorted_.end(), [](float h) { return std::signbit(h); });
    boost::sort::spreadsort::float_sort(sorted_.begin(), above);
    boost::sort::spreadsort::float_sort(above, sorted_.end());
    const auto metal_cells = std::ranges::count(metal, true);
    covered_share_ = metal_cells > 0 ? static_cast<double>(sorted_.size()) / static_cast<double>(metal_cells) : 0;
}

std::vector<bool> DeckMap::metal_mask(const block::Blueprint& blueprint, const block::BankBlueprint& bank) const {
    std::vector<bool> metal(cells_.size(), false);
    const auto& outline = bank.deck_outline;
    std::vector<double> crossings;
    for (int row = 0; row < rows_; ++row) {
        const double v = middle(0, row).y;
        crossings.clear();
        for (std::size_t i = 0; i < outline.size(); ++i) {
            const Vec2 a = outline[i], b = outline[(i + 1) % outline.size()];
            if ((a.y > v) != (b.y > v))
                crossings.push_back(a.x + (v - a.y) / (b.y - a.y) * (b.x - a.x));
        }
        std::ranges::sort(crossings);
        for (int column = 0; column < columns_; ++column) {
            const double u = middle(column, row).x;
            const auto left = std::ranges::lower_bound(crossings, u) - crossings.begin();
            metal[index_of(row, column)] = left % 2 == 1;
        }
    }
    const auto take_out = [&](const block::HoleBlueprint& hole) {
        if (hole.id.bank != bank.id)
            return;
        const double r = hole.diameter.nominal / 2;
        const auto first = [this](double to, double low) {
            return std::max(0, static_cast<int>(std::floor((to - low) / cell_)));
        };
        const auto last = [this](double to, double low, int count) {
            return std::min(count - 1, static_cast<int>(std::floor((to - low) / cell_)));
        };
        for (int row = first(hole.v - r, extent_.low.y); row <= last(hole.v + r, extent_.low.y, rows_); ++row)
            for (int column = first(hole.u - r, extent_.low.x); column <= last(hole.u + r, extent_.low.x, columns_);
                 ++column)
                if (norm(middle(column, row) - Vec2{hole.u, hole.v}) < r)
                    metal[index_of(row, column)] = false;
    };
    std::ranges::for_each(blueprint.bores, take_out);
    std::ranges::for_each(blueprint.dowels, take_out);
    return metal;
}

namespace {

/// Heights summed over square cells, each level half as fine as the one before.
struct Coarser {
    int columns = 0, rows = 0;
    std::vector<float> sums, counts;

    Coarser(int c, int r) : columns(c), rows(r) {
        sums.resize(static_cast<std::size_t>(c) * static_cast<std::size_t>(r));
        counts.resize(sums.size());
    }
    [[nodiscard]] std::size_t at(int column, int row) const {
        return static_cast<std::size_t>(std::clamp(row, 0, rows - 1)) * static_cast<std::size_t>(columns) +
               static_cast<std::size_t>(std::clamp(column, 0, columns - 1));
    }
    [[nodiscard]] Coarser halved() const {
        Coarser half((columns + 1) / 2, (rows + 1) / 2);
        for (int row = 0; row < rows; ++row)
            for (int column = 0; column < columns; ++column) {
                const std::size_t to = half.at(column / 2, row / 2), from = at(column, row);
                half.sums[to] += sums[from];
                half.counts[to] += counts[from];
            }
        return half;
    }
    /// Between the middles of its cells, each weighed by nearness alone.
    /// @param column, row of the finer level; @return NaN where nothing is near
    [[nodiscard]] float between(int column, int row) const {
        const int c = column / 2, r = row / 2, dc = column % 2 == 0 ? -1 : 1, dr = row % 2 == 0 ? -1 : 1;
        float sum = 0, weights = 0;
        const auto add = [&](int cc, int rr, float weight) {
            const std::size_t i = at(cc, rr);
            if (counts[i] > 0) {
                sum += weight * sums[i] / counts[i];
                weights += weight;
            }
        };
        add(c, r, 9);
        add(c + dc, r, 3);
        add(c, r + dr, 3);
        add(c + dc, r + dr, 1);
        return weights > 0 ? sum / weights : std::numeric_limits<float>::quiet_NaN();
    }
};

} // namespace

/// A dense scan: a cell's height is the mean of the points in it; where none is, it lies between those of coarser cells
/// around it (pull and push over a pyramid), no farther than eight cells.
void DeckMap::fill_dense(const std::vector<Vec3>& points, const std::vector<bool>& metal) {
    std::vector<Coarser> levels{{columns_, rows_}};
    for (const Vec3 p : points) {
        const int column = static_cast<int>(std::floor((p.x - extent_.low.x) / cell_)),
                  row = static_cast<int>(std::floor((p.y - extent_.low.y) / cell_));
        if (column < 0 || column >= columns_ || row < 0 || row >= rows_)
            continue;
        const std::size_t index = index_of(row, column);
        levels.front().sums[index] += static_cast<float>(p.z - nominal_);
        levels.front().counts[index] += 1;
    }
    constexpr int coarsest = 3;
    for (int level = 0; level < coarsest; ++level)
        levels.push_back(levels.back().halved());
    for (std::size_t level = levels.size() - 1; level-- > 0;) {
        Coarser& fine = levels[level];
        const Coarser& coarse = levels[level + 1];
        for (int row = 0; row < fine.rows; ++row)
            for (int column = 0; column < fine.columns; ++column)
                if (const std::size_t i = fine.at(column, row); fine.counts[i] == 0)
                    if (const float h = coarse.between(column, row); !std::isnan(h)) {
                        fine.sums[i] = h;
                        fine.counts[i] = 1;
                    }
    }
    for (std::size_t i = 0; i < cells_.size(); ++i)
        if (metal[i] && levels.front().counts[i] > 0)
            cells_[i] = levels.front().sums[i] / levels.front().counts[i];
}

void DeckMap::fill(const std::vector<Vec3>& points, const std::vector<bool>& metal) {
    std::vector<Vec2> flat;
    flat.reserve(points.size());
    for (const Vec3 p : points)
        flat.push_back({p.x, p.y});
    const auto column_of = [this](double u) { return static_cast<int>(std::floor((u - extent_.low.x) / cell_)); };
    const auto row_of = [this](double v) { return static_cast<int>(std::floor((v - extent_.low.y) / cell_)); };
    for (const Triangle& t : delaunay(flat)) {
        const Vec2 a = flat[t[0]], b = flat[t[1]], c = flat[t[2]];
        const double area = cross(b - a, c - a);
        if (std::abs(area) < 1e-9)
            continue;
        const auto [u0, u1] = std::minmax({a.x, b.x, c.x});
        const auto [v0, v1] = std::minmax({a.y, b.y, c.y});
        for (int row = std::max(0, row_of(v0)); row <= std::min(rows_ - 1, row_of(v1)); ++row)
            for (int column = std::max(0, column_of(u0)); column <= std::min(columns_ - 1, column_of(u1)); ++column) {
                const std::size_t index = index_of(row, column);
                if (!metal[index])
                    continue;
                const Vec2 m = middle(column, row);
                const double wa = cross(b - m, c - m) / area;
                const double wb = cross(c - m, a - m) / area;
                const double wc = 1 - wa - wb;
                constexpr double edge = -1e-9;
                if (wa < edge || wb < edge || wc < edge)
                    continue;
                cells_[index] = static_cast<float>(wa * (points[t[0]].z - nominal_) + wb * (points[t[1]].z - nominal_) +
                                                   wc * (points[t[2]].z - nominal_));
            }
    }
}

std::optional<double> DeckMap::height_at(Vec2 place) const {
    const int column = static_cast<int>(std::floor((place.x - extent_.low.x) / cell_));
    const int row = static_cast<int>(std::floor((place.y - extent_.low.y) / cell_));
    if (column < 0 || column >= columns_ || row < 0 || row >= rows_ || std::isnan(height(column, row)))
        return std::nullopt;
    return nominal_ + static_cast<double>(height(column, row));
}

double DeckMap::clean_share(double w) const {
    if (sorted_.empty())
        return 0;
    const auto first_touched = std::ranges::lower_bound(sorted_, static_cast<float>(w - nominal_));
    return static_cast<double>(sorted_.end() - first_touched) / static_cast<double>(sorted_.size());
}

} // namespace pallix::planning
