// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

namespace pallix::planning {

/// So many logs of the same metal, and one more tells no more than they do (common practice, no source).
inline constexpr std::size_t enough_logs = 3;

/// Why a place is looked at that the reading plan does not ask for: most are read again before anything that cannot be
/// undone hangs on them.
enum class SecondLook {
    stands_out, ///< a main's size far off the others of that main
    too_large,  ///< over its window
    sets_size,  ///< it alone would send a whole engine to the next oversize
    twisted,    ///< four corners of a deck that disagree across the diagonals
    near_limit, ///< too near the end of its window to tell which side it lies on
    between,    ///< a deck that is good at too few heights to be called flat
    learner,    ///< a learner read it, once
};

/// What sizes of one main differ by, however worn (common practice, no source): further off is a slip, or damage.
inline constexpr double one_main_within = 0.05; // mm

} // namespace pallix::planning
