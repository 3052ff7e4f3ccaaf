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
    std::string name; ///< "Ra", "Rk", "Mr1", …
    double value = 0; ///< mm; a ratio 0 to 1
    bool is_ratio = false;
    block::TextureLimits::Range wanted;
    metrology::Verdict verdict{}; ///< means nothing where nothing is wanted
};

struct TextureFinding {
    metrology::Roughness roughness;
    metrology::MaterialRatio ratio;
    metrology::Profile shown; ///< the roughness profile
    double cutoff = 0;        ///< mm
    std::vector<TextureCheck> checks;
};
/// @return nothing where the trace is all one height
[[nodiscard]] std::optional<TextureFinding> judge_texture(const block::ProfileTrace& trace,
                                                          const block::TextureLimits& limits);

/// What three kinds of rings usually want (common practice, no source): to be edited by the maker's sheet.
[[nodiscard]] std::vector<block::TextureLimits> usual_texture_limits();

} // namespace pallix::planning
