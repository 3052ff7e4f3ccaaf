// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/blueprint.h"
#include "block/feature.h"
#include "block/unnamed/touch_groups.h"

#include <array>
#include <map>
#include <optional>
#include <string>
#include <vector>

namespace pallix::block {

/// What a group of touches is taken for.
struct TouchName {
    enum class Sure {
        stated,  ///< somebody pointed at it
        sure,    ///< it lies where the blueprint has this place and no other
        likely,  ///< by the shape of blocks in general, or nearer to this place than to any other
        unknown, ///< nothing fits; it is left out
    };
    std::optional<FeatureId> id;
    std::string level;
    Sure sure = Sure::unknown;
    double off = 0; ///< mm, from where the blueprint has it; 0 without one
};

/// An axis of the block along one of the log's: 0 to 2, and whether it runs the other way.
struct LogAxis {
    int from = 0;
    bool turned = false;
    bool operator==(const LogAxis&) const = default;
};

struct NamedTouches {
    std::vector<TouchName> names;                                      ///< of the groups, in their order
    std::array<LogAxis, 3> axes{{{0, false}, {1, false}, {2, false}}}; ///< x along the crankshaft, front to rear
    bool mirrored = false;                                             ///< the log's axes are left-handed
    std::vector<std::string> understood;                               ///< a line each
    std::vector<std::string> open;                                     ///< what only a person can tell, a line each
    std::optional<double> turned; ///< rad: the groups that are unknown would fit, were they turned back by so much
    std::size_t turned_from = 0;  ///< the first of them
};

/// Names touches by where they lie. Mains are coaxial holes along the longest line, the cam another line beside it,
/// cylinders wide holes across that reach for the crankshaft, decks the faces they open in; numbers run from the front,
/// banks are told by their sides. With a blueprint each group is then laid at the nearest of its places.
/// @param pointed names that somebody gave to groups: they hold, and the rest is told by them
/// @param blueprint may be null: then nothing is sure, and the front is taken to be where x is least
[[nodiscard]] NamedTouches name_touches(const std::vector<TouchGroup>& groups,
                                        const std::map<std::size_t, FeatureId>& pointed, const Blueprint* blueprint);

} // namespace pallix::block
