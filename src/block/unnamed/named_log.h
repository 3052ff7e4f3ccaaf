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
/// @param pointed names that a person gave to groups
/// @param blueprint may be null
[[nodiscard]] NamedLog name_log(const LogLook& look, const LogMapping& mapping,
                                const std::map<std::size_t, FeatureId>& pointed, const Blueprint* blueprint);

/// Whether what is read could be named otherwise than by its order: the log has words of its own for each place.
[[nodiscard]] bool has_labels(const LogLook& look);

} // namespace pallix::block
