// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

// Internal to the block library: how a block may lie in the axes of a log that names nothing.

#include "block/unnamed/touch_names.h"

#include <optional>
#include <utility>
#include <vector>

namespace pallix::block {

constexpr double along_axis = 0.98; ///< cosine of what still points along an axis: 11°

/// One way a block may lie: its axes in the log's, and a point of datum A.
struct TouchFrame {
    metrology::Vec3 x, y, z; ///< unit lengths; z up through the middle between the banks
    metrology::Vec3 origin;  ///< mm, where the blueprint's x is 0; the foremost main without one
    bool mirrored = false;   ///< the log's axes are left-handed
    [[nodiscard]] metrology::Vec3 in_block(metrology::Vec3 p) const {
        const metrology::Vec3 q = p - origin;
        return {dot(q, x), dot(q, y), dot(q, z)};
    }
    [[nodiscard]] metrology::Vec3 turned(metrology::Vec3 direction) const {
        return {dot(direction, x), dot(direction, y), dot(direction, z)};
    }
    /// How far out of the block along its own axis a group lies: seen from datum A.
    [[nodiscard]] double depth(const TouchGroup& group) const;
};

/// Whether two sections may be of one line of holes.
[[nodiscard]] bool coaxial(const TouchGroup& a, const TouchGroup& b);

/// Holes one behind the other, each line by its sections. @param members of the groups, all of them holes
[[nodiscard]] std::vector<std::vector<std::size_t>> coaxial_lines(const std::vector<TouchGroup>& groups,
                                                                  const std::vector<std::size_t>& members);

/// Which place along a line each section is of, from 0: those close together, beside the widest gap, are of one.
/// @param at mm along the line, ascending
[[nodiscard]] std::vector<std::size_t> places_of(const std::vector<double>& at);

/// Ways it may lie by its line of mains; none where there is no such line.
[[nodiscard]] std::vector<TouchFrame> frames_of(const std::vector<TouchGroup>& groups, const Blueprint* blueprint);

/// Ways it may lie by three places or more that were pointed at on one bank.
[[nodiscard]] std::vector<TouchFrame> frames_by_pointing(const std::vector<TouchGroup>& groups,
                                                         const std::map<std::size_t, FeatureId>& pointed,
                                                         const Blueprint& blueprint);

/// Names without a blueprint.
[[nodiscard]] std::vector<TouchName> names_by_shape(const std::vector<TouchGroup>& groups, const TouchFrame& frame);

/// The blueprint's nearest place for each group, if it is near enough and as large.
[[nodiscard]] std::vector<TouchName> nearest_names(const std::vector<TouchGroup>& groups, const TouchFrame& frame,
                                                   const Blueprint& blueprint);

/// A turn about x, rad, by which most of the groups that are unknown would point along a bank; and the first of them.
[[nodiscard]] std::optional<std::pair<double, std::size_t>> turn_that_explains(const std::vector<TouchGroup>& groups,
                                                                               const std::vector<TouchName>& names,
                                                                               const TouchFrame& frame,
                                                                               const Blueprint& blueprint);

} // namespace pallix::block
