// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/cylinders/cylinder_plan.h"

#include <optional>
#include <string>
#include <vector>

namespace pallix::planning {

/// What becomes of the others where one cylinder does not clean up at the size it was to become. Lengths mm.
struct SizeChoice {
    std::optional<double> all_at;  ///< the next size on offer that holds it, over nominal; nothing where none does
    double more_off = 0;           ///< on diameter, off each of the others, for its sake
    std::optional<double> wall;    ///< the thinnest of the others then, where walls were measured
    block::FeatureId wall_of;      ///< whose
    bool thin = false;             ///< thinner than its limit
    std::optional<double> stay_at; ///< where the others stay if this one is sleeved
    std::size_t others = 0;        ///< that are neither sleeved nor left out
    std::vector<block::FeatureId> beside; ///< in its bank: measured again once a sleeve is in
};
[[nodiscard]] SizeChoice size_choice(const block::JobState& state, const CylinderStudy& study,
                                     const block::FeatureId& bore);

} // namespace pallix::planning
