// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/blueprint.h"
#include "metrology/geometry.h"
#include "planning/common/place.h"

#include <optional>
#include <vector>

namespace pallix::planning {

/// Heights of a deck between the measured points: straight between neighbouring points (Delaunay triangles), for a scan
/// of more than twenty thousand between the means of cells; blank where nothing reaches, in bores and dowel holes and
/// outside the outline.
class DeckMap {
  public:
    /// @param points (u, v, w) in the bank frame, mm
    /// @param cell mm, side of the square cells, > 0
    DeckMap(const block::Blueprint& blueprint, const block::BankBlueprint& bank,
            const std::vector<metrology::Vec3>& points, double cell);

    int columns() const { return columns_; } ///< along u
    int rows() const { return rows_; }       ///< along v
    double cell() const { return cell_; }    ///< mm
    const DeckExtent& extent() const { return extent_; }
    double nominal() const { return nominal_; } ///< mm, what heights are counted from

    /// @return height less nominal of a cell, mm; NaN where blank
    float height(int column, int row) const { return cells_[index_of(row, column)]; }
    /// @return the cell's middle, (u, v) mm
    metrology::Vec2 middle(int column, int row) const {
        return {extent_.low.x + (column + 0.5) * cell_, extent_.low.y + (row + 0.5) * cell_};
    }
    /// @return w at a place, mm; nothing where the map is blank
    [[nodiscard]] std::optional<double> height_at(metrology::Vec2 place) const;

    /// Share of the mapped deck that a cut at height w touches, 0 to 1; logarithmic time, so that it follows a drag.
    [[nodiscard]] double clean_share(double w) const;

    /// Share of the deck's metal that the map covers, 0 to 1.
    double covered_share() const { return covered_share_; }

  private:
    [[nodiscard]] std::size_t index_of(int row, int column) const {
        return static_cast<std::size_t>(row) * static_cast<std::size_t>(columns_) + static_cast<std::size_t>(column);
    }
    std::vector<bool> metal_mask(const block::Blueprint& blueprint, const block::BankBlueprint& bank) const;
    void fill(const std::vector<metrology::Vec3>& points, const std::vector<bool>& metal);
    void fill_dense(const std::vector<metrology::Vec3>& points, const std::vector<bool>& metal);
    static constexpr std::size_t most_triangulated = 20'000;

    DeckExtent extent_;
    double cell_;
    double nominal_;
    int columns_;
    int rows_;
    std::vector<float> cells_;
    std::vector<float> sorted_; ///< heights of the cells that are not blank, ascending
    double covered_share_ = 0;
};

} // namespace pallix::planning
