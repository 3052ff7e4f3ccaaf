// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/fault.h"
#include "block/units.h"
#include "metrology/geometry.h"

#include <cstddef>
#include <map>
#include <optional>
#include <set>
#include <string>
#include <string_view>
#include <vector>

namespace pallix::block {

struct ReadWatch;

/// A flat drawing of a gasket or a deck, in the file's own unit: what circles and closed runs it holds. Blocks are put
/// where they are inserted, arcs are chords no further than a thousandth of their radius from them.
struct DxfDrawing {
    struct Circle {
        metrology::Vec2 centre;
        double radius = 0;
        std::string layer;
    };
    std::optional<double> mm_per_unit;                  ///< as the file says; nothing where it does not
    std::vector<Circle> circles;                        ///< runs that are circles too
    std::vector<std::vector<metrology::Vec2>> outlines; ///< closed runs that are no circles, the largest first
    std::size_t open_runs = 0;                          ///< chains of lines whose ends meet nothing
    std::map<std::string, std::size_t> not_understood;  ///< kinds of entities that were passed over, and how many
    std::map<std::string, std::size_t> layers;          ///< all there are, and how many pieces stand on each
    std::size_t entities = 0;                           ///< that were taken
};

/// Reads lines, arcs, circles, ellipses, polylines with bulges and inserted blocks of an ASCII DXF (R12 to today's).
/// @param watch of whoever waits; may be null; a cancelled read ends with one fault that says so
/// @param without layers that are passed over
[[nodiscard]] Result<DxfDrawing> read_dxf(std::string_view text, const std::string& file,
                                          const ReadWatch* watch = nullptr, const std::set<std::string>& without = {});

} // namespace pallix::block
