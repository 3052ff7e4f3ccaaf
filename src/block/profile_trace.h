// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/fault.h"
#include "block/probe_log.h"
#include "metrology/surface_texture.h"

namespace pallix::block {

/// A roughness trace as a file holds it (docs/formats.md).
struct ProfileTrace {
    metrology::Profile profile;
    double cutoff = 0.8; ///< λc, mm
};

/// Reads a trace: `# pallix-trace: 1`, then a header row x,z and the points, evenly spaced.
/// @return every fault with its line: a missing number, a step that differs by more than a hundredth from the others,
/// fewer points than two cutoffs hold
[[nodiscard]] Result<ProfileTrace> read_trace(const NamedText& trace);

} // namespace pallix::block
