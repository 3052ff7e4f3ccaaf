// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/entries/memory_entries.h"
#include "block/forward.h"

#include <map>
#include <optional>
#include <string>
#include <vector>

namespace pallix::planning {

using block::Trait;
using block::trait_keys;

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
