// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cstdint>
#include <optional>
#include <string>

namespace pallix::workshop {

/// A boring bar that is not there: what a hole becomes for what its tool is set to. Lengths mm, on diameter.
struct BoringBar {
    double error = 0;            ///< hole less setting, with a sound edge
    std::optional<int> chips_at; ///< from this hole on (counted from 1) its edge is chipped
    double chip = 0;             ///< smaller by
    double growth_per_hole = 0;  ///< the block warms: smaller once it is cold again
    int bored = 0;

    /// Bores the next hole. @return its size
    double bore(double setting);
    void fit_new_edge() { chips_at.reset(); }
};

/// How the machines of a bench are. The usual ones do what they are set to.
struct MachineHabits {
    BoringBar boring_bar{};
    double backlash = 0; ///< mm that the surfacer's first pass over a deck stays short
    int lifted_at = 0;   ///< the pass, counted over the decks from 1, that a chip under the block spoils; 0: none
    double lifted = 0;   ///< mm that it goes deeper at the rear end
};

/// What the stand-in stylus goes over: a honed and plateaued wall.
struct TraceJob {
    std::uint64_t seed = 1;
    double length = 5.6;      ///< mm
    double step = 0.001;      ///< mm
    double plateau = 0.25e-3; ///< mm, standard deviation of the plateau's heights
    double groove = 2.4e-3;   ///< mm, depth of the scratches
    double spacing = 0.11;    ///< mm, between scratches
    double waviness = 0.6e-3; ///< mm, that the filter takes out
};
/// Writes a trace (docs/formats.md). The same job gives the same text, to the byte.
[[nodiscard]] std::string trace(const TraceJob& job);

} // namespace pallix::workshop
