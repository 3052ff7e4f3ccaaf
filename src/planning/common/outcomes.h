// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/forward.h"
#include "metrology/decision.h"

#include <optional>
#include <string>
#include <vector>

namespace pallix::planning {

struct Assessment;

/// What papers tell of a block, from as found to as left.
enum class Told {
    tunnel_line,   ///< straightness of the main tunnel
    main_size,     ///< diameters of the mains
    cam_distance,  ///< from the mains, less the blueprint's
    deck_height,   ///< of one bank
    deck_flatness, ///< of one bank
    bore_size,     ///< diameters of a bank's cylinders
    bore_shape,    ///< largest less smallest diameter, of its worst cylinder
    bore_across,   ///< worst off its place across the crankshaft
    bore_along,    ///< the same along it
    lifter_place,  ///< worst off its place
};

/// The smallest and the largest of several values, mm; one value is both.
struct Span {
    double least = 0, most = 0;
    void take(double value);
};

/// One line of what was found and what is left. Lengths mm.
struct Outcome {
    Told what{};
    std::string bank;                  ///< empty where it is of the whole block
    std::optional<Span> found;         ///< before the first cut
    std::optional<Span> left;          ///< after the last cut; nothing where it was not cut, or not measured since
    bool worked = false;               ///< metal came off that changes it
    std::optional<double> uncertainty; ///< standard, of what is left, else of what was found; nothing: not stated
    metrology::Limits limits;          ///< that it is held against
    std::optional<metrology::Verdict> verdict; ///< on the block as it is; nothing where nobody set a limit, or nobody
                                               ///< has measured it since it was cut
    /// Cut, and nobody has measured it since.
    [[nodiscard]] bool unproven() const { return worked && !left; }
};

/// In the order of the work. What was never measured is left out.
[[nodiscard]] std::vector<Outcome> outcomes(const block::JobState& state, const Assessment& assessment);

} // namespace pallix::planning
