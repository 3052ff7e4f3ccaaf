// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/entries/cylinder_entries.h"
#include "block/profile_trace.h"
#include "metrology/decision.h"

#include <string>
#include <vector>

namespace pallix::planning {

/// One parameter against what the rings want.
struct TextureCheck {
    std::string name;                  ///< "Ra", "Rk", "Mr1", …
    double value = 0;                  ///< mm; a ratio 0 to 1
    std::optional<double> uncertainty; ///< standard, of the same kind; nothing where the trace is too short to tell
    bool is_ratio = false;
    block::TextureLimits::Range wanted;
    metrology::Verdict verdict{}; ///< means nothing where nothing is wanted
};

struct TextureFinding {
    metrology::Roughness roughness;
    metrology::MaterialRatio ratio;
    metrology::Profile shown; ///< the roughness profile
    double cutoff = 0;        ///< mm
    double short_wave = 0;    ///< mm, λs that was applied; 0: the trace's steps are too wide for it
    bool ends_whole = true;   ///< nothing that is left was near an end of the trace
    std::vector<TextureCheck> checks;
};
/// Each parameter's uncertainty is told from how it changes when one cutoff length after another is left out (the
/// jackknife; Efron and Tibshirani, An Introduction to the Bootstrap, 1993, chapter 11), widened to Student's t for so
/// few lengths: that of what the same bore would show elsewhere.
/// @return nothing where the trace is all one height
[[nodiscard]] std::optional<TextureFinding> judge_texture(const block::ProfileTrace& trace,
                                                          const block::TextureLimits& limits);

/// What three kinds of rings usually want (common practice, no source): to be edited by the maker's sheet.
[[nodiscard]] std::vector<block::TextureLimits> usual_texture_limits();

} // namespace pallix::planning
