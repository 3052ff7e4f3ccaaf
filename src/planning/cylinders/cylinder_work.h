// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "planning/cylinders/boring.h"
#include "planning/cylinders/cylinder_plan.h"
#include "planning/cylinders/honing.h"
#include "planning/cylinders/placed.h"
#include "planning/cylinders/press_fit.h"

#include <map>
#include <optional>
#include <vector>

namespace pallix::planning {

enum class CylinderStep {
    measure,            ///< no cylinder was measured
    plan,               ///< neither size nor pistons were chosen yet
    decide_size,        ///< no size in the list holds every bore
    decide_wall,        ///< a wall gets thinner than its limit, and nobody has said that it may
    measure_sleeve,     ///< its outside, six readings
    refuse_sleeve,      ///< it is not round or straight enough for its interference
    bore,               ///< see the boring board
    press,              ///< the sleeve, into a seat that is in size
    measure_neighbours, ///< pressing moved them
    decide_place,       ///< bored off its place: a hone moves no centre
    hone,               ///< see the hone board
    prove_place,        ///< a limit is set, and where a bore has come to lie nobody has probed, or not surely enough
    done,
};

/// A sleeve on its way into a cylinder.
struct SleeveWork {
    block::FeatureId bore;
    std::optional<InsertPlan> plan;   ///< nothing until it was measured, or where its lengths are no rings
    std::optional<InsertPlan> actual; ///< the same with the seat as it was bored and measured
    bool measured = false;
    bool fitted = false;
    std::optional<double> proud; ///< mm above the deck once it is in; the next deck pass takes it flush
};

/// The cylinders between as found and proof.
struct CylinderWork {
    CylinderStudy study;
    BoringBoard boring;
    HoneBoard hone;
    std::vector<SleeveWork> sleeves;
    std::vector<Placed> placed; ///< as the newest log has them
    CylinderStep step = CylinderStep::measure;
    std::optional<block::FeatureId> bore;
    std::vector<block::FeatureId> neighbours; ///< to be measured again after pressing
};
/// Id of the step that asks for a log of the finished cylinders.
inline constexpr const char* place_step = "cylinders/place";
[[nodiscard]] std::optional<CylinderWork> cylinder_work(const block::JobState& state, const CentreLine& line);

} // namespace pallix::planning
