// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/entries/kinds.h"

#include <array>
#include <cstdint>
#include <string>
#include <vector>

namespace pallix::block {

// What the shop's earlier jobs say, as it was copied into a job: from here on it is part of what the job knows, and the
// same ledger gives the same call in any shop.

/// How blocks of one kind usually are. Lengths in mm.
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

/// What is forecast before metal comes off.
enum class ForecastKind {
    removal,  ///< what comes off a deck until it is clean
    cap_size, ///< sizes of a main after its cap was cut
    rise,     ///< how far the line of the mains rises under the hone
    strokes,  ///< what a stroke of the line hone takes
};
inline constexpr std::array forecast_keys{"removal", "cap_size", "rise", "strokes"};

/// A trait as the shop's other blocks of the kind have it.
struct UsualTrait {
    Trait trait{};
    std::string about;       ///< "deck.R", "bore.R.2"; of the whole block empty
    double mean = 0;         ///< mm
    double spread = 0;       ///< mm, sample standard deviation
    std::int64_t blocks = 0; ///< that it rests on
    bool operator==(const UsualTrait&) const = default;
};

/// Forecasts of one kind, held against what came.
struct ForecastRecord {
    ForecastKind kind{};
    std::string gauge;  ///< only those that rest on it; empty: any
    std::string person; ///< only those of whose readings they were; empty: any
    std::int64_t made = 0, held = 0;
    static constexpr double widest = 5;
    double widen =
        1; ///< what the interval is to be stretched by, from its middle, so that it holds as often as it says
    bool operator==(const ForecastRecord&) const = default;
};

struct Experience {
    std::vector<UsualTrait> traits;
    std::vector<ForecastRecord> forecasts;
    bool operator==(const Experience&) const = default;
};
template <>
inline constexpr std::string_view entry_kind<Experience> = "experience";
void fields(Fields& f, Experience& p);

} // namespace pallix::block
