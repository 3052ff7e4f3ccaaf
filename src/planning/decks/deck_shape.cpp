// SPDX-License-Identifier: GPL-3.0-or-later
#include "planning/decks/deck_shape.h"

#include "metrology/minimum_zone.h"
#include "planning/common/place.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace pallix::planning {

using metrology::Vec2;
using metrology::Vec3;

namespace {

/// Points sorted into square cells, so that a window gathers whole cells.
class Cells {
  public:
    Cells(const std::vector<Vec3>& points, double side) : side_(side) {
        low_ = {std::numeric_limits<double>::infinity(), std::numeric_limits<double>::infinity()};
        Vec2 high{-low_.x, -low_.y};
        for (const Vec3 p : points) {
            low_ = {std::min(low_.x, p.x), std::min(low_.y, p.y)};
            high = {std::max(high.x, p.x), std::max(high.y, p.y)};
        }
        columns_ = 1 + static_cast<int>((high.x - low_.x) / side);
        rows_ = 1 + static_cast<int>((high.y - low_.y) / side);
        cells_.resize(static_cast<std::size_t>(columns_) * static_cast<std::size_t>(rows_));
        for (const Vec3 p : points)
            cell(static_cast<int>((p.x - low_.x) / side), static_cast<int>((p.y - low_.y) / side)).push_back(p);
    }

    [[nodiscard]] int columns() const { return columns_; }
    [[nodiscard]] int rows() const { return rows_; }
    [[nodiscard]] Vec2 corner(int column, int row) const { return {low_.x + column * side_, low_.y + row * side_}; }
    void gather(int column, int row, int span, std::vector<Vec3>& into) {
        into.clear();
        for (int r = row; r < std::min(row + span, rows_); ++r)
            for (int c = column; c < std::min(column + span, columns_); ++c)
                into.insert(into.end(), cell(c, r).begin(), cell(c, r).end());
    }

  private:
    std::vector<Vec3>& cell(int column, int row) {
        return cells_[static_cast<std::size_t>(row) * static_cast<std::size_t>(columns_) +
                      static_cast<std::size_t>(column)];
    }
    double side_;
    Vec2 low_;
    int columns_ = 1, rows_ = 1;
    std::vector<std::vector<Vec3>> cells_;
};

} // namespace

std::optional<LocalFlatness> local_flatness(const std::vector<Vec3>& points, double side) {
    if (points.size() < 4)
        return std::nullopt;
    const int steps = points.size() > 50'000 ? 2 : 4;
    Cells cells(points, side / steps);
    LocalFlatness found;
    std::vector<Vec3> inside;
    for (int row = 0; row <= std::max(0, cells.rows() - steps); ++row)
        for (int column = 0; column <= std::max(0, cells.columns() - steps); ++column) {
            cells.gather(column, row, steps, inside);
            if (inside.size() < 4)
                continue;
            ++found.windows;
            const double width = metrology::flatness_zone(inside).width;
            if (width > found.worst || found.windows == 1) {
                const Vec2 low = cells.corner(column, row);
                found.worst = width;
                found.low = low;
                found.high = low + Vec2{side, side};
            }
        }
    return found.windows > 0 ? std::optional(found) : std::nullopt;
}

std::optional<BanksLie> banks_lie(const block::Blueprint& blueprint, const block::DeckResult& first,
                                  const block::DeckResult& second) {
    const block::BankBlueprint *a = blueprint.bank(first.id.bank), *b = blueprint.bank(second.id.bank);
    if (!a || !b || a == b)
        return std::nullopt;
    const double sign = a->angle > b->angle ? 1 : -1;
    BanksLie lie;
    lie.angle = sign * ((a->angle - first.angle_error()) - (b->angle - second.angle_error()));
    lie.angle_error = lie.angle - sign * (a->angle - b->angle);
    lie.height_difference = (first.height_mean - first.nominal) - (second.height_mean - second.nominal);
    return lie;
}

double DeckCoverage::most() const {
    return std::max({front, rear, positive, negative});
}

DeckCoverage deck_coverage(const block::BankBlueprint& bank, const std::vector<Vec2>& places) {
    const DeckExtent e = deck_extent(bank);
    DeckCoverage c{e.length(), e.length(), e.width(), e.width()};
    for (const Vec2 p : places) {
        c.front = std::min(c.front, std::max(0.0, p.x - e.low.x));
        c.rear = std::min(c.rear, std::max(0.0, e.high.x - p.x));
        c.negative = std::min(c.negative, std::max(0.0, p.y - e.low.y));
        c.positive = std::min(c.positive, std::max(0.0, e.high.y - p.y));
    }
    return c;
}

} // namespace pallix::planning
