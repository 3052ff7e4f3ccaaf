// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "metrology/geometry.h"

#include <cstddef>
#include <span>
#include <string>
#include <vector>

namespace pallix::block {

/// A touch in a log that names no features.
struct LooseTouch {
    metrology::Vec3 position; ///< mm, turned back out of its set-up
    std::string label;        ///< what the log calls the place, in words of its own; empty where it says nothing
    int line = 0;
    bool after_gap = false; ///< a line without a touch stands before it
};

/// Touches of one place of the block, one after the other in a log: a section of a hole, or a face.
struct TouchGroup {
    enum class Kind { hole, face, stray };
    Kind kind = Kind::stray;
    std::size_t first = 0, count = 0; ///< of the log's touches
    std::string label;                ///< as the log has it
    metrology::Vec3 centre;           ///< of the circle, or the mean of the touches; mm
    metrology::Vec3 axis;             ///< unit length, at right angles to the touches' plane; either way round
    double radius = 0;                ///< mm, of the touches as they stand; 0 for a face
    double off = 0;                   ///< mm, largest distance of a touch from the circle or the plane
};

/// Parts a log's touches into holes and faces. Where the log parts them itself (labels, or lines between them) it is
/// followed; else the shortest story is taken in which each run of touches lies on one circle, or on one plane (dynamic
/// programming over where runs end; four touches on a circle tell more than three, and a pattern over a face that
/// happens to hold circles everywhere is a face). Touches that belong to nothing are strays.
/// @param touches in the order of the log; at most `most_loose_touches`
[[nodiscard]] std::vector<TouchGroup> group_touches(std::span<const LooseTouch> touches);

/// More are not looked at without names: a scan is named by its program.
constexpr std::size_t most_loose_touches = 2'000;

} // namespace pallix::block
