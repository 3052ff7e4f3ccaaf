// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/evaluation.h"
#include "block/forward.h"
#include "metrology/decision.h"
#include "planning/cylinders/cylinder_plan.h"

#include <optional>
#include <vector>

namespace pallix::planning {

/// Standard uncertainty of a hole's place along and across, (u, v) mm: its own touches' and the datum frame's. Nothing
/// where nobody stated how sure a touch is.
[[nodiscard]] std::optional<metrology::Vec2> place_uncertainty(const block::EvaluationState& state,
                                                               const block::HoleResult& hole);

/// Where a cylinder was probed last, against where the blueprint has it: two limits, each its own verdict.
struct Placed {
    block::FeatureId id;
    metrology::Vec2 error;                      ///< (u, v) mm
    std::optional<metrology::Vec2> uncertainty; ///< mm, standard
    std::optional<double> most_across, most_along;
    metrology::Verdict across{}, along{}; ///< meets where nobody set a limit
    bool bored = false;                   ///< as the last bar has left it: a hone moves no centre
    /// A finished bore about the blueprint's place would still take in all that was probed; nothing where that is not
    /// known.
    std::optional<bool> in_reach;
    [[nodiscard]] bool limited() const { return most_across || most_along; }
    [[nodiscard]] metrology::Verdict verdict() const { return metrology::worse(across, along); }
};
/// In the blueprint's order: those of the newest log whose place is known, as long as its tunnel stands.
[[nodiscard]] std::vector<Placed> placed_cylinders(const block::JobState& state, const CylinderStudy* study);

} // namespace pallix::planning
