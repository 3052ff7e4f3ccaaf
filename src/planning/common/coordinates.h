// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/feature.h"
#include "block/forward.h"
#include "metrology/geometry.h"

#include <optional>
#include <string>
#include <vector>

namespace pallix::planning {

struct Assessment;

/// A hole as a machine is to find it. Places (u, v) from the origin dowel in the bank's frame, mm.
struct HoleCoordinates {
    block::FeatureId id;
    metrology::Vec2 blueprint;
    std::optional<metrology::Vec2> found;   ///< as first probed, before it was cut
    std::optional<metrology::Vec2> target;  ///< where it is to be bored; nothing where it is not to be, or not known
    std::optional<metrology::Vec2> as_left; ///< as probed after its last cut
    double nominal = 0;                     ///< mm, diameter
    std::optional<double> found_diameter;   ///< mm
    std::optional<double> target_diameter;  ///< mm: rough size of the boring bar, seat of a bush

    /// What came of it against what was planned; nothing until it was probed again.
    [[nodiscard]] std::optional<metrology::Vec2> off_target() const {
        return target && as_left ? std::optional(*as_left - *target) : std::nullopt;
    }
};

/// Holes that are bored in one set-up: a bank's cylinders, or its lifters of one angle.
struct CoordinateSheet {
    std::string bank;
    bool lifters = false;
    double angle = 0;                       ///< rad, of the frame: the bank's, or its lifters' own
    std::optional<block::FeatureId> origin; ///< dowel that places count from; nothing: the frame's own origin
    bool origin_measured = false;           ///< found, target and as left count from where it was probed
    metrology::Vec2 origin_at;              ///< (u, v) of it in the bank's frame, mm: the blueprint's
    std::vector<HoleCoordinates> holes;     ///< in the blueprint's order
};

/// Sheets of every bank, in the blueprint's order; those without a hole whose place is known are left out.
///
/// Found, target and as left count from where the origin dowel was probed, so that a machine that is clocked on that
/// dowel goes where the measurement was; where it was not probed, from where the blueprint has it.
[[nodiscard]] std::vector<CoordinateSheet> coordinate_sheets(const block::JobState& state,
                                                             const Assessment& assessment);

} // namespace pallix::planning
