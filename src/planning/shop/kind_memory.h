// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/forward.h"

#include <map>
#include <optional>
#include <string>
#include <vector>

namespace pallix::planning {

/// How blocks of one kind usually are, as far as the shop's own jobs have measured it. Lengths in mm.
enum class Trait {
    core_shift_along,  ///< mean over a bank's cylinders of where they lie, along the crankshaft, less the blueprint's
    core_shift_across, ///< the same across
    bank_turn,         ///< how far a deck rises towards +v over its width
    saddle_crown,      ///< middles of the inner mains above the line through the two at the ends
    deck_slope,        ///< how far a deck rises to the rear over its length
    deck_shape,        ///< flatness over all, minimum zone
    wear,              ///< a cylinder as found over its nominal
    lifter_growth,     ///< mean of a block's lifters over their nominal
    clean_up,          ///< what came off a deck until it was clean
    forecast_error,    ///< that, less the middle of what it was expected to take
};
inline constexpr std::array trait_keys{"core_shift_along", "core_shift_across", "bank_turn", "saddle_crown",
                                       "deck_slope",       "deck_shape",        "wear",      "lifter_growth",
                                       "clean_up",         "forecast_error"};

/// A trait of one thing: which bank or cylinder it is of; of the whole block an empty name.
struct TraitOf {
    Trait trait{};
    std::string about; ///< "deck.R", "bore.R.2"
    auto operator<=>(const TraitOf&) const = default;
};
/// What one job says, as found (what was cut and expected, as it came).
using BlockTraits = std::map<TraitOf, double>;
[[nodiscard]] BlockTraits traits_of(const block::JobState& state);

inline constexpr std::size_t enough_blocks = 5; ///< before there are so many, they are listed, and no statistics made

/// What the shop's other blocks of a kind say of one trait, with the present block beside it.
struct TraitMemory {
    TraitOf what;
    std::vector<double> others;    ///< mm, ascending
    std::optional<double> present; ///< of the block at hand
    /// Mean and spread (sample standard deviation) of the others; nothing where they are too few.
    std::optional<double> mean, spread;
    /// How many of the others lie on the same side of nothing as their mean, beyond a tenth of a thousandth of an inch.
    std::size_t same_side = 0;
    /// Whether the present block stands further out than 19 of 20 such blocks would: by a prediction interval from mean
    /// and spread with Student's t, n − 1 degrees of freedom (ISO 16269-8, one further observation).
    bool unusual = false;
};
/// @param others traits of the shop's other blocks of this kind
/// @return each trait that an other has, in the order of `Trait`
[[nodiscard]] std::vector<TraitMemory> remember_kind(const BlockTraits& present,
                                                     const std::vector<BlockTraits>& others);

} // namespace pallix::planning
