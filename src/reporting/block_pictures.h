// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/blueprint.h"
#include "block/evaluation.h"
#include "block/reading.h"
#include "planning/common/coordinates.h"

#include <QImage>
#include <vector>

namespace pallix::reporting {

/// The centres of the mains off the line through the two at the ends, from the side and from above.
/// @param before as found, dashed; may be null
/// @param scale pixels of the picture for one of the layout
[[nodiscard]] QImage tunnel_picture(const block::Evaluation* before, const block::Evaluation& now, int scale);

/// A bank in plan: its outline, its holes where the blueprint has them, and where they lie, errors enlarged until the
/// largest is a quarter of a bore.
[[nodiscard]] QImage places_picture(const block::Blueprint& blueprint, const planning::CoordinateSheet& sheet,
                                    int scale);

/// Numbered places of readings: of mains on their circles as seen from the rear, of all else on the bank in plan.
/// @param places of one measuring, at least one; numbered in their order from 1
[[nodiscard]] QImage reading_picture(const block::Blueprint& blueprint, const std::vector<block::MeasuredAt>& places,
                                     int scale);

} // namespace pallix::reporting
