// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "block/forward.h"

#include "block/entries/deck_entries.h"
#include "block/reading.h"
#include "block/state/deck_state.h"
#include "block/units.h"

#include <optional>
#include <string>
#include <vector>

namespace pallix::planning {

/// What to do at one foot, jack or screw.
struct FootMove {
    std::string name;
    metrology::Vec2 place; ///< (u, v) mm
    double raise = 0;      ///< mm, ≥ 0: the foot that stands highest stays
};

/// A side of one station that stands low because its clamp pulls: eased until the corner has come up, it lies as it is.
struct ClampEase {
    bool rear = false, positive_v = false;
    double by = 0; ///< mm, that the corner has to come up
};

/// A plane through indicator readings, and how the feet bring it level.
struct SetUpCorrection {
    double along = 0, across = 0; ///< rise per mm along u and along v
    double spread = 0;            ///< mm, largest less smallest reading
    double tilt = 0;              ///< mm, the same of the plane: what feet can take out
    double misfit = 0;            ///< mm, largest distance of a reading from the plane: it is not flat, or was misread
    std::vector<FootMove> moves;
    double left = 0; ///< mm, spread that two feet cannot take out: tilt about the line through them
};

/// How a bank lies on the machine, by what was read of it there.
struct SetUpLie {
    block::SetUpRead read;         ///< what the indicator reads, and where the feet stand
    bool by_level = false;         ///< told from a precision level: `read` holds what an indicator would read
    bool less_its_own = false;     ///< what the deck rose by from the tunnel was taken off before it is judged
    std::optional<ClampEase> ease; ///< first of all, where sides differ in a way that no foot can mend
    std::optional<SetUpCorrection> correction; ///< nothing where too little was read
    /// Corners do not agree, and a foot or a clamp would make them.
    [[nodiscard]] bool to_mend() const;
};

/// Readings agree within half a thou (common practice, no source): level enough.
inline constexpr double level_enough = 0.0127; // mm

/// Solves the plane through the readings and what each foot must rise for it to become level. Three feet set any tilt;
/// two only the one along the line through them.
/// @return nothing where the readings fix no plane (fewer than three places, or all on one line), or the feet no line
[[nodiscard]] std::optional<SetUpCorrection> correct_set_up(const block::SetUpRead& set_up);

/// How a bank is set up, or its head: what the indicator reads at its corners, by the line or as it was kept, or what
/// a precision level along and across it comes to there; and where the feet stand; before anybody said, where they
/// usually do (common practice, no source).
[[nodiscard]] block::SetUpRead set_up_of(const block::JobState& state, const std::string& bank, bool head = false);
/// What to do about it. The cut is to run along the tunnel: of a deck whose heights are known, read on the deck itself,
/// what it rises by is taken off first. A head lies right when its own face is level.
[[nodiscard]] SetUpLie set_up_lie(const block::JobState& state, block::SetUpRead set_up);
/// The corners that an indicator reads, in the order of the trade.
[[nodiscard]] block::MeasuredAt corner_reading(const std::string& bank, const block::DeckPlace& corner, bool head);
/// What was read last says how it lies: a precision level, or the indicator.
[[nodiscard]] bool by_level(const block::JobState& state, const std::string& bank);
/// Ticked when a clamp was eased, with the bank behind it.
inline const std::string clamp_eased = "block clamped, ";

/// A stack of blocks and shims: which of those on hand come nearest to a height.
struct Stack {
    std::vector<double> pieces; ///< mm, tallest first
    double height = 0;          ///< mm
};
/// The fewest pieces among the stacks nearest to the wanted height (told apart to 1 µm); each piece is used once.
/// @param wanted mm, 0 to 300
[[nodiscard]] Stack stack_for(double wanted, const std::vector<double>& on_hand);
/// "25 mm 10 mm 2 thou": what is on hand for it, each a number with the unit that follows it, or the bench's.
[[nodiscard]] std::vector<double> pieces_on_hand(const std::string& typed, block::Unit bench);

} // namespace pallix::planning
