// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/log_dialect.h"
#include "block/unnamed/touch_names.h"

#include <map>
#include <vector>

namespace pallix::block {

/// A log whose touches were named by where they lie, and the mapping by which it, and the next of its program, is read.
struct NamedLog {
    std::vector<TouchGroup> groups;
    NamedTouches named;
    LogMapping mapping;
};

/// @param look of the log with `mapping`; nothing is named where it holds no touches, or too many
/// @param pointed what a person said of groups: a name, or that its touches are left out
/// @param blueprint may be null
[[nodiscard]] NamedLog name_log(const LogLook& look, const LogMapping& mapping,
                                const std::map<std::size_t, std::optional<FeatureId>>& pointed,
                                const Blueprint* blueprint);

/// How many of the places that are found for sure on the blueprint have the names that a mapping gives them, by the
/// order of its program or by words that stand for one place each.
struct NameCheck {
    std::size_t found = 0, agree = 0;
};
/// @param look of a log that `mapping` names
[[nodiscard]] NameCheck check_names(const LogLook& look, const LogMapping& mapping, const Blueprint& blueprint);

/// Whether what is read could be named otherwise than by its order: the log has words of its own for each place.
[[nodiscard]] bool has_labels(const LogLook& look);

} // namespace pallix::block
