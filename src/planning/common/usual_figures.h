// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/drawing/engine.h"
#include "block/forward.h"
#include "block/ledger.h"

namespace pallix::planning {

/// A figure that goes with an engine, whichever block of it lies on the bench.
struct UsualFigure {
    const char* address; ///< as in `figures`: kind of entry, a stroke, field
    const char* brief;   ///< beside its number on a drawing
    const char* words;   ///< what a sheet calls it
};

/// All of them, in the order of a maker's sheet.
[[nodiscard]] const std::vector<UsualFigure>& usual_figures();

/// What a figure can be where it is one of a few; empty for the others.
[[nodiscard]] std::vector<std::string> usual_choices(std::string_view address);

/// The entries that a job of this engine begins with.
/// @return all faults, each with its figure's address for a file, where a figure cannot be read
[[nodiscard]] block::Result<std::vector<block::Payload>> usual_entries(const block::Engine& engine,
                                                                       const block::Blueprint& blueprint);

/// The engine of a job's block as it is known by now: the blueprint it is worked to, and whatever was stated of these
/// figures since.
[[nodiscard]] block::Result<block::Engine> engine_of(const std::vector<block::Entry>& entries);

} // namespace pallix::planning
