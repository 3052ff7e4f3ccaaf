// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/entries/cylinder_entries.h"
#include "block/forward.h"
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
    std::size_t traces = 1;   ///< that the checks are the mean of; what is shown is the last one
    std::size_t left_out = 0; ///< filtered at another cutoff than the last
    bool before_cut = false;  ///< a tool has gone over the wall since: it says nothing of the wall as it is
    metrology::Roughness roughness;
    metrology::MaterialRatio ratio;
    metrology::Profile shown; ///< the roughness profile
    double cutoff = 0;        ///< mm
    double short_wave = 0;    ///< mm, λs that was applied; 0: the trace's steps are too wide for it
    bool ends_whole = true;   ///< nothing that is left was near an end of the trace
    std::vector<TextureCheck> checks;
};
/// Traces of one wall at several places are one statement, the mean of what each shows, longer ones counting for more.
/// Of one trace, the uncertainty is told from how a parameter changes when one cutoff length after another is left out
/// (the jackknife; Efron and Tibshirani, An Introduction to the Bootstrap, 1993, chapter 11), and says what its place
/// would show if the trace went on. Of several it is told from how they differ, with two places' worth of what is
/// usual, and says what the wall shows all round. Both are widened to Student's t for so few.
/// @param traces the last is shown; at least one
/// @return nothing where a trace is all one height
[[nodiscard]] std::optional<TextureFinding> judge_texture(const std::vector<block::ProfileTrace>& traces,
                                                          const block::TextureLimits& limits);
/// The same for the traces taken of a cylinder since a tool went through it; where none was, the last from before.
[[nodiscard]] std::optional<TextureFinding> texture_of(const block::BoresState& bores,
                                                       const block::FeatureId& cylinder);

/// What a tester showed of a cylinder since a tool went through it, as it was typed, parameter by parameter; good to 5
/// % (common practice, no source). Empty where nothing was.
[[nodiscard]] std::vector<TextureCheck> typed_texture(const block::BoresState& bores, const block::FeatureId& cylinder);
/// What the wall wants by such checks.
enum class TextureAdvice {
    nothing,      ///< no limit, or no number
    enough,       ///< all within
    brush,        ///< tops too high: the brush takes them
    coarser_last, ///< valleys too shallow: no brush makes them, only a coarser last stone
    cannot_tell,
};
[[nodiscard]] TextureAdvice texture_advice(const std::vector<TextureCheck>& checks);

/// What three kinds of rings usually want (common practice, no source): to be edited by the maker's sheet.
[[nodiscard]] std::vector<block::TextureLimits> usual_texture_limits();

} // namespace pallix::planning
