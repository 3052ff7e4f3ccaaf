// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/feature.h"
#include "block/forward.h"
#include "block/ledger.h"
#include "planning/common/stages.h"

#include <optional>
#include <vector>

namespace pallix::planning {

struct Assessment;

/// What a number beside a feature is.
enum class FaceNumber {
    size,    ///< diameter, mm
    over,    ///< over nominal, mm
    left,    ///< to come off, mm: of a deck its height, of a cylinder its diameter
    height,  ///< of a deck, mm
    offline, ///< of a main off the line, mm
};

/// How one feature of the block stands, as one sees it from two metres away.
struct Face {
    block::FeatureId id;
    StageMark mark = StageMark::open; ///< open: not measured; current: to be worked on
    std::optional<FaceNumber> what;
    double number = 0;
    bool decides = false; ///< the call is about it, or it sets the size of the others
};

/// Mains, decks, cylinders and lifters in the blueprint's order.
[[nodiscard]] std::vector<Face> faces_of(const block::JobState& state, const Assessment& assessment);

/// The entries before the first metal came off or anything was pressed in: the block as found.
[[nodiscard]] std::vector<block::Entry> entries_as_found(const std::vector<block::Entry>& entries);

} // namespace pallix::planning
